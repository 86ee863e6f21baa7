"""The tiers of a shop: the usual ones, changed where it changed them, and its own. Jobs keep the figures of their day."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import Shop, User
from felloe.api.problems import Refused, StaleWrite, refused_at
from felloe.core.said import say
from felloe.core.truing.own_tiers import first_choice, own_tier, with_own
from felloe.core.truing.tiers import TIERS, Tier
from felloe.places.here import atomic
from felloe.queue import answers
from felloe.queue.models import ShopTier

#: More than these nobody keeps apart at a counter.
MOST_TIERS = 12


def tiers_of(shop_id: UUID) -> list[answers.ShopTier]:
    """Every tier of a shop from the widest to the narrowest; version 0 for a usual one as it comes."""
    rows = {row.name: row for row in ShopTier.objects.filter(shop_id=shop_id).select_related("changed_by")}
    found = []
    for name, tier in with_own([row.tolerance for row in rows.values()]).items():
        row = rows.get(name)
        found.append(
            answers.ShopTier(
                name=name,
                lateral_mm=tier.lateral_mm,
                radial_mm=tier.radial_mm,
                dish_mm=tier.dish_mm,
                tension_percent=tier.tension_percent,
                plain=row.plain if row else "",
                in_use=row.in_use if row else True,
                version=row.version if row else 0,
                usual=name in TIERS,
                changed_by=row.changed_by.display_name if row and row.changed_by else "",
                changed_at=row.changed_at if row else None,
            )
        )
    return found


def tiers_in_use(shop_id: UUID) -> dict[str, Tier]:
    """What a job of this shop can be held to today, by name, from the widest to the narrowest."""
    rows = list(ShopTier.objects.filter(shop_id=shop_id))
    unused = {row.name for row in rows if not row.in_use}
    every = with_own([row.tolerance for row in rows])
    return {name: tier for name, tier in every.items() if name not in unused}


def chosen_tier(shop_id: UUID, name: str | None) -> Tier:
    """The tier that was chosen for a job, with its figures of today; what a new job is held to where none was."""
    found = tiers_in_use(shop_id)
    if not name:
        return first_choice(found.values())
    if name not in found:
        raise refused_at("tier", "unknown_tier", say("This shop has no tier “{name}” in use.", name=name))
    return found[name]


def plain_of(shop_id: UUID, name: str) -> str:
    """What the shop says of a tier to its customers; empty where it leaves that to the usual words."""
    return ShopTier.objects.filter(shop_id=shop_id, name=name).values_list("plain", flat=True).first() or ""


@atomic
def set_tier(user: User, values: dict[str, Any]) -> list[answers.ShopTier]:
    """Change a tier, add one (version 0), or take it out of use. Open jobs keep the figures that they were promised."""
    Shop.objects.select_for_update().get(pk=user.shop_id)
    tier = own_tier(values["name"], *(values[name] for name in ("lateral_mm", "radial_mm", "dish_mm", "tension_percent")))
    named = ShopTier.objects.select_for_update().filter(shop_id=user.shop_id, name__iexact=tier.name).first()
    version = named.version if named else 0
    if version != values["version"]:
        if not values["version"]:
            raise refused_at("name", "name_taken", say("Another one has that name already."))
        raise StaleWrite(values, {"name": named.name if named else "", "version": version})
    row = named or ShopTier(shop_id=user.shop_id, name=tier.name, created_by=user, version=0)
    if named is None and tier.name not in TIERS and ShopTier.objects.filter(shop_id=user.shop_id).count() >= MOST_TIERS:
        raise Refused("enough_tiers", say("A shop has at most {most} tiers of its own.", most=MOST_TIERS), 422)
    if not values["in_use"] and not set(tiers_in_use(user.shop_id)) - {row.name}:
        raise Refused("last_tier", say("One tier stays in use: a job has to be held to something."), 409)
    row.lateral_mm, row.radial_mm, row.dish_mm, row.tension_percent = tier.figures
    row.plain, row.in_use = " ".join(values["plain"].split()), values["in_use"]
    if row.version:
        row.save_change(user, ["lateral_mm", "radial_mm", "dish_mm", "tension_percent", "plain", "in_use"])
    else:
        row.version, row.changed_by = 1, user
        row.save()
    return tiers_of(user.shop_id)
