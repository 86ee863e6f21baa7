"""What was found on a wheel, judged against what was measured of it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench import answers as bench_answers
from felloe.bench.services.plans import newest_estimate
from felloe.building.services import sizing
from felloe.condition import services as condition
from felloe.condition.models import SpokeBreak
from felloe.core.components import Wheel as CoreWheel
from felloe.core.decision.options import NEW_SPOKES
from felloe.core.diagnosis.breakage import BREAK_CAUSES, PLACES, Pattern, TensionFacts, pattern_of
from felloe.core.diagnosis.condition import CONDITIONS
from felloe.core.diagnosis.rim_damage import Verdict, bends, judge
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import SpokeName
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.statics import side_targets_n
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair import answers
from felloe.repair.models import Decision
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel


def rebuilt_on(wheel: Wheel) -> date | None:
    """The day on which a job that gave the wheel new spokes was handed back last."""
    done = Decision.objects.filter(job__wheel=wheel, job__handed_back_at__isnull=False, outcome=Decision.Outcome.APPROVED)
    rows = [row.job.handed_back_at for row in done.select_related("job") if set(row.chosen) & set(NEW_SPOKES)]
    return max((at.date() for at in rows if at is not None), default=None)


def judged_marks(job: Job, wheel: CoreWheel, state: WheelState | None) -> list[tuple[Any, Verdict]]:
    """Standing marks of the job's wheel, each with its verdict."""
    rim_brake = job.wheel.bike.brake == "rim"
    rows = condition.standing_marks(job.wheel)
    return [(row, judge(condition.core_mark(row), wheel, state, rim_brake)) for row in rows]


def breakage(
    job: Job, wheel: CoreWheel, measured: tuple[WheelState, Readings] | None
) -> tuple[list[SpokeBreak], Pattern | None]:
    """The wheel's breaks since its last rebuild, and what they say together."""
    rows = condition.breaks_of(job.wheel, rebuilt_on(job.wheel))
    if not rows:
        return rows, None
    spread = sizing.old_spread_mm(job, SpokeName.parse(rows[-1].spoke).side)
    facts = replace(_tension_facts(wheel, measured, rows[-1].spoke), length_spread_mm=spread)
    return rows, pattern_of(wheel, job.wheel.position == Wheel.Position.REAR, [condition.core_break(r) for r in rows], facts)


def _tension_facts(wheel: CoreWheel, measured: tuple[WheelState, Readings] | None, spoke: str) -> TensionFacts:
    """Of the side that broke last; only where its tensions were read, since the model alone knows none."""
    if measured is None:
        return TensionFacts()
    state, readings = measured
    side = SpokeName.parse(spoke).side
    if sum(r.spoke.startswith(side.value) for r in readings.tension) < 4:
        return TensionFacts()
    # The broken spoke itself carries nothing and says nothing.
    even = side_evenness(wheel, state.tension_n.tolist(), side, 20, state.broken)
    return TensionFacts(
        mean_share=even.mean_n / side_targets_n(wheel)[side],
        spread_percent=even.spread_percent,
        over_cap=bool(even.max_n > wheel.rim.tension_cap_n),
    )


def condition_of(user: User, job_id: UUID) -> answers.Condition:
    """Everything the condition screen shows."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    measured = newest_estimate(user, job.pk)
    state = measured[0] if measured else None
    breaks, pattern = breakage(job, wheel, measured)
    frame = condition.frame_check_of(job)
    return answers.Condition(
        kinds=[
            answers.ConditionKind(key=k.key, name=k.name, part=k.part, measure=k.measure, placed=k.placed)
            for k in CONDITIONS.values()
        ],
        places=[answers.Place(key=key, name=name) for key, name in PLACES.items()],
        marks=[_mark_values(row, verdict, job) for row, verdict in judged_marks(job, wheel, state)],
        breaks=[_break_values(row) for row in breaks],
        pattern=_pattern_values(pattern),
        bends=[bench_answers.Bend(spokes=list(b.spokes), why=b.why) for b in bends(state)] if state is not None else [],
        frame=_frame_values(frame) if frame else None,
        measured=measured is not None,
        rim_material=wheel.rim.material,
    )


def _mark_values(row: Any, verdict: Verdict, job: Job) -> answers.ConditionMark:
    return answers.ConditionMark(
        id=row.pk,
        kind=row.kind,
        name=CONDITIONS[row.kind].name,
        part=CONDITIONS[row.kind].part,
        spoke=row.spoke,
        measure_mm=row.measure_mm,
        note=row.note,
        photo=row.photo_id,
        level=verdict.level,
        why=verdict.why,
        remedy=CONDITIONS[row.kind].remedy,
        earlier_job=None if row.job_id == job.pk else row.job.number,
        by=row.created_by.display_name if row.created_by else "",
        created_at=row.created_at,
    )


def _break_values(row: SpokeBreak) -> answers.Break:
    return answers.Break(
        id=row.pk,
        spoke=row.spoke,
        place=row.place,
        place_name=PLACES[row.place],
        noticed_on=row.noticed_on,
        note=row.note,
        job_number=row.job.number,
    )


def _pattern_values(pattern: Pattern | None) -> answers.Pattern | None:
    if pattern is None:
        return None
    return answers.Pattern(
        advice=pattern.advice,
        side=pattern.side.value if pattern.side else None,
        reasons=list(pattern.reasons),
        suspects=[
            answers.Suspect(key=s.key, name=BREAK_CAUSES[s.key], share=round(s.share, 3), why=s.why)
            for s in pattern.suspects[:5]
        ],
    )


def _frame_values(found: tuple[Any, Any]) -> answers.FrameCheck:
    row, error = found
    return answers.FrameCheck(
        material=row.material,
        gap_right_mm=row.gap_right_mm,
        gap_left_mm=row.gap_left_mm,
        stay_length_mm=row.stay_length_mm,
        offset_mm=round(error.offset_mm, 2),
        sd_mm=error.sd_mm,
        each_stay_mm=round(error.each_stay_mm, 2),
        toward=error.toward.value if error.toward else None,
        at_rim_swung_mm=round(error.at_rim_mm[0], 2),
        at_rim_parallel_mm=round(error.at_rim_mm[1], 2),
        advice=error.advice,
        why=error.why,
        by=row.created_by.display_name if row.created_by else "",
    )
