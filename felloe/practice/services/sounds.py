"""A spoke of a practice wheel plucked: what it sounds like, as a file to play."""

from __future__ import annotations

import io
import wave
from uuid import UUID

import numpy as np

from felloe.accounts.models import User
from felloe.api.problems import refused_at
from felloe.core.practice.sounds import plucked
from felloe.core.said import say
from felloe.practice.services.runs import find_run
from felloe.practice.services.subjects import subject_of

RATE_HZ = 22_050


def pluck(user: User, run_id: UUID, spoke: str) -> bytes:
    """One pluck as a WAV file, 16 bit mono."""
    run = find_run(user, run_id)
    subject = subject_of(run)
    place = subject.wheel.index_of.get(spoke)
    if place is None or place in subject.snapped:
        raise refused_at("spoke", "unknown_spoke", say("This wheel has no such spoke."))
    samples = plucked(subject.virtual, place, np.random.default_rng([run.pk.int % 2**32, place]), RATE_HZ)
    out = io.BytesIO()
    with wave.open(out, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE_HZ)
        file.writeframes((samples * 32_767).astype("<i2").tobytes())
    return out.getvalue()
