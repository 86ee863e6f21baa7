"""Readings and plans. Readings are append-only: a correction is a new revision."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import GrowingRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.said import say
from felloe.queue.tolerances import HeldToTier, held_within


class ReadingSet(ShopRow):
    """Readings that were taken in one go: as found, after a pass, or as left."""

    class Stage(models.TextChoices):
        AS_FOUND = "as_found", say("As found")
        AFTER_PASS = "after_pass", say("After a pass")
        AS_LEFT = "as_left", say("As left")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="reading_sets", db_index=False)
    stage = models.CharField(max_length=10, choices=Stage)
    number = models.PositiveSmallIntegerField()
    spread_percent = models.FloatField(null=True, help_text="Tension of the worse side as it stands; null on too few readings")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job", "number"], name="reading_set_number_once"),
            models.CheckConstraint(
                condition=models.Q(stage__in=["as_found", "after_pass", "as_left"]), name="reading_set_stage_known"
            ),
        ]


class Reading(GrowingRow):
    """One reading as entered and as N or mm. The highest revision of a place counts; a database trigger forbids change."""

    class Kind(models.TextChoices):
        TENSION = "tension", say("Tension")
        LATERAL = "lateral", say("Lateral")
        RADIAL = "radial", say("Radial")
        DISH = "dish", say("Dish")

    # By its set it is found through the constraint below; by table or instrument nobody looks for it.
    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="readings", db_index=False)
    kind = models.CharField(max_length=8, choices=Kind)
    spoke = models.CharField(max_length=4, blank=True)
    revision = models.PositiveSmallIntegerField(default=1)
    withdrawn = models.BooleanField(default=False)
    entered = models.JSONField(help_text="As the person entered it, unit included; place and instrument are columns")
    value = models.FloatField(help_text="N for tension, mm otherwise")
    sd = models.FloatField()
    meter_table = models.ForeignKey(
        "instruments.MeterTable", on_delete=models.PROTECT, null=True, related_name="+", db_index=False
    )
    instrument = models.ForeignKey(
        "instruments.Instrument", on_delete=models.PROTECT, null=True, related_name="+", db_index=False
    )

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["reading_set", "kind", "spoke", "revision"], name="one_reading_per_revision"),
            models.CheckConstraint(
                condition=models.Q(kind__in=["tension", "lateral", "radial", "dish"]), name="reading_kind_known"
            ),
            models.CheckConstraint(condition=models.Q(sd__gt=0), name="reading_sd_positive"),
            models.CheckConstraint(
                condition=~models.Q(kind="tension") | models.Q(value__gte=0, value__lte=5000), name="tension_in_range"
            ),
            models.CheckConstraint(
                condition=models.Q(kind="tension") | models.Q(value__gte=-60, value__lte=60), name="length_in_range"
            ),
        ]


class DialTrace(ShopRow):
    """Many dial readings of one kind with one zero: a trace over a turn, or a lump told by its extremes. Append-only."""

    class Source(models.TextChoices):
        STREAM = "stream", say("From an instrument")
        FILE = "file", say("From a file")
        LUMP = "lump", say("Told by eye")

    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="traces")
    kind = models.CharField(max_length=8, choices=[("lateral", "Lateral"), ("radial", "Radial")])
    source = models.CharField(max_length=6, choices=Source)
    points = models.JSONField(help_text="[angle in degrees, deviation in mm, standard deviation in mm] each")
    said = SaidField(help_text="What it says, in words")
    instrument = models.ForeignKey("instruments.Instrument", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=["lateral", "radial"]), name="trace_kind_known"),
            models.CheckConstraint(condition=models.Q(source__in=["stream", "file", "lump"]), name="trace_source_known"),
        ]


class TraceWithdrawal(ShopRow):
    """A trace that is taken back; it stays in the history."""

    trace = models.OneToOneField(DialTrace, on_delete=models.PROTECT, related_name="withdrawal")


class Plan(HeldToTier, ShopRow):
    """A truing plan for one pass, with what it predicts."""

    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="plans")
    step_turns = models.FloatField()
    limit_turns = models.FloatField()
    untouchable = models.JSONField(default=list)
    mode = models.CharField(max_length=16, default="balanced")
    learnt = models.ForeignKey("bench.LearntRim", on_delete=models.PROTECT, null=True, related_name="+")
    reason = SaidField()
    laps = models.PositiveSmallIntegerField(default=1)
    worst_tension_n = models.FloatField()
    worst_spoke = models.CharField(max_length=4)
    predicted = models.JSONField()
    caution = SaidField(default=str, help_text="What is said before the first nipple")
    eased_first = models.PositiveSmallIntegerField(default=0, help_text="So many moves come before the walk")
    chance = models.FloatField(null=True, help_text="To be inside the tier after the plan, 0 to 1; null before it was counted")
    chance_before = models.FloatField(null=True)
    spread_after_percent = models.FloatField(null=True)
    mean_after_n = models.FloatField(null=True)
    minutes = models.FloatField(null=True)
    unread = models.JSONField(default=list, help_text="Figures of which too little was read: nothing is claimed of them")
    by_eye = models.JSONField(default=list, help_text="Figures that were only told by eye")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=held_within(), name="plan_tier_known"),
            models.CheckConstraint(condition=models.Q(step_turns__gt=0, limit_turns__gt=0), name="plan_steps_positive"),
            models.CheckConstraint(
                condition=models.Q(chance__isnull=True) | models.Q(chance__gte=0, chance__lte=1), name="plan_chance_in_range"
            ),
        ]


class LearntRim(ShopRow):
    """What a pass taught of a wheel's rim: factors on its stiffnesses, kept with the wheel; append-only, the newest counts."""

    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="learnt_rims", db_index=False)
    wheel_version = models.PositiveIntegerField()
    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="learnt_rims")
    ei_lat = models.FloatField()
    ei_rad = models.FloatField()
    gj = models.FloatField()
    log_sd = models.JSONField()
    changes = models.PositiveIntegerField()
    misfit_before = models.FloatField()
    misfit_after = models.FloatField()
    shirkers = models.JSONField(default=list, help_text="Nipples that did not do their share")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(ei_lat__gt=0, ei_rad__gt=0, gj__gt=0), name="learnt_factors_positive")
        ]
        indexes = [models.Index(fields=["wheel", "created_at"])]


class PlanMove(GrowingRow):
    """One nipple of a plan and what was really done to it."""

    class State(models.TextChoices):
        TODO = "todo", say("To do")
        DONE = "done", say("Done")
        CHANGED = "changed", say("Done differently")
        SKIPPED = "skipped", say("Skipped")

    plan = models.ForeignKey(Plan, on_delete=models.PROTECT, related_name="moves", db_index=False)
    place = models.PositiveSmallIntegerField()
    spoke = models.CharField(max_length=4)
    visit = models.PositiveSmallIntegerField(default=1, help_text="A nipple may come more than once in a walk")
    turns = models.FloatField()
    tension_before_n = models.FloatField()
    tension_after_n = models.FloatField()
    turn_from_n = models.FloatField(null=True, help_text="Just before this turn, where those before it were made")
    turn_to_n = models.FloatField(null=True, help_text="Just after it")
    why = SaidField(default=str, help_text="What it moves, what would be without it, why not its neighbour")
    state = models.CharField(max_length=8, choices=State, default=State.TODO)
    done_turns = models.FloatField(null=True)
    done_at = models.DateTimeField(null=True)
    done_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+", db_index=False)

    @property
    def key(self) -> str:
        """Its name in the plan: the spoke, and from its second visit on which one, as in R5.2."""
        return self.spoke if self.visit == 1 else f"{self.spoke}.{self.visit}"

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["plan", "spoke", "visit"], name="one_move_per_visit"),
            models.UniqueConstraint(fields=["plan", "place"], name="one_move_per_place"),
            models.CheckConstraint(
                condition=models.Q(done_turns__isnull=True) | models.Q(done_turns__gte=-3, done_turns__lte=3),
                name="done_turns_in_range",
            ),
            models.CheckConstraint(
                condition=models.Q(state="todo", done_turns__isnull=True)
                | models.Q(state__in=["done", "changed", "skipped"], done_turns__isnull=False),
                name="done_turns_when_done",
            ),
        ]


class LivePass(ShopRow):
    """A pass worked nipple by nipple with a look at the rim after each: its plan holds the turns that were made."""

    plan = models.OneToOneField(Plan, on_delete=models.PROTECT, related_name="live")
    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="live_passes")
    version = models.PositiveIntegerField(default=1, help_text="Counts what was done; who has seen less is told")
    left = models.JSONField(help_text="What is still to turn, the next first, and what is expected of it")
    why = SaidField(default=str)
    suspect = models.JSONField(null=True, help_text="What seems to have been turned instead of the last nipple")
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    ended_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["reading_set"], condition=models.Q(ended_at__isnull=True), name="one_live_pass_of_a_set_at_once"
            ),
            models.CheckConstraint(
                condition=models.Q(ended_at__isnull=True, ended_by__isnull=True, ended_set__isnull=True)
                | models.Q(ended_at__isnull=False, ended_by__isnull=False),
                name="live_pass_ended_by_somebody",
            ),
        ]


class LiveLook(ShopRow):
    """What was seen between two nipples of a live pass: a turn past a dial, a lump told by eye, or one reading. Append-only."""

    class Source(models.TextChoices):
        STREAM = "stream", say("From an instrument")
        EYE = "eye", say("Told by eye")
        SINGLE = "single", say("One reading")

    live_pass = models.ForeignKey(LivePass, on_delete=models.PROTECT, related_name="looks", db_index=False)
    number = models.PositiveSmallIntegerField()
    after_moves = models.PositiveSmallIntegerField(help_text="So many nipples had been turned")
    kind = models.CharField(max_length=8, choices=Reading.Kind)
    source = models.CharField(max_length=6, choices=Source)
    spoke = models.CharField(max_length=4, blank=True)
    entered = models.JSONField(default=dict, help_text="One reading as the person entered it")
    points = models.JSONField(help_text="[angle in degrees, N or mm, standard deviation] each; angle 0 for tension and dish")
    said = SaidField(help_text="What it says, in words")
    instrument = models.ForeignKey("instruments.Instrument", on_delete=models.PROTECT, null=True, related_name="+")
    meter_table = models.ForeignKey("instruments.MeterTable", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["live_pass", "number"], name="one_live_look_per_number"),
            models.CheckConstraint(
                condition=models.Q(kind__in=["tension", "lateral", "radial", "dish"]), name="live_look_kind_known"
            ),
            models.CheckConstraint(condition=models.Q(source__in=["stream", "eye", "single"]), name="live_look_source_known"),
        ]


class ResumeProof(ShopRow):
    """Two readings taken before an interrupted plan was gone on with, and whether they agree with what was foreseen."""

    plan = models.ForeignKey(Plan, on_delete=models.PROTECT, related_name="proofs", db_index=False)
    last_move = models.ForeignKey(PlanMove, on_delete=models.PROTECT, related_name="+", help_text="After which it was left")
    readings = models.JSONField(help_text="kind, spoke, foreseen and read of both")
    held = models.BooleanField()
    said = SaidField()

    class Meta:
        indexes = [models.Index(fields=["plan", "created_at"])]
