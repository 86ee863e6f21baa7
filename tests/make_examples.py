"""Remake docs/formats/examples/: two wheel records read from virtual wheels with fixed seeds."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np

from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm, meter_readings
from felloe.core.record import table_to_dict
from felloe.core.specification import wheel_to_dict
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.demo.meters import BENCH_METER, CHARTS

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "formats" / "examples"


def full_in_newton() -> dict[str, Any]:
    """A rear wheel with every spoke and every hole read, tensions as forces, dish by flipping."""
    rng = np.random.default_rng(4)
    wheel = WHEEL_KINDS["rim-brake-rear-32"].wheel
    virtual = used_wheel(wheel, rng, 0.3, slack_turns=0.2)
    angles = np.array(wheel.angles_deg)
    names = [str(name) for name in wheel.names]
    force = np.round(np.maximum(0, virtual.tension_n + rng.normal(0, 20, len(names))) / 10) * 10
    lateral, radial = (dial_mm(v, rng) for v in (virtual.lateral_mm(angles), virtual.radial_mm(angles)))
    flipped = 4.0 + 2 * virtual.dish_mm
    return {
        "format": "felloe-wheel-record",
        "version": 1,
        "label": "Rear wheel, 32 spokes, read in full; an invented wheel",
        "wheel": wheel_to_dict(wheel),
        "targets": {"tier": "sound"},
        "reading_sets": [
            {
                "id": "as-found",
                "stage": "as_found",
                "taken_at": "2026-11-20T09:30:00+00:00",
                "tension": [{"spoke": n, "tension_n": float(f)} for n, f in zip(names, force, strict=True)],
                "lateral": [{"spoke": n, "deviation_mm": float(v)} for n, v in zip(names, lateral, strict=True)],
                "radial": [{"spoke": n, "deviation_mm": float(v)} for n, v in zip(names, radial, strict=True)],
                "dish": [{"method": "flip", "clearance_right_way_mm": 4.0, "clearance_flipped_mm": round(float(flipped), 1)}],
            }
        ],
        "plans": [],
    }


def quick_by_meter() -> dict[str, Any]:
    """A disc front wheel looked at quickly: a few spokes by meter, the rim at every other hole."""
    rng = np.random.default_rng(9)
    wheel = WHEEL_KINDS["disc-front-28"].wheel
    virtual = used_wheel(wheel, rng, 0.25)
    tables = CHARTS[BENCH_METER]
    shown = meter_readings(virtual, {t.spoke_kind: t for t in tables}, rng)
    names = [str(name) for name in wheel.names]
    angles = np.array(wheel.angles_deg)
    lateral = dial_mm(virtual.lateral_mm(angles), rng)
    return {
        "format": "felloe-wheel-record",
        "version": 1,
        "label": "Front disc wheel, 28 spokes, a quick look; an invented wheel",
        "wheel": wheel_to_dict(wheel),
        "targets": {"tier": "sound"},
        "meters": [{"id": "bench-a", "name": BENCH_METER, "tables": [table_to_dict(t) for t in tables]}],
        "reading_sets": [
            {
                "id": "quick",
                "stage": "as_found",
                "tension": [
                    {"spoke": names[i], "reading": shown[i], "meter": "bench-a"}
                    for i in range(0, len(names), 5)
                    if shown[i] is not None
                ],
                "lateral": [
                    {"angle_deg": round(float(angles[i]), 4), "deviation_mm": float(lateral[i])}
                    for i in range(0, len(names), 2)
                ],
                "dish": [{"method": "gauge", "gap_mm": 0.4, "gap_side": "L"}],
            }
        ],
    }


if __name__ == "__main__":
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name, value in (("rear-32-full", full_in_newton()), ("disc-front-28-quick", quick_by_meter())):
        (FOLDER / f"{name}.json").write_text(json.dumps(value, indent=1, ensure_ascii=False) + "\n")
