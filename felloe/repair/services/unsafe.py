"""Which open jobs hold a wheel that is not to be ridden as it stands: for the rail, the tag and every bench screen."""

from __future__ import annotations

from uuid import UUID

from django.db.models import Exists, OuterRef, Q

from felloe.accounts.models import User
from felloe.api.kept import Kept
from felloe.condition.models import ConditionMark, Finding
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.said import say
from felloe.core.stages import DONE
from felloe.queue.models import Job
from felloe.repair import answers
from felloe.repair.models import RefitAnswer
from felloe.repair.services import decisions, refit


def reasons_of(user: User, job: Job) -> list[str]:
    """Why the wheel of a job is not to be ridden: damage, a cause found, a refit step found wrong."""
    wrong = [say("Refit: {step} Found not right.", step=step.text) for step in refit.steps_not_right(job)]
    return [*decisions.unsafe_now(user, job), *wrong]


def unsafe_jobs(user: User) -> list[answers.UnsafeJob]:
    """The open jobs with a reason, by number; kept for as long as nothing of them changes."""
    return [job for _, _, job in sorted(_kept.of(user.shop_id).values(), key=lambda known: known[0]) if job.why]


#: Number, wheel and reasons of each open job for which anything was noted.
_Known = dict[UUID, tuple[int, UUID, answers.UnsafeJob]]


def _read(shop_id: UUID, only: Q | None = None) -> _Known:
    """Only jobs for which anything was noted are looked at more closely."""
    of_job = {"job": OuterRef("pk")}
    unsafe = [key for key, cause in CAUSES.items() if cause.unsafe]
    noted = (
        Q(Exists(ConditionMark.objects.filter(wheel=OuterRef("wheel"), ending__isnull=True)))
        | Q(Exists(Finding.objects.filter(cause__in=unsafe, **of_job)))
        | Q(Exists(RefitAnswer.objects.filter(result=RefitAnswer.Result.WRONG, **of_job)))
    )
    open_jobs = Job.objects.filter(only or Q(), shop_id=shop_id).exclude(stage=DONE)
    jobs = open_jobs.filter(noted).select_related("wheel", "wheel__bike")
    # What is asked is the shop's, whoever asks.
    anybody = User(shop_id=shop_id)
    return {job.pk: (job.number, job.wheel_id, answers.UnsafeJob(job_id=job.pk, why=reasons_of(anybody, job))) for job in jobs}


def _read_some(shop_id: UUID, known: _Known, jobs: set[UUID]) -> _Known:
    """Marks belong to the wheel: every open job on the wheels of what changed is read again."""
    wheels = set(Job.objects.filter(pk__in=jobs).values_list("wheel_id", flat=True))
    rest = {pk: row for pk, row in known.items() if pk not in jobs and row[1] not in wheels}
    return rest | _read(shop_id, Q(wheel__in=wheels))


_kept: Kept[_Known] = Kept(_read, _read_some)
