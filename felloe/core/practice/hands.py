"""Hands on a virtual wheel: they miss by a few per cent, spokes twist with their nipples, and not all is settled after."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.lacing.pattern import lace
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.spokes.twist import OILED_FRICTION, twist_turns

Array = NDArray[np.float64]

#: A blade is held close to its nipple: only so small a share of it is left free to twist. Common practice, no source.
HELD_SHARE = 0.1


@dataclass(frozen=True)
class Hand:
    """A mechanic's hand: `miss` is the share by which a turn goes wrong; `friction` (n,) that of the threads in work;
    `goes_past`: by the twist that oiled threads would have, and back; `settles`: share of the twist that squeezing lets out.
    """

    friction: Array
    miss: float = 0.04
    goes_past: bool = True
    settles: float = 0.7

    @classmethod
    def drawn(cls, virtual: VirtualWheel, rng: Generator, miss: float = 0.04) -> Hand:
        """A hand on threads whose friction is drawn: 0.10 to 0.22 by wheel, a fifth either way by spoke."""
        count = virtual.wheel.spoke_count
        return cls(rng.uniform(0.10, 0.22) * (1 + rng.uniform(-0.2, 0.2, count)), miss)


def _limits(virtual: VirtualWheel, friction: Array, blades_free: float = HELD_SHARE) -> tuple[Array, Array]:
    """How far each spoke twists before its thread slips, tightening and easing, (n,) [turns], at the tensions of now.

    `blades_free`: the share of a blade that is left free to twist.
    """
    wheel, tension = virtual.wheel, virtual.tension_n
    span = lace(wheel).span_mm
    up, down = np.zeros(len(tension)), np.zeros(len(tension))
    for i, name in enumerate(wheel.names):
        side = wheel.side(name.side)
        free = blades_free if side.spoke.blade_thickness_mm is not None else 1.0
        for out, tighten in ((up, True), (down, False)):
            length_mm, tension_n = float(span[i]), max(float(tension[i]), 0.0)
            out[i] = free * twist_turns(side.spoke, length_mm, side.pitch_mm, tension_n, tighten, float(friction[i]))
    return up, down


def turn_nipples(virtual: VirtualWheel, turns: Array, friction: Array, blades_free: float = HELD_SHARE) -> VirtualWheel:
    """Turn each nipple by `turns` (n,): the spoke comes along up to its twist, only the rest goes into the thread."""
    up, down = _limits(virtual, friction, blades_free)
    twist = np.clip(virtual.twist_turns + turns, -down, up)
    # What was twisted further at a higher tension stays so until it is moved.
    twist = np.where(turns == 0, virtual.twist_turns, twist)
    threaded = turns - (twist - virtual.twist_turns)
    return virtual.turned(threaded).twisted(twist)


def settled(virtual: VirtualWheel, share: float | Array = 1.0) -> VirtualWheel:
    """Squeezed and ridden: a `share` of every twist, or (n,) of each, lets go into its thread: the nipple stays in the rim."""
    let_go = share * virtual.twist_turns
    return virtual.turned(let_go).twisted(virtual.twist_turns - let_go)


def worked(virtual: VirtualWheel, turns: Array, hand: Hand, rng: Generator) -> VirtualWheel:
    """The wheel after a pass of `turns` (n,) by `hand`, settled as far as it settles."""
    meant = np.asarray(turns * (1 + rng.normal(0, hand.miss, len(turns))))
    if hand.goes_past:
        up, down = _limits(virtual, np.full(len(turns), OILED_FRICTION))
        past = np.where(meant > 0, up, np.where(meant < 0, -down, 0.0))
        there = turn_nipples(virtual, meant + past, hand.friction)
        return settled(turn_nipples(there, -past, hand.friction), hand.settles)
    return settled(turn_nipples(virtual, meant, hand.friction), hand.settles)
