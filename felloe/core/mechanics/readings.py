"""What was measured on a wheel, in stored units."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import BadReading
from felloe.core.said import say
from felloe.core.units import INCH_MM, KGF_N, POUND_KG

#: Standard deviation of a force entered directly [N] and of a dial reading [mm]; common practice, no source.
FORCE_SD_N = 25.0
DIAL_SD_MM = 0.03
#: What a spoke can carry [N] and a dial can show [mm]: beyond it a reading is a slip.
MOST_FORCE_N = 5000.0
MOST_DEVIATION_MM = 30.0
#: So little read is no ground for a plan; common practice, no source.
FEWEST_FOR_A_PLAN = 4


#: A broken spoke carries nothing; so sure is that [N].
BROKEN_SD_N = 10.0


@dataclass(frozen=True)
class TensionReading:
    """Tension of a named spoke [N] with its standard deviation [N]."""

    spoke: str
    tension_n: float
    sd_n: float = 25.0


@dataclass(frozen=True)
class RunoutReading:
    """A dial's deviation [mm] at an angle from the valve [deg], with its standard deviation.

    Its zero is anywhere, but the same for all of a `group`: readings by one dial, one trace, one look past the pointer.
    """

    angle_deg: float
    deviation_mm: float
    sd_mm: float = 0.03
    group: int = 0


@dataclass(frozen=True)
class DishReading:
    """Dish as measured [mm], + right of the middle of the over-locknut width, with its standard deviation [mm]."""

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

    @property
    def enough_for_a_plan(self) -> bool:
        return self.count >= FEWEST_FOR_A_PLAN


#: Units of force that people think in [N].
FORCE_UNITS_N = {"N": 1.0, "kgf": KGF_N, "lbf": POUND_KG * KGF_N}
#: Units of a dial [mm].
LENGTH_UNITS_MM = {"mm": 1.0, "in": INCH_MM}


def entered_force_n(value: float, unit: str) -> float:
    """A force as entered, in a unit of FORCE_UNITS_N [N]; raises BadReading where no spoke carries it."""
    force_n = value * FORCE_UNITS_N[unit]
    if not 0 <= force_n <= MOST_FORCE_N:
        raise BadReading(
            say(
                "a tension of {force_n:.0f} N cannot be; expected 0 to {most_force_n:.0f}",
                force_n=force_n,
                most_force_n=MOST_FORCE_N,
            ),
            "value",
        )
    return force_n


def entered_deviation_mm(value: float, unit: str = "mm") -> float:
    """A dial's deviation as entered, in a unit of LENGTH_UNITS_MM [mm]; raises BadReading where no dial shows it."""
    value_mm = value * LENGTH_UNITS_MM[unit]
    if not abs(value_mm) <= MOST_DEVIATION_MM:
        most = MOST_DEVIATION_MM
        raise BadReading(
            say(
                "a deviation of {value_mm:g} mm cannot be; expected {least:g} to {most:g}",
                value_mm=value_mm,
                least=-most,
                most=most,
            ),
            "value",
        )
    return value_mm
