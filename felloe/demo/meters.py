"""Two invented tension meters and their invented charts, on plausible curves of three-point bending."""

from __future__ import annotations

from felloe.core.tension.meter import MeterTable

BENCH_METER = "Bench meter A"
HAND_METER = "Hand meter B"


def _chart(kind: str, stiffness: float, start: float, span: float) -> MeterTable:
    """Force from reading for a spring meter: F = c·(r − r0)/(r1 − r), rising ever steeper."""
    readings = tuple(start + 2.0 * i for i in range(int((span - start - 4) // 2)))
    forces = tuple(round(stiffness * (r - start + 1.2) / (span - r), 1) for r in readings)
    keep = [i for i, force in enumerate(forces) if force <= 2100]
    return MeterTable(kind, tuple(readings[i] for i in keep), tuple(forces[i] for i in keep), 0.5, 15.0)


#: Other instruments of the demo shop: name, kind, owner, serial, days since the last check (None for never), passed, its note.
OTHERS: tuple[tuple[str, str, str, str, int | None, bool, str], ...] = (
    ("Lateral dial", "dial", "", "D-114", 40, True, "Feeler 0.50 mm: shows 0.50"),
    ("Radial dial", "dial", "", "D-115", 420, True, "Feeler 0.50 mm: shows 0.49"),
    ("Long caliper", "caliper", "Bram Tolliver", "C-7", 200, True, "Block 50.00: shows 50.00"),
    ("Dishing gauge", "dishing_gauge", "", "", 120, True, "Both sides of one wheel agree within 0.1 mm"),
    ("Rods, pair", "ruler", "", "", None, True, ""),
)
STAND = "Stand by the window"
#: Known loads and what Hand meter B showed on a round 2.0 spoke, taken by the demo's mechanic.
CALIBRATION: tuple[tuple[float, float], ...] = (
    (300, 20.0), (500, 25.5), (700, 29.5), (900, 32.5), (1000, 33.5), (1100, 34.5), (1300, 36.5),
)  # fmt: skip

CHARTS: dict[str, tuple[MeterTable, ...]] = {
    BENCH_METER: (
        _chart("round 2.0", 620, 6, 44),
        _chart("round 1.8", 640, 4, 40),
        _chart("round 1.5", 600, 2, 34),
        _chart("blade 0.9x2.2", 650, 3, 37),
    ),
    HAND_METER: (_chart("round 2.0", 700, 8, 52), _chart("round 1.8", 720, 6, 48)),
}
