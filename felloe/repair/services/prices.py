"""The shop's price list: read by all, changed by the owner."""

from __future__ import annotations

from felloe.accounts.models import Shop, User
from felloe.api.problems import StaleWrite
from felloe.core.decision.prices import PriceList
from felloe.core.money.tax import Tax
from felloe.places.here import atomic


@atomic
def set_prices(
    user: User,
    version: int,
    currency: str,
    prices_minor: dict[str, int],
    tax_basis_points: int | None = None,
    tax_included: bool | None = None,
) -> Shop:
    """Replace the price list; the core refuses what cannot be, a stale write comes back with both versions."""
    PriceList(prices_minor)
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    if shop.prices_version != version:
        raise StaleWrite({"prices_minor": prices_minor}, {"prices_minor": shop.prices_minor, "version": shop.prices_version})
    shop.currency, shop.prices_minor, shop.prices_version = currency, prices_minor, version + 1
    if tax_basis_points is not None:
        Tax(tax_basis_points)
        shop.tax_basis_points = tax_basis_points
    if tax_included is not None:
        shop.tax_included = tax_included
    shop.save(update_fields=["currency", "prices_minor", "prices_version", "tax_basis_points", "tax_included"])
    return shop
