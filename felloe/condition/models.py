"""What was answered, concluded and found: append-only; what is mended or mistaken is ended by a row of its own."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.condition import CONDITIONS
from felloe.core.runout.frame_gauge import FRAME_MATERIALS
from felloe.core.said import say


class ConditionMark(ShopRow):
    """Something found on a wheel: its kind (core.diagnosis.condition), its spoke (empty on the hub), what was measured."""

    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="marks")
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="marks")
    kind = models.CharField(max_length=20)
    spoke = models.CharField(max_length=4, blank=True)
    measure_mm = models.FloatField(null=True)
    note = models.CharField(max_length=300, blank=True)
    photo = models.ForeignKey("queue.Photo", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(kind__in=list(CONDITIONS)), name="mark_kind_known")]
        indexes = [models.Index(fields=["wheel", "created_at"])]


class SpokeBreak(ShopRow):
    """A spoke or nipple that gave way: which, where on it, and the day it was noticed."""

    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="breaks")
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="breaks")
    spoke = models.CharField(max_length=4)
    place = models.CharField(max_length=12)
    noticed_on = models.DateField()
    note = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(place__in=list(PLACES)), name="break_place_known")]
        indexes = [models.Index(fields=["wheel", "noticed_on"])]


class Ending(ShopRow):
    """A mark or a break that no longer stands: mended (a mark), or a mistake that never was."""

    class How(models.TextChoices):
        MENDED = "mended", say("Mended")
        MISTAKE = "mistake", say("Entered by mistake")

    mark = models.OneToOneField(ConditionMark, on_delete=models.PROTECT, null=True, related_name="ending")
    spoke_break = models.OneToOneField(SpokeBreak, on_delete=models.PROTECT, null=True, related_name="ending")
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="+")
    how = models.CharField(max_length=8, choices=How)
    note = models.CharField(max_length=300)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(mark__isnull=False, spoke_break__isnull=True)
                | models.Q(mark__isnull=True, spoke_break__isnull=False, how="mistake"),
                name="ending_of_one_thing",
            ),
            models.CheckConstraint(condition=models.Q(how__in=["mended", "mistake"]), name="ending_how_known"),
            models.CheckConstraint(condition=~models.Q(note=""), name="ending_says_why"),
        ]


class FrameCheck(ShopRow):
    """What a frame gauge read at one end of the bike."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="frame_checks")
    material = models.CharField(max_length=10)
    gap_right_mm = models.FloatField()
    gap_left_mm = models.FloatField()
    stay_length_mm = models.FloatField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(material__in=list(FRAME_MATERIALS)), name="frame_material_known"),
            models.CheckConstraint(condition=models.Q(gap_right_mm__gte=0, gap_left_mm__gte=0), name="frame_gaps_not_negative"),
        ]


class CheckAnswer(ShopRow):
    """One answer to one check of the diagnosis; append-only, the newest of a check counts. "unknown" means "don't know"."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="check_answers")
    check_key = models.CharField(max_length=40)
    answer = models.CharField(max_length=20)

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class Finding(ShopRow):
    """The cause that was concluded; append-only, the newest counts. An overruling says why."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="findings")
    cause = models.CharField(max_length=40)
    share = models.FloatField(help_text="Belief in this cause when it was concluded, 0 to 1")
    overruled = models.BooleanField(default=False)
    mended = models.BooleanField(default=False, help_text="A later row that says the cause was put right; `reason` says how")
    reason = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(overruled=False) | ~models.Q(reason=""), name="overruling_has_reason"),
            models.CheckConstraint(condition=models.Q(mended=False) | ~models.Q(reason=""), name="mending_says_how"),
            models.CheckConstraint(condition=models.Q(share__gte=0, share__lte=1), name="finding_share_is_a_share"),
        ]
