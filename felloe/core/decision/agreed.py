"""Whether what was agreed with the customer has been done, by what the bench noted of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.decision.options import NAMES, NEW_SPOKES
from felloe.core.said import joined, say


@dataclass(frozen=True)
class Bench:
    """What the bench noted. `as_left`: readings as left were taken; `to_replace`: spokes still noted as broken, kinked or
    corroded; `laced` of `spokes` are in, `a_side` of them make one side; `hub`: faults still noted on the hub.
    """

    as_left: bool
    to_replace: Sequence[str] = ()
    laced: int = 0
    spokes: int = 0
    a_side: int = 0
    hub: Sequence[str] = ()


def not_done(chosen: Sequence[str], bench: Bench) -> tuple[str, ...]:
    """Of the options that were agreed, those that the bench has not noted as done, each with what is missing."""
    lines = []
    for key in chosen:
        why = _missing(key, bench)
        if why:
            lines.append(joined(": ", [NAMES[key], why]))
    return tuple(lines)


def _missing(key: str, bench: Bench) -> str:
    if key == "replace" and bench.to_replace:
        return say("{spokes} still to be replaced", spokes=joined(", ", bench.to_replace))
    if key in NEW_SPOKES and bench.laced < bench.spokes:
        return say("{laced} of {spokes} spokes are noted as in", laced=bench.laced, spokes=bench.spokes)
    if key == "rebuild_side" and bench.laced < bench.a_side:
        return say("{laced} of {spokes} spokes are noted as in", laced=bench.laced, spokes=bench.a_side)
    if key == "hub_overhaul" and bench.hub:
        return say("still noted: {faults}", faults=joined(", ", bench.hub))
    if key == "true" and not bench.as_left:
        return say("not measured as left")
    return ""
