"""Where each spoke runs: its rim hole and its flange hole as points in space, for radial to 4-cross."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.naming import Side

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Lacing:
    """The laced geometry of a wheel; every array runs over the spokes from the valve.

    `rim_angle_rad`, `hub_angle_rad`: (n,). `seat_mm`, `hub_hole_mm`: (n, 3) as x, y, z with x toward the valve,
    y at 90° clockwise seen from the right, z toward the right. `leans`: +1 where the flange hole lies ahead of
    the rim hole (a trailing spoke), −1 where behind (leading), 0 radial.
    """

    rim_angle_rad: Array
    hub_angle_rad: Array
    seat_mm: Array
    hub_hole_mm: Array
    leans: NDArray[np.int64]

    @cached_property
    def span_mm(self) -> Array:
        """Distance from rim seat to flange hole centre, (n,)."""
        return np.asarray(np.sqrt(np.sum((self.hub_hole_mm - self.seat_mm) ** 2, axis=1)), dtype=np.float64)

    @cached_property
    def toward_hub(self) -> Array:
        """Unit vectors along the spokes, from the rim toward the hub, (n, 3)."""
        return np.asarray((self.hub_hole_mm - self.seat_mm) / self.span_mm[:, None], dtype=np.float64)


@lru_cache(maxsize=64)
def lace(wheel: Wheel) -> Lacing:
    """Lay out every spoke of `wheel`.

    The flange hole lies α (`Wheel.lead_angle_rad`) from the rim hole, ahead for one spoke and behind for the next.
    The first hole after the valve leans away from the valve, and so does the last
    one before it, which leaves room for a pump (common practice, no source).
    """
    count = wheel.spoke_count
    rim_angle = np.radians(wheel.angles_deg)
    ahead = np.array([1 if name.number % 2 else -1 for name in wheel.names], dtype=np.int64)
    leans = np.zeros(count, dtype=np.int64)
    hub_angle, flange_radius, flange_z, seat_z = (np.empty(count) for _ in range(4))
    for side in Side:
        mine = np.array([name.side is side for name in wheel.names])
        flange = wheel.hub.flange(side)
        leans[mine] = 0 if wheel.side(side).crossings == 0 else ahead[mine]
        hub_angle[mine] = rim_angle[mine] + ahead[mine] * wheel.lead_angle_rad(side)
        flange_radius[mine] = flange.pitch_circle_mm / 2
        # Seen from where the rim belongs, which need not be the middle of the locknuts.
        flange_z[mine] = side.sign * flange.center_to_flange_mm - wheel.dish_target_mm
        seat_z[mine] = wheel.rim.spoke_bed_offset_mm + side.sign * wheel.rim.stagger_mm
    seat_radius = np.full(count, wheel.rim.erd_mm / 2)

    def points(radius: Array, angle: Array, z: Array) -> Array:
        return np.column_stack([radius * np.cos(angle), radius * np.sin(angle), z])

    return Lacing(
        rim_angle_rad=rim_angle,
        hub_angle_rad=hub_angle,
        seat_mm=points(seat_radius, rim_angle, seat_z),
        hub_hole_mm=points(flange_radius, hub_angle, flange_z),
        leans=leans,
    )


def flange_hole_angles_rad(wheel: Wheel, side: Side) -> Array:
    """Angles of the flange holes of one side in rising order, (m,), in [0, 2π)."""
    laced = lace(wheel)
    mine = [i for i, name in enumerate(wheel.names) if name.side is side]
    return np.sort(np.mod(laced.hub_angle_rad[mine], 2 * np.pi))
