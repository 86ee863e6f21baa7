"""A customer with bikes, wheels and their history goes to another shop of the same person, on purpose and by nobody else.

What goes is the open bundle, and it comes in there as any other bundle does: once, whole, looked at before. Here it stays.
"""

from __future__ import annotations

from uuid import UUID

from django.core.exceptions import PermissionDenied

from felloe.accounts import fence, rights
from felloe.accounts.models import User
from felloe.accounts.services.branches import same_person
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.core.stages import DONE
from felloe.customers import services as customers
from felloe.places.here import atomic
from felloe.portable import answers
from felloe.portable.models import Sent
from felloe.portable.services.out import customer_bundle
from felloe.portable.services.take import take_in
from felloe.queue.models import Job


@atomic
def send_customer(user: User, customer_id: UUID, branch_id: UUID, keep: bool) -> answers.TakenIn:
    """Send a customer, or say what that would bring there.

    Raises Http404 for a customer or branch that is not his, PermissionDenied where he may not take in there, Refused (409)
    while a wheel of the customer's is at work here.
    """
    customer = customers.find_customer(user, customer_id)
    there = same_person(user, branch_id)
    if not rights.may(there.role, "bundle_in"):
        raise PermissionDenied(str(say("In that shop you may take nobody in.")))
    open_here = Job.objects.filter(shop_id=user.shop_id, wheel__bike__customer=customer).exclude(stage=DONE).order_by("number")
    numbers = list(open_here.values_list("number", flat=True)[:3])
    if numbers:
        raise Refused("at_work_here", say("Job {number} is open here: end it first.", number=numbers[0]), 409)
    data = customer_bundle(user, customer_id)
    with fence.beyond(), fence.within(there.shop_id):
        brought = take_in(there, data, None, keep)
    if keep:
        Sent.objects.create(shop_id=user.shop_id, customer=customer, to_shop=branch_name(there), created_by=user)
    return brought


def branch_name(there: User) -> str:
    with fence.beyond():
        return str(there.shop.name)[:120]


def sent_of(user: User, customer_id: UUID) -> list[answers.SentTo]:
    """Where a customer's record went, newest first."""
    customer = customers.find_customer(user, customer_id)
    rows = Sent.objects.filter(shop_id=user.shop_id, customer=customer).select_related("created_by").order_by("-created_at")
    return [
        answers.SentTo(shop=row.to_shop, by=row.created_by.display_name if row.created_by else "", at=row.created_at)
        for row in rows
    ]
