"""The owner's numbers over some days: few questions to the database, whatever the shop's age."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from datetime import date, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Count, OuterRef, Subquery

from felloe.accounts.models import User
from felloe.bench.models import Plan
from felloe.calendar.services import shop_calendar
from felloe.condition.models import Finding
from felloe.core.delimited import harmless
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.owner.comebacks import NOT_KNOWN, WITHIN, Visit, comebacks
from felloe.core.owner.shares import Share, kept, quantile, ratio, share
from felloe.core.said import say
from felloe.core.stages import STAGES
from felloe.numbers import answers
from felloe.queue.models import Job, StageTime
from felloe.records.models import SignOff
from felloe.repair.services.payments import days

STAGE_NAMES = {stage.key: stage.name for stage in STAGES}


def numbers_of(user: User, since: date, until: date) -> answers.Numbers:
    """Everything that the owner's page shows, of the days from `since` to `until`, both counted."""
    start, end = days(user, since, until)
    zone = shop_calendar(user.shop).zone
    ready = list(
        Job.objects.filter(shop_id=user.shop_id, ready_at__gte=start, ready_at__lt=end).values_list(
            "created_at", "ready_at", "promised_at", "promise_chance"
        )
    )
    times = list(
        StageTime.objects.filter(shop_id=user.shop_id, created_at__gte=start, created_at__lt=end).values_list(
            "job_id", "stage", "tier", "taken_min", "estimated_min", "counts", "job__wheel__position", "job__wheel__bike__use"
        )
    )
    leads = [_lead_days(came, left) for came, left, *_ in ready if left is not None]
    chances = [chance for *_, promised, chance in ready if promised is not None and chance is not None]
    repairs, back, causes = _comebacks(user, start, end)
    return answers.Numbers(
        since=since,
        until=until,
        kept=_share(kept((left, at) for _, left, at, _ in ready if left is not None)),
        stated=_round4(sum(chances) / len(chances)) if chances else None,
        lead_days=_round(quantile(leads, 0.5)),
        lead_days_most=_round(quantile(leads, 0.9)),
        weeks=_weeks(ready, zone),
        stages=_stages(times),
        comebacks=_share(share(back, repairs)),
        comeback_causes=[answers.CauseCount(cause=key, name=_cause(key), count=count) for key, count in causes.items()],
        first_pass=_share(_first_pass(user, start, end)),
        hours=_hours(times),
    )


def _lead_days(came: datetime, left: datetime) -> float:
    return (left - came) / timedelta(days=1)


def _round(value: float | None) -> float | None:
    return None if value is None else round(value, 2)


def _share(found: Share) -> answers.ShareOf:
    return answers.ShareOf(
        hits=found.hits, of=found.of, share=_round4(found.share), low=_round4(found.low), high=_round4(found.high)
    )


def _round4(value: float | None) -> float | None:
    return None if value is None else round(value, 4)


def _weeks(ready: list[tuple[Any, ...]], zone: ZoneInfo) -> list[answers.Week]:
    by_week: dict[date, list[tuple[Any, ...]]] = defaultdict(list)
    for row in ready:
        day = row[1].astimezone(zone).date()
        by_week[day - timedelta(days=day.weekday())].append(row)
    found = []
    for monday in sorted(by_week):
        rows = by_week[monday]
        leads = [_lead_days(came, left) for came, left, *_ in rows]
        found.append(
            answers.Week(
                monday=monday,
                kept=_share(kept((left, at) for _, left, at, _ in rows)),
                lead_days=_round(quantile(leads, 0.5)),
                lead_days_most=_round(quantile(leads, 0.9)),
                ready=len(rows),
            )
        )
    return found


def _stages(times: list[tuple[Any, ...]]) -> list[answers.StagePace]:
    by_stage: dict[str, list[tuple[float, float, bool]]] = defaultdict(list)
    for _, stage, _, taken, estimated, counts, _, _ in times:
        by_stage[stage].append((taken, estimated, counts))
    return [
        answers.StagePace(
            stage=stage,
            name=STAGE_NAMES[stage],
            times=len(by_stage[stage]),
            # A clock that is not believed tells no hours.
            hours=round(sum(taken for taken, _, counts in by_stage[stage] if counts) / 60, 1),
            ratio=_round(ratio((taken, estimated) for taken, estimated, counts in by_stage[stage] if counts)),
        )
        for stage in STAGE_NAMES
        if stage in by_stage
    ]


def _hours(times: list[tuple[Any, ...]]) -> list[answers.HoursOf]:
    minutes: dict[tuple[str, str, str], float] = defaultdict(float)
    jobs: dict[tuple[str, str, str], set[Any]] = defaultdict(set)
    for job, _, tier, taken, _, counts, position, use in times:
        minutes[position, use, tier] += taken if counts else 0.0
        jobs[position, use, tier].add(job)
    return [
        answers.HoursOf(position=key[0], use=key[1], tier=key[2], jobs=len(jobs[key]), hours=round(minutes[key] / 60, 1))
        for key in sorted(minutes, key=lambda key: -minutes[key])
    ]


def _comebacks(user: User, start: datetime, end: datetime) -> tuple[int, int, dict[str, int]]:
    """By the newest finding of the visit on which the wheel came back."""
    cause = Finding.objects.filter(job=OuterRef("pk")).order_by("-created_at").values("cause")[:1]
    wheels = Job.objects.filter(shop_id=user.shop_id, handed_back_at__gte=start, handed_back_at__lt=end).values("wheel_id")
    rows = (
        Job.objects.filter(wheel_id__in=wheels, created_at__lt=end + WITHIN)
        .annotate(cause=Subquery(cause))
        .values_list("wheel_id", "created_at", "handed_back_at", "ended_as", "cause")
    )
    visits = [
        Visit(str(wheel), came, left, ended == "repaired", found or "") for wheel, came, left, ended, found in rows.iterator()
    ]
    return comebacks(visits, start, end)


def _cause(key: str) -> str:
    return say("not known") if key == NOT_KNOWN else CAUSES[key].name


def _first_pass(user: User, start: datetime, end: datetime) -> Share:
    """Of the wheels trued by plans and signed off inside their tier: those that needed one plan only."""
    newest = (
        SignOff.objects.filter(shop_id=user.shop_id, created_at__gte=start, created_at__lt=end)
        .order_by("job_id", "-created_at")
        .distinct("job_id")
        .values("job_id", "short_of")
    )
    inside = {row["job_id"]: not row["short_of"] for row in newest}
    plans = (
        Plan.objects.filter(reading_set__job_id__in=inside, moves__done_turns__isnull=False)
        .values("reading_set__job_id")
        .annotate(count=Count("pk", distinct=True))
        .values_list("reading_set__job_id", "count")
    )
    counted = dict(plans)
    return share(sum(inside[job] and count == 1 for job, count in counted.items()), len(counted))


def numbers_csv(user: User, since: date, until: date) -> str:
    """The same figures as a table: what, of what, value, and how many it rests on."""
    found = numbers_of(user, since, until)
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(("figure", "of", "value", "low", "high", "count"))
    rows: list[tuple[Any, ...]] = [("promises_kept", "", found.kept.share, found.kept.low, found.kept.high, found.kept.of)]
    rows.append(("promises_stated", "", found.stated, "", "", found.kept.of))
    rows.append(("lead_days_median", "", found.lead_days, "", "", ""))
    rows.append(("lead_days_nine_of_ten", "", found.lead_days_most, "", "", ""))
    for week in found.weeks:
        rows.append(("week_kept", week.monday, week.kept.share, week.kept.low, week.kept.high, week.kept.of))
        rows.append(("week_lead_days", week.monday, week.lead_days, "", week.lead_days_most, week.ready))
    rows += [("taken_over_estimated", s.stage, s.ratio, "", "", s.times) for s in found.stages]
    rows += [("stage_hours", s.stage, s.hours, "", "", s.times) for s in found.stages]
    back, first = found.comebacks, found.first_pass
    rows.append(("comebacks_90_days", "", back.share, back.low, back.high, back.of))
    rows += [("comeback_cause", c.cause, c.count, "", "", "") for c in found.comeback_causes]
    rows.append(("one_plan_sufficed", "", first.share, first.low, first.high, first.of))
    rows += [("hours", f"{h.position} {h.use} {h.tier}", h.hours, "", "", h.jobs) for h in found.hours]
    for row in rows:
        table.writerow([harmless(cell) if isinstance(cell, str) else "" if cell is None else cell for cell in row])
    return out.getvalue()
