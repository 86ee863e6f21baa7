"""Where a live pass stands, as the page shows it."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from felloe.bench import answers
from felloe.bench.models import LivePass
from felloe.bench.services.live_follow import followed_of, looks_of, options_of, stale
from felloe.bench.services.plans import moves_of
from felloe.bench.services.states import state_values
from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import SpokeName
from felloe.core.said import joined, say
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.spokes.twist import twist_turns
from felloe.core.truing.live import finer
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.reason import not_claimed


def step_of(live: LivePass) -> answers.LiveStep:
    """Where a live pass stands: the next nipple, what is left, the figures now and after it, and the wheel on the strip."""
    followed, options = followed_of(live), options_of(live)
    state, tier = followed.state, live.plan.tolerance
    index_of = state.wheel.index_of
    moves, looks = moves_of(live.plan), looks_of(live)
    old = "" if live.ended_at else stale(live)
    steps = [] if live.ended_at or old else [(name, float(turns)) for name, turns in live.left["steps"] if name in index_of]
    last = moves[-1] if moves else None
    unclaimed = sorted(options.unread)
    shown = state_values(state, Readings(), tier)
    checks = [replace(check, measured=check.figure not in unclaimed) for check in shown.checks]
    return answers.LiveStep(
        plan_id=live.plan_id,
        reading_set_id=live.reading_set_id,
        version=live.version,
        tier=live.plan.tier,
        step_turns=finer(state, options).step_turns,
        ended=live.ended_at is not None,
        ended_set_id=live.ended_set_id,
        enough=live.left["enough"] and not old,
        said=old or _said(live, options, bool(steps), bool(moves)),
        next=_next_of(live, followed, steps[0]) if steps else None,
        rest=[answers.LiveTurn(name, turns) for name, turns in steps[1:]],
        in_order=live.left["in_order"],
        ask=live.left["ask"],
        looked=last is None or not last.done_turns or any(look.after_moves == len(moves) for look in looks),
        nipples_turned=sum(1 for move in moves if move.done_turns),
        looks=len(looks),
        last=answers.LiveTurn(last.spoke, last.done_turns or 0.0) if last is not None else None,
        last_look=looks[-1].said if looks else "",
        suspect=answers.LiveSuspect(said=_suspected(live.suspect), **live.suspect) if live.suspect else None,
        chance=live.left["chance"],
        chance_after=live.left["chance_after"],
        after=answers.LiveFigures(**live.left["after"]),
        unread=unclaimed,
        by_eye=sorted(options.by_eye),
        caution=live.plan.caution,
        state=replace(shown, reading_count=max(1, len(looks)), headline="", checks=checks),
    )


def _next_of(live: LivePass, followed: Followed, step: tuple[str, float]) -> answers.LiveNext:
    name, turns = step
    wheel, state = followed.state.wheel, followed.state
    place = wheel.index_of[name]
    after = followed.turned(place, turns).state
    side = SpokeName.parse(name).side
    lacing = wheel.side(side)
    before_n, after_n = float(state.tension_n[place]), float(after.tension_n[place])
    twist = twist_turns(lacing.spoke, spoke_length_mm(wheel, side), lacing.pitch_mm, max(before_n, after_n, 0.0), turns > 0)
    return answers.LiveNext(
        spoke=name,
        turns=turns,
        tension_before_n=round(before_n, 1),
        tension_after_n=round(after_n, 1),
        twist_turns=round(16 * twist) / 16,
        why=live.why,
    )


def _said(live: LivePass, options: PlanOptions, more: bool, begun: bool) -> str:
    """One line: go on, enough, or why there is nothing to turn."""
    tier = options.tier
    if live.ended_at is not None:
        return say("This live pass has ended.")
    if live.left["enough"]:
        told = say("It is inside {tier}.", tier=tier.said) if begun else say("It is inside {tier} as it is.", tier=tier.said)
        if options.unread or options.by_eye:
            return joined(" ", [told, not_claimed(options.unread) if options.unread else say("As far as an eye can tell.")])
        return told
    if more:
        return ""
    return say("Nothing more that is safe gains enough: end here, settle the spokes and measure again.")


def _suspected(suspect: dict[str, Any]) -> str:
    noted, spoke = suspect["noted"], suspect["spoke"]
    if spoke != noted:
        return say("The rim moved as if {spoke} had been turned, not {noted}.", spoke=spoke, noted=noted)
    if not suspect["turns"]:
        return say(
            "The rim moved as if {noted} had not been turned: look for a nipple that slips or a spoke that twists.", noted=noted
        )
    return say("The rim moved as if {noted} had been turned the other way.", noted=noted)
