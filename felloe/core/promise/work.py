"""How long a job takes, step by step, with its spread: one estimate for the rail, for the quote and for the promise.

Each step's time is log-normal: a median and the standard deviation of its logarithm. Medians are the usual bench minutes of an
experienced hand (common practice, no source), moved by the shop's own pace once it has finished jobs.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from itertools import pairwise
from types import MappingProxyType

from felloe.core.said import Said, say
from felloe.core.stages import DONE, STAGES, stage_index
from felloe.core.truing.minutes import minutes_of
from felloe.core.truing.tiers import SOUND, TIERS, Tier

#: Minutes of truing a 32-spoke wheel to each of the usual tiers: a tighter tolerance takes longer.
TRUING_MIN = {"roadworthy": 20.0, "sound": 30.0, "fine": 45.0, "race": 75.0}
LACING_MIN, UNLACING_MIN = 40.0, 15.0
SPOKE_MIN, SPROCKETS_OFF_MIN, TYRE_MIN = 6.0, 6.0, 8.0
HUB_MIN = 35.0
#: A nipple that does not turn by itself: oil, heat, patience.
STUCK_NIPPLE_MIN = 2.0
#: A wheel this uneven takes half as long again as one that is even [% of a side's mean].
UNEVEN_PERCENT = 40.0
#: Before anybody decided: about so many wheels need spokes, and then about so many minutes.
NEEDS_SPOKES_CHANCE, NEEDS_SPOKES_MIN = 0.25, 30.0
#: Spread of a step nobody of the shop has timed yet, and of one whose plan is there: log standard deviations.
USUAL_LOG_SD, PLANNED_LOG_SD, SHORT_LOG_SD = 0.45, 0.3, 0.35

#: The bench's steps; handing back is the desk's, and a wheel is ready before it.
BENCH_STEPS: tuple[str, ...] = tuple(stage.key for stage in STAGES if stage.key != "hand_back")
_LACED_ANEW = ("rebuild", "new_rim")


@dataclass(frozen=True)
class JobFacts:
    """What is known of a job's work. `agreed`: keys of the options that were approved, None while nobody decided;
    `to_replace`: spokes; `stuck`: nipples that do not turn; `spread_percent`: tension of the worse side, None unread;
    `plan_moves`: nipples that the newest plan still asks for, None without one.
    """

    stage: str
    tier: Tier = SOUND
    spokes: int = 32
    rear: bool = False
    agreed: tuple[str, ...] | None = None
    to_replace: int = 0
    stuck: int = 0
    spread_percent: float | None = None
    plan_moves: int | None = None


@dataclass(frozen=True)
class Step:
    """One step: median minutes, log standard deviation, and the chance that it is needed at all."""

    stage: str
    median_min: float
    log_sd: float
    chance: float = 1.0

    @property
    def mean_min(self) -> float:
        return self.chance * self.median_min * math.exp(self.log_sd**2 / 2)

    @property
    def var_min2(self) -> float:
        second = self.chance * self.median_min**2 * math.exp(2 * self.log_sd**2)
        return second - self.mean_min**2


@dataclass(frozen=True)
class Pace:
    """What a shop's own jobs say of one step: factor on the usual minutes, log spread, from so many jobs."""

    factor: float = 1.0
    log_sd: float = USUAL_LOG_SD
    jobs: int = 0


@dataclass(frozen=True)
class Paces:
    """A shop's pace by step, and by step and tier (“true/fine”) where there is one; missing ones are the usual."""

    of: Mapping[str, Pace] = field(default_factory=lambda: MappingProxyType({}))

    def pace(self, stage: str, tier: str = "") -> Pace | None:
        return self.of.get(f"{stage}/{tier}") or self.of.get(stage)

    def factor(self, stage: str, tier: str = "") -> float:
        """On the usual minutes of a step; 1 where nothing was learned."""
        pace = self.pace(stage, tier)
        return pace.factor if pace else 1.0


def size_factor(spokes: int) -> float:
    """Work grows with the number of spokes; 1 at 32."""
    return spokes / 32


def tier_min(tier: Tier) -> float:
    """Usual minutes of truing 32 spokes to any tolerance: between the usual tiers, and beyond them, by the same law.

    By whichever of straightness and evenness takes longer; straight lines through the logarithms.
    """
    return max(_on_the_line(tier, "lateral_mm"), _on_the_line(tier, "tension_percent"))


def _on_the_line(tier: Tier, figure: str) -> float:
    known = sorted((math.log(getattr(TIERS[name], figure)), math.log(minutes)) for name, minutes in TRUING_MIN.items())
    at = math.log(getattr(tier, figure))
    (x0, y0), (x1, y1) = next(
        (pair for pair in pairwise(known) if at <= pair[1][0]),
        (known[-2], known[-1]),
    )
    return math.exp(y0 + (y1 - y0) * (at - x0) / (x1 - x0))


def truing_min(tier: Tier, spokes: int, spread_percent: float | None = None, stuck: int = 0) -> float:
    """Usual minutes of truing; an uneven wheel takes longer, and so does each nipple that does not turn by itself."""
    uneven = 1 + 0.5 * min(spread_percent / UNEVEN_PERCENT, 2.0) if spread_percent is not None else 1.0
    return tier_min(tier) * size_factor(spokes) * uneven + STUCK_NIPPLE_MIN * stuck


def spokes_min(count: int, behind_sprockets: bool) -> float:
    """Usual minutes to replace so many spokes, tyre off and on included."""
    return TYRE_MIN + SPOKE_MIN * count + (SPROCKETS_OFF_MIN if behind_sprockets else 0.0) if count else 0.0


def lacing_min(spokes: int) -> float:
    """Usual minutes to take a wheel apart and lace so many spokes."""
    return TYRE_MIN + (UNLACING_MIN + LACING_MIN) * size_factor(spokes)


def _strip_lace(facts: JobFacts) -> tuple[float, float]:
    """Minutes at “strip, replace, lace” and the chance that there is any of it."""
    if facts.agreed is None:
        if facts.to_replace:
            return spokes_min(facts.to_replace, facts.rear), 1.0
        return NEEDS_SPOKES_MIN, NEEDS_SPOKES_CHANCE
    minutes = 0.0
    if set(facts.agreed) & set(_LACED_ANEW):
        minutes += lacing_min(facts.spokes)
    elif "rebuild_side" in facts.agreed:
        minutes += lacing_min(facts.spokes // 2) + (SPROCKETS_OFF_MIN if facts.rear else 0.0)
    elif "replace" in facts.agreed:
        minutes += spokes_min(max(facts.to_replace, 1), facts.rear)
    if "hub_overhaul" in facts.agreed:
        minutes += HUB_MIN
    return minutes, 1.0


def _usual(facts: JobFacts, stage: str) -> tuple[float, float, float]:
    """Median minutes, log spread and chance of one step, before the shop's own pace."""
    plain = next(s.usual_minutes for s in STAGES if s.key == stage)
    scaled = size_factor(facts.spokes)
    nothing = facts.agreed is not None and not facts.agreed
    if stage == "strip_lace":
        minutes, chance = _strip_lace(facts)
        return minutes, USUAL_LOG_SD, chance if minutes else 0.0
    if stage == "true":
        if nothing or (facts.agreed and set(facts.agreed) <= {"leave", "frame", "hub_overhaul"}):
            return 0.0, USUAL_LOG_SD, 0.0
        # Laced anew, neither the old spokes' spread nor the old nipples count.
        anew = bool(set(facts.agreed or ()) & set(_LACED_ANEW))
        spread, stuck = (None, 0) if anew else (facts.spread_percent, facts.stuck)
        if facts.plan_moves is not None and facts.stage in ("true", "settle"):
            return minutes_of(facts.plan_moves) + STUCK_NIPPLE_MIN * stuck, PLANNED_LOG_SD, 1.0
        return truing_min(facts.tier, facts.spokes, spread, stuck), USUAL_LOG_SD, 1.0
    if stage in ("as_found", "as_left"):
        return plain * scaled, SHORT_LOG_SD, 1.0
    if stage == "parts" and facts.agreed is not None and not set(facts.agreed) & {"replace", "rebuild_side", *_LACED_ANEW}:
        return 0.0, SHORT_LOG_SD, 0.0
    return float(plain), SHORT_LOG_SD, 1.0


def usual_step(facts: JobFacts, stage: str) -> float:
    """Median minutes of one step by common practice: what the shop's own times are held against."""
    return _usual(facts, stage)[0]


def steps_ahead(facts: JobFacts, paces: Paces | None = None) -> tuple[Step, ...]:
    """The bench's steps from the job's stage on. Empty for a wheel that is ready."""
    if facts.stage in (DONE, "hand_back"):
        return ()
    paces = paces or Paces()
    steps = []
    for stage in BENCH_STEPS[stage_index(facts.stage) :]:
        median, log_sd, chance = _usual(facts, stage)
        pace = paces.pace(stage, facts.tier.name)
        if pace is not None:
            # A plan says more of this wheel than the shop's other wheels do of their spread.
            log_sd = min(log_sd, pace.log_sd) if log_sd == PLANNED_LOG_SD else pace.log_sd
            median *= pace.factor
        if median > 0 and chance > 0:
            steps.append(Step(stage, median, log_sd, chance))
    return tuple(steps)


def until_agreed(steps: tuple[Step, ...], facts: JobFacts) -> tuple[tuple[Step, ...], tuple[Step, ...]]:
    """Steps until the customer has to agree, and the rest; nothing before it once somebody decided."""
    if facts.agreed is not None:
        return (), steps
    decide = stage_index("decide")
    before = tuple(step for step in steps if stage_index(step.stage) <= decide)
    return before, steps[len(before) :]


@dataclass(frozen=True)
class Estimate:
    """Bench minutes ahead: the middle, and between which two figures eight of ten such jobs stay."""

    middle_min: float
    low_min: float
    high_min: float

    @property
    def said(self) -> Said:
        if self.middle_min < 1:
            return say("no bench work left")
        return say(
            "about {minutes:.0f} min, {low:.0f} to {high:.0f}", minutes=self.middle_min, low=self.low_min, high=self.high_min
        )


def together(steps: Collection[Step]) -> Estimate:
    """All steps of a job as one log-normal of the same mean and variance (Fenton and Wilkinson's sum of log-normals)."""
    mean = sum(step.mean_min for step in steps)
    if mean <= 0:
        return Estimate(0.0, 0.0, 0.0)
    log_var = math.log(1 + sum(step.var_min2 for step in steps) / mean**2)
    middle, spread = mean * math.exp(-log_var / 2), math.exp(1.2816 * math.sqrt(log_var))
    return Estimate(middle, middle / spread, middle * spread)
