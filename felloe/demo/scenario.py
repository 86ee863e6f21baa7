"""The demo's jobs: what came in, what is wrong with it, and how far the work has got. All invented."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Dent:
    """Where a rim was hit: angle and width [deg], depth inward and sideways [mm]."""

    angle_deg: float
    width_deg: float
    inward_mm: float
    sideways_mm: float = 0.0


@dataclass(frozen=True)
class Fault:
    """What is wrong with a wheel, for the virtual wheel: see felloe.core.practice.damage."""

    nipple_sd_turns: float = 0.25
    slack_turns: float = 0.0
    dish_turns: float = 0.0
    single: dict[str, float] = field(default_factory=dict)
    dent: Dent | None = None


@dataclass(frozen=True)
class Found:
    """A mark of damage: kind, spoke, measure [mm]."""

    kind: str
    spoke: str = ""
    measure_mm: float | None = None
    note: str = ""


@dataclass(frozen=True)
class Broke:
    """A break: spoke, place, noticed so many days before today."""

    spoke: str
    place: str
    days_ago: int


@dataclass(frozen=True)
class Said:
    """The customer's word on the options."""

    outcome: str
    chosen: tuple[str, ...]
    how: str = "counter"
    warning: str = ""


@dataclass(frozen=True)
class Build:
    """What was done of sizing, parts, stripping and lacing.

    `old`: lengths of removed spokes. `reserve`, `take`: how many spokes of each side, R and L. `short`: the left bin is found
    all but empty, so that the job waits and an order goes out. `placed`: spokes laced.
    """

    old: dict[str, float] = field(default_factory=dict)
    reserve: tuple[int, int] = (0, 0)
    take: tuple[int, int] = (0, 0)
    short: bool = False
    whole_wheel: bool = False
    counted_out: int = 0
    placed: int = 0


@dataclass(frozen=True)
class DemoJob:
    """One job. Times in hours from now; `passes` of truing were really worked on the virtual wheel."""

    customer: str
    bike: str
    position: str
    kind: str
    complaint: str
    stage: str
    opened_h: float
    promised_h: float | None
    seed: int
    fault: Fault = Fault()
    person: str | None = None
    tier: str = "sound"
    waiting_on: str = ""
    found: str = "full"  # full, quick or none
    passes: int = 0
    open_plan: bool = False
    note: str = ""  # to who goes on with it
    live: int = 0  # so many nipples turned in a live pass, on the stand-in instrument's wheel of this kind and seed
    as_left: bool = False
    reason: str = ""
    end: str = ""  # how a job that is done ended, where not by a repair
    tags: tuple[str, ...] = ()
    answers: tuple[tuple[str, str], ...] = ()
    finding: str = ""
    marks: tuple[Found, ...] = ()
    breaks: tuple[Broke, ...] = ()
    frame_gap_left_mm: float | None = None
    decision: Said | None = None
    refit: int = 0
    photo: str = ""
    load_kg: int | None = None
    with_bike: bool = True
    build: Build | None = None


@dataclass(frozen=True)
class Again:
    """A wheel of JOBS that left and came back: what happened to it meanwhile."""

    bike: str
    position: str
    complaint: str
    opened_h: float
    promised_h: float
    tags: tuple[str, ...] = ()
    slack_turns: float = 0.0
    dent: Dent | None = None


AGAIN: tuple[Again, ...] = (
    Again("Fleet bike N11", "rear", "Was here last week: creaks again, feels soft", -4.5, 29, ("creaks",), slack_turns=0.3),
    Again(
        "Harbour tourer", "front", "You trued it last week, and now it rubs", -2.5, 25, ("rubs",), dent=Dent(118, 11, 0.5, 1.7)
    ),
)

JOBS: tuple[DemoJob, ...] = (
    DemoJob("Wen Loveday", "Harbour tourer", "front", "rim-brake-front-32", "New tyre fitted, hops a little at every turn",
            "done", -120, -70, 11, Fault(0.18), "bram", as_left=True, passes=1, tags=("hops",), answers=(("tyre_line", "even"), ("hop", "no"), ("where_rubs", "once"), ("spokes_by_hand", "firm"), ("tension_there", "no")), finding="lateral_untrue", decision=Said("approved", ("true",)), load_kg=85, refit=20),
    DemoJob("District Nurses, Tern Quay", "Fleet bike N11", "rear", "hub-gear-rear-36", "Creaks on the hill, yearly check",
            "done", -100, -52, 12, Fault(0.25, slack_turns=0.35), "ines", as_left=True, passes=2, tags=("creaks", "check"), answers=(("squeeze", "quiet"), ("play", "firm"), ("spokes_by_hand", "all")), finding="low_tension", decision=Said("approved", ("true",)), refit=20),
    DemoJob("Corin Ashby", "Rain bike", "front", "rim-brake-front-32", "Rubs the right pad all round",
            "done", -60, -40, 51, Fault(0.12), "ines", found="none", tags=("rubs",), answers=(("where_rubs", "round"), ("drops_in", "no"), ("pads_alike", "off")), finding="brake_off_centre", end="no_fault", reason="Brake centred at the stand, wheel spins free.", refit=20),
    DemoJob("Jory Trask", "Old mail bike", "rear", "hub-gear-rear-36", "Clicks, rim feels rough",
            "done", -50, -30, 52, Fault(0.2), "bram", found="none", tags=("creaks",), marks=(Found("crack", "R4", None, "Three holes in a row"), Found("crack", "R6")), end="beyond_repair", reason="Rim cracked at three holes; a new wheel costs less.", refit=0),
    DemoJob("Gull Lane Velodrome", "Loan road bike 9", "rear", "bladed-rear-24", "Kerb, rubs on both sides",
            "done", -75, -26, 13, Fault(0.3, dent=Dent(140, 24, 0.9, 0.8)), "ines", tier="fine", as_left=True, passes=2,
            reason="The rim keeps a bend from the kerb; the velodrome knows and orders a rim for spring.", tags=("hit", "rubs"), answers=(("where_rubs", "once"), ("rim_surface", "dent"), ("hop", "one")), finding="rim_dent", marks=(Found("dent", "L5", 0.8, "Kerb, right where it rubs"),), decision=Said("approved", ("true",)), refit=20),
    DemoJob("Maud Penhale", "Green ferry commuter", "rear", "rim-brake-rear-36", "Rubs the left pad once a turn since the ferry ramp",
            "true", -28, 5, 21, Fault(0.22, single={"R6": -1.6, "L7": 0.9}), "bram", open_plan=True, tags=("rubs",), answers=(("where_rubs", "once"), ("spokes_by_hand", "firm"), ("tension_there", "no"), ("play", "firm")), finding="lateral_untrue"),
    DemoJob("Skerry Tandem Club", "Club tandem no. 3, red", "rear", "tandem-rear-40", "Pings under load, wobbles with two aboard",
            "as_found", -20, 26, 22, Fault(0.35, slack_turns=0.5), "ines", tags=("creaks",), answers=(("squeeze", "pings"), ("spokes_by_hand", "all")), finding="low_tension"),
    DemoJob("Corin Ashby", "Weekend racer", "rear", "bladed-rear-24", "Wants it straight for Sunday's time trial",
            "as_left", -30, 3, 23, Fault(0.3, slack_turns=0.2), "bram", tier="fine", passes=2, as_left=True),
    DemoJob("Ola Brix", "Gravel bike, sand", "front", "disc-front-28", "Rim sits to one side in the fork",
            "decide", -8, 30, 24, Fault(0.2, dish_turns=0.5), tags=("off_side",), answers=(("drops_in", "no"), ("where_rubs", "round"), ("pads_alike", "disc"), ("flip", "changes"), ("hub_was_apart", "no")), finding="off_dish"),
    DemoJob("Hetty Vane", "Grey all-weather bike", "rear", "disc-rear-32", "Hit a pothole on the quay, hops badly",
            "decide", -26, 2, 25, Fault(0.25, dent=Dent(215, 9, 2.4, 0.8)), "bram", waiting_on="customer", tags=("hit", "hops"), answers=(("hop", "one"), ("rim_surface", "dent")), finding="rim_dent", marks=(Found("dent", "R10", 2.6, "Pothole on the quay"), Found("bulge", "L10"), Found("face_marks")), photo="dent", load_kg=92),
    DemoJob("District Nurses, Tern Quay", "Folding bike N2", "front", "small-front-20", "Wobbles, pads set wide to clear it",
            "as_found", -5, 22, 26, Fault(0.4), found="quick", tags=("rubs",)),
    DemoJob("District Nurses, Tern Quay", "Fleet bike N7", "rear", "hub-gear-rear-36", "Two loose spokes, rattles",
            "settle", -18, 8, 27, Fault(0.3, single={"R4": -2.0, "R9": -1.4}), "ines", note="R9 sat rusty in its nipple: a drop of oil, look at it again", passes=1, tags=("loose_spokes",), answers=(("spokes_by_hand", "one"),), finding="one_loose"),
    DemoJob("Gull Lane Velodrome", "Loan track bike 12", "rear", "track-rear-36", "Yearly check before the loan season",
            "identify", -3, 50, 28, Fault(0.15), found="none"),
    DemoJob("Jory Trask", "Black ferry commuter", "front", "disc-front-32", "Spoke gone behind the rotor, rides home on it",
            "parts", -44, -1, 29, Fault(0.3), "bram", waiting_on="parts", found="quick", tags=("broken_spoke",), answers=(("spokes_by_hand", "broken"),), finding="broken_spoke", breaks=(Broke("L5", "elbow", 2),), decision=Said("approved", ("replace",), "phone"), load_kg=78, build=Build({"L5": 288.0, "L6": 288.0}, reserve=(0, 2), short=True)),
    DemoJob("Gull Lane Velodrome", "Loan road bike 4", "front", "bladed-front-20", "Lent out, came back buzzing",
            "take_in", -1, 74, 30, Fault(0.2), found="none", tags=("creaks", "check")),
    DemoJob("Maud Penhale", "Shopping bike", "rear", "rim-brake-rear-36", "Rubs, and a sharp edge felt on the rim",
            "decide", -9, 28, 53, Fault(0.25, slack_turns=0.2), "ines", found="quick", waiting_on="customer", tags=("rubs",), marks=(Found("crack", "L7", None, "Along the eyelet, 12 mm"),)),
    DemoJob("Skerry Tandem Club", "Club tandem no. 5, blue", "front", "disc-front-32", "Check before the island tour",
            "check_off_bike", -2, 48, 31, Fault(0.15), found="none", tier="touring", tags=("check",), answers=(("play", "firm"), ("spokes_by_hand", "firm"), ("where_rubs", "no"))),
    DemoJob("District Nurses, Tern Quay", "Carrier bike N4", "rear", "small-rear-28", "Carries oxygen bottles, spokes feel soft",
            "true", -22, 22, 32, Fault(0.3, slack_turns=0.45), "ines", tier="sound", passes=1, open_plan=True),
    DemoJob("Wen Loveday", "Harbour tourer", "rear", "rim-brake-rear-32", "Broke a spoke last month, rubs again",
            "check_on_bike", -1.5, 27, 33, Fault(0.3), found="none", tags=("rubs",), answers=(("where_rubs", "once"), ("tension_there", "unknown")), breaks=(Broke("R3", "elbow", 150), Broke("R11", "elbow", 31)), marks=(Found("spoke_corroded", "R7"),), load_kg=104),
    DemoJob("Hetty Vane", "Grey all-weather bike", "front", "disc-front-32", "Check while the bike is in",
            "refit", -26, 6, 34, Fault(0.2), "bram", passes=1, as_left=True, decision=Said("approved", ("true",)), refit=4),
    DemoJob("Skerry Tandem Club", "Club tandem no. 5, blue", "rear", "offset-rear-32", "Sits to one side in the stays, was away for paint",
            "decide", -7, 70, 35, Fault(0.2, dish_turns=-0.3), "ines", tags=("off_side",), answers=(("drops_in", "no"), ("hub_was_apart", "no"), ("flip", "changes")), finding="off_dish", frame_gap_left_mm=3.0, with_bike=True),
    DemoJob("District Nurses, Tern Quay", "Fleet bike N7", "front", "rim-brake-front-32", "Rim cracked at two spoke holes, wants a new rim",
            "strip_lace", -50, 30, 36, Fault(0.25), "ines", found="quick", tags=("creaks",), marks=(Found("crack", "R6"),), decision=Said("approved", ("new_rim",)),
            build=Build({"R1": 293.0, "R2": 293.0, "R5": 290.0, "L1": 293.0, "L2": 293.0}, take=(16, 16), whole_wheel=True, counted_out=32, placed=11)),
    DemoJob("Corin Ashby", "Rain bike", "rear", "rim-brake-rear-36", "Wobbles since the winter, wants it good for the spring",
            "true", -6, 24, 3, Fault(), "bram", live=3, tags=("rubs",), answers=(("where_rubs", "once"), ("spokes_by_hand", "firm"), ("tension_there", "no")), finding="lateral_untrue"),
    DemoJob("Wen Loveday", "Harbour tourer", "front", "rim-brake-front-32", "Spare wheel, hops",
            "hand_back", -2700, -2600, 61, Fault(0.2), "bram", found="none", reason="Trued by hand, fit for the tour."),
    DemoJob("Skerry Tandem Club", "Club tandem no. 3, red", "front", "disc-front-32", "Rubbed the rotor, clicks",
            "hand_back", -50, -20, 62, Fault(0.2), "ines", found="none"),
    DemoJob("Ola Brix", "Gravel bike, sand", "rear", "disc-rear-32", "Loose after the island tour",
            "hand_back", -30, -2, 63, Fault(0.2), "bram", found="none"),
)  # fmt: skip
