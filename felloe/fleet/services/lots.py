"""Where the wheels of a lot stand, and what the sample says of it."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from datetime import datetime, timedelta
from uuid import UUID

from django.db.models import Count, Q
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.squares import rows_of
from felloe.bench.models import ReadingSet
from felloe.bench.services import readings as bench_readings
from felloe.condition import services as condition
from felloe.condition.models import SpokeBreak
from felloe.core.fleet.batch import LotBreak, batch_verdict
from felloe.core.fleet.sampling import USUAL, judge_wheel, lot_verdict
from felloe.core.tension.statics import side_targets_n
from felloe.fleet import answers
from felloe.fleet.models import Lot, LotItem
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.repair.services.agreed import standing_of
from felloe.wheels import services as wheels

#: Spokes that broke before are looked at so far back.
BREAKS_YEARS = 1.0


def find_lot(user: User, lot_id: UUID, lock: bool = False) -> Lot:
    found = Lot.objects.filter(shop_id=user.shop_id, pk=lot_id)
    lot = (found.select_for_update() if lock else found.select_related("customer")).first()
    if lot is None:
        raise Http404
    return lot


def lots_of(user: User) -> list[answers.LotLine]:
    rows = (
        Lot.objects.filter(shop_id=user.shop_id)
        .select_related("customer")
        .annotate(
            wheels=Count("items"),
            returned=Count("items", filter=Q(items__job__handed_back_at__isnull=False)),
            exceptions=Count("items", filter=~Q(items__exception="")),
        )
        .order_by("-created_at")[:200]
    )
    return [
        answers.LotLine(
            id=row.pk,
            name=row.name,
            customer=row.customer.name,
            wheels=row.wheels,
            returned=row.returned,
            exceptions=row.exceptions,
            created_at=row.created_at,
        )
        for row in rows
    ]


def items_of(lot: Lot) -> list[LotItem]:
    return list(lot.items.select_related("job", "job__wheel", "job__wheel__bike").order_by("place"))


def lot_of(user: User, lot_id: UUID) -> answers.Lot:
    """A lot as its page shows it."""
    lot = find_lot(user, lot_id)
    items = items_of(lot)
    jobs = [item.job for item in items]
    agreed = {key for key, word in standing_of(jobs).items() if word.outcome == Decision.Outcome.APPROVED}
    samples = samples_of(jobs)
    order = sorted(items, key=lambda item: hashlib.sha256(f"{lot.pk} {item.asset_number}".encode()).digest())
    measured = [item for item in order if item.job_id in samples and samples[item.job_id][0] is not None]
    by_time = sorted(measured, key=lambda item: samples[item.job_id][2])
    path = [bool(samples[item.job_id][0]) for item in by_time]
    return answers.Lot(
        id=lot.pk,
        version=lot.version,
        name=lot.name,
        customer=lot.customer.name,
        customer_id=lot.customer_id,
        tier=jobs[0].tier if jobs else "sound",
        items=[_item(item, item.job_id in agreed, samples.get(item.job_id)) for item in items],
        sampling=_verdict(path, len(items)),
        next_to_measure=[item.job_id for item in order if item not in measured and not item.job.handed_back_at][:5],
        batch=_batch(jobs),
    )


def _item(item: LotItem, agreed: bool, sample: tuple[bool | None, str, datetime] | None) -> answers.Item:
    job = item.job
    state = "waits"
    if job.handed_back_at is not None:
        state = "returned"
    elif item.exception:
        state = "exception"
    elif job.ready_at is not None:
        state = "ready"
    elif job.stage != "take_in":
        state = "bench"
    known = {True: "bad", False: "good", None: ""}[sample[0] if sample else None]
    return answers.Item(
        job=job.pk,
        number=job.number,
        label=item.asset_number,
        state=state,
        reason=item.exception,
        stage=job.stage,
        agreed=agreed,
        sample=known,
        sample_why=sample[1] if sample else "",
    )


def _verdict(path: Sequence[bool], of: int) -> answers.Verdict:
    found = lot_verdict(path, max(of, 1))
    lines = [USUAL.lines(n) for n in range(min(of, 60) + 1)]
    counts = [0]
    for bad in path:
        counts.append(counts[-1] + bad)
    return answers.Verdict(
        lot_is=found.verdict,
        measured=found.measured,
        bad=found.bad,
        of=found.of,
        certain=found.certain,
        fewest_more=found.fewest_more,
        why=found.why,
        accept=[round(accept, 3) for accept, _ in lines],
        reject=[round(reject, 3) for _, reject in lines],
        path=counts,
        rule=USUAL.said,
    )


def samples_of(jobs: Sequence[Job]) -> dict[UUID, tuple[bool | None, str, datetime]]:
    """Of the jobs whose first readings hold tensions: good, bad or not known, why, and when they were taken.

    In three questions, however many were measured.
    """
    by_id = {job.pk: job for job in jobs}
    sets: dict[UUID, ReadingSet] = {}
    for row in ReadingSet.objects.filter(job__in=jobs, readings__kind="tension").distinct().order_by("number"):
        sets.setdefault(row.job_id, row)
    tensions = bench_readings.tensions_of(sets.values())
    broken = condition.broken_of(jobs)
    found: dict[UUID, tuple[bool | None, str, datetime]] = {}
    for job_id, reading_set in sets.items():
        job = by_id[job_id]
        targets = {side.value: target for side, target in side_targets_n(wheels.core_wheel(job.wheel)).items()}
        tolerance = job.tier_tension_percent
        sample = judge_wheel(tensions[reading_set.pk], targets, tolerance, broken.get(job_id, ()))
        found[job_id] = (sample.bad, sample.why, reading_set.created_at)
    return found


def _batch(jobs: Sequence[Job]) -> answers.Batch:
    since = (timezone.now() - timedelta(days=365 * BREAKS_YEARS)).date()
    rows = SpokeBreak.objects.filter(wheel__in=[job.wheel_id for job in jobs], noticed_on__gte=since)
    broken = rows.order_by("noticed_on", "pk").values_list("wheel_id", "spoke", "place")
    breaks = [LotBreak(str(wheel), spoke[:1], place) for wheel, spoke, place in broken]
    found = batch_verdict(breaks, max(len(jobs), 1), BREAKS_YEARS)
    return answers.Batch(
        points_to=found.verdict, breaks=found.breaks, wheels=found.wheels, expected=round(found.expected, 1), why=found.why
    )


def labels_of(user: User, lot_id: UUID, base: str) -> list[answers.Label]:
    """A sheet of labels for the wheels of a lot that are here."""
    return [
        answers.Label(number=item.job.number, label=item.asset_number, rows=rows_of(f"{base.rstrip('/')}/jobs/{item.job_id}"))
        for item in items_of(find_lot(user, lot_id))
        if item.job.handed_back_at is None
    ]
