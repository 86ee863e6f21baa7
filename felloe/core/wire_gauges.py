"""Standard wire gauge. Source: BS 3737 (SWG), diameters in mm."""

from __future__ import annotations

#: SWG number → diameter [mm], BS 3737.
SWG_DIAMETER_MM: dict[int, float] = {12: 2.642, 13: 2.337, 14: 2.032, 15: 1.829, 16: 1.626}

#: What the trade calls them [mm]; common practice, no source.
TRADE_DIAMETER_MM: dict[int, float] = {12: 2.6, 13: 2.3, 14: 2.0, 15: 1.8, 16: 1.6}


def nearest_gauge(diameter_mm: float) -> int | None:
    """The SWG whose trade or standard diameter lies within 0.06 mm, else None."""
    for gauge, exact_mm in SWG_DIAMETER_MM.items():
        if min(abs(diameter_mm - exact_mm), abs(diameter_mm - TRADE_DIAMETER_MM[gauge])) <= 0.06:
            return gauge
    return None
