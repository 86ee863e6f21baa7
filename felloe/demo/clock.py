"""The demo's clock: rows are stamped with times in the past, so that the shop looks lived in."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta

from django.utils import timezone


class Clock:
    """A clock that only moves when told to, and by a little with each look at it."""

    def __init__(self, time: datetime) -> None:
        self.time = time
        self._pace = timedelta(milliseconds=1)

    def tick(self, **span: float) -> None:
        self.time += timedelta(**span)

    def now(self) -> datetime:
        self.time += self._pace
        return self.time

    @contextmanager
    def paced(self, **span: float) -> Iterator[None]:
        """While it lasts, so much time lies between two rows: readings that go in together came one after another too."""
        before, self._pace = self._pace, timedelta(**span)
        try:
            yield
        finally:
            self._pace = before


@contextmanager
def demo_clock(start: datetime) -> Iterator[Clock]:
    """While it lasts, Django's `timezone.now` reads this clock. For loading the demo only."""
    clock, real = Clock(start), timezone.now
    timezone.now = clock.now
    try:
        yield clock
    finally:
        timezone.now = real
