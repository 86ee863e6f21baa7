"""What is done for many wheels of a lot at once: agreed, set apart, given back. Who is left out is named with the reason."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.errors import TradeError
from felloe.core.said import say
from felloe.fleet import answers
from felloe.fleet.models import LotItem
from felloe.fleet.services.lots import find_lot, items_of
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.records.services import closing
from felloe.repair.models import Decision
from felloe.repair.services import decisions
from felloe.repair.services.agreed import standing_decision


def _refusal(item: LotItem, reason: str) -> answers.Refusal:
    return answers.Refusal(number=item.job.number, label=item.asset_number, reason=reason)


@atomic
def agree(user: User, lot_id: UUID, values: dict[str, Any]) -> answers.Done:
    """One word of the customer for every wheel of the lot that waits for one, at the price that was told for each.

    `values`: chosen, by_whom, how (not by phone: its digits belong to one quote), each_minor. Exceptions, wheels that left,
    that are agreed, or for which the price or the choice does not hold, are left out and named.
    """
    lot = find_lot(user, lot_id, lock=True)
    if values["how"] not in (Decision.How.COUNTER, Decision.How.WRITING):
        raise Refused("how_not_for_lots", say("A lot is agreed at the counter or in writing."), 422)
    done, left_out = 0, []
    for item in items_of(lot):
        if item.job.handed_back_at is not None:
            continue
        if item.exception:
            left_out.append(_refusal(item, say("an exception: {reason}", reason=item.exception)))
            continue
        if standing_decision(item.job) is not None:
            continue
        said = {"outcome": "approved", "chosen": values["chosen"], "by_whom": values["by_whom"], "how": values["how"]}
        try:
            with atomic():
                decisions.decide(user, item.job_id, {**said, "told_minor": values["each_minor"], "note": lot.name})
        except Refused as refused:
            left_out.append(_refusal(item, refused.detail))
            continue
        done += 1
    return answers.Done(done, left_out)


def give_back(user: User, lot_id: UUID, jobs: list[UUID]) -> answers.Done:
    """Give back some wheels of a lot: each by the same gates as any other wheel, each on its own."""
    lot = find_lot(user, lot_id)
    asked = set(jobs)
    items = [item for item in items_of(lot) if item.job_id in asked]
    if len(items) != len(asked):
        raise Http404
    done, left_out = 0, []
    for item in items:
        try:
            with atomic():
                job = queue.find_job(user, item.job_id)
                closing.hand_back(user, job.pk, job.version, "")
        except (Refused, TradeError) as refused:
            left_out.append(_refusal(item, getattr(refused, "detail", "") or getattr(refused, "message", str(refused))))
            continue
        done += 1
    return answers.Done(done, left_out)


@atomic
def set_exception(user: User, lot_id: UUID, job_id: UUID, reason: str) -> LotItem:
    """Set a wheel apart from its lot, or with an empty reason back among the others."""
    lot = find_lot(user, lot_id)
    item = LotItem.objects.select_for_update().filter(lot=lot, job_id=job_id).first()
    if item is None:
        raise Http404
    job = queue.open_for_work(user, job_id, at_work=False)
    item.exception = reason.strip()
    item.save(update_fields=["exception"])
    words = say("set apart from its lot: {reason}", reason=item.exception) if item.exception else say("back among its lot")
    queue.log(job, user, "lot", words)
    return item
