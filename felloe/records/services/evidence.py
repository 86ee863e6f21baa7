"""What a job has to show: work begun on its wheel, what was agreed and is done, and the stages with nothing to show."""

from __future__ import annotations

from felloe.accounts.models import User
from felloe.bench.services import plans as bench_plans
from felloe.building.services import work
from felloe.condition import services as condition
from felloe.core.decision.agreed import Bench, not_done
from felloe.core.diagnosis.condition import CONDITIONS, OVERHAULED_FOR, REPLACED_FOR
from felloe.core.naming import Side
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.repair.services import refit
from felloe.repair.services.agreed import standing_decision
from felloe.wheels import services as wheels


def worked_on(job: Job) -> bool:
    """Whether nipples were turned or spokes put in on this job."""
    return bench_plans.turned_since(job, job.created_at) or work.begun(job)


def undone_of(job: Job, decision: Decision | None, as_left: bool) -> tuple[str, ...]:
    """Of what was agreed, what the bench has not noted as done."""
    if decision is None or decision.outcome == Decision.Outcome.REFUSED:
        return ()
    wheel = wheels.core_wheel(job.wheel)
    marks = condition.standing_marks(job.wheel)
    return not_done(
        decision.chosen,
        Bench(
            as_left=as_left,
            to_replace=list(dict.fromkeys(mark.spoke for mark in marks if mark.kind in REPLACED_FOR and mark.spoke)),
            laced=work.spokes_in(job),
            spokes=wheel.spoke_count,
            a_side=min(int(wheel.on_side(side).sum()) for side in Side),
            hub=[CONDITIONS[mark.kind].name for mark in marks if mark.kind in OVERHAULED_FOR],
        ),
    )


def stages_undone(user: User, job: Job) -> frozenset[str]:
    """Those of core.stages.LEAVES_SOMETHING for which there is nothing to show."""
    _, left = bench_plans.latest_sets(user, job.pk)
    shown = {
        "as_found": left is not None,
        "decide": standing_decision(job) is not None,
        "as_left": left is not None and bench_plans.is_as_left(job, left),
        "refit": not refit.steps_open(job),
    }
    return frozenset(stage for stage, there in shown.items() if not there)
