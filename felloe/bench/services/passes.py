"""A pass looked back on: what was foreseen for the turns really made, beside what was measured after."""

from __future__ import annotations

from uuid import UUID

from felloe.accounts.models import User
from felloe.bench import answers
from felloe.bench.models import Plan
from felloe.bench.services.learning import before_of, influence_with, known_of
from felloe.bench.services.readings import find_set, wheel_of
from felloe.bench.services.states import kept_estimate, own_readings, rounded, trace_values
from felloe.core.mechanics.learning import learn
from felloe.core.naming import Side
from felloe.core.truing.after_pass import compare_pass
from felloe.core.truing.laps import laps_ahead
from felloe.core.truing.prediction import predict


def pass_before(user: User, set_id: UUID) -> answers.Pass:
    """The pass that led to a set; `made` is False where none did, or something else was done between."""
    reading_set = find_set(user, set_id)
    wheel = wheel_of(reading_set)
    before = before_of(reading_set, wheel)
    if before is None or not before.sure or not before.turns.any():
        return answers.Pass(made=False, plan_id=None, foreseen=None, as_foreseen=True, said="", shirkers=[])
    earlier, _ = kept_estimate(before.reading_set)
    foreseen = predict(earlier, before.turns)
    own = own_readings(reading_set)
    state, _ = kept_estimate(reading_set)
    learnt = learn(wheel, own_readings(before.reading_set), own, before.turns, known_of(reading_set))
    found = compare_pass(foreseen, state, own, learnt)
    plan = Plan.objects.filter(reading_set=before.reading_set).order_by("-created_at").first()
    return answers.Pass(
        made=True,
        plan_id=plan.pk if plan else None,
        foreseen=answers.Foreseen(tension_n=rounded(foreseen.tension_n, 1), trace=trace_values(foreseen.trace)),
        as_foreseen=found.as_foreseen,
        said=found.said,
        shirkers=[answers.Shirker(spoke=s.spoke, share=round(s.share, 2)) for s in learnt.shirkers] if learnt else [],
    )


def laps_of(user: User, set_id: UUID) -> list[answers.Lap]:
    """The laps that bring a wheel under construction from where it stands to its tension."""
    reading_set = find_set(user, set_id)
    wheel = wheel_of(reading_set)
    state, readings = kept_estimate(reading_set)
    means = {side: float(state.tension_n[wheel.on_side(side)].mean()) if readings.tension else 0.0 for side in Side}
    ahead = laps_ahead(influence_with(wheel, known_of(reading_set)), means[Side.RIGHT], means[Side.LEFT])
    return [
        answers.Lap(
            number=lap.number,
            share=lap.share,
            right_turns=round(lap.right_turns, 2),
            left_turns=round(lap.left_turns, 2),
            right_mean_n=round(lap.right_mean_n, 1),
            left_mean_n=round(lap.left_mean_n, 1),
            minutes=round(lap.minutes, 1),
            care=lap.care,
        )
        for lap in ahead
    ]
