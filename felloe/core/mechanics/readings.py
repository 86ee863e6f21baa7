"""What was measured on a wheel, in stored units."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class TensionReading:
    """Tension of a named spoke [N] with its standard deviation [N]."""

    spoke: str
    tension_n: float
    sd_n: float = 25.0


@dataclass(frozen=True)
class RunoutReading:
    """A dial's deviation [mm] at an angle from the valve [deg], its zero anywhere, with its standard deviation."""

    angle_deg: float
    deviation_mm: float
    sd_mm: float = 0.03


@dataclass(frozen=True)
class DishReading:
    """Dish [mm], + right, with its standard deviation [mm]."""

    dish_mm: float
    sd_mm: float = 0.05


@dataclass(frozen=True)
class Readings:
    """Everything that was measured in one go, in any number and order."""

    tension: Sequence[TensionReading] = ()
    lateral: Sequence[RunoutReading] = ()
    radial: Sequence[RunoutReading] = ()
    dish: Sequence[DishReading] = ()

    @property
    def count(self) -> int:
        return len(self.tension) + len(self.lateral) + len(self.radial) + len(self.dish)
