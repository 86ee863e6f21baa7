"""The ledger gone through from its beginning, and held against what the database keeps of it beside it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from uuid import UUID

from django.db.models import QuerySet

from felloe.core.stock.claims import Claim
from felloe.core.stock.ledger import Entry, Standing, standing
from felloe.places.here import atomic
from felloe.stock.models import Balance, Claimed, Movement, Part
from felloe.stock.services.bins import figures_of


@dataclass(frozen=True)
class Difference:
    """A part of which something else is kept than its ledger leaves."""

    part: UUID
    kept: Standing
    found: Standing


def differences() -> list[Difference]:
    """Parts whose bin or claims are not what their ledger leaves; looks at every shop that is in sight.

    Whoever works meanwhile may come between the two looks: what seems to differ is looked at once more under the part's lock.
    """
    return [found for part in _doubtful() if (found := _difference(part)) is not None]


def _doubtful() -> set[UUID]:
    on_hand = dict(Balance.objects.values_list("part_id", "on_hand"))
    claims: dict[UUID, list[Claim]] = {}
    for part, job, count in Claimed.objects.order_by("since", "job_id").values_list("part_id", "job_id", "count"):
        claims.setdefault(part, []).append(Claim(str(job), count))
    told = dict(_standings(Movement.objects.all()))
    return {
        part
        for part in {*on_hand, *claims, *told}
        if Standing(on_hand.get(part, 0), tuple(claims.get(part, ()))) != told.get(part, Standing())
    }


@atomic
def _difference(part_id: UUID) -> Difference | None:
    part = Part.objects.select_for_update().get(pk=part_id)
    now = figures_of(part)
    kept = Standing(now.on_hand, now.claims)
    found = dict(_standings(Movement.objects.filter(part=part))).get(part_id, Standing())
    return None if kept == found else Difference(part_id, kept, found)


def _standings(entries: QuerySet[Movement]) -> Iterator[tuple[UUID, Standing]]:
    rows = entries.order_by("part_id", "created_at", "pk")
    asked = rows.values_list("part_id", "delta", "claim_delta", "job_id", "created_at").iterator()
    for part, its in groupby(asked, key=lambda row: row[0]):
        yield part, standing(Entry(delta, claim, str(job), at) for _, delta, claim, job, at in its)


def parts_looked_at() -> int:
    return Part.objects.count()
