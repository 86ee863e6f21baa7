"""Instruments: kinds, how long a check holds, and what their state says of the readings they took."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from felloe.core.errors import BadReading
from felloe.core.naming import Side
from felloe.core.said import say


@dataclass(frozen=True)
class InstrumentKind:
    """A kind of instrument: how it is checked, and how many days a check holds (common practice, no source)."""

    key: str
    name: str
    check: str
    days: int


INSTRUMENT_KINDS: dict[str, InstrumentKind] = {
    kind.key: kind
    for kind in (
        InstrumentKind("tension_meter", say("Tension meter"), say("Known loads against readings, or its check block."), 180),
        InstrumentKind(
            "dial", say("Dial gauge"), say("A feeler gauge of known thickness under the plunger; returns to zero."), 365
        ),
        InstrumentKind("caliper", "Caliper", say("Closed on nothing it shows 0; on a gauge block its figure."), 365),
        InstrumentKind("ruler", say("Ruler or rods"), say("Against a second ruler, along its whole length."), 730),
        InstrumentKind(
            "dishing_gauge", say("Dishing gauge"), say("Both sides of one wheel, then turned round: gaps must agree."), 365
        ),
        InstrumentKind("stand", say("Truing stand"), say("One wheel, the right way round and flipped."), 90),
    )
}
#: A stand that points aside by more is adjusted [mm]; common practice, no source.
STAND_LIMIT_MM = 1.0
GOOD, DUE_SOON, OVERDUE, DRIFTED, NEVER = "good", "due_soon", "overdue", "drifted", "never"
DUE_SOON_DAYS = 14


@dataclass(frozen=True)
class Standing:
    """Where an instrument stands: one of the words above, the day its check falls due, and one line of why."""

    word: str
    due_on: date | None
    why: str

    @property
    def warns(self) -> bool:
        return self.word in (OVERDUE, DRIFTED, NEVER)


def standing(last_check_on: date | None, passed: bool, every_days: int, today: date) -> Standing:
    """What the last check says today. An instrument that failed it has drifted, whenever that was."""
    if last_check_on is None:
        return Standing(NEVER, None, say("never checked here"))
    due = last_check_on + timedelta(days=every_days)
    if not passed:
        return Standing(DRIFTED, due, say("failed its check on {last_check_on}", last_check_on=last_check_on.isoformat()))
    if today > due:
        return Standing(OVERDUE, due, say("its check fell due on {due}", due=due.isoformat()))
    if (due - today).days <= DUE_SOON_DAYS:
        return Standing(DUE_SOON, due, say("check it by {due}", due=due.isoformat()))
    return Standing(GOOD, due, say("checked on {last_check_on}", last_check_on=last_check_on.isoformat()))


@dataclass(frozen=True)
class StandCheck:
    """A stand checked by flipping one wheel: where the stand points (+ right), the wheel's own dish, and whether it passes."""

    stand_error_mm: float
    wheel_dish_mm: float
    passed: bool
    why: str


def stand_by_flipping(first_mm: float, first_side: Side, flipped_mm: float, flipped_side: Side) -> StandCheck:
    """The rim sits `first_mm` toward a side of the stand's middle, and after flipping `flipped_mm` toward a side; sides as the
    stand stands. Half the sum is the stand's, half the difference the wheel's [def].

    A stand that points e to the right of the true middle sees a rim that lies d to the right of it at d - e, and at -d - e
    once flipped: where the stand points is against what it sees.
    """
    for field, value in (("first_mm", first_mm), ("flipped_mm", flipped_mm)):
        if not 0 <= value <= 30:
            raise BadReading(say("{value:g} mm cannot be; expected 0 to 30, the side is said beside it", value=value), field)
    first, flipped = first_side.sign * first_mm, flipped_side.sign * flipped_mm
    error, dish = -(first + flipped) / 2, (first - flipped) / 2
    passed = abs(error) <= STAND_LIMIT_MM
    way = say("right") if error > 0 else say("left")
    if abs(error) < 0.05:
        why = say("The stand points to the middle.")
    elif passed:
        why = say("The stand points {error:.1f} mm to the {way}: may be left.", error=abs(error), way=way)
    else:
        why = say("The stand points {error:.1f} mm to the {way}: adjust the stand, not the wheel.", error=abs(error), way=way)
    return StandCheck(error, dish, passed, why)
