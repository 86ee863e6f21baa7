"""Damage judged at its place: compared with the tension and the runout measured there.

Rules: common practice, no source. Rim and hub makers' own limits come first.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.diagnosis.condition import LEVELS, NOT_TO_RIDE, RECORD, RIM, WALL_LIMIT_MM, WALL_WATCH_MM, WATCH, Mark
from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.tension.statics import side_targets_n

#: A dent of this depth makes a rim brake grab, and of that depth no brake track is left to trust [mm].
DENT_GRABS_MM = 1.0
DENT_TOO_DEEP_MM = 3.0
#: A spoke this near the rim's limit is highly tensioned.
HIGH_TENSION_SHARE = 0.9
#: A rim is bent where it lies this far out [mm] although the spokes there already pull it back by these shares.
BENT_MM = 0.4
SLACK_SHARE, TIGHT_SHARE = 0.6, 1.25


@dataclass(frozen=True)
class Verdict:
    """What one mark means: level, one line of why with the figures at its place."""

    mark: Mark
    level: str
    why: str


@dataclass(frozen=True)
class Bend:
    """A stretch where the rim itself is bent, by the spokes that hold it, with the reason."""

    spokes: tuple[str, ...]
    why: str


def judge(mark: Mark, wheel: Wheel, state: WheelState | None, rim_brake: bool, wall_limit_mm: float = WALL_LIMIT_MM) -> Verdict:
    """What a mark means on this wheel; `state` is None where nothing was measured.

    Carbon rims: any dent, crack or bulge forbids riding. Raises nothing: a mark is valid by construction.
    """
    level, why = _by_kind(mark, wheel, state, rim_brake, wall_limit_mm)
    worst = max(level, mark.about.level, key=LEVELS.index)
    return Verdict(mark, worst, why)


def in_vain(verdicts: Sequence[Verdict]) -> tuple[str, ...]:
    """Why truing or lacing these parts makes no sense: damage that forbids riding and that no spoke or axle mends."""
    lines = []
    for v in verdicts:
        lasting = v.mark.about.part == RIM or v.mark.kind == "flange_cracked"
        if v.level == NOT_TO_RIDE and lasting:
            place = say("{mark} at {spoke}", mark=v.mark.about.name, spoke=v.mark.spoke) if v.mark.spoke else v.mark.about.name
            lines.append(joined(": ", [place, v.why]))
    return tuple(dict.fromkeys(lines))


def _by_kind(mark: Mark, wheel: Wheel, state: WheelState | None, rim_brake: bool, limit_mm: float) -> tuple[str, str]:
    if wheel.rim.material == "carbon" and mark.kind in ("dent", "crack", "bulge"):
        return NOT_TO_RIDE, say(
            "Carbon rim: no dent to bend back, nothing to watch. Its maker decides, till then not to be ridden."
        )
    if mark.kind == "wear":
        return _wear(mark, limit_mm)
    if mark.kind == "dent":
        return _dent(mark, state, rim_brake)
    if mark.kind == "bulge":
        return _bulge(mark, wheel, state)
    if mark.kind == "track_mark":
        return RECORD, say("Marks of the brake beside a dent or a bend: ") + _at_place(mark.spoke, state)
    placed = mark.about.part == RIM and state is not None
    return mark.about.level, mark.about.remedy + (" " + _at_place(mark.spoke, state) if placed else "")


def _wear(mark: Mark, limit_mm: float) -> tuple[str, str]:
    if mark.measure_mm is None:
        return WATCH, say("Measure the wall: a caliper over the track with two pins, or the rim's wear mark.")
    if mark.measure_mm < limit_mm:
        return NOT_TO_RIDE, say(
            "Wall {measure_mm:.1f} mm, below {limit_mm:.1f} mm: it can burst under the tyre. New rim.",
            measure_mm=mark.measure_mm,
            limit_mm=limit_mm,
        )
    if mark.measure_mm < limit_mm + (WALL_WATCH_MM - WALL_LIMIT_MM):
        return WATCH, say(
            "Wall {measure_mm:.1f} mm, near its end at {limit_mm:.1f} mm: check again before the wet season.",
            measure_mm=mark.measure_mm,
            limit_mm=limit_mm,
        )
    return RECORD, say(
        "Wall {measure_mm:.1f} mm; worn out at {limit_mm:.1f} mm.", measure_mm=mark.measure_mm, limit_mm=limit_mm
    )


def _dent(mark: Mark, state: WheelState | None, rim_brake: bool) -> tuple[str, str]:
    depth = mark.measure_mm
    place = _at_place(mark.spoke, state)
    if depth is not None and rim_brake and depth >= DENT_TOO_DEEP_MM:
        return NOT_TO_RIDE, say(
            "{depth:.1f} mm deep under a rim brake: the brake locks on it. {place}", depth=depth, place=place
        )
    if state is not None and any(mark.spoke in bend.spokes for bend in bends(state)):
        return WATCH, say("The rim is bent here; spokes cannot hold it for long. {place}", place=place)
    if depth is None:
        return WATCH, say("Measure how deep it is. {place}", place=place)
    if rim_brake and depth >= DENT_GRABS_MM:
        return WATCH, say("{depth:.1f} mm deep: a rim brake grabs here once a turn. {place}", depth=depth, place=place)
    if depth >= DENT_TOO_DEEP_MM:
        return WATCH, say("{depth:.1f} mm deep: check that the tyre holds its seat. {place}", depth=depth, place=place)
    return RECORD, say("{depth:.1f} mm deep. {place}", depth=depth, place=place)


def _bulge(mark: Mark, wheel: Wheel, state: WheelState | None) -> tuple[str, str]:
    if state is None:
        return WATCH, say("Measure the tension here: with high tension a bulge is a warning.")
    tension = float(state.tension_n[wheel.index_of[mark.spoke]])
    cap = wheel.rim.tension_cap_n
    if tension > cap:
        return (
            NOT_TO_RIDE,
            say(
                "{tension:.0f} N, above the rim's limit of {cap:.0f} N: the nipple is pulling through. Ease it, new rim.",
                tension=tension,
                cap=cap,
            ),
        )
    if tension > HIGH_TENSION_SHARE * cap:
        return WATCH, say(
            "{tension:.0f} N, near the rim's limit of {cap:.0f} N: ease it, look for cracks.", tension=tension, cap=cap
        )
    return RECORD, say(
        "{tension:.0f} N here, well below the rim's limit of {cap:.0f} N: the rim's nature.", tension=tension, cap=cap
    )


def _at_place(spoke: str, state: WheelState | None) -> str:
    if state is None or spoke not in state.wheel.index_of:
        return say("Nothing measured there yet.")
    i = state.wheel.index_of[spoke]
    lateral, radial = float(state.lateral_mm[i]), float(state.radial_mm[i])
    way = say("right") if lateral >= 0 else say("left")
    hop = say("outward") if radial >= 0 else say("inward")
    return say(
        "There: {tension_n:.0f} N, {lateral:.2f} mm to the {way}, {radial:.2f} mm {hop}.",
        tension_n=state.tension_n[i],
        lateral=abs(lateral),
        way=way,
        radial=abs(radial),
        hop=hop,
    )


def bends(state: WheelState) -> tuple[Bend, ...]:
    """Stretches where the rim itself is bent, since the spokes there already pull against the fault.

    A flat whose spokes on both sides are slack; or a sideways bend whose pulling side is far tight while the other is
    far loose. A place counts with its neighbours: means over five holes, so that one wrong spoke makes no bend.
    """
    wheel = state.wheel
    targets = side_targets_n(wheel)
    share = state.tension_n / np.array([targets[name.side] for name in wheel.names])
    right = wheel.on_side(Side.RIGHT)
    count = wheel.spoke_count
    found: list[tuple[int, str]] = []
    for i in range(count):
        window = np.arange(i - 2, i + 3) % count
        mine, other = window[right[window]], window[~right[window]]
        lateral, radial = float(state.lateral_mm[i]), float(state.radial_mm[i])
        right_share, left_share = float(share[mine].mean()), float(share[other].mean())
        if radial < -BENT_MM and max(right_share, left_share) < SLACK_SHARE:
            found.append((i, say("a flat, and its spokes are slack already")))
        pulling, easy = (left_share, right_share) if lateral > 0 else (right_share, left_share)
        if abs(lateral) > BENT_MM and pulling > TIGHT_SHARE and easy < SLACK_SHARE + 0.15:
            way = say("right") if lateral > 0 else say("left")
            found.append(
                (i, say("bent to the {way} although the spokes that pull it back are far tight and the others loose", way=way))
            )
    return _stretches(found, wheel)


def _stretches(found: list[tuple[int, str]], wheel: Wheel) -> tuple[Bend, ...]:
    stretches: list[tuple[list[int], str]] = []
    for i, why in found:
        if stretches and stretches[-1][1] == why and i - stretches[-1][0][-1] <= 2:
            stretches[-1][0].append(i)
        else:
            stretches.append(([i], why))
    if len(stretches) > 1 and stretches[0][1] == stretches[-1][1]:
        first, last = stretches[0], stretches[-1]
        if first[0][0] + wheel.spoke_count - last[0][-1] <= 2:
            stretches = [([*last[0], *first[0]], first[1]), *stretches[1:-1]]
    return tuple(Bend(tuple(str(wheel.names[i]) for i in places), why) for places, why in stretches)
