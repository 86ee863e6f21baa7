"""After a pass on a practice wheel: what was turned against the best plan, where the rest went, and one thing to take along.

The best plan is made from all that could be read; both are judged by the virtual wheel, never by the planner's own model.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import Influence
from felloe.core.practice.deeds import ASKEW_TURNS, exact_readings, settle
from felloe.core.practice.spoilt import SEIZED_FRICTION, Subject, true_figures
from felloe.core.said import joined, say
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.core.truing.tiers import Tier, check_against

Array = NDArray[np.float64]
#: Less than this is no turn [turns].
NIL = 1e-6


@dataclass(frozen=True)
class TrueFigures:
    """A wheel as it truly is: TIR, dish from its target [mm], the worse side's spread [%], the mean tension [N]."""

    lateral_mm: float
    radial_mm: float
    dish_mm: float
    spread_percent: float
    mean_n: float

    @classmethod
    def of(cls, subject: Subject) -> TrueFigures:
        lateral, radial, dish, spread = true_figures(subject.virtual, subject.snapped)
        return cls(lateral, radial, dish, spread, float(subject.virtual.tension_n.mean()))

    def inside(self, tier: Tier) -> bool:
        return all(c.met for c in check_against(tier, self.lateral_mm, self.radial_mm, self.dish_mm, self.spread_percent))

    def out(self, tier: Tier) -> float:
        """The worst figure as a share of what the tier allows."""
        found = check_against(tier, self.lateral_mm, self.radial_mm, self.dish_mm, self.spread_percent)
        return max(check.value / check.limit for check in found)


@dataclass(frozen=True)
class Best:
    """The best plan for a wheel: turns (n,), nipples, and what comes of it on the virtual wheel."""

    turns: Array
    nipples: int
    after: TrueFigures


@dataclass(frozen=True)
class Compared:
    """One pass. `needed`, `too_far`, `wrong_way`, `elsewhere` and `in_twist` are turns summed over nipples; `left_out` is
    what the best plan turns and the hand did not. `sentence` is the one thing to take along.
    """

    before: TrueFigures
    after: TrueFigures
    best: TrueFigures
    turned: float
    best_turned: float
    needed: float
    too_far: float
    wrong_way: float
    elsewhere: float
    left_out: float
    in_twist: float
    touches: int
    best_touches: int
    sentence: str


def best_plan(subject: Subject, tier: Tier, influence: Influence) -> Best:
    """What the planner makes of everything that could be read, turned exactly and settled; seized nipples stay untouched.

    `influence` is that of the kind of wheel: the best plan does not know this rim's own stiffness either.
    """
    wheel = subject.wheel
    stuck = {i for i in range(wheel.spoke_count) if subject.friction[i] >= SEIZED_FRICTION} | set(subject.snapped)
    state = estimate_state(influence, exact_readings(subject))
    plan = make_plan(state, PlanOptions(tier=tier, untouchable=frozenset(str(wheel.names[i]) for i in stuck)))
    after = replace(subject, virtual=subject.virtual.turned(plan.turns))
    return Best(plan.turns, plan.nipples, TrueFigures.of(after))


def compare(before: Subject, after: Subject, turned: Array, touches: int, tier: Tier, best: Best) -> Compared:
    """What a pass of `turned` (n,) turns in so many `touches` made of `before`, against the best plan for it."""
    was, now = TrueFigures.of(before), TrueFigures.of(after)
    same = np.sign(turned) == np.sign(best.turns)
    wanted = np.abs(best.turns) > NIL
    size = np.abs(turned)
    shared = np.where(same & wanted, np.minimum(size, np.abs(best.turns)), 0.0)
    found = Compared(
        before=was,
        after=now,
        best=best.after,
        turned=float(size.sum()),
        best_turned=float(np.abs(best.turns).sum()),
        needed=float(shared.sum()),
        too_far=float(np.where(same & wanted, size - shared, 0.0).sum()),
        wrong_way=float(np.where(~same & wanted & (size > NIL), size, 0.0).sum()),
        elsewhere=float(np.where(~wanted, size, 0.0).sum()),
        left_out=float(np.where(wanted, np.abs(best.turns) - shared, 0.0).sum()),
        in_twist=float(np.abs(after.virtual.twist_turns).sum()),
        touches=touches,
        best_touches=best.nipples,
        sentence="",
    )
    return replace(found, sentence=_sentence(before, after, turned, found, best, tier))


def _names(subject: Subject, places: NDArray[np.int64]) -> str:
    return joined(", ", [str(subject.wheel.names[int(i)]) for i in places[:4]])


def _sentence(before: Subject, after: Subject, turned: Array, found: Compared, best: Best, tier: Tier) -> str:
    """The first thing that is true, from what does harm to what only costs time."""
    harm = _harm(before, after, turned, found, best, tier)
    if harm:
        return harm
    if found.after.inside(tier):
        if found.touches <= found.best_touches:
            return say("Inside, with {touches} nipples: no plan does it with fewer.", touches=found.touches)
        return say(
            "Inside, in {touches} touches; {best} would have done. Look at the whole arc before the first turn.",
            touches=found.touches,
            best=found.best_touches,
        )
    return _short(before, turned, found, best, tier)


def _harm(before: Subject, after: Subject, turned: Array, found: Compared, best: Best, tier: Tier) -> str:
    was, now = found.before, found.after
    snapped = np.array(sorted(after.snapped - before.snapped), dtype=np.int64)
    if len(snapped):
        return say(
            "{spokes}: a nipple that turns its spoke along is seized. Stop at the first quarter, oil it, wait, and try again.",
            spokes=_names(before, snapped),
        )
    if found.turned < NIL:
        return say("You turned nothing: look where the rim touches first, and begin with the nipple at its middle.")
    signs = np.array([name.side.sign for name in before.wheel.names])
    against = np.flatnonzero((np.sign(turned) == -np.sign(best.turns)) & (np.abs(best.turns) > NIL) & (np.abs(turned) > NIL))
    if now.out(tier) > was.out(tier) and found.wrong_way > 0.25 * found.turned:
        return say(
            "{spokes} went the wrong way: to pull the rim to a side, tighten that side’s spokes and ease the other’s.",
            spokes=_names(before, against),
        )
    moved_dish = abs(now.dish_mm) - abs(was.dish_mm)
    if moved_dish > 0.15 and (np.all(turned * signs >= -NIL) or np.all(turned * signs <= NIL)):
        return say(
            "Every turn pulled to the same side, and the whole rim went along by {mm:.2f} mm. Ease the other side too.",
            mm=moved_dish,
        )
    if now.radial_mm - was.radial_mm > 0.12 and now.radial_mm > 0.6 * tier.radial_mm and now.lateral_mm < was.lateral_mm:
        return say(
            "Straighter by {gain:.2f} mm, and out of round by {loss:.2f} mm more: give back on one side what the other takes.",
            gain=was.lateral_mm - now.lateral_mm,
            loss=now.radial_mm - was.radial_mm,
        )
    twist = np.abs(after.virtual.twist_turns)
    if float(twist.max()) > ASKEW_TURNS:
        return say(
            "{spokes} is still twisted: it will turn back on the road and take your truing along. Go past, come back, squeeze.",
            spokes=_names(before, np.argsort(-twist)[:1]),
        )
    return ""


def _short(before: Subject, turned: Array, found: Compared, best: Best, tier: Tier) -> str:
    if found.too_far > 0.35 * found.turned:
        return say(
            "The right nipples, and too far: {too_far:.1f} turns more than needed. Halve the step near the end.",
            too_far=found.too_far,
        )
    if found.elsewhere > 0.5 * found.turned:
        idle = np.flatnonzero((np.abs(best.turns) <= NIL) & (np.abs(turned) > NIL))
        return say(
            "Most of it was turned where nothing was wrong ({spokes}): find the middle of the fault, and stay within it.",
            spokes=_names(before, idle),
        )
    if found.left_out > 0.4 * found.best_turned:
        done = np.where(np.sign(turned) == np.sign(best.turns), np.abs(turned), 0)
        return say(
            "The right way, and not enough: {spokes} still wait. Turn the middle of the fault most, its ends least.",
            spokes=_names(before, np.argsort(-(np.abs(best.turns) - done))[:2]),
        )
    if found.after.spread_percent > tier.tension_percent >= found.before.spread_percent:
        return say("Straight, and the spokes are uneven now: share the work among the neighbours of the lump.")
    return say("On the way: look again, begin at what is worst now.")


def settled_figures(subject: Subject) -> TrueFigures:
    """A wheel's figures once its twists have let go: what a rider would have."""
    return TrueFigures.of(settle(subject))
