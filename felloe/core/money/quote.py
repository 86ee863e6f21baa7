"""A quote: what is chosen, line by line, at the bins' prices where parts are picked, and what an approval of it is worth."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from felloe.core.decision.options import RepairOption
from felloe.core.decision.prices import PRICED, PriceList
from felloe.core.errors import TradeError
from felloe.core.money.tax import Amounts, Tax
from felloe.core.said import say

LABOUR, PARTS, EXTRA = "labour", "parts", "extra"
MOST_EXTRAS = 20
MOST_MINOR = 10_000_000
#: Which kind of a bin's part stands in for which line of the price list.
BIN_KINDS = {"spoke": "spoke", "nipple": "nipple", "washer": "washer", "rim": "rim", "tape": "rim_tape"}


class BadExtra(TradeError):
    """A line added by hand that cannot be."""

    code = "bad_extra"


@dataclass(frozen=True)
class BinPart:
    """Parts picked for the job: so many of one bin, each at its price; None where the bin has none."""

    kind: str
    name: str
    count: int
    unit_minor: int | None


@dataclass(frozen=True)
class QuoteLine:
    """One line. `count` pieces or minutes at `unit_minor` each or per hour; `total_minor` None where a price is missing."""

    kind: str
    what: str
    count: int
    unit_minor: int | None
    total_minor: int | None


@dataclass(frozen=True)
class Extra:
    """A line that the shop adds by hand; below nothing it is a reduction."""

    name: str
    amount_minor: int

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise BadExtra(say("say what the line is for"), "name")
        if not -MOST_MINOR <= self.amount_minor <= MOST_MINOR or self.amount_minor == 0:
            raise BadExtra(say("an amount, not nothing"), "amount_minor")


@dataclass(frozen=True)
class Quote:
    """Lines and their sum. `amounts` None where it cannot be asked of anybody: `missing` names what has no price, `refusal`
    says what else stands against it."""

    lines: tuple[QuoteLine, ...]
    amounts: Amounts | None
    missing: tuple[str, ...] = ()
    refusal: str = ""


def quote(
    chosen: Sequence[RepairOption],
    prices: PriceList,
    bins: Iterable[BinPart] = (),
    extras: Sequence[Extra] = (),
    tax: Tax | None = None,
) -> Quote:
    """The quote of what is chosen. Parts that are picked stand at their bin's price, the rest at the price list's.

    Reductions may stand before what they reduce is chosen; a quote below nothing has no amounts.
    """
    picked = [part for part in bins if part.count > 0]
    lines: list[QuoteLine] = []
    for option in chosen:
        lines += _labour(option, prices)
        for key, count in option.parts.items():
            lines += _parts(key, count, prices, picked)
    lines += [
        QuoteLine(EXTRA, say("{name}", name=extra.name.strip()), 1, extra.amount_minor, extra.amount_minor) for extra in extras
    ]
    missing = tuple(dict.fromkeys(line.what for line in lines if line.total_minor is None))
    total = sum(line.total_minor or 0 for line in lines)
    if missing or total < 0:
        below = say("The reductions are more than the price.") if chosen and not missing else ""
        return Quote(tuple(lines), None, missing, below)
    return Quote(tuple(lines), (tax or Tax()).of(total))


def checked_extras(extras: Sequence[Extra]) -> tuple[Extra, ...]:
    """The lines added by hand. Raises BadExtra where there are too many."""
    if len(extras) > MOST_EXTRAS:
        raise BadExtra(say("at most {most} lines are added by hand", most=MOST_EXTRAS), "extras")
    return tuple(extras)


def _labour(option: RepairOption, prices: PriceList) -> list[QuoteLine]:
    minutes = round(option.minutes)
    if not minutes:
        return []
    hour = prices.minor.get("labour_hour")
    return [QuoteLine(LABOUR, option.name, minutes, hour, None if hour is None else round(hour * minutes / 60))]


def _parts(key: str, count: int, prices: PriceList, picked: list[BinPart]) -> list[QuoteLine]:
    """The lines of one kind of part; what is taken from `picked` is gone from it, so that no two options charge it."""
    lines = []
    for i, part in enumerate(picked):
        taken = min(part.count, count)
        if BIN_KINDS.get(part.kind) != key or part.unit_minor is None or not taken:
            continue
        picked[i] = BinPart(part.kind, part.name, part.count - taken, part.unit_minor)
        lines.append(QuoteLine(PARTS, say("{name}", name=part.name), taken, part.unit_minor, taken * part.unit_minor))
        count -= taken
    if count:
        unit = prices.minor.get(key)
        lines.append(QuoteLine(PARTS, PRICED[key], count, unit, None if unit is None else unit * count))
    return lines


def why_void(agreed: Mapping[str, object], now: Mapping[str, object]) -> str:
    """Why an approval no longer stands; empty while it does. Both hold `tier` and `quote` (the quote's version): the price
    list may change after an approval, what was agreed stays as it was.
    """
    if agreed["tier"] != now["tier"]:
        return say("The tier was changed after it was agreed: ask the customer again.")
    if agreed["quote"] != now["quote"]:
        return say("The quote was changed after it was agreed: ask the customer again.")
    return ""


def open_minor(agreed_minor: int | None, payments_minor: Iterable[int]) -> int:
    """What is still to be paid; below nothing where more was paid than was agreed."""
    return (agreed_minor or 0) - sum(payments_minor)
