"""What a job waits for, and since when: how long a shop's answers and parts take is learned from it."""

from __future__ import annotations

from datetime import date, datetime

from felloe.accounts.models import User
from felloe.queue.models import Job, Waited


def wait(job: Job, user: User, on: str, now: datetime, expected_on: date | None = None) -> None:
    """The job waits from now on for `on` ("" for nothing), which is to come on a day, or on none that was named. Saves; the
    caller holds the job's lock."""
    if job.waiting_on == on:
        if on and expected_on != job.expected_on:
            job.expected_on = expected_on
            job.save_change(user, ["expected_on"])
        return
    Waited.objects.filter(job=job, until=None).update(until=now)
    job.waiting_on, job.waits_since = on, now if on else None
    job.expected_on = expected_on if on else None
    if on:
        Waited.objects.create(shop_id=job.shop_id, job=job, on=on, since=now, created_by=user)
    job.save_change(user, ["waiting_on", "waits_since", "expected_on"])
