"""When a wheel may leave: one table of requirements, and who may let it go where one is missing.

That a wheel leaves agreed, measured, inside what was agreed, below its rim's limit, refitted and safe to ride is common
practice, no source. What is unsure counts as missing.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import Said, joined, say, say_count
from felloe.core.terms import term

#: Who may let a wheel go although a requirement is missing: whoever signs off, or the owner alone.
SKILLED, OWNER = "skilled", "owner"
#: Where a missing one is answered for: in the reason of the sign-off, or when the wheel is handed back.
AT_SIGN_OFF, AT_HAND_BACK = "sign_off", "hand_back"
AGREED, MEASURED, INSIDE, TENSION, LIMIT, REFIT, SAFE = "agreed", "measured", "inside", "tension", "limit", "refit", "safe"


class SaysNothing(TradeError):
    """A reason without a word of sense in it."""

    code = "says_nothing"


@dataclass(frozen=True)
class Requirement:
    """One requirement: key and name, whether it is met, what is missing, who may let the wheel go all the same, and where."""

    key: str
    name: str
    met: bool
    missing: str
    waived_by: str
    answered: str = AT_HAND_BACK


@dataclass(frozen=True)
class Facts:
    """What is known of a job. `measured`: the newest readings are those as left; `known`: there are readings at all.

    `decided`: the customer's word is noted, `refused`: it was no; `undone`: what was agreed and is not noted as done.
    `outside`: figures outside the tier; `unmeasured`: figures on too few readings; `unsure`: figures not surely inside, in
    words; `mean_share`: the tight side's mean over its target; `highest_n` the tightest spoke, `cap_n` the rim's limit [N].
    `open_steps`, `wrong_steps`: refit steps that must be right and are not asked yet, or found wrong. `unsafe`: why it is not
    to be ridden.
    """

    decided: bool
    known: bool
    refused: bool = False
    undone: Sequence[str] = ()
    measured: bool = False
    outside: Sequence[str] = ()
    unmeasured: Sequence[str] = ()
    unsure: Sequence[str] = ()
    mean_share: float | None = None
    mean_within: float = 0.2
    highest_n: float | None = None
    cap_n: float | None = None
    open_steps: int = 0
    wrong_steps: Sequence[str] = ()
    unsafe: Sequence[str] = ()


def requirements(facts: Facts) -> tuple[Requirement, ...]:
    """Every requirement in the order of the work."""
    return (
        _agreed(facts),
        _measured(facts),
        Requirement(
            INSIDE, say("Inside what was agreed"), facts.known and not facts.outside, _outside(facts), SKILLED, AT_SIGN_OFF
        ),
        _tension(facts),
        _limit(facts),
        Requirement(REFIT, say("Back in the bike, every step answered"), facts.open_steps == 0, _refit(facts), OWNER),
        _safe(facts),
    )


def missing(found: Sequence[Requirement]) -> tuple[Requirement, ...]:
    """Those of the requirements that are not met."""
    return tuple(requirement for requirement in found if not requirement.met)


def check_reason(text: str, field: str) -> str:
    """A reason in words: at least two of them. Raises SaysNothing with the field at fault."""
    # A message of Felloe's own stays one.
    said = text if isinstance(text, Said) else text.strip()
    if len(re.findall(r"[^\W\d_]{2,}", said)) < 2:
        raise SaysNothing(say("say why in a few words that somebody else understands"), field)
    return said


def _agreed(facts: Facts) -> Requirement:
    """What was agreed is withdrawn by a newer word of the customer, never by leaving it out."""
    why: str = ""
    if not facts.decided:
        why = say("Nothing is noted of what the customer agreed to.")
    elif facts.refused:
        why = say("The customer refused: end the job as declined, or note a newer word.")
    elif facts.undone:
        why = say("Agreed and not done: {what}.", what=joined("; ", facts.undone))
    return Requirement(AGREED, say("What was agreed is done"), not why, why, SKILLED)


def _measured(facts: Facts) -> Requirement:
    why: str = ""
    if not facts.measured:
        why = say("Nothing was measured since the work.")
    elif facts.unmeasured:
        why = say("Too few readings of: {figures}.", figures=joined(", ", map(term, facts.unmeasured)))
    elif facts.unsure:
        why = say("Not sure enough: {figures}.", figures=joined(". ", facts.unsure))
    return Requirement(MEASURED, say("Measured as left, and surely so"), not why, why, SKILLED, AT_SIGN_OFF)


def _outside(facts: Facts) -> str:
    if not facts.known:
        return say("Not known before it is measured.")
    return say("Outside in: {figures}.", figures=joined(", ", map(term, facts.outside))) if facts.outside else ""


def _tension(facts: Facts) -> Requirement:
    share = facts.mean_share
    met = share is not None and abs(share - 1) <= facts.mean_within + 1e-9
    why: str = ""
    if share is None:
        why = say("Not known before it is measured.")
    elif not met:
        why = say("The tight side's mean is {percent:.0f} % of its target.", percent=100 * share)
    return Requirement(TENSION, say("As tight as it should be"), met, why, SKILLED, AT_SIGN_OFF)


def _limit(facts: Facts) -> Requirement:
    known = facts.highest_n is not None and facts.cap_n is not None
    over = facts.highest_n is not None and facts.cap_n is not None and facts.highest_n > facts.cap_n
    why: str = "" if known else say("Not known before it is measured.")
    if over:
        why = say(
            "A spoke stands at {highest_n:.0f} N, above the rim's {cap_n:.0f} N.", highest_n=facts.highest_n, cap_n=facts.cap_n
        )
    return Requirement(LIMIT, say("Below the rim's limit"), known and not over, why, OWNER)


def _refit(facts: Facts) -> str:
    if facts.open_steps == 0:
        return ""
    return say_count("{count} step is not answered.", "{count} steps are not answered.", count=facts.open_steps)


def _safe(facts: Facts) -> Requirement:
    """A step found wrong (a brake that does not bite, an axle not home) forbids riding like damage does."""
    wrong = [say("Refit: {step} Found not right.", step=step) for step in facts.wrong_steps]
    why = joined(" ", [*facts.unsafe, *wrong])
    return Requirement(SAFE, say("Safe to ride"), not why, why, OWNER)
