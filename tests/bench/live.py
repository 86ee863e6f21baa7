"""Live truing in the workshops: one nipple, one turn of the wheel past the dials, the rest of the plan anew, until "enough".

Set beside the pass-wise plan by nipples touched and by turns of the wheel: a pass needs one past each dial and, since tensions
are read at each spoke, one more.
"""

from __future__ import annotations

import time
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.joint import estimate_joint
from felloe.core.mechanics.readings import Readings, RunoutReading, TensionReading
from felloe.core.practice.hands import settled, worked
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.live import Ahead, left_to_do
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.tiers import TIERS
from tests.bench.passes import Figures, figures
from tests.bench.workshops import WORKSHOPS, Reader

Array = NDArray[np.float64]

#: Places of a turn past the dial, and most nipples of one wheel.
PLACES = 72
MOST_TOUCHES = 80


@dataclass(frozen=True)
class LiveTrued:
    """One wheel trued live: how often a nipple was turned, turns of the wheel, spokes read by
    the way, the figures at the end, whether it said
    "enough", how high the highest tension came over the limit, and the longest and the middle time of an answer [s]."""

    workshop: str
    kind: str
    seed: int
    touches: int
    spins: int
    meter: int
    before: Figures
    after: Figures
    enough: bool
    worst_over: float
    slowest_s: float
    middle_s: float


def trace(virtual: VirtualWheel, reader: Reader, rng: Generator, kinds: tuple[str, ...], zero: int) -> Readings:
    """A turn of the wheel past the dials of `kinds`."""
    angles = np.arange(PLACES) * 360.0 / PLACES
    found = {}
    for kind in kinds:
        true = virtual.lateral_mm(angles) if kind == "lateral" else virtual.radial_mm(angles)
        shown = true + rng.normal(0, reader.dial_mm, PLACES) + rng.normal(0, 2)
        found[kind] = [RunoutReading(float(a), round(float(v), 2), 0.03, zero) for a, v in zip(angles, shown, strict=True)]
    return Readings(lateral=found.get("lateral", ()), radial=found.get("radial", ()))


def true_live(workshop: str, kind: str, seed: int, tier_name: str, kinds: tuple[str, ...] = ("lateral", "radial")) -> LiveTrued:
    """True one wheel live from full readings."""
    tier = TIERS[tier_name]
    stand = WORKSHOPS[workshop].start(kind, seed)
    virtual, rng = stand.virtual, stand.rng
    hand = replace(stand.hand, settles=0.0)
    options = PlanOptions(tier=tier)
    followed = Followed.begun(estimate_joint(stand.wheel, stand.reader.full(virtual, rng)))
    before = figures(virtual)
    limit_n = stand.wheel.rim.tension_cap_n
    rest: Ahead | None = None
    touches, spins, times, worst = 0, len(kinds) + 1, [], before.over
    calm, asked, meter = False, set[int](), 0
    while touches < MOST_TOUCHES:
        begun = time.perf_counter()
        left = left_to_do(followed.state, options, rest)
        times.append(time.perf_counter() - begun)
        if left.ask is not None and left.ask not in asked:
            asked.add(left.ask)
            shown = virtual.tension_n[left.ask] * (1 + stand.reader.meter_share) + rng.normal(0, stand.reader.tension_n)
            name = str(stand.wheel.names[left.ask])
            followed = followed.read(Readings(tension=[TensionReading(name, max(0.0, float(shown)))]))
            meter += 1
            rest = left
            continue
        if not left.steps:
            if calm:
                break
            # Settled, and looked at once more, before it is believed.
            virtual = settled(virtual, stand.hand.settles)
            followed, rest, calm = followed.read(trace(virtual, stand.reader, rng, kinds, spins)), None, True
            spins += 1
            continue
        calm = False
        asked.clear()
        place, turns = left.steps[0]
        one = np.zeros(stand.wheel.spoke_count)
        one[place] = turns
        virtual = worked(virtual, one, hand, rng)
        worst = max(worst, float(virtual.tension_n.max()) / limit_n)
        touches += 1
        spins += 1
        begun = time.perf_counter()
        followed = followed.turned(place, turns).read(trace(virtual, stand.reader, rng, kinds, spins))
        times[-1] += time.perf_counter() - begun
        rest = left.without(place)
    after, middle = figures(virtual), float(np.median(times))
    return LiveTrued(workshop, kind, seed, touches, spins, meter, before, after, left.enough, worst, max(times), middle)
