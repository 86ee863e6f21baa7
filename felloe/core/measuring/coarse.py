"""Coarse readings: by feel, and a lump told by its extremes. Worth little, but something. Common practice, no source."""

from __future__ import annotations

from felloe.core.components import Wheel
from felloe.core.errors import BadReading
from felloe.core.mechanics.readings import RunoutReading, TensionReading
from felloe.core.naming import Side, SpokeName
from felloe.core.said import joined, say
from felloe.core.tension.statics import side_targets_n

#: By feel: tension as a share of the side's target, and how sure that is, as a share too.
FEEL: dict[str, tuple[float, float]] = {"slack": (0.1, 0.15), "loose": (0.55, 0.25), "right": (1.0, 0.25), "tight": (1.4, 0.3)}
#: A height told by eye against a pointer [mm].
EYE_SD_MM = 0.15
#: Of a rim along which nothing was seen an eye has looked at so many places.
EYE_PLACES = 18


def felt_tension(wheel: Wheel, spoke: str, word: str) -> TensionReading:
    """The tension that a hand calls slack, loose, right or tight on this spoke; raises BadReading for another word."""
    if word not in FEEL:
        raise BadReading(say("by feel a spoke is {words}; found “{word}”", words=joined(", ", FEEL), word=word[:20]), "feel")
    share, sd = FEEL[word]
    target = side_targets_n(wheel)[SpokeName.parse(spoke).side]
    return TensionReading(spoke, share * target, sd * target)


def lump_readings(wheel: Wheel, first: str, last: str, height_mm: float, toward: Side | None) -> list[RunoutReading]:
    """A lump from spoke `first` to `last` in the direction of travel, its height in the middle told by eye.

    Lateral: `height_mm` toward a side. Radial: `toward` None, + a hop. At both ends the rim meets the pointer's line, and so it
    does, less surely, wherever nothing was seen.
    """
    for field, name in (("first", first), ("last", last)):
        if name not in wheel.index_of:
            raise BadReading(say("this wheel has no spoke {name}", name=name[:8]), field)
    if not 0 < abs(height_mm) <= 30:
        raise BadReading(say("a lump has a height above 0 and at most 30 mm"), "height_mm")
    sign = 1.0 if toward is None else float(toward.sign)
    start, end = wheel.angles_deg[wheel.index_of[first]], wheel.angles_deg[wheel.index_of[last]]
    width = (end - start) % 360
    if width > 240:
        raise BadReading(say("a lump is an arc of at most two thirds of the rim: say where it starts and ends"), "last")
    middle = (start + width / 2) % 360
    # Past both ends nothing was seen: there the rim lies near the line.
    steps = max(1, int((360 - width) // 20))
    away = [(end + (360 - width) * (k + 1) / (steps + 1)) % 360 for k in range(steps)]
    return [
        RunoutReading(middle, sign * height_mm, EYE_SD_MM),
        RunoutReading(start, 0.0, EYE_SD_MM),
        RunoutReading(end, 0.0, EYE_SD_MM),
        *(RunoutReading(angle, 0.0, 2 * EYE_SD_MM) for angle in away),
    ]


def nothing_seen(group: int = 0) -> list[RunoutReading]:
    """The rim runs along the pointer's line all round, as far as an eye can tell."""
    return [RunoutReading(360.0 * k / EYE_PLACES, 0.0, EYE_SD_MM, group) for k in range(EYE_PLACES)]
