"""Jobs on wheels, and everything that happened to them."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.endings import ENDS
from felloe.core.said import say
from felloe.core.stages import DONE, STAGE_KEYS
from felloe.core.truing.tiers import TIERS


class Job(EditableRow):
    """One repair of one wheel. `number` is what is said across the shop; it counts within the shop."""

    class WaitingOn(models.TextChoices):
        NOTHING = "", say("Nothing")
        CUSTOMER = "customer", say("The customer")
        PARTS = "parts", say("Parts")
        OWNER = "owner", say("The owner")

    class LeftWith(models.TextChoices):
        """What a wheel left with although it was missing or unsafe: by whose word and why stands in the history."""

        NOTHING = "", say("Nothing missing")
        SHORT = "short", say("Something missing")
        UNSAFE = "unsafe", say("Not to be ridden")

    number = models.PositiveIntegerField()
    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="jobs")
    complaint = models.CharField(max_length=500)
    complaint_tags = models.JSONField(default=list, blank=True)
    stage = models.CharField(max_length=20, default=STAGE_KEYS[0])
    tier = models.CharField(max_length=20, default="sound")
    promised_at = models.DateTimeField(null=True)
    assigned_to = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    waiting_on = models.CharField(max_length=10, choices=WaitingOn, default=WaitingOn.NOTHING, blank=True)
    handed_back_at = models.DateTimeField(null=True)
    ended_as = models.CharField(max_length=20, default="", blank=True, help_text="How it ended, see core.endings")
    left_with = models.CharField(max_length=8, choices=LeftWith, default=LeftWith.NOTHING, blank=True)
    load_kg = models.PositiveSmallIntegerField(null=True, help_text="Rider and luggage, about")
    with_bike = models.BooleanField(default=True, help_text="False where the wheel came alone")
    recheck_on = models.DateField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "number"], name="job_number_once_in_shop"),
            models.CheckConstraint(condition=models.Q(stage__in=[*STAGE_KEYS, DONE]), name="job_stage_known"),
            models.CheckConstraint(condition=models.Q(tier__in=list(TIERS)), name="job_tier_known"),
            models.CheckConstraint(
                condition=models.Q(stage=DONE, handed_back_at__isnull=False)
                | (~models.Q(stage=DONE) & models.Q(handed_back_at__isnull=True)),
                name="job_done_when_handed_back",
            ),
            models.CheckConstraint(
                condition=models.Q(ended_as__in=list(ENDS), stage=DONE) | (models.Q(ended_as="") & ~models.Q(stage=DONE)),
                name="job_ended_somehow",
            ),
            models.CheckConstraint(
                condition=models.Q(left_with="") | models.Q(left_with__in=["short", "unsafe"], stage=DONE),
                name="job_left_with_known",
            ),
            models.CheckConstraint(
                condition=models.Q(load_kg__isnull=True) | models.Q(load_kg__gte=20, load_kg__lte=400), name="job_load_in_range"
            ),
        ]
        indexes = [models.Index(fields=["shop", "stage", "promised_at"])]


class JobEvent(ShopRow):
    """What happened to a job: append-only, with who and when."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="events")
    kind = models.CharField(max_length=20)
    from_stage = models.CharField(max_length=20, blank=True)
    to_stage = models.CharField(max_length=20, blank=True)
    note = SaidField(default=str, blank=True)

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class Photo(ShopRow):
    """A photograph of a job, checked and made anew by the server: JPEG, no larger than PHOTO_SIDE_PX, nothing but pixels."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="photos")
    caption = models.CharField(max_length=200, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    data = models.BinaryField()


class Signature(ShopRow):
    """A name, and where there is one the stroke of a pen, of who brought or fetched a wheel. Append-only."""

    class Purpose(models.TextChoices):
        BROUGHT = "brought", say("Brought the wheel")
        FETCHED = "fetched", say("Fetched the wheel")

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="signatures")
    purpose = models.CharField(max_length=8, choices=Purpose)
    name = models.CharField(max_length=120)
    strokes = models.JSONField(default=list)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(purpose__in=["brought", "fetched"]), name="signature_purpose_known"),
            models.CheckConstraint(condition=~models.Q(name=""), name="signature_has_name"),
        ]
