"""What may be found on rim, spokes, nipples and hub: kinds of damage, what each means, and when a wheel is not to be ridden.

Rules are common practice, no source, unless marked. The makers' wear marks and limits come first.
"""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import say


class BadCondition(TradeError):
    """A mark of damage that cannot be: unknown kind, no place where one is needed, a measure out of range."""

    code = "bad_condition"


#: How grave, from the least.
RECORD, WATCH, NOT_TO_RIDE = "record", "watch", "not_to_ride"
LEVELS = (RECORD, WATCH, NOT_TO_RIDE)
RIM, SPOKE, HUB = "rim", "spoke", "hub"
#: Wall of an aluminium brake track: worn out below, near its end below [mm]. Common practice, no source; the rim's own
#: wear mark and its maker's figure come first.
WALL_LIMIT_MM = 1.0
WALL_WATCH_MM = 1.2


@dataclass(frozen=True)
class ConditionKind:
    """A kind of damage: where it is (`part`), whether it has a place by spoke, what is measured of it, and its remedy.

    `level` is what it means by itself; rules that look at tension, runout or a measure stand in rim_damage.
    `measure` names what is measured [mm], empty where nothing is; `most_mm` is the largest that can be.
    """

    key: str
    name: str
    part: str
    level: str
    remedy: str
    measure: str = ""
    most_mm: float = 0.0

    @property
    def placed(self) -> bool:
        return self.part != HUB


CONDITIONS: dict[str, ConditionKind] = {
    kind.key: kind
    for kind in (
        ConditionKind("dent", say("Dent"), RIM, RECORD, say("Judge it by tension and runout at its place."), say("depth"), 20),
        ConditionKind("crack", say("Crack"), RIM, NOT_TO_RIDE, say("New rim.")),
        ConditionKind("bulge", say("Bulge at the spoke hole"), RIM, RECORD, say("Compare with the tension there.")),
        ConditionKind("track_mark", say("Brake-track mark"), RIM, RECORD, say("Look for a dent beside it.")),
        ConditionKind(
            "wear", say("Worn brake track"), RIM, RECORD, say("Measure the wall; find the rim's wear mark."), "wall", 6
        ),
        ConditionKind(
            "eyelet", say("Eyelet torn or loose"), RIM, WATCH, say("Watch that spoke's tension; a new rim when it pulls out.")
        ),
        ConditionKind("spoke_broken", say("Broken spoke"), SPOKE, NOT_TO_RIDE, say("Replace the spoke.")),
        ConditionKind(
            "spoke_corroded", say("Corroded spoke"), SPOKE, WATCH, say("Replace it; with several, rebuild the side.")
        ),
        ConditionKind("spoke_kinked", say("Kinked or nicked spoke"), SPOKE, WATCH, say("Replace it: it breaks at the kink.")),
        ConditionKind(
            "blade_twisted", say("Twisted blade"), SPOKE, RECORD, say("Turn nipple and spoke together, so that length stays.")
        ),
        ConditionKind("nipple_rounded", say("Rounded nipple"), SPOKE, RECORD, say("Replace the nipple.")),
        ConditionKind(
            "nipple_corroded", say("Corroded nipple"), SPOKE, WATCH, say("A drop of oil first; replace it if it cracks.")
        ),
        ConditionKind(
            "nipple_seized", say("Seized nipple"), SPOKE, RECORD, say("Oil and wait; else cut and replace. Left out of plans.")
        ),
        ConditionKind("hub_play", say("Play in the hub"), HUB, WATCH, say("Adjust, else overhaul the hub.")),
        ConditionKind("hub_rough", say("Rough bearing"), HUB, RECORD, say("Overhaul the hub.")),
        ConditionKind("axle_bent", say("Axle bent"), HUB, WATCH, say("New axle; check that the dropouts stand parallel.")),
        ConditionKind("axle_broken", say("Axle broken"), HUB, NOT_TO_RIDE, say("New axle.")),
        ConditionKind(
            "face_marks", say("Deep clamp marks on the axle faces"), HUB, RECORD, say("Check clamp and dropouts for slip.")
        ),
        ConditionKind("flange_cracked", say("Hub flange cracked"), HUB, NOT_TO_RIDE, say("New hub.")),
    )
}
#: Marks for which a spoke is replaced, and marks of a hub that an overhaul does away with.
REPLACED_FOR = ("spoke_broken", "spoke_kinked", "spoke_corroded")
OVERHAULED_FOR = ("hub_play", "hub_rough", "axle_bent", "axle_broken")
#: Marks of a nipple that does not turn by itself, and takes its time.
STUCK = ("nipple_seized", "nipple_corroded", "nipple_rounded")
#: Marks that take a nipple out of a truing plan.
UNTOUCHABLE = ("nipple_seized", "spoke_broken")


@dataclass(frozen=True)
class Mark:
    """One finding on the wheel: kind, spoke (empty on the hub), and what was measured of it [mm]."""

    kind: str
    spoke: str = ""
    measure_mm: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in CONDITIONS:
            raise BadCondition(say("“{kind}” is no kind of damage of the list", kind=self.kind[:40]), "kind")
        kind = CONDITIONS[self.kind]
        if kind.placed and not self.spoke:
            raise BadCondition(say("say at which spoke"), "spoke")
        if not kind.placed and self.spoke:
            raise BadCondition(say("this is found on the hub and has no spoke"), "spoke")
        if self.measure_mm is not None:
            if not kind.measure:
                raise BadCondition(say("nothing is measured of this: {kind}", kind=kind.name.lower()), "measure_mm")
            if not 0 <= self.measure_mm <= kind.most_mm:
                raise BadCondition(
                    say(
                        "{measure} of {measure_mm:g} mm cannot be; expected 0 to {most_mm:g}",
                        measure=kind.measure,
                        measure_mm=self.measure_mm,
                        most_mm=kind.most_mm,
                    ),
                    "measure_mm",
                )

    @property
    def about(self) -> ConditionKind:
        return CONDITIONS[self.kind]
