"""Nipples: what of them matters for length, thread and key."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.components import THREAD_PITCH_MM, require
from felloe.core.errors import ImpossibleGeometry
from felloe.core.said import joined, say

#: Spokes' threaded length [mm]; common practice, from memory (about 9 to 10 mm).
THREAD_LENGTH_MM = 9.5
NIPPLE_MATERIALS = ("brass", "aluminium")


@dataclass(frozen=True)
class Nipple:
    """A nipple; lengths from its head's outer face toward the hub [mm].

    Common practice, from memory: 12 mm long, head about 3 mm with a slot about 1 mm deep; longer ones have a longer
    plain bore below the same thread. `thread_mm` is the threaded part below the slot's bottom. `for_thread_mm`: the
    spoke's thread that it takes, by the wire's diameter. `key_mm`: across its flats. `body_mm`: through the rim's hole.
    """

    length_mm: float = 12.0
    for_thread_mm: float = 2.0
    pitch_mm: float = THREAD_PITCH_MM
    key_mm: float = 3.25
    body_mm: float = 4.0
    material: str = "brass"
    head_mm: float = 3.0
    slot_mm: float = 1.0
    thread_mm: float = 8.5
    #: Measures that nobody gave and that are not common for this thread: no rule takes them for granted.
    unknown: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        require("length_mm", self.length_mm, 8, 20, "mm", say("Length of a nipple"))
        require("for_thread_mm", self.for_thread_mm, 1.4, 3.5, "mm", say("The spoke's diameter for a nipple"))
        require("pitch_mm", self.pitch_mm, 0.3, 1.0, "mm", say("Thread pitch"))
        require("key_mm", self.key_mm, 2.5, 7, "mm", say("The nipple's flats"))
        require("body_mm", self.body_mm, 2.5, 8, "mm", say("The nipple's body"))
        if self.material not in NIPPLE_MATERIALS:
            raise ImpossibleGeometry(
                say(
                    "nipples are of {nipple_materials}; found {material!r}",
                    nipple_materials=joined(" or ", NIPPLE_MATERIALS),
                    material=self.material[:20],
                ),
                "material",
            )

    @property
    def head_base_mm(self) -> float:
        """Where the head ends, from the slot's bottom (negative: toward the hub)."""
        return -(self.head_mm - self.slot_mm)

    @property
    def foot_mm(self) -> float:
        """Where the nipple ends toward the hub, from the slot's bottom."""
        return -(self.length_mm - self.slot_mm)
