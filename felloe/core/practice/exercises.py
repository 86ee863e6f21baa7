"""The ladder of exercises: what is wrong with each practice wheel, how it is worked, and what counts as done.

The order of the rungs is common practice, no source: one fault at a time, by eye before by figures, both together last.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import BadReading
from felloe.core.said import joined, say
from felloe.core.truing.tiers import RACE, ROADWORTHY, SOUND, TIERS, Tier
from felloe.core.wheel_kinds import WHEEL_KINDS

#: How a practice wheel is worked: pointers only, dials and meter, Felloe's plan, name the fault, lace.
MODES = ("eye", "meter", "plan", "find", "lace")
MODE_WORDS = {
    "eye": say("by eye and pointer"),
    "meter": say("with dials and meter"),
    "plan": say("with Felloe’s plan"),
    "find": say("find the fault"),
    "lace": say("lace it right"),
}

FAULT_WORDS = {
    "lump": say("a lump sideways"),
    "hop": say("a hop"),
    "dish": say("off-dish"),
    "slack": say("slack all round"),
    "bent": say("a bent rim"),
    "wrong_nipple": say("a nipple of another thread"),
    "seized": say("a seized nipple"),
    "twisted_blade": say("twisted blades"),
    "mislaced": say("two spokes laced into each other’s hub holes"),
}
#: What may be asked for in "find the fault".
FINDABLE = ("wrong_nipple", "seized", "bent", "mislaced", "slack")
#: How each of them shows, for who named it wrongly. Common practice, no source.
SIGNS = {
    "wrong_nipple": say("A nipple of another thread turns freely, and its spoke answers by a third of what it should."),
    "seized": say("A seized nipple turns its spoke along: the mark on the spoke goes round with the key."),
    "bent": say("A bent rim is out of true where the spokes are alike, or true where they are not."),
    "mislaced": say(
        "Spokes in each other’s hub holes cross otherwise than their neighbours: look at the drawing, not at the dial."
    ),
    "slack": say("Slack all round: every spoke of both sides reads far below what the rim asks for."),
}


@dataclass(frozen=True)
class Exercise:
    """One rung. `faults` are keys of FAULT_WORDS, "any" stands for one that is drawn; `kind` is a key of WHEEL_KINDS."""

    key: str
    name: str
    task: str
    mode: str
    faults: tuple[str, ...]
    kind: str
    tier: Tier
    lesson: str

    def __post_init__(self) -> None:
        if self.mode not in MODES:
            raise BadReading(say("the way must be one of {modes}", modes=joined(", ", MODES)), "mode")
        if self.kind not in WHEEL_KINDS:
            raise BadReading(say("there is no such kind of wheel"), "kind")
        for fault in self.faults:
            if fault != "any" and fault not in FAULT_WORDS:
                raise BadReading(say("a fault is one of {faults}", faults=joined(", ", FAULT_WORDS)), "faults")
        if "twisted_blade" in self.faults and not bladed(self.kind):
            raise BadReading(say("only a wheel with bladed spokes has twisted blades"), "faults")
        if not self.faults and self.mode != "lace":
            raise BadReading(say("a practice wheel needs a fault"), "faults")


def bladed(kind: str) -> bool:
    """Whether a kind has bladed spokes on a side."""
    wheel = WHEEL_KINDS[kind].wheel
    return any(side.spoke.blade_thickness_mm is not None for side in (wheel.right, wheel.left))


LADDER: dict[str, Exercise] = {
    rung.key: rung
    for rung in (
        Exercise(
            "one-lump",
            say("One lump"),
            say("The rim runs to one side at one place. Bring it back to the middle."),
            "eye",
            ("lump",),
            "rim-brake-front-32",
            ROADWORTHY,
            "lump",
        ),
        Exercise(
            "one-hop",
            say("One hop"),
            say("The rim stands out or in at one place. Bring it back to the round."),
            "eye",
            ("hop",),
            "rim-brake-front-32",
            SOUND,
            "hop",
        ),
        Exercise(
            "off-dish",
            say("Off-dish"),
            say("The whole rim stands to one side. Bring it over the middle, straight as it is."),
            "meter",
            ("dish",),
            "rim-brake-rear-32",
            SOUND,
            "dish",
        ),
        Exercise(
            "slack",
            say("Slack all round"),
            say("Every spoke is slack. Bring the wheel up to its tension, lap by lap."),
            "meter",
            ("slack",),
            "disc-front-28",
            SOUND,
            "slack",
        ),
        Exercise(
            "lump-and-hop",
            say("A lump and a hop"),
            say("Round and straight are out at two places. Work them together, and keep the spokes even."),
            "meter",
            ("lump", "hop"),
            "rim-brake-rear-32",
            SOUND,
            "together",
        ),
        Exercise(
            "by-the-plan",
            say("By the plan"),
            say("Read the wheel, ask for the plan, turn what it says, and read again. Say why each nipple is turned."),
            "plan",
            ("lump", "hop", "dish"),
            "disc-rear-32",
            SOUND,
            "plan",
        ),
        Exercise(
            "find-the-fault",
            say("Find the fault"),
            say("One thing is wrong that no turn will mend. Look, squeeze, pluck and try, then name it and its spoke."),
            "find",
            ("any",),
            "rim-brake-rear-36",
            SOUND,
            "find",
        ),
        Exercise(
            "lace-it-right",
            say("Lace it right"),
            say("Hub, rim and spokes lie on the bench. Say for each spoke into which rim hole it goes."),
            "lace",
            (),
            "rim-brake-rear-36",
            SOUND,
            "lace",
        ),
        Exercise(
            "seized-and-wrong",
            say("A lump that will not go"),
            say("In the lump one nipple is seized and another does not hold. Make them turn first, then true the wheel."),
            "meter",
            ("lump", "seized", "wrong_nipple"),
            "hub-gear-rear-36",
            ROADWORTHY,
            "seized",
        ),
        Exercise(
            "blades",
            say("Blades"),
            say("True a wheel with bladed spokes, and leave every blade flat to the wind."),
            "meter",
            ("lump", "twisted_blade"),
            "bladed-front-20",
            SOUND,
            "blades",
        ),
        Exercise(
            "race-from-bent",
            say("Race tier from a bent rim"),
            say("The rim took a knock. Bring the wheel into the narrowest tier, and say where the rim itself sets the limit."),
            "meter",
            ("bent", "lump", "dish"),
            "rim-brake-rear-36",
            RACE,
            "bent",
        ),
    )
}


def own_exercise(kind: str, faults: Sequence[str], mode: str, tier: str) -> Exercise:
    """A wheel of one's own choice: any kind, any faults, any way. Raises BadReading at the field."""
    if tier not in TIERS:
        raise BadReading(say("there is no such tier"), "tier")
    if mode == "lace":
        faults = ()
    if mode == "find":
        wrong = [fault for fault in faults if fault not in FINDABLE]
        if wrong or len(faults) > 1:
            raise BadReading(say("what is to be found is one of {faults}", faults=joined(", ", FINDABLE)), "faults")
        faults = tuple(faults) or ("any",)
    one_of_each = tuple(dict.fromkeys(faults))
    lesson = {"find": "find", "lace": "lace", "plan": "plan"}.get(mode) or LESSON_OF.get(
        next(iter(one_of_each), ""), "together"
    )
    return Exercise(
        "own", say("A wheel of your choice"), say("Your own practice wheel."), mode, one_of_each, kind, TIERS[tier], lesson
    )


LESSON_OF = {
    "lump": "lump",
    "hop": "hop",
    "dish": "dish",
    "slack": "slack",
    "bent": "bent",
    "seized": "seized",
    "wrong_nipple": "seized",
    "twisted_blade": "blades",
    "mislaced": "find",
}
