"""What the worker plays, so that nobody waits for it at a screen."""

from __future__ import annotations

from uuid import UUID

from django.utils import timezone
from procrastinate.contrib.django import app

from felloe.promises.services import plays


@app.task(name=plays.TASK, queue="play")
def play(shop_id: str) -> None:
    plays.play_aside(UUID(shop_id), timezone.now())
