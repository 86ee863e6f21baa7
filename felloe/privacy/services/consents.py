from __future__ import annotations

from uuid import UUID

from felloe.accounts.models import User
from felloe.customers import services as customers
from felloe.customers.models import Customer
from felloe.places.here import atomic
from felloe.privacy import answers
from felloe.privacy.models import Consent


def consents_of(user: User, customer_id: UUID) -> list[answers.ConsentState]:
    """What a customer said to each purpose; `given` is None where they were not asked, which allows nothing."""
    customer = customers.find_customer(user, customer_id)
    newest = {
        row.purpose: row
        for row in Consent.objects.filter(customer=customer).select_related("created_by").order_by("created_at")
    }
    found = []
    for purpose in Consent.Purpose:
        row = newest.get(purpose)
        found.append(
            answers.ConsentState(
                purpose=purpose.value,
                what=purpose.label,
                given=row.given if row else None,
                at=row.created_at if row else None,
                by=row.created_by.display_name if row and row.created_by else "",
            )
        )
    return found


@atomic
def set_consent(user: User, customer_id: UUID, purpose: str, given: bool) -> list[answers.ConsentState]:
    """Notes what the customer said; the same word twice is noted once."""
    customer = customers.find_customer(user, customer_id)
    Customer.objects.select_for_update().get(pk=customer.pk)
    if allows(customer, purpose) is not given or not Consent.objects.filter(customer=customer, purpose=purpose).exists():
        Consent.objects.create(shop_id=customer.shop_id, customer=customer, purpose=purpose, given=given, created_by=user)
    return consents_of(user, customer_id)


def allows(customer: Customer, purpose: str) -> bool:
    """Whether the newest word is a yes; who was not asked allows nothing."""
    row = Consent.objects.filter(customer=customer, purpose=purpose).order_by("-created_at").first()
    return row.given if row is not None else False
