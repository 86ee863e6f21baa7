"""How a job ends when it does not end with a repair: what each end asks for, who may, and what the customer is told.

Common practice, no source. The law of the place on things left with a trader comes before the shop's rule for wheels that
nobody fetches.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import Said, joined, say, say_count

REPAIRED = "repaired"
NO_FAULT, DECLINED, CANCELLED = "no_fault", "declined", "cancelled"
BEYOND_REPAIR, NOT_FETCHED = "beyond_repair", "not_fetched"
ENDS: dict[str, str] = {
    REPAIRED: say("Repaired"),
    NO_FAULT: say("No fault of the wheel"),
    DECLINED: say("Repair declined"),
    CANCELLED: say("Cancelled before any work"),
    BEYOND_REPAIR: say("Beyond repair"),
    NOT_FETCHED: say("Not fetched"),
}
#: Who may end a job so: the counter, a mechanic or the owner, the owner alone.
COUNTER, SKILLED, OWNER = "counter", "skilled", "owner"


class CannotEnd(TradeError):
    """A way of ending a job that its state does not allow."""

    code = "cannot_end"


class CannotReopen(TradeError):
    """A job that cannot be taken up again."""

    code = "cannot_reopen"


@dataclass(frozen=True)
class Ground:
    """What ends rest on. `cause`: what was found, `elsewhere` whether it lies outside of the wheel; `refused`: the customer's
    newest word is no, `warned` with a warning; `worked`: nipples turned or spokes put in; `unsafe`: why it is not to be ridden;
    `open_steps` of the refit; `quiet_days` since anything happened, `unfetched_days` by the shop's rule.
    """

    cause: str = ""
    elsewhere: bool = False
    refused: bool = False
    warned: bool = False
    worked: bool = False
    unsafe: Sequence[str] = ()
    open_steps: int = 0
    quiet_days: int = 0
    unfetched_days: int = 90


@dataclass(frozen=True)
class WayToEnd:
    """One way: its key and name, what stands against it (empty when nothing), who may, what the customer is told."""

    key: str
    name: str
    barred: str
    who: str
    words: str
    proposed: bool = False
    #: Whether the wheel leaves with the label that it is not to be ridden.
    not_to_ride: bool = False


def ways_to_end(ground: Ground) -> tuple[WayToEnd, ...]:
    """Every way to end without a repair, those proposed first."""
    ways = [_no_fault(ground), _declined(ground), _cancelled(ground), _beyond(ground), _not_fetched(ground)]
    return tuple(sorted(ways, key=lambda way: not way.proposed))


def way_named(ground: Ground, key: str) -> WayToEnd:
    """The way of that key; raises CannotEnd where it is none or where something stands against it."""
    way = next((way for way in ways_to_end(ground) if way.key == key), None)
    if way is None:
        raise CannotEnd(say("“{key}” is no way to end a job", key=key[:40]), "end")
    if way.barred:
        raise CannotEnd(way.barred, "end")
    return way


def check_reopening(ended_days_ago: int, within_days: int, again_on: int | None) -> None:
    """May a job that ended be taken up again? `again_on`: number of another open job on the wheel. Raises CannotReopen."""
    if again_on is not None:
        raise CannotReopen(say("job {number} is open on this wheel: go on there", number=again_on), "reason")
    if ended_days_ago > within_days:
        raise CannotReopen(
            say(
                "it ended {days} days ago; a job is taken up again within {within}: open a new one for this wheel",
                days=ended_days_ago,
                within=within_days,
            ),
            "reason",
        )


def _no_fault(ground: Ground) -> WayToEnd:
    barred: str | Said = ""
    if not ground.elsewhere:
        barred = say("Note first what it was: no cause outside of the wheel is noted.")
    elif ground.worked:
        barred = say("Nipples were turned or spokes put in: measure as left and sign off.")
    elif ground.open_steps:
        barred = say_count(
            "{count} step of the refit is open.", "{count} steps of the refit are open.", count=ground.open_steps
        )
    elif ground.unsafe:
        barred = joined(" ", [say("It is not to be ridden."), *ground.unsafe])
    found = say(" What we found: {cause}.", cause=ground.cause.lower()) if ground.cause and ground.elsewhere else ""
    words = joined("", [say("Nothing is wrong with your wheel itself."), found])
    return WayToEnd(NO_FAULT, ENDS[NO_FAULT], barred, SKILLED, words, ground.elsewhere and not ground.worked)


def _declined(ground: Ground) -> WayToEnd:
    barred: str | Said = ""
    if not ground.refused:
        barred = say("Note the customer's word first: it was not refused.")
    elif ground.unsafe and not ground.warned:
        barred = say("It is not to be ridden: note the refusal again, with the warning that was given.")
    unsafe = bool(ground.unsafe) or ground.worked
    words = say("You decided against the repair.")
    if ground.worked:
        words = joined(" ", [words, say("Work on the wheel was begun and is not finished.")])
    else:
        words = joined(" ", [words, say("The wheel leaves as it came.")])
    if unsafe:
        words = joined(" ", [words, say("It is not to be ridden.")])
    who = OWNER if ground.worked else SKILLED if ground.unsafe else COUNTER
    return WayToEnd(DECLINED, ENDS[DECLINED], barred, who, words, ground.refused, unsafe)


def _cancelled(ground: Ground) -> WayToEnd:
    barred: str | Said = ""
    if ground.worked:
        barred = say("Work was done: measure as left and sign off, or note the customer's refusal.")
    elif ground.unsafe:
        barred = say("It is not to be ridden: note the customer's refusal with the warning, then it ends as declined.")
    words = say("The repair was cancelled before any work was done.")
    return WayToEnd(CANCELLED, ENDS[CANCELLED], barred, COUNTER, words)


def _beyond(ground: Ground) -> WayToEnd:
    words = say("Your wheel cannot be repaired so that it is safe. It is not to be ridden.")
    return WayToEnd(BEYOND_REPAIR, ENDS[BEYOND_REPAIR], "", SKILLED, words, not_to_ride=True)


def _not_fetched(ground: Ground) -> WayToEnd:
    barred: str | Said = ""
    if ground.quiet_days < ground.unfetched_days:
        barred = say(
            "By the shop's rule a wheel counts as not fetched after {rule_days} days; nothing has happened for {quiet_days}.",
            rule_days=ground.unfetched_days,
            quiet_days=ground.quiet_days,
        )
    words = say(
        "Your wheel was not fetched for {rule_days} days and is no longer kept, by the shop's rule; the law of the place comes"
        " first.",
        rule_days=ground.unfetched_days,
    )
    return WayToEnd(NOT_FETCHED, ENDS[NOT_FETCHED], barred, OWNER, words, not_to_ride=bool(ground.unsafe) or ground.worked)
