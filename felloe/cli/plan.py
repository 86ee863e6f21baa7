"""`bin/felloe plan FILE`: a truing plan from a wheel record, as JSON on standard output. No database is used.

Exit status: 0 a plan was made; 2 the file is no usable wheel record; 3 the record is sound, but its wheel cannot be.
"""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

import numpy as np

from felloe.core.errors import ImpossibleGeometry, TradeError, UnsolvableWheel
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.record import MAX_BYTES, WheelRecord, read_record
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import TruingPlan, make_plan
from felloe.core.truing.tiers import TIERS

BAD_INPUT, IMPOSSIBLE_WHEEL = 2, 3


def plan_record(record: WheelRecord, set_id: str | None, options: PlanOptions) -> dict[str, Any]:
    """The plan for one reading set of a record (its last, unless named), as plain values.

    Raises TradeError where the set does not exist or the wheel cannot be solved.
    """
    if not record.sets:
        raise TradeError("the record holds no reading set to plan from", "reading_sets")
    chosen = record.sets[-1]
    if set_id is not None:
        found = [s for s in record.sets if s.id == set_id]
        if not found:
            raise TradeError(f"the record holds no reading set “{set_id}”", "reading_sets")
        chosen = found[0]
    state = estimate_state(influence_of(record.wheel), chosen.readings)
    plan = make_plan(state, options)
    return {
        "reading_set": chosen.id,
        "tier": options.tier.name,
        "step_turns": options.step_turns,
        "limit_turns": plan.limit_turns,
        "reason": plan.reason,
        "caution": plan.caution,
        "chance_inside": {"before": round(plan.before.chance, 3), "after": round(plan.expected.chance, 3)},
        "minutes": round(plan.minutes, 1),
        "laps": plan.laps,
        "worst_on_the_way": {"spoke": plan.worst_spoke, "tension_n": round(plan.worst_tension_n, 1)},
        "moves": [
            {
                "spoke": move.spoke,
                "turns": move.turns,
                "say": f"{move.word} {move.fraction}",
                "tension_before_n": round(move.tension_before_n, 1),
                "tension_after_n": round(move.tension_after_n, 1),
                "why": move.why,
            }
            for move in plan.moves
        ],
        "turns": dict(zip(map(str, record.wheel.names), plan.turns.tolist(), strict=True)),
        "before": {
            "lateral_tir_mm": round(state.figures.lateral_tir_mm, 3),
            "radial_tir_mm": round(state.figures.radial_tir_mm, 3),
            "dish_mm": round(state.dish_mm, 3),
        },
        "predicted": _predicted(plan),
    }


def _predicted(plan: TruingPlan) -> dict[str, Any]:
    after = plan.after
    return {
        "lateral_tir_mm": round(after.trace.lateral_tir_mm, 3),
        "radial_tir_mm": round(after.trace.radial_tir_mm, 3),
        "dish_mm": round(after.dish_mm, 3),
        "tension_n": np.round(after.tension_n, 1).tolist(),
        "lateral_mm": np.round(after.lateral_mm, 3).tolist(),
        "radial_mm": np.round(after.radial_mm, 3).tolist(),
    }


def _complain(error: TradeError) -> None:
    place = f"{error.field}: " if error.field else ""
    print(f"felloe plan: {place}{error.message}", file=sys.stderr)


def main(arguments: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="bin/felloe plan", description="A truing plan from a wheel record, as JSON.")
    parser.add_argument("file", help="a wheel record (docs/formats/wheel-record.md), or - for standard input")
    parser.add_argument("--set", dest="set_id", help="id of the reading set; the last one by default")
    parser.add_argument("--tier", choices=list(TIERS), help="tolerance tier; the record's own by default")
    parser.add_argument("--step", type=float, default=0.125, help="smallest turn: 0.25, 0.125 or 0.0625")
    parser.add_argument("--limit", type=float, help="most turns for one nipple; by the wheel's state by default")
    parser.add_argument("--leave", nargs="*", default=[], metavar="SPOKE", help="nipples that must not be turned")
    asked = parser.parse_args(arguments)
    try:
        if asked.file == "-":
            data = sys.stdin.buffer.read(MAX_BYTES + 1)
        else:
            with Path(asked.file).open("rb") as file:
                data = file.read(MAX_BYTES + 1)
    except OSError as error:
        print(f"felloe plan: {asked.file}: {error.strerror}", file=sys.stderr)
        return BAD_INPUT
    try:
        record = read_record(data)
        options = PlanOptions(
            tier=TIERS[asked.tier] if asked.tier else record.tier,
            step_turns=asked.step,
            limit_turns=asked.limit,
            untouchable=frozenset(asked.leave),
        )
        print(json.dumps(plan_record(record, asked.set_id, options), ensure_ascii=False, indent=2))
    except (ImpossibleGeometry, UnsolvableWheel) as error:
        _complain(error)
        return IMPOSSIBLE_WHEEL
    except TradeError as error:
        _complain(error)
        return BAD_INPUT
    return 0


if __name__ == "__main__":
    sys.exit(main())
