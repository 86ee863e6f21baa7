"""Finding, ending and counting what was found on a wheel over its life."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.condition.models import ConditionMark, Ending, FrameCheck, SpokeBreak
from felloe.core.components import Wheel as CoreWheel
from felloe.core.diagnosis.breakage import FRESH_DAYS, PLACES, BadBreak, Break
from felloe.core.diagnosis.condition import UNTOUCHABLE, Mark
from felloe.core.errors import UnknownSpoke
from felloe.core.hand_back import check_reason
from felloe.core.naming import SpokeName
from felloe.core.runout.frame_gauge import FrameError, frame_error
from felloe.core.said import Said, joined, say
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.services import photos
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel


def standing_marks(wheel: Wheel) -> list[ConditionMark]:
    """Marks of a wheel that were neither mended nor a mistake, oldest first."""
    rows = ConditionMark.objects.filter(wheel=wheel, ending__isnull=True).select_related("created_by", "job")
    return list(rows.order_by("created_at"))


def core_mark(row: ConditionMark) -> Mark:
    return Mark(row.kind, row.spoke, row.measure_mm)


def _on_wheel(wheel: CoreWheel, spoke: str) -> str:
    name = str(SpokeName.parse(spoke))
    if name not in wheel.index_of:
        raise UnknownSpoke(say("this wheel has no spoke {name}", name=name), "spoke")
    return name


@atomic
def add_mark(user: User, job_id: UUID, values: dict[str, Any]) -> ConditionMark:
    """Note damage at its place; the core refuses what cannot be."""
    job = queue.open_for_work(user, job_id)
    spoke = values.get("spoke", "").strip()
    wheel = wheels.core_wheel(job.wheel)
    mark = Mark(values["kind"], _on_wheel(wheel, spoke) if spoke else "", values.get("measure_mm"))
    photo = photos.find_photo(user, values["photo"]) if values.get("photo") else None
    made = ConditionMark.objects.create(
        shop_id=job.shop_id,
        wheel=job.wheel,
        job=job,
        kind=mark.kind,
        spoke=mark.spoke,
        measure_mm=mark.measure_mm,
        note=values.get("note", "").strip(),
        photo=photo,
        created_by=user,
    )
    queue.log(job, user, "mark", _named(mark))
    return made


@atomic
def end_mark(user: User, job_id: UUID, mark_id: UUID, how: str, note: str) -> None:
    """Say that a mark was mended, or was a mistake, with a word what was done."""
    job = queue.open_for_work(user, job_id)
    mark = (
        ConditionMark.objects.select_for_update(of=("self",)).filter(wheel=job.wheel, pk=mark_id, ending__isnull=True).first()
    )
    if mark is None:
        raise Http404
    Ending.objects.create(shop_id=job.shop_id, mark=mark, job=job, how=how, note=_word(note), created_by=user)
    queue.log(job, user, "mark_ended", joined(": ", [_named(core_mark(mark)), note.strip()]))


def _word(note: str) -> str:
    if not note.strip():
        raise Refused(
            "reason_needed",
            say("Say in a few words what was done."),
            422,
            errors=[{"field": "note", "message": say("say in a few words what was done"), "code": "reason_needed"}],
        )
    return check_reason(note, "note")


def breaks_of(wheel: Wheel, since: date | None = None) -> list[SpokeBreak]:
    """Breaks of a wheel that were no mistakes, oldest first; `since` leaves out those before a rebuild."""
    rows = SpokeBreak.objects.filter(wheel=wheel, ending__isnull=True).select_related("created_by", "job")
    if since is not None:
        rows = rows.filter(noticed_on__gt=since)
    return list(rows.order_by("noticed_on", "created_at"))


def core_break(row: SpokeBreak) -> Break:
    return Break(row.spoke, row.place, row.noticed_on)


@atomic
def add_break(user: User, job_id: UUID, values: dict[str, Any]) -> SpokeBreak:
    """Note a break; the day defaults to today and never lies ahead."""
    job = queue.open_for_work(user, job_id)
    today = timezone.now().date()
    on = values.get("noticed_on") or today
    if on > today:
        raise BadBreak(say("this day has not come yet"), "noticed_on")
    found = Break(_on_wheel(wheels.core_wheel(job.wheel), values["spoke"]), values["place"], on)
    made = SpokeBreak.objects.create(
        shop_id=job.shop_id,
        wheel=job.wheel,
        job=job,
        spoke=found.spoke,
        place=found.place,
        noticed_on=on,
        note=values.get("note", "").strip(),
        created_by=user,
    )
    queue.log(job, user, "break", say("{spoke} broke, {place}", spoke=found.spoke, place=PLACES[found.place]))
    if (today - on).days <= FRESH_DAYS:
        _mark_broken(user, job, found.spoke)
    return made


def _mark_broken(user: User, job: Job, spoke: str) -> None:
    """A fresh break leaves a broken spoke on the wheel, until it is noted as replaced."""
    if ConditionMark.objects.filter(wheel=job.wheel, kind="spoke_broken", spoke=spoke, ending__isnull=True).exists():
        return
    ConditionMark.objects.create(
        shop_id=job.shop_id, wheel=job.wheel, job=job, kind="spoke_broken", spoke=spoke, created_by=user
    )


@atomic
def end_break(user: User, job_id: UUID, break_id: UUID, note: str) -> None:
    """A break that never was."""
    job = queue.open_for_work(user, job_id)
    row = SpokeBreak.objects.select_for_update(of=("self",)).filter(wheel=job.wheel, pk=break_id, ending__isnull=True).first()
    if row is None:
        raise Http404
    how = Ending.How.MISTAKE
    Ending.objects.create(shop_id=job.shop_id, spoke_break=row, job=job, how=how, note=_word(note), created_by=user)


def broken_at(job: Job, moment: datetime) -> list[str]:
    """Spokes of a job's wheel that were broken when a set of readings was begun: not yet noted as replaced then."""
    rows = ConditionMark.objects.filter(job=job, kind="spoke_broken").exclude(ending__how=Ending.How.MISTAKE)
    return list(rows.exclude(ending__created_at__lte=moment).values_list("spoke", flat=True))


def broken_of(jobs: Collection[Job]) -> dict[UUID, list[str]]:
    """Spokes of many jobs' wheels that were found broken, by job: slips of the pen left out, mended ones too."""
    rows = ConditionMark.objects.filter(job__in=jobs, kind="spoke_broken").exclude(ending__how=Ending.How.MISTAKE)
    found: dict[UUID, list[str]] = {}
    for job, spoke in rows.order_by("created_at").values_list("job_id", "spoke"):
        found.setdefault(job, []).append(spoke)
    return found


def broken_since(job: Job, moment: datetime) -> list[str]:
    """Spokes of a job's wheel that were noted as broken after `moment` and are not yet noted as replaced."""
    rows = ConditionMark.objects.filter(wheel=job.wheel, kind="spoke_broken", created_at__gt=moment, ending__isnull=True)
    return list(rows.order_by("created_at").values_list("spoke", flat=True))


def broken_spokes(job: Job) -> dict[str, tuple[UUID, bool]]:
    """Spokes that broke, by name: their mark, and whether they still stand broken; those that this job mended as well."""
    rows = {m.spoke: (m.pk, True) for m in standing_marks(job.wheel) if m.kind == "spoke_broken" and m.spoke}
    for mark in ConditionMark.objects.filter(job=job, kind="spoke_broken", ending__how=Ending.How.MENDED):
        rows.setdefault(mark.spoke, (mark.pk, False))
    return rows


def marks_count(job: Job) -> tuple[int, int]:
    """How many marks and endings a job has: they only ever grow."""
    return ConditionMark.objects.filter(job=job).count(), Ending.objects.filter(mark__job=job).count()


def untouchable(wheel: Wheel) -> frozenset[str]:
    """Spokes whose nipples a plan must leave alone."""
    return frozenset(row.spoke for row in standing_marks(wheel) if row.kind in UNTOUCHABLE)


@atomic
def add_frame_check(user: User, job_id: UUID, values: dict[str, Any]) -> FrameCheck:
    """Note a frame gauge's reading; the core refuses what cannot be."""
    job = queue.open_for_work(user, job_id)
    error = judged_frame(job, values)
    made = FrameCheck.objects.create(shop_id=job.shop_id, job=job, created_by=user, **values)
    queue.log(job, user, "frame_check", error.why)
    return made


def judged_frame(job: Job, values: dict[str, Any]) -> FrameError:
    wheel = wheels.core_wheel(job.wheel)
    end = "rear" if job.wheel.position == Wheel.Position.REAR else "front"
    return frame_error(
        values["gap_right_mm"],
        values["gap_left_mm"],
        values["material"],
        end,
        wheel.rim.erd_mm / 2,
        values.get("stay_length_mm"),
    )


def frame_check_of(job: Job) -> tuple[FrameCheck, FrameError] | None:
    """The newest frame check of a job with its judgement."""
    row = FrameCheck.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()
    if row is None:
        return None
    names = ("gap_right_mm", "gap_left_mm", "material", "stay_length_mm")
    return row, judged_frame(job, {name: getattr(row, name) for name in names})


def _named(mark: Mark) -> Said:
    name = mark.about.name
    return say("{mark} at {spoke}", mark=name, spoke=mark.spoke) if mark.spoke else joined("", [name])
