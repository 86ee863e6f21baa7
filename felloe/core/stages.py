"""The stages of a job, in the order in which they are worked, and how a job may move between them."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.hand_back import check_reason
from felloe.core.said import say


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
    Stage("take_in", say("Take in"), 5),
    Stage("check_on_bike", say("Check on the bike"), 5),
    Stage("check_off_bike", say("Check off the bike"), 10),
    Stage("identify", say("Identify"), 5),
    Stage("as_found", say("Measure as found"), 10),
    Stage("decide", say("Decide"), 5),
    Stage("parts", say("Get parts"), 5),
    Stage("strip_lace", say("Strip, replace, lace"), 20),
    Stage("true", say("True"), 25),
    Stage("settle", say("Settle"), 5),
    Stage("as_left", say("Measure as left"), 10),
    Stage("refit", say("Refit and check"), 10),
    Stage("hand_back", say("Hand back"), 5),
)
STAGE_KEYS: tuple[str, ...] = tuple(stage.key for stage in STAGES)
DONE = "done"


def stage_index(key: str) -> int:
    """Place of a stage in the job; raises StageRefused for an unknown key."""
    try:
        return STAGE_KEYS.index(key)
    except ValueError:
        raise StageRefused(say("“{key}” is no stage of a job", key=key[:40]), "to_stage") from None


#: Stages whose work leaves something behind; without it, leaving them is skipping them.
LEAVES_SOMETHING = ("as_found", "decide", "as_left", "refit")


def check_move(current: str, to_stage: str, reason: str, undone: Collection[str] = ()) -> None:
    """May the job go from `current` to `to_stage`? To the next stage freely; skipping or going back says why.

    `undone`: those of LEAVES_SOMETHING with nothing to show for them; leaving one of these says why as well.
    Raises StageRefused with the field at fault, SaysNothing for a reason without words.
    """
    if current == DONE:
        raise StageRefused(say("this wheel has been handed back; open a new job for it"), "to_stage")
    step = stage_index(to_stage) - stage_index(current)
    if step == 0:
        raise StageRefused(say("the job stands at this stage already"), "to_stage")
    left_out = step == 1 and current in undone
    if step == 1 and not left_out:
        return
    if not reason.strip():
        if left_out:
            name = STAGES[stage_index(current)].name
            raise StageRefused(say("Nothing is noted yet at “{stage}”: do it, or say why it is left out", stage=name), "reason")
        what = say("Skipping stages") if step > 1 else say("Going back")
        raise StageRefused(say("{what} needs a reason: say why in a few words", what=what), "reason")
    check_reason(reason, "reason")
