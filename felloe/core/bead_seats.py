"""Bead seat diameters of tyres and rims. Source: ISO 5775."""

from __future__ import annotations

#: Bead seat diameters in use [mm], ISO 5775.
BEAD_SEAT_DIAMETERS_MM: tuple[int, ...] = (
    (635, 630, 622, 590, 584, 571, 559, 547, 540, 520, 507, 451, 406, 355, 349, 305)
)  # fmt: skip


def plausible_erd_mm(bead_seat_mm: int) -> tuple[float, float]:
    """The range [mm] in which the ERD of a rim of this bead seat lies.

    The spoke ends sit inside the bead seat: shallow rims some 10 mm less in diameter, deep ones 160 mm less
    (common practice, no source).
    """
    return bead_seat_mm - 160.0, bead_seat_mm - 4.0
