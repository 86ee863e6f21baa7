"""What was agreed with the customer, and whether it still stands."""

from __future__ import annotations

from collections.abc import Collection
from uuid import UUID

from felloe.core.money.quote import why_void
from felloe.core.truing.tiers import Tier
from felloe.queue.models import Job
from felloe.queue.tolerances import TIER_FIELDS
from felloe.repair.models import Decision, JobQuote


def newest_decision(job: Job) -> Decision | None:
    return Decision.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()


def why_not_standing(decision: Decision, tier: Tier, quote_version: int) -> str:
    """Why an approval is void; empty for one that stands, and for a refusal."""
    if decision.outcome == Decision.Outcome.REFUSED:
        return ""
    return why_void({"tier": decision.tolerance, "quote": decision.quote_version}, {"tier": tier, "quote": quote_version})


def quote_version(job: Job) -> int:
    """The version of what was added by hand; 0 where nothing was."""
    found = JobQuote.objects.filter(job=job).values_list("version", flat=True).first()
    return found or 0


def standing_decision(job: Job) -> Decision | None:
    """The newest word of the customer, unless what it was said to has changed since."""
    newest = newest_decision(job)
    if newest is None or why_not_standing(newest, job.tolerance, quote_version(job)):
        return None
    return newest


def standing_of(jobs: Collection[Job]) -> dict[UUID, Decision]:
    """As `standing_decision` of many jobs, in two questions."""
    newest = Decision.objects.filter(job__in=jobs).order_by("job_id", "-created_at").distinct("job_id")
    fields = ("job_id", "outcome", "chosen", *TIER_FIELDS, "quote_version", "price_minor", "created_at")
    versions = dict(JobQuote.objects.filter(job__in=jobs).values_list("job_id", "version"))
    tiers = {job.pk: job.tolerance for job in jobs}
    return {
        row.job_id: row
        for row in newest.only(*fields)
        if not why_not_standing(row, tiers[row.job_id], versions.get(row.job_id, 0))
    }
