"""Lines from an instrument: JSON or CSV, what they mean, and when a value is steady.

JSON: {"kind": "tension", "value": 26.5, "unit": "meter", "spoke": "R3"} or {"kind": "lateral", "value": 0.12, "unit": "mm",
"angle_deg": 41.5}. CSV: kind,value,unit[,angle_deg]. Spoke and angle may be left out; nothing else is understood.
"""

from __future__ import annotations

import itertools
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.measuring.csv_readings import number
from felloe.core.said import say

UNITS = {"tension": ("meter", "N", "kgf"), "lateral": ("mm",), "radial": ("mm",)}
LONGEST_LINE = 500
#: Steady: so many values in a row within this many steps of one another; common practice, no source.
STEADY_COUNT = 4
STEADY_STEPS = {"tension": 1.0, "lateral": 0.03, "radial": 0.03}


class BadLine(TradeError):
    """A line that no instrument of this protocol sends."""

    code = "bad_line"


@dataclass(frozen=True)
class Sample:
    """One value of an instrument."""

    kind: str
    value: float
    unit: str
    spoke: str = ""
    angle_deg: float | None = None


def parse_line(line: str) -> Sample:
    """Read one line; raises BadLine with what was expected."""
    text = line.strip()
    if not text or len(text) > LONGEST_LINE:
        raise BadLine(say("an empty line, or one too long"))
    if text.startswith("{"):
        try:
            fields = json.loads(text)
        except (json.JSONDecodeError, RecursionError):
            raise BadLine(say("this line is no JSON")) from None
        kind, value, unit = fields.get("kind"), fields.get("value"), fields.get("unit")
        spoke, angle = fields.get("spoke", ""), fields.get("angle_deg")
    else:
        cells = [cell.strip() for cell in text.split(",")]
        if not 3 <= len(cells) <= 4:
            raise BadLine(say("expected kind,value,unit[,angle_deg]"))
        kind, value, unit, spoke = cells[0], number(cells[1]), cells[2], ""
        angle = number(cells[3]) if len(cells) == 4 else None
    if kind not in UNITS or unit not in UNITS[kind]:
        raise BadLine(say("expected kind tension, lateral or radial, in one of its units"))
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise BadLine(say("the value is no number"))
    if angle is not None and (isinstance(angle, bool) or not isinstance(angle, int | float) or not math.isfinite(angle)):
        raise BadLine(say("the angle is no number"))
    return Sample(kind, float(value), unit, str(spoke)[:8], None if angle is None else float(angle) % 360)


def steady(values: Sequence[float], kind: str) -> bool:
    """True when the last few values of an instrument agree."""
    last = list(values)[-STEADY_COUNT:]
    return len(last) == STEADY_COUNT and max(last) - min(last) <= STEADY_STEPS[kind] + 1e-9


def gone_deg(samples: Sequence[Sample]) -> float:
    """How far the wheel has gone since the first of the samples that have an angle [deg], at most once round."""
    angles = [s.angle_deg for s in samples if s.angle_deg is not None]
    steps = [(now - before + 180) % 360 - 180 for before, now in itertools.pairwise(angles)]
    return min(abs(sum(steps)), 360.0)


def one_turn(samples: Sequence[Sample]) -> list[Sample] | None:
    """The samples of one whole turn, once the angles have gone all the way round; None before that."""
    gone, start = 0.0, 0
    with_angle = [s for s in samples if s.angle_deg is not None]
    for i in range(1, len(with_angle)):
        before, now = with_angle[i - 1].angle_deg, with_angle[i].angle_deg
        assert before is not None
        assert now is not None
        step = (now - before + 180) % 360 - 180
        gone += step
        if abs(gone) >= 360:
            return with_angle[start:i]
    return None
