"""The stages of a job, in the order in which they are worked, and how a job may move between them."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import TradeError


class StageRefused(TradeError):
    """A step between stages that the job may not take as it stands."""

    code = "stage_refused"


@dataclass(frozen=True)
class Stage:
    """A stage: stable key, the trade's word for it, and the bench minutes it usually takes (common practice, no source)."""

    key: str
    name: str
    usual_minutes: int


STAGES: tuple[Stage, ...] = (
    Stage("take_in", "Take in", 5),
    Stage("check_on_bike", "Check on the bike", 5),
    Stage("check_off_bike", "Check off the bike", 10),
    Stage("identify", "Identify", 5),
    Stage("as_found", "Measure as found", 10),
    Stage("decide", "Decide", 5),
    Stage("parts", "Get parts", 5),
    Stage("strip_lace", "Strip, replace, lace", 20),
    Stage("true", "True", 25),
    Stage("settle", "Settle", 5),
    Stage("as_left", "Measure as left", 10),
    Stage("refit", "Refit and check", 10),
    Stage("hand_back", "Hand back", 5),
)
STAGE_KEYS: tuple[str, ...] = tuple(stage.key for stage in STAGES)
DONE = "done"


def stage_index(key: str) -> int:
    """Place of a stage in the job; raises StageRefused for an unknown key."""
    try:
        return STAGE_KEYS.index(key)
    except ValueError:
        raise StageRefused(f"“{key[:40]}” is no stage of a job", "to_stage") from None


def check_move(current: str, to_stage: str, reason: str) -> None:
    """May the job go from `current` to `to_stage`? To the next stage freely; skipping or going back says why.

    Raises StageRefused with the field at fault.
    """
    if current == DONE:
        raise StageRefused("this wheel has been handed back; open a new job for it", "to_stage")
    step = stage_index(to_stage) - stage_index(current)
    if step == 0:
        raise StageRefused("the job stands at this stage already", "to_stage")
    if step != 1 and not reason.strip():
        what = "Skipping stages" if step > 1 else "Going back"
        raise StageRefused(f"{what} needs a reason: say why in a few words", "reason")


def minutes_left(current: str) -> int:
    """Usual bench minutes from the start of `current` to the end of the job."""
    if current == DONE:
        return 0
    return sum(stage.usual_minutes for stage in STAGES[stage_index(current) :])
