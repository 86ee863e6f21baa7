"""What a job, its plans, approvals and sign-offs are held to, with the figures of the day; and the shop's own tiers."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.db.models import F, Q
from django.db.models.functions import Lower

from felloe.accounts.rows import EditableRow
from felloe.core.truing.own_tiers import LONGEST_NAME, TIER_LIMITS
from felloe.core.truing.tiers import TIERS, Tier

TIER_FIELDS = ["tier", "tier_lateral_mm", "tier_radial_mm", "tier_dish_mm", "tier_tension_percent"]


class HeldToTier(models.Model):
    """A row that keeps the figures of its tier as they were when it was chosen: what was promised does not move.

    A usual tier that is given by its name alone takes the usual figures when the row is first saved.
    """

    tier = models.CharField(max_length=LONGEST_NAME, default="sound")
    tier_lateral_mm = models.FloatField()
    tier_radial_mm = models.FloatField()
    tier_dish_mm = models.FloatField()
    tier_tension_percent = models.FloatField()

    class Meta:
        abstract = True

    def save(self, *args: Any, **kwargs: Any) -> None:
        if self.tier_lateral_mm is None:
            self.hold_to(TIERS[self.tier])
        super().save(*args, **kwargs)

    @property
    def tolerance(self) -> Tier:
        return Tier(self.tier, self.tier_lateral_mm, self.tier_radial_mm, self.tier_dish_mm, self.tier_tension_percent)

    def hold_to(self, tier: Tier) -> None:
        """Take a tier with its figures; the caller saves TIER_FIELDS."""
        self.tier = tier.name
        self.tier_lateral_mm, self.tier_radial_mm, self.tier_dish_mm, self.tier_tension_percent = tier.figures


def held_fields(tier: Tier) -> dict[str, str | float]:
    """The columns of a new row that is held to `tier`."""
    return dict(zip(TIER_FIELDS, (tier.name, *tier.figures), strict=True))


def held_within() -> Q:
    """Figures that a tier can have at all."""
    return Q(
        **{f"tier_{name}__{bound}": value for name in TIER_LIMITS for bound, value in (("gt", 0), ("lte", 100))},
    )


class ShopTier(EditableRow):
    """A tier with this shop's figures: one of the usual ones changed, or one of its own, whose name is its word.

    `plain`: what it means, for the customer; empty for the usual words. Never renamed: jobs and records carry the name.
    """

    name = models.CharField(max_length=LONGEST_NAME)
    lateral_mm = models.FloatField()
    radial_mm = models.FloatField()
    dish_mm = models.FloatField()
    tension_percent = models.FloatField()
    plain = models.CharField(max_length=200, blank=True)
    in_use = models.BooleanField(default=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(F("shop"), Lower("name"), name="tier_named_once"),
            models.CheckConstraint(condition=~Q(name=""), name="tier_has_name"),
            *(
                models.CheckConstraint(
                    condition=Q(**{f"{field}__gte": low, f"{field}__lte": high}), name=f"tier_{field.split('_')[0]}_in_range"
                )
                for field, (low, high) in TIER_LIMITS.items()
            ),
        ]

    @property
    def tolerance(self) -> Tier:
        return Tier(self.name, self.lateral_mm, self.radial_mm, self.dish_mm, self.tension_percent)
