"""What a report says, section by section; sentences are messages, so that the reader's language is chosen last."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class FigureLine:
    """One figure: as found and as left, the bound that 95 of 100 wheels that fit the readings stay below, and its tolerance."""

    name: str
    found: str
    left: str
    bound: str
    limit: str
    met: bool
    measured: bool


@dataclass(frozen=True)
class Lane:
    """A drawing of the strip: what it shows, in words, and its SVG."""

    title: str
    said: str
    svg: str


@dataclass(frozen=True)
class Report:
    """Everything on the page. `verdict` is said first; `warnings` stand above all else; `once`: it was measured
    once only, so that nothing is compared."""

    shop: str
    address: str
    phone: str
    email: str
    number: int
    customer: str
    bike: str
    wheel: str
    printed: str
    verdict: str
    warnings: list[str]
    wrong: list[str]
    agreed: list[str]
    done: list[str]
    tier: str = ""
    once: bool = False
    figures: list[FigureLine] = field(default_factory=list)
    lanes: list[Lane] = field(default_factory=list)
    watch: list[str] = field(default_factory=list)
    signed: list[str] = field(default_factory=list)
