"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.condition.models import Finding


@dataclass(frozen=True)
class AnswerChoice:
    key: str
    text: str


@dataclass(frozen=True)
class DiagnosisCheck:
    key: str
    question: str
    where: str
    minutes: float
    gain_bit: float
    answers: list[AnswerChoice]


@dataclass(frozen=True)
class GivenAnswer:
    key: str
    question: str
    where: str
    minutes: float
    gain_bit: float
    answers: list[AnswerChoice]
    answer: str
    answer_text: str
    by: str


@dataclass(frozen=True)
class RankedCause:
    key: str
    name: str
    remedy: str
    unsafe: bool
    wheel_fault: bool
    share: float
    speaks_for: list[str]
    speaks_against: list[str]


@dataclass(frozen=True)
class Diagnosis:
    """What is wrong, by the fewest checks."""

    complaints: list[str]
    history: list[str]
    answers: list[GivenAnswer]
    causes: list[RankedCause]
    next_check: DiagnosisCheck | None
    other_checks: list[DiagnosisCheck]
    clear: bool
    why: str
    unsafe: list[str]
    finding: Finding | None


@dataclass(frozen=True)
class LikelyCause:
    key: str
    name: str
    share: float
    unsafe: bool


@dataclass(frozen=True)
class CounterView:
    """At the counter: likely causes, what the wheel's history says, and what forbids riding until it is ruled out."""

    causes: list[LikelyCause]
    history: list[str]
    unsafe: list[str]
