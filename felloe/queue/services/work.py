"""Taking a wheel up, putting it down, handing it over; the rest follows from what is done anyhow."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.utils import timezone

from felloe.accounts import services as accounts
from felloe.accounts.models import User
from felloe.accounts.rights import WORKS_AT_THE_BENCH
from felloe.api.problems import Refused, refused_at
from felloe.core.said import joined, say
from felloe.places.here import atomic
from felloe.queue.models import Job, JobEvent, Place, WorkSpan
from felloe.queue.services import clock
from felloe.queue.services.guard import open_for_work
from felloe.queue.services.places import find_place
from felloe.queue.services.waiting import wait


@atomic
def take_up(user: User, job_id: UUID, stand_id: UUID | None = None) -> Job:
    """Have a job in hand; another wheel that one had is put down by it. Refused while a colleague has it."""
    job = open_for_work(user, job_id, at_work=False)
    now = timezone.now()
    if job.stage not in clock.BENCH:
        raise Refused("nothing_to_do", say("Nothing is left for the bench on this wheel: it waits to be fetched."), 409)
    stand = find_place(user, stand_id, Place.Kind.STAND) if stand_id else None
    other = WorkSpan.objects.select_for_update(of=("self",)).filter(job=job, ended_at=None).select_related("person").first()
    if other is not None and other.person_id != user.pk:
        raise Refused(
            "in_hand", say("{name} has this wheel in hand: let it be handed over.", name=other.person.display_name), 409
        )
    if other is not None:
        if stand is not None and other.stand_id != stand.pk:
            other.stand = stand
            other.save(update_fields=["stand"])
        return job
    clock.one_at_a_time(user)
    mine = WorkSpan.objects.select_for_update().filter(person=user, ended_at=None).first()
    if mine is not None:
        clock.end(mine, user, now, WorkSpan.Ended.OTHER)
    if job.assigned_to_id is None:
        job.assigned_to = user
        job.save_change(user, ["assigned_to"])
    clock.begin(user, job, now, stand or (mine.stand if mine else None))
    return job


@atomic
def put_down(user: User, job_id: UUID, values: dict[str, Any]) -> Job:
    """Put a wheel down: why, on which hook, what the next one should know. `to`: a colleague who goes on with it.

    `stopped_at`: where the clock was forgotten, when the work stopped in truth.
    """
    job = open_for_work(user, job_id, at_work=False)
    now = timezone.now()
    span = WorkSpan.objects.select_for_update().filter(job=job, ended_at=None).first()
    if span is None:
        raise Refused("not_in_hand", say("Nobody has this wheel in hand."), 409)
    stopped = values.get("stopped_at")
    if stopped is not None and not span.started_at <= stopped <= now:
        raise refused_at("stopped_at", "bad_time", say("That lies before the work began, or is still to come."))
    to = values.get("to")
    person = accounts.find_staff(user, to) if to else None
    if to and (person is None or person.role not in WORKS_AT_THE_BENCH):
        raise Refused("unknown_person", say("Nobody at this shop's benches has that name."), 422)
    note = values.get("note", "").strip()
    ended = WorkSpan.Ended.HANDED_OVER if person else WorkSpan.Ended.PUT_DOWN
    if stopped is not None:
        ended = WorkSpan.Ended.FORGOTTEN
    clock.end(span, user, now, ended, note, stopped)
    changed = []
    if values.get("hook"):
        job.hook = find_place(user, values["hook"], Place.Kind.HOOK)
        changed.append("hook")
    if person is not None:
        job.assigned_to = person
        changed.append("assigned_to")
    if values.get("waiting_on"):
        wait(job, user, values["waiting_on"], now, values.get("expected_on", job.expected_on))
    if changed:
        job.save_change(user, changed)
    if note or person is not None:
        what = say("handed over to {name}", name=person.display_name) if person else say("put down")
        said = joined(": ", [what, note]) if note else what
        JobEvent.objects.create(shop_id=job.shop_id, job=job, kind="put_down", note=said, created_by=user)
    return job
