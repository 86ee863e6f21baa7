"""The demo's clock: rows are stamped with times in the past, so that the shop looks lived in."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta

from django.utils import timezone


class Clock:
    """A clock that only moves when told to."""

    def __init__(self, time: datetime) -> None:
        self.time = time

    def tick(self, **span: float) -> None:
        self.time += timedelta(**span)

    def now(self) -> datetime:
        self.tick(milliseconds=1)
        return self.time


@contextmanager
def demo_clock(start: datetime) -> Iterator[Clock]:
    """While it lasts, Django's `timezone.now` reads this clock. For loading the demo only."""
    clock, real = Clock(start), timezone.now
    timezone.now = clock.now
    try:
        yield clock
    finally:
        timezone.now = real
