"""Which open jobs hold a wheel that is not to be ridden as it stands: for the rail, the tag and every bench screen."""

from __future__ import annotations

from django.db.models import Exists, OuterRef, Q

from felloe.accounts.models import User
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
    """The open jobs with a reason, by number. Only jobs for which anything was noted are looked at more closely."""
    of_job = {"job": OuterRef("pk")}
    unsafe = [key for key, cause in CAUSES.items() if cause.unsafe]
    noted = (
        Q(Exists(ConditionMark.objects.filter(wheel=OuterRef("wheel"), ending__isnull=True)))
        | Q(Exists(Finding.objects.filter(cause__in=unsafe, **of_job)))
        | Q(Exists(RefitAnswer.objects.filter(result=RefitAnswer.Result.WRONG, **of_job)))
    )
    open_jobs = Job.objects.filter(shop_id=user.shop_id).exclude(stage=DONE)
    jobs = open_jobs.filter(noted).select_related("wheel", "wheel__bike").order_by("number")
    found = [answers.UnsafeJob(job_id=job.pk, why=reasons_of(user, job)) for job in jobs]
    return [job for job in found if job.why]
