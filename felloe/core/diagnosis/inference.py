"""From answers to causes: Bayes' rule, and the check that tells most per minute."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from felloe.core.diagnosis.causes import CAUSES, prior
from felloe.core.diagnosis.checks import CHECKS, ON_BIKE, Check
from felloe.core.diagnosis.history import WheelFacts, asked_of, factors
from felloe.core.errors import TradeError
from felloe.core.said import joined, say

#: One cause is clear from this share on; common practice, no source.
CLEAR = 0.85
#: A check that tells less than this [bit] is not worth asking.
WORTH_ASKING_BIT = 0.02
#: Minutes to walk up to any check.
WALK_UP_MINUTES = 0.3
#: Minutes to take the wheel out, for the first check that needs it out, and to open the hub.
WHEEL_OUT_MINUTES = 2.0
#: An answer this likely must not be able to overturn a cause that is called clear.
COULD_OVERTURN = 0.02
#: A cause that falls below this share after an answer is overturned.
STANDS = 0.5
DONT_KNOW = "unknown"


class UnknownAnswer(TradeError):
    """A complaint, check or answer that the table does not hold."""

    code = "unknown_answer"


@dataclass(frozen=True)
class Ranked:
    """A cause with its share of belief, and the answers that speak for and against it, strongest first."""

    key: str
    share: float
    speaks_for: tuple[str, ...]
    speaks_against: tuple[str, ...]


@dataclass(frozen=True)
class Next:
    """The check to ask next, with what it is expected to tell [bit] and what it costs [min]."""

    key: str
    gain_bit: float
    minutes: float


@dataclass(frozen=True)
class Diagnosis:
    """Causes by share, the next check (None when nothing is worth asking), whether one cause is clear, and one line of why."""

    causes: tuple[Ranked, ...]
    next_check: Next | None
    clear: bool
    why: str

    @property
    def unsafe(self) -> tuple[str, ...]:
        """Causes that forbid riding and are more likely than one in ten."""
        return tuple(r.key for r in self.causes if CAUSES[r.key].unsafe and r.share > 0.1)


def entropy_bit(shares: Mapping[str, float]) -> float:
    """Shannon entropy of a distribution [bit]: −Σ p·log₂ p (Shannon, Bell System Technical Journal, 1948)."""
    return -sum(p * math.log2(p) for p in shares.values() if p > 0)


def updated(shares: Mapping[str, float], check: Check, answer: str) -> dict[str, float]:
    """Bayes' rule: shares after an answer, adding up to 1."""
    joint = {cause: share * check.chance(cause, answer) for cause, share in shares.items()}
    total = sum(joint.values())
    return {cause: p / total for cause, p in joint.items()}


def expected_gain_bit(shares: Mapping[str, float], check: Check) -> float:
    """How much the entropy is expected to fall by asking `check` [bit]; never below 0."""
    before = entropy_bit(shares)
    after = 0.0
    for answer in check.answers:
        chance = sum(share * check.chance(cause, answer) for cause, share in shares.items())
        after += chance * entropy_bit(updated(shares, check, answer))
    return max(0.0, before - after)


def diagnose(complaints: tuple[str, ...], answers: Mapping[str, str], facts: WheelFacts | None = None) -> Diagnosis:
    """Rank the causes from the complaint and the answers so far, in any order, and say what to ask next.

    `answers`: check key → answer key, or "unknown". `facts`: what the wheel and its history say beforehand.
    Raises UnknownAnswer, with the check as field, for what the table does not hold.
    """
    try:
        shares = prior(complaints, factors(facts) if facts else None)
    except KeyError as error:
        raise UnknownAnswer(say("“{args}” is no complaint of the list", args=error.args[0]), "complaints") from None
    given: dict[str, str] = {}
    for key, answer in answers.items():
        if key not in CHECKS:
            raise UnknownAnswer(say("there is no check “{key}”", key=key[:40]), key[:40])
        if answer == DONT_KNOW:
            continue
        if answer not in CHECKS[key].answers:
            raise UnknownAnswer(say("“{answer}” is no answer to this check", answer=answer[:40]), key)
        given[key] = answer
        shares = updated(shares, CHECKS[key], answer)
    ranked = sorted(shares, key=lambda cause: -shares[cause])
    causes = tuple(Ranked(key, shares[key], *_reasons(key, given)) for key in ranked)
    open_checks = [check for key, check in CHECKS.items() if key not in answers and asked_of(facts, key)]
    out = any(CHECKS[key].where != ON_BIKE for key in given)
    gains = {c.key: Next(c.key, expected_gain_bit(shares, c), _minutes(c, out)) for c in open_checks}
    if causes[0].share >= CLEAR:
        # Clear is what nothing left to ask could overturn.
        worth = [gains[c.key] for c in open_checks if _overturns(shares, causes[0].key, c)]
        clear = not worth
    else:
        worth, clear = [n for n in gains.values() if n.gain_bit >= WORTH_ASKING_BIT], False
    best = max(worth, key=lambda n: n.gain_bit / (n.minutes + WALK_UP_MINUTES), default=None)
    return Diagnosis(causes, best, clear, _why(causes, clear, given))


def _minutes(check: Check, out: bool) -> float:
    """What a check costs: with the wheel still in, taking it out is part of the first one that needs it out."""
    return check.minutes + (0.0 if out or check.where == ON_BIKE else WHEEL_OUT_MINUTES)


def _overturns(shares: Mapping[str, float], first: str, check: Check) -> bool:
    """Whether an answer that may well come would take the first cause from its place."""
    for answer in check.answers:
        chance = sum(share * check.chance(cause, answer) for cause, share in shares.items())
        if chance >= COULD_OVERTURN and updated(shares, check, answer)[first] < STANDS:
            return True
    return False


def _reasons(cause: str, given: Mapping[str, str]) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Answers that this cause gives clearly more, or clearly less, often than other wheels do, strongest first."""
    speaking = []
    for key, answer in given.items():
        check = CHECKS[key]
        other = check.otherwise[list(check.answers).index(answer)]
        speaking.append((math.log2(check.chance(cause, answer) / other), key))
    loud = sorted(speaking, key=lambda item: -abs(item[0]))
    return tuple(key for bit, key in loud if bit > 1), tuple(key for bit, key in loud if bit < -1)


def _why(causes: tuple[Ranked, ...], clear: bool, given: Mapping[str, str]) -> str:
    first = causes[0]
    name = CAUSES[first.key].name
    said = joined(
        "; ",
        [joined(": ", [CHECKS[key].question.rstrip("?."), CHECKS[key].answers[given[key]]]) for key in first.speaks_for[:2]],
    )
    if clear:
        return (
            say("{name}, because: {said}.", name=name, said=said)
            if said
            else say("{name}: the complaint alone says so.", name=name)
        )
    others = joined(", ", [CAUSES[r.key].name.lower() for r in causes[1:3] if r.share > 0.08])
    return say("Most likely {name} ({share:.0f} %)", name=name.lower(), share=first.share * 100) + (
        say(", else {others}.", others=others) if others else "."
    )
