"""The ledger gone through from its beginning, and held against what the database keeps of it beside it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from uuid import UUID

from felloe.core.stock.claims import Claim
from felloe.core.stock.ledger import Entry, Standing, standing
from felloe.stock.models import Balance, Claimed, Movement, Part


@dataclass(frozen=True)
class Difference:
    """A part of which something else is kept than its ledger leaves."""

    part: UUID
    kept: Standing
    found: Standing


def differences() -> list[Difference]:
    """Parts whose bin or claims are not what their ledger leaves; looks at every shop that is in sight."""
    on_hand = dict(Balance.objects.values_list("part_id", "on_hand"))
    claims: dict[UUID, list[Claim]] = {}
    for part, job, count in Claimed.objects.order_by("since", "job_id").values_list("part_id", "job_id", "count"):
        claims.setdefault(part, []).append(Claim(str(job), count))
    wrong = []
    seen = set()
    for part, found in _standings():
        seen.add(part)
        kept = Standing(on_hand.get(part, 0), tuple(claims.get(part, ())))
        if kept != found:
            wrong.append(Difference(part, kept, found))
    for part in {*on_hand, *claims} - seen:
        wrong.append(Difference(part, Standing(on_hand.get(part, 0), tuple(claims.get(part, ()))), Standing()))
    return wrong


def _standings() -> Iterator[tuple[UUID, Standing]]:
    rows = Movement.objects.order_by("part_id", "created_at", "pk")
    asked = rows.values_list("part_id", "delta", "claim_delta", "job_id", "created_at").iterator()
    for part, entries in groupby(asked, key=lambda row: row[0]):
        yield part, standing(Entry(delta, claim, str(job), at) for _, delta, claim, job, at in entries)


def parts_looked_at() -> int:
    return Part.objects.count()
