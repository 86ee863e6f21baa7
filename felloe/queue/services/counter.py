"""At the counter: the tag on the wheel and who brought it."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.core.errors import TradeError
from felloe.core.said import joined, say
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job, Signature

#: A pen's strokes: so many strokes and points at most, each point a share of the pad, 0 to 1.
MOST_STROKES, MOST_POINTS = 60, 4000


class BadSignature(TradeError):
    """Strokes that no pen makes."""

    code = "bad_signature"


@atomic
def sign(user: User, job_id: UUID, purpose: str, name: str, strokes: list[Any]) -> Signature:
    """Keep a name and the strokes of a pen; without strokes it is a name on paper."""
    # Who fetches a wheel may sign after it was handed back; who brings one may not.
    brings = purpose == Signature.Purpose.BROUGHT
    job = queue.open_for_work(user, job_id, at_work=False) if brings else queue.find_job(user, job_id, lock=True)
    made = Signature.objects.create(
        shop_id=job.shop_id, job=job, purpose=purpose, name=name.strip(), strokes=_checked(strokes), created_by=user
    )
    queue.log(job, user, "signed", joined(": ", [_PURPOSES[Signature.Purpose(made.purpose)], made.name]))
    return made


def _checked(strokes: list[Any]) -> list[list[list[float]]]:
    if len(strokes) > MOST_STROKES or sum(len(s) if isinstance(s, list) else 1 for s in strokes) > MOST_POINTS:
        raise BadSignature(say("a signature has fewer strokes than this"), "strokes")
    kept = []
    for i, stroke in enumerate(strokes):
        points = []
        for point in stroke if isinstance(stroke, list) else [stroke]:
            fine = isinstance(point, list) and len(point) == 2 and all(isinstance(v, int | float) for v in point)
            if not fine or not all(0 <= v <= 1 for v in point):  # NaN compares false: refused too
                raise BadSignature(say("each point of a stroke is a pair of shares of the pad, 0 to 1"), f"strokes.{i}")
            points.append([round(float(v), 4) for v in point])
        kept.append(points)
    return kept


def signatures_of(job: Job) -> list[Signature]:
    return list(Signature.objects.filter(job=job).select_related("created_by").order_by("created_at"))


_PURPOSES = {Signature.Purpose.BROUGHT: say("Brought the wheel"), Signature.Purpose.FETCHED: say("Fetched the wheel")}
