"""The one guard before every work on a job: it is locked, it is this shop's, and it is still open."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.queue.models import Job
from felloe.queue.services.clock import seen


def open_for_work(user: User, job_id: UUID, at_work: bool = True) -> Job:
    """The job with its wheel and bike, locked until the transaction ends; refused once it was handed back.

    `at_work`: what follows is work on the wheel, so that the person's clock on it runs.
    """
    job = (
        Job.objects.select_for_update(of=("self",))
        .select_related("wheel", "wheel__bike")
        .filter(shop_id=user.shop_id, pk=job_id)
        .first()
    )
    if job is None:
        raise Http404
    go_on_with(user, job, at_work)
    return job


def go_on_with(user: User, job: Job, at_work: bool = True) -> None:
    """The same for a job that is locked already, by a query that brought it along."""
    if job.handed_back_at is not None:
        raise Refused("job_done", say("This wheel has been handed back; open a new job for it."), 409)
    if at_work:
        seen(user, job, timezone.now())
