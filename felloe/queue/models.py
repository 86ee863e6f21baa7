"""Jobs on wheels, and everything that happened to them."""

from __future__ import annotations

from django.conf import settings
from django.contrib.postgres.indexes import GinIndex, OpClass
from django.contrib.postgres.search import SearchVectorField
from django.db import models
from django.db.models import F

from felloe.accounts.rows import EditableRow, GrowingRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.endings import ENDS
from felloe.core.said import say
from felloe.core.stages import DONE, STAGE_KEYS
from felloe.queue.tolerances import HeldToTier, held_within
from felloe.queue.tolerances import ShopTier as ShopTier


class Job(HeldToTier, EditableRow):
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
    wanted_at = models.DateTimeField(null=True, help_text="By when the customer wants it; the shop's promise is another date")
    promised_at = models.DateTimeField(null=True)
    promise_chance = models.FloatField(null=True, help_text="Chance that was stated with the promise, 0 to 1")
    assigned_to = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    waiting_on = models.CharField(max_length=10, choices=WaitingOn, default=WaitingOn.NOTHING, blank=True)
    waits_since = models.DateTimeField(null=True)
    expected_on = models.DateField(null=True, help_text="The day on which what it waits for is to come, where one was named")
    ready_at = models.DateTimeField(null=True, help_text="Since when it waits to be fetched; a promise is kept by this")
    hook = models.ForeignKey("Place", on_delete=models.PROTECT, null=True, related_name="+", help_text="Where it hangs")
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
            models.CheckConstraint(condition=held_within() & ~models.Q(tier=""), name="job_tier_known"),
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
            models.CheckConstraint(
                condition=models.Q(promise_chance__isnull=True) | models.Q(promise_chance__gte=0, promise_chance__lte=1),
                name="job_promise_chance_in_range",
            ),
            models.CheckConstraint(
                condition=models.Q(waiting_on="", waits_since__isnull=True)
                | (~models.Q(waiting_on="") & models.Q(waits_since__isnull=False)),
                name="job_waits_since_something",
            ),
            models.CheckConstraint(
                condition=models.Q(ready_at__isnull=True) | models.Q(stage__in=[STAGE_KEYS[-1], DONE]),
                name="job_ready_at_the_end",
            ),
        ]
        indexes = [
            models.Index(fields=["shop", "stage", "promised_at"]),
            models.Index(fields=["shop", "-handed_back_at"], name="job_shop_handed_back"),
        ]


class Place(EditableRow):
    """A stand where wheels are worked on, or a hook where they hang."""

    class Kind(models.TextChoices):
        STAND = "stand", say("Stand")
        HOOK = "hook", say("Hook")

    kind = models.CharField(max_length=5, choices=Kind)
    name = models.CharField(max_length=40)
    in_use = models.BooleanField(default=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=["stand", "hook"]), name="place_kind_known"),
            models.CheckConstraint(condition=~models.Q(name=""), name="place_has_name"),
            models.UniqueConstraint(fields=["shop", "kind", "name"], name="place_named_once"),
        ]


class WorkSpan(ShopRow):
    """Somebody at work on a job, from taking it up to putting it down, at one stage. One at a time for a person and for a job.

    `believed_at`: where the clock was forgotten, until when the work is believed to have gone on; the time counts to there.
    """

    class Ended(models.TextChoices):
        OPEN = "", say("Going on")
        PUT_DOWN = "put_down", say("Put down")
        HANDED_OVER = "handed_over", say("Handed over")
        STAGE = "stage", say("Stage done")
        OTHER = "other", say("Took up another wheel")
        FORGOTTEN = "forgotten", say("The clock was forgotten")

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="work")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    stand = models.ForeignKey(Place, on_delete=models.PROTECT, null=True, related_name="+")
    stage = models.CharField(max_length=20)
    started_at = models.DateTimeField()
    last_deed_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    ended = models.CharField(max_length=12, choices=Ended, default=Ended.OPEN, blank=True)
    believed_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    note = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["person"], condition=models.Q(ended_at=None), name="one_work_at_a_time"),
            models.UniqueConstraint(fields=["job"], condition=models.Q(ended_at=None), name="one_person_at_a_job"),
            models.CheckConstraint(
                condition=models.Q(ended_at__isnull=True, ended="")
                | (models.Q(ended_at__gte=models.F("started_at")) & ~models.Q(ended="")),
                name="work_ended_somehow",
            ),
            models.CheckConstraint(
                condition=models.Q(ended__in=["", "put_down", "handed_over", "stage", "other", "forgotten"]),
                name="work_end_known",
            ),
            models.CheckConstraint(condition=models.Q(stage__in=STAGE_KEYS), name="work_stage_known"),
        ]
        indexes = [models.Index(fields=["job", "stage"])]


class Waited(ShopRow):
    """A job waited for somebody or something, and since when; `until` once it came."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="waits")
    on = models.CharField(max_length=10, choices=Job.WaitingOn)
    since = models.DateTimeField()
    until = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job"], condition=models.Q(until=None), name="waits_for_one_at_a_time"),
            models.CheckConstraint(
                condition=models.Q(until__isnull=True) | models.Q(until__gte=models.F("since")), name="waited_forward"
            ),
            models.CheckConstraint(condition=models.Q(on__in=["customer", "parts", "owner"]), name="waited_for_somebody"),
        ]
        indexes = [models.Index(fields=["shop", "-since"])]


class StageTime(ShopRow):
    """What a stage of a job took, once it was left: taken beside estimated, bench minutes. `counts`: the clock is believed."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="times")
    stage = models.CharField(max_length=20)
    tier = models.CharField(max_length=20)
    taken_min = models.FloatField()
    usual_min = models.FloatField()
    estimated_min = models.FloatField()
    counts = models.BooleanField(default=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(taken_min__gte=0), name="stage_time_forward")]
        indexes = [models.Index(fields=["shop", "-created_at"])]


class ShopPace(models.Model):
    """What a shop's finished jobs have taught, one row a shop: paces and waits of core.promise.pace, from so many jobs."""

    shop = models.OneToOneField("accounts.Shop", on_delete=models.PROTECT, primary_key=True, related_name="+")
    paces = models.JSONField(default=dict)
    waits = models.JSONField(default=dict)
    learned_at = models.DateTimeField()
    learned_jobs = models.PositiveIntegerField(default=0)


class JobEvent(GrowingRow):
    """What happened to a job: append-only, with who and when."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="events", db_index=False)
    kind = models.CharField(max_length=20)
    from_stage = models.CharField(max_length=20, blank=True)
    to_stage = models.CharField(max_length=20, blank=True)
    note = SaidField(default=str, blank=True)

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class JobFind(models.Model):
    """What a job is found by, kept by the database's own triggers whenever job, wheel, bike or customer change.

    `words`: number, customer, bike, asset numbers and complaint, lower case and without accents; `digits` of the telephone.
    """

    job = models.OneToOneField(Job, on_delete=models.CASCADE, primary_key=True, related_name="found_by")
    shop = models.ForeignKey("accounts.Shop", on_delete=models.PROTECT, related_name="+")
    words = models.TextField()
    digits = models.CharField(max_length=40, blank=True)
    vector = SearchVectorField()

    class Meta:
        # Changes go into the indexes at once: gathered aside, a hundred of them made a search take four times as long.
        indexes = [
            GinIndex(F("shop"), OpClass(F("words"), name="gin_trgm_ops"), name="job_find_words", fastupdate=False),
            GinIndex(F("shop"), OpClass(F("digits"), name="gin_trgm_ops"), name="job_find_digits", fastupdate=False),
            GinIndex(F("shop"), F("vector"), name="job_find_vector", fastupdate=False),
        ]


class Photo(ShopRow):
    """A photograph of a job, made anew by the server: JPEG, no larger than developing.SIDE_PX, nothing but pixels."""

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
