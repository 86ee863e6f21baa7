"""Photographs of a job: checked, made anew, and limited. What is kept is a plain JPEG with nothing but pixels."""

from __future__ import annotations

import io
from uuid import UUID

from django.db import transaction
from django.http import Http404
from PIL import Image, ImageOps, UnidentifiedImageError

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.queue import services as queue
from felloe.queue.models import Photo

#: Limits: bytes sent, pixels decoded, longest side kept, photos per job.
MOST_BYTES = 12_000_000
MOST_PIXELS = 50_000_000
PHOTO_SIDE_PX = 1600
MOST_PER_JOB = 12
FORMATS = ("JPEG", "PNG", "WEBP")


def _refuse(code: str, detail: str) -> Refused:
    return Refused(code, detail, 422, errors=[{"field": "photo", "message": detail, "code": code}])


def made_anew(data: bytes) -> tuple[bytes, int, int]:
    """JPEG bytes, width and height of an uploaded picture, turned upright, shrunk, stripped of all but its pixels."""
    if len(data) > MOST_BYTES:
        raise _refuse("photo_too_large", say("A photo has at most {most_mb} MB.", most_mb=MOST_BYTES // 1_000_000))
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise _refuse(
                    "photo_too_large",
                    say("A photo has at most {most_megapixels} megapixels.", most_megapixels=MOST_PIXELS // 1_000_000),
                )
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise _refuse("not_a_photo", say("This is no JPEG, PNG or WebP picture that can be read.")) from error
    upright.thumbnail((PHOTO_SIDE_PX, PHOTO_SIDE_PX), Image.Resampling.LANCZOS)
    # A fresh image: no profile, comment or place goes along.
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue(), clean.width, clean.height


@transaction.atomic
def add_photo(user: User, job_id: UUID, data: bytes, caption: str = "") -> Photo:
    """Keep a photo with its job."""
    job = queue.open_for_work(user, job_id)
    if Photo.objects.filter(job=job).count() >= MOST_PER_JOB:
        raise _refuse("too_many_photos", say("A job keeps at most {most_per_job} photos.", most_per_job=MOST_PER_JOB))
    jpeg, width, height = made_anew(data)
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
