"""Which open jobs hold a wheel that is not to be ridden as it stands: for the rail, the tag and every bench screen."""

from __future__ import annotations

from django.db.models import Q

from felloe.accounts.models import User
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
    jobs = (
        Job.objects.filter(shop_id=user.shop_id)
        .exclude(stage=DONE)
        .filter(
            Q(wheel__marks__isnull=False, wheel__marks__ending__isnull=True)
            | Q(findings__cause__in=[key for key, cause in CAUSES.items() if cause.unsafe])
            | Q(refit_answers__result=RefitAnswer.Result.WRONG)
        )
        .select_related("wheel", "wheel__bike")
        .order_by("number")
        .distinct()
    )
    found = [answers.UnsafeJob(job_id=job.pk, why=reasons_of(user, job)) for job in jobs]
    return [job for job in found if job.why]
