"""Whether the wheel of a job was taken apart or laced, by what was ticked off."""

from __future__ import annotations

from felloe.building.models import LacingProgress, StepDone
from felloe.queue.models import Job


def spokes_in(job: Job) -> int:
    """How many spokes of the lacing map are noted as in."""
    newest = LacingProgress.objects.filter(job=job).order_by("-created_at").first()
    return newest.placed if newest is not None else 0


def begun(job: Job) -> bool:
    """Whether any step of stripping, lacing or replacing was ticked off, even if it was taken back."""
    return StepDone.objects.filter(job=job, done=True).exists() or LacingProgress.objects.filter(job=job, placed__gt=0).exists()
