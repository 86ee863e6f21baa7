"""Shops and their staff."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth.models import AbstractUser
from django.contrib.auth.validators import UnicodeUsernameValidator
from django.db import models
from django.db.models.functions import Lower
from django.utils.text import slugify

from felloe.accounts.rights import Role
from felloe.core.said import say


class Shop(models.Model):
    """One workshop; every other row belongs to one."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)
    code = models.SlugField(max_length=40, unique=True, help_text="What its staff say when they sign in on a shared server")
    currency = models.CharField(max_length=3, default="EUR", help_text="ISO 4217")
    prices_minor = models.JSONField(default=dict, help_text="Price list, see core.decision.prices")
    cuts_spokes = models.BooleanField(default=False, help_text="Has a machine that cuts spokes and rolls threads")
    unfetched_days = models.PositiveSmallIntegerField(
        default=90, help_text="Quiet days after which a wheel counts as not fetched"
    )
    reopen_days = models.PositiveSmallIntegerField(default=30, help_text="Days within which an ended job is taken up again")
    tax_basis_points = models.PositiveSmallIntegerField(default=0, help_text="1900 is 19 %")
    tax_included = models.BooleanField(default=True, help_text="The price list holds the tax already")
    prices_version = models.PositiveIntegerField(default=1)
    time_zone = models.CharField(max_length=40, default="UTC", help_text="IANA name; every time is shown and entered in it")
    address = models.CharField(max_length=200, blank=True)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    promise_line_percent = models.PositiveSmallIntegerField(
        default=80, help_text="Chance below which a promise is not given, and counts as in danger"
    )
    interrupted_percent = models.PositiveSmallIntegerField(
        default=15, help_text="Share of a shift at the bench that goes to other things"
    )
    language = models.CharField(
        max_length=10, default="en", help_text="BCP 47, in which a new customer is written to until told otherwise"
    )
    letter_texts = models.JSONField(
        default=dict, blank=True, help_text="By language: what stands under every letter and on the customer's page"
    )
    tag_text = models.CharField(max_length=200, blank=True, help_text="What is printed at the foot of every tag")
    keep_photos_months = models.PositiveSmallIntegerField(default=24, help_text="After the wheel left; 0 keeps them")
    keep_letters_months = models.PositiveSmallIntegerField(default=24, help_text="Texts of letters; 0 keeps them")
    keep_customers_months = models.PositiveSmallIntegerField(default=0, help_text="After the last visit names go; 0 keeps them")
    version = models.PositiveIntegerField(default=1, help_text="Of the settings and hours")
    #: By whoever runs the server.
    suspended_at = models.DateTimeField(null=True, help_text="Nobody signs in from then on; nothing is lost")
    most_staff = models.PositiveIntegerField(default=200)
    most_open_jobs = models.PositiveIntegerField(default=3000)
    most_photo_mb = models.PositiveIntegerField(default=20_000)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(keep_photos_months__lte=240, keep_letters_months__lte=240, keep_customers_months__lte=240),
                name="shop_keeps_in_range",
            ),
            models.CheckConstraint(
                condition=models.Q(unfetched_days__gte=14, unfetched_days__lte=1000, reopen_days__lte=365),
                name="shop_rules_in_range",
            ),
            models.CheckConstraint(
                condition=models.Q(promise_line_percent__gte=50, promise_line_percent__lte=99, interrupted_percent__lte=70),
                name="shop_promises_in_range",
            ),
            models.CheckConstraint(condition=~models.Q(time_zone=""), name="shop_has_time_zone"),
            models.CheckConstraint(condition=models.Q(tax_basis_points__lte=5000), name="shop_tax_in_range"),
        ]

    def __str__(self) -> str:
        return self.name

    def save(self, *args: Any, **kwargs: Any) -> None:
        if not self.code:
            self.code = code_for(self.name, self.pk)
            if kwargs.get("update_fields") is not None:
                kwargs["update_fields"] = [*kwargs["update_fields"], "code"]
        super().save(*args, **kwargs)


def code_for(name: str, key: uuid.UUID) -> str:
    """A shop's code until somebody chooses one: its name as an address writes it, and enough of its key to be its own."""
    return f"{slugify(name)[:30] or 'shop'}-{str(key)[:4]}"


class User(AbstractUser):
    """A member of a shop's staff."""

    Role = Role

    class ForceUnit(models.TextChoices):
        NEWTON = "N", say("newton")
        KGF = "kgf", say("kilogram-force")

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="staff")
    #: A name is somebody's in one shop; another shop on the same server has its own.
    username = models.CharField(max_length=150, validators=[UnicodeUsernameValidator()])
    role = models.CharField(max_length=10, choices=Role, default=Role.MECHANIC)
    force_unit = models.CharField(max_length=3, choices=ForceUnit, default=ForceUnit.NEWTON)
    skills = models.JSONField(default=list, blank=True, help_text="Keys of core.promise.skills")
    pin = models.CharField(max_length=128, blank=True, help_text="Hash of the digits for a quick change of person")
    #: Who works in several shops has a name in each; those that he has proven to be his share this.
    one_person = models.UUIDField(null=True, help_text="The same in every shop where this person works")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(Lower("username"), "shop", name="user_name_once_in_shop"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="user_role_known"),
            models.CheckConstraint(condition=models.Q(force_unit__in=["N", "kgf"]), name="user_force_unit_known"),
        ]

    @property
    def display_name(self) -> str:
        return self.get_full_name() or self.username


class PinTry(models.Model):
    """A wrong try of somebody's digits: counted, so that nobody tries them all."""

    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["person", "at"])]


class SignedIn(models.Model):
    """A session that somebody began, for whom it may be shown and ended; it goes with the session itself."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+")
    session_key = models.CharField(max_length=40, unique=True)
    device = models.CharField(max_length=200, blank=True, help_text="What the browser calls itself")
    address = models.CharField(max_length=45, blank=True)
    by_digits = models.BooleanField(default=False)
    began_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(help_text="To some minutes")

    class Meta:
        indexes = [models.Index(fields=["person", "-seen_at"])]


class SecondFactor(models.Model):
    """What somebody proves besides the password: a secret in his own device (TOTP, RFC 6238), kept sealed."""

    person = models.OneToOneField(User, on_delete=models.CASCADE, primary_key=True, related_name="+")
    sealed_secret = models.BinaryField()
    confirmed_at = models.DateTimeField(null=True, help_text="Asked for at sign-in from then on")
    last_step = models.BigIntegerField(default=0, help_text="The 30 seconds whose code was used last: none is used twice")
    spare_codes = models.JSONField(default=list, help_text="Hashes of those not used yet")


class PasswordLetter(models.Model):
    """When a letter for a new password last went to somebody."""

    person = models.OneToOneField(User, on_delete=models.CASCADE, primary_key=True, related_name="+")
    at = models.DateTimeField()
