"""Which backups are kept: the newest of each of the last days, weeks and months, and always the newest of all."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime

DAYS, WEEKS, MONTHS = 7, 5, 12


def kept(made: Sequence[datetime]) -> set[datetime]:
    """Of all moments at which backups were made, those whose files stay."""
    newest_first = sorted(made, reverse=True)
    stay: set[datetime] = set(newest_first[:1])
    spans: tuple[tuple[int, Callable[[datetime], object]], ...] = (
        (DAYS, lambda at: at.date()),
        (WEEKS, lambda at: at.isocalendar()[:2]),
        (MONTHS, lambda at: (at.year, at.month)),
    )
    for count, span in spans:
        seen: list[object] = []
        for at in newest_first:
            if span(at) not in seen:
                seen.append(span(at))
                if len(seen) <= count:
                    stay.add(at)
    return stay
