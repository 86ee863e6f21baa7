"""The clock of work: who has which wheel in hand, begun and ended by what is done."""

from __future__ import annotations

from datetime import datetime
from uuid import UUID

from felloe.accounts.models import User
from felloe.accounts.rights import WORKS_AT_THE_BENCH
from felloe.core.stages import STAGE_KEYS
from felloe.queue.models import Job, Place, WorkSpan

#: Handing back is the desk's: nobody is at the bench for it.
BENCH = STAGE_KEYS[:-1]


def open_span(user: User) -> WorkSpan | None:
    """What a person has in hand."""
    found = WorkSpan.objects.filter(person=user, ended_at=None)
    return found.select_related("job", "job__wheel", "job__wheel__bike", "stand").first()


def in_hand(shop_id: UUID) -> dict[UUID, WorkSpan]:
    """Who is at which job at which stand, by job."""
    found = WorkSpan.objects.filter(shop_id=shop_id, ended_at=None).select_related("person", "stand")
    return {span.job_id: span for span in found}


def seen(user: User, job: Job, now: datetime) -> None:
    """Something was done at the bench: the clock runs on, or begins where nobody's does. The caller holds the job's lock."""
    if user.role not in WORKS_AT_THE_BENCH or job.stage not in BENCH:
        return
    mine = WorkSpan.objects.filter(person=user, job=job, ended_at=None)
    if mine.update(last_deed_at=now):
        return
    # Who has another wheel in hand, or looks over a colleague's, moves no clock by that.
    one_at_a_time(user)
    if not WorkSpan.objects.filter(shop_id=job.shop_id, ended_at=None, person=user).exists() and not _taken(job):
        begin(user, job, now, None)


def one_at_a_time(user: User) -> None:
    """Two tablets of one person begin work one after the other; held until the transaction ends."""
    User.objects.select_for_update(no_key=True).get(pk=user.pk)


def _taken(job: Job) -> bool:
    return WorkSpan.objects.filter(job=job, ended_at=None).exists()


def begin(user: User, job: Job, now: datetime, stand: Place | None) -> WorkSpan:
    return WorkSpan.objects.create(
        shop_id=job.shop_id,
        job=job,
        person=user,
        stand=stand,
        stage=job.stage,
        started_at=now,
        last_deed_at=now,
        created_by=user,
    )


def end(span: WorkSpan, user: User, now: datetime, ended: str, note: str = "", believed_at: datetime | None = None) -> None:
    """Whoever ends it says so in his own name: a note of his is not the other's."""
    span.ended_at, span.ended, span.note = max(now, span.started_at), ended, note
    span.believed_at, span.ended_by = believed_at, user
    span.save(update_fields=["ended_at", "ended", "note", "believed_at", "ended_by"])


def stage_left(job: Job, user: User, now: datetime, bench: bool) -> None:
    """A stage was left: its clock ends, and whoever worked goes on at the next one. The caller holds the job's lock."""
    span = WorkSpan.objects.select_for_update().filter(job=job, ended_at=None).first()
    if span is not None:
        end(span, user, now, WorkSpan.Ended.STAGE)
        if bench and job.stage in BENCH and not job.waiting_on:
            begin(span.person, job, now, span.stand)
    elif bench:
        seen(user, job, now)


def notes_to_next(job: Job) -> WorkSpan | None:
    """The newest note that was left with a job when it was put down, while nobody has taken it up since."""
    newest = WorkSpan.objects.filter(job=job).select_related("ended_by").order_by("-started_at").first()
    return newest if newest is not None and newest.note else None
