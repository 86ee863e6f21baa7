"""A reading as it is entered, in the units that are kept: N and mm with a standard deviation.

Common practice, no source: which sources there are, and that the side of a dish is said beside its size.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.measuring.coarse import felt_tension
from felloe.core.mechanics.readings import DIAL_SD_MM, FORCE_SD_N, DishReading, entered_deviation_mm, entered_force_n
from felloe.core.naming import Side, SpokeName
from felloe.core.runout.dish import dish_from_flipping, dish_from_gauge, dish_from_stand
from felloe.core.said import say
from felloe.core.tension.meter import MeterTable
from felloe.core.tension.pitch import CROSSING, PITCH_SD_SHARE, PITCH_SET_SHARE, free_length, tension_from_pitch

#: As entered: `value` with its `unit`, or `feel`; a pitch with `ends_at` and the `pitch_factor` a meter has set.
Entered = Mapping[str, Any]


def spoke_on(wheel: Wheel, name: str) -> str:
    """The name of a spoke of this wheel. Raises UnknownSpoke."""
    spoke = str(SpokeName.parse(name))
    if spoke not in wheel.index_of:
        raise UnknownSpoke(
            say(
                "this wheel has no spoke {name}; right R1-R{right}, left L1-L{left}",
                name=spoke,
                right=wheel.right.count,
                left=wheel.left.count,
            ),
            "spoke",
        )
    return spoke


def tension_entered(wheel: Wheel, spoke: str, entered: Entered, table: MeterTable | None) -> tuple[float, float]:
    """Tension and its standard deviation [N]; `table` is the meter's for this spoke where the unit is the meter's.

    Raises BadReading or OutsideCalibration.
    """
    if entered.get("feel"):
        felt = felt_tension(wheel, spoke, entered["feel"])
        return felt.tension_n, felt.sd_n
    number, unit = _number(entered), entered.get("unit")
    if table is not None:
        tension = table.tension(number)
        return tension.tension_n, tension.sd_n
    if unit == "Hz":
        free_mm = free_length(wheel, spoke, entered.get("ends_at") or CROSSING)
        heard = tension_from_pitch(number, free_mm, PITCH_SD_SHARE * number)
        factor = entered.get("pitch_factor") or 1.0
        return heard.tension_n * factor, heard.sd_n * (factor if factor == 1.0 else PITCH_SET_SHARE)
    return entered_force_n(number, str(unit)), FORCE_SD_N


def deviation_entered(entered: Entered) -> tuple[float, float]:
    """Lateral or radial deviation and its standard deviation [mm]. Raises BadReading."""
    return entered_deviation_mm(_number(entered), str(entered.get("unit") or "mm")), DIAL_SD_MM


def dish_entered(entered: Entered, stand_error_mm: float) -> DishReading:
    """Dish by flipping, in a stand that points `stand_error_mm` aside, or by a gauge. Raises BadReading."""
    if entered.get("method") == "flip":
        both = say("enter both clearances")
        right_way, flipped = (_part(entered, name, both) for name in ("clearance_right_way_mm", "clearance_flipped_mm"))
        dish = dish_from_flipping(right_way, flipped)
    elif entered.get("method") == "stand":
        aside = say("say how far the rim sits aside, and to which side")
        dish = dish_from_stand(_part(entered, "offset_mm", aside), Side(_part(entered, "side", aside)), stand_error_mm)
    else:
        gap = say("say how wide the gap is and on which side")
        dish = dish_from_gauge(_part(entered, "gap_mm", gap), Side(_part(entered, "gap_side", gap)))
    return DishReading(dish.dish_mm, dish.sd_mm)


def _number(entered: Entered) -> float:
    if entered.get("value") is None:
        raise BadReading(say("enter a number"), "value")
    return float(entered["value"])


def _part(entered: Entered, name: str, missing: str) -> Any:
    if entered.get(name) is None:
        raise BadReading(missing, name)
    return entered[name]
