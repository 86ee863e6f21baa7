"""Photographs of a job: checked, made anew, and limited. What is kept is a plain JPEG with nothing but pixels."""

from __future__ import annotations

import subprocess
import sys
from threading import BoundedSemaphore
from uuid import UUID

from django.conf import settings
from django.db.models import Func, IntegerField, Sum
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.places.here import atomic
from felloe.queue import developing
from felloe.queue import services as queue
from felloe.queue.models import Job, Photo

#: Bytes sent, photos per job, seconds for one with those before it.
MOST_BYTES = 12_000_000
MOST_PER_JOB = 12
LONGEST_S = 30
#: So many of each process of the server wait for their turn; the others are sent away, as each takes a thread.
_waiting = BoundedSemaphore(2)


def _refuse(code: str, detail: str) -> Refused:
    return Refused(code, detail, 422, errors=[{"field": "photo", "message": detail, "code": code}])


def made_anew(data: bytes) -> tuple[bytes, int, int]:
    """JPEG bytes, width and height of an uploaded picture, turned upright, shrunk, stripped of all but its pixels.

    Raises Refused: 422 for what is too large or no picture, 503 where others wait already.
    """
    if len(data) > MOST_BYTES:
        raise _refuse("photo_too_large", say("A photo has at most {most_mb} MB.", most_mb=MOST_BYTES // 1_000_000))
    if not _waiting.acquire(blocking=False):
        raise _busy()
    try:
        command = [sys.executable, "-m", developing.__name__, str(settings.STATE_DIR / "developing.lock")]
        done = subprocess.run(  # noqa: S603 - our own program, nothing of it from outside
            command, input=data, capture_output=True, cwd=settings.ROOT, timeout=LONGEST_S, check=False
        )
    except subprocess.TimeoutExpired:
        raise _busy() from None
    finally:
        _waiting.release()
    head, _, jpeg = done.stdout.partition(b"\n")
    word, width, height = head.split() if done.returncode == 0 else (b"unreadable", 0, 0)
    if word == b"too_large":
        raise _refuse(
            "photo_too_large",
            say(
                "A photo has at most {most_megapixels} megapixels, {whole} where it is no plain JPEG.",
                most_megapixels=developing.MOST_PIXELS // 1_000_000,
                whole=developing.MOST_PIXELS_WHOLE // 1_000_000,
            ),
        )
    if word != b"jpeg":
        raise _refuse("not_a_photo", say("This is no JPEG, PNG or WebP picture that can be read."))
    return jpeg, int(width), int(height)


def _busy() -> Refused:
    return Refused("photos_busy", say("Other pictures are being worked on. Try again in a moment."), 503)


def add_photo(user: User, job_id: UUID, data: bytes, caption: str = "") -> Photo:
    """Keep a photo with its job. Nobody is held up while the picture is made: the job is locked after that."""
    _room(queue.find_job(user, job_id))
    jpeg, width, height = made_anew(data)
    return _kept(user, job_id, caption, jpeg, width, height)


def _room(job: Job) -> None:
    held = (
        Photo.objects.filter(shop_id=job.shop_id).aggregate(
            bytes=Sum(Func("data", function="octet_length", output_field=IntegerField()))
        )["bytes"]
        or 0
    )
    if held >= job.shop.most_photo_mb * 1_000_000:
        raise _refuse("shop_full", say("This server gives the shop {most} MB of photos.", most=job.shop.most_photo_mb))
    if Photo.objects.filter(job=job).count() >= MOST_PER_JOB:
        raise _refuse("too_many_photos", say("A job keeps at most {most_per_job} photos.", most_per_job=MOST_PER_JOB))


@atomic
def _kept(user: User, job_id: UUID, caption: str, jpeg: bytes, width: int, height: int) -> Photo:
    job = queue.open_for_work(user, job_id)
    _room(job)
    photo = Photo.objects.create(
        shop_id=job.shop_id, job=job, caption=caption.strip()[:200], width=width, height=height, data=jpeg, created_by=user
    )
    queue.log(job, user, "photo", photo.caption)
    return photo


def photos_of(user: User, job_id: UUID) -> list[Photo]:
    """A job's photos without their pixels."""
    job = queue.find_job(user, job_id)
    return list(Photo.objects.filter(job=job).defer("data").select_related("created_by").order_by("created_at"))


def find_photo(user: User, photo_id: UUID) -> Photo:
    photo = Photo.objects.filter(shop_id=user.shop_id, pk=photo_id).first()
    if photo is None:
        raise Http404
    return photo
