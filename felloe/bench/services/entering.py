"""Readings as they are entered: one, or all that waited on a tablet, in their order, once each and under the job's lock.

One that the rules refuse is saved by no half, and keeps none of the others back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.api.write_keys import ALREADY, Once
from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services import moving
from felloe.bench.services.looked import Look
from felloe.bench.services.readings import Instruments, as_entered, locked_set, stored_reading, wheel_of
from felloe.bench.services.rows import Row, newest_rows, row_of, spread_percent
from felloe.core.errors import TradeError
from felloe.core.measuring.repeats import REPEAT_STEP, joined, repeated_sd
from felloe.places.here import atomic
from felloe.queue import services as queue


@dataclass(frozen=True)
class Sent:
    """One reading as it was sent: `key` is that of the press, the same for every try; `print` is of what was sent."""

    key: str
    values: dict[str, Any]
    print: str = ""


@dataclass(frozen=True)
class Settled:
    """What became of it: the reading, or why it was refused."""

    key: str
    reading: Reading | None = None
    error: Exception | None = None


def save_reading(user: User, set_id: UUID, values: dict[str, Any]) -> Reading:
    """Save one reading. A place read before gets a new revision; the old value stays in the history.

    Raises UnknownSpoke, BadReading or OutsideCalibration with the field at fault; nothing is saved then.
    """
    return save_readings(user, set_id, [values])[0]


@atomic
def save_readings(user: User, set_id: UUID, entries: Sequence[dict[str, Any]]) -> list[Reading]:
    """Save readings of one set, all of them or, where one is refused, none; raises as `save_reading`."""
    settled, _ = enter(user, set_id, [Sent("", values) for values in entries])
    made = []
    for one in settled:
        if one.reading is None:
            raise one.error or Http404
        made.append(one.reading)
    return made


# Within the transaction of who calls, where there is one: a way back to its middle would be two more questions for each press.
@atomic(savepoint=False)
def enter(user: User, set_id: UUID, sent: Sequence[Sent]) -> tuple[list[Settled], Look]:
    """Save readings of one set, and how the set looks now.

    Raises Http404 where there is no such set, Refused where its job is closed; what is wrong with a reading stands with it.
    What was saved before its job closed, and its answer lost, is answered for all the same.
    """
    reading_set = locked_set(user, set_id)
    # Read under the lock: what another try of the same presses has done is there, or comes after.
    once = Once(user.pk, [one.key for one in sent if one.key])
    closed = _closed(user, reading_set) if any(one.key not in once.before for one in sent) else None
    if closed is not None and not once.before:
        raise closed
    desk = _Desk(user, reading_set)
    settled = []
    for one in sent:
        if one.key and one.key in once.before:
            settled.append(_replayed(one, once, reading_set, desk))
            continue
        if closed is not None:
            settled.append(Settled(one.key, error=closed))
            continue
        try:
            made = desk.take(one.values)
        except (Refused, TradeError, Http404) as error:
            settled.append(Settled(one.key, error=error))
            continue
        if one.key:
            once.note(one.key, one.print, 201, {"reading": str(made.pk)})
        settled.append(Settled(one.key, made))
    desk.save()
    once.save()
    look = Look(reading_set, desk.rows.values())
    moving.set_read(user, reading_set, sum(row.kind == Reading.Kind.TENSION for row in look.rows), lambda: look.read)
    return settled, look


def _closed(user: User, reading_set: ReadingSet) -> Refused | None:
    """Why nothing more is read on this job; None where it is open, and then the person's clock runs on."""
    try:
        queue.go_on_with(user, reading_set.job)
    except Refused as closed:
        return closed
    return None


def _replayed(one: Sent, once: Once, reading_set: ReadingSet, desk: _Desk) -> Settled:
    """The answer of before; a key that carried something else is refused."""
    row = once.before[one.key]
    if row.fingerprint != one.print:
        return Settled(one.key, error=Refused("write_key_reused", ALREADY, 409))
    key = UUID((row.body or {})["reading"])
    here = next((made for made in desk.made if made.pk == key), None)
    found = here or Reading.objects.filter(reading_set=reading_set, pk=key).select_related("created_by").first()
    return Settled(one.key, found) if found is not None else Settled(one.key, error=Http404())


class _Desk:
    """A set while readings are put down in it: what stands at each place, those just taken included."""

    def __init__(self, user: User, reading_set: ReadingSet) -> None:
        self.user, self.reading_set = user, reading_set
        self.wheel = wheel_of(reading_set)
        self.instruments = Instruments(user)
        self.rows = newest_rows(reading_set)
        self.made: list[Reading] = []

    def take(self, values: dict[str, Any]) -> Reading:
        stored = stored_reading(self.user, self.wheel, values, self.instruments)
        place = (values["kind"], stored.spoke)
        last = self.rows.get(place)
        value, sd = stored.value, stored.sd
        if values.get("repeat"):
            value, sd = _repeated(last, values, value, sd)
        made = Reading(
            shop_id=self.reading_set.shop_id,
            reading_set=self.reading_set,
            kind=values["kind"],
            spoke=stored.spoke,
            revision=last.revision + 1 if last else 1,
            entered=as_entered(values),
            value=value,
            sd=sd,
            meter_table=stored.table,
            instrument=stored.instrument,
            created_by=self.user,
        )
        self.made.append(made)
        # It is as old as its row in the database only once it is saved; until then it stands where it will.
        self.rows[place] = row_of(made)
        return made

    def save(self) -> None:
        if not self.made:
            return
        Reading.objects.bulk_create(self.made)
        for made in self.made:
            self.rows[made.kind, made.spoke] = row_of(made)
        if any(made.kind == Reading.Kind.TENSION for made in self.made):
            spread = spread_percent(self.rows.values())
            if spread != self.reading_set.spread_percent:
                ReadingSet.objects.filter(pk=self.reading_set.pk).update(spread_percent=spread)


def _repeated(last: Row | None, values: dict[str, Any], value: float, sd: float) -> tuple[float, float]:
    """Join a reading with those of the same place before it: their mean, outliers left out, all of them kept in `entered`."""
    before: list[float] = []
    if last is not None and not last.withdrawn:
        before = list(last.entered.get("repeats") or [last.value])
    found = joined([*before, value], REPEAT_STEP.get(values["kind"], 0.0))
    values["repeats"] = list(found.values)
    values["outliers"] = list(found.outliers)
    return found.mean, repeated_sd(found, sd)
