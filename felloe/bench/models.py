"""Meters, readings and plans. Readings are append-only: a correction is a new revision."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow
from felloe.core.measuring.instruments import INSTRUMENT_KINDS


class Instrument(EditableRow):
    """An instrument of the shop: a tension meter, dial, caliper, ruler, dishing gauge or stand."""

    class Use(models.TextChoices):
        IN_USE = "in_use", "In use"
        RESTING = "resting", "Put aside"
        RETIRED = "retired", "Retired"

    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=16, default="tension_meter")
    owner = models.CharField(max_length=120, blank=True, help_text="Whose it is, where not the shop's")
    serial = models.CharField(max_length=60, blank=True)
    use = models.CharField(max_length=8, choices=Use, default=Use.IN_USE)
    check_every_days = models.PositiveSmallIntegerField(default=180)
    address = models.CharField(max_length=120, blank=True, help_text="host:port of one that streams lines over TCP")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "name"], name="instrument_name_once_in_shop"),
            models.CheckConstraint(condition=models.Q(kind__in=list(INSTRUMENT_KINDS)), name="instrument_kind_known"),
            models.CheckConstraint(condition=models.Q(use__in=["in_use", "resting", "retired"]), name="instrument_use_known"),
            models.CheckConstraint(
                condition=models.Q(check_every_days__gte=1, check_every_days__lte=3650), name="instrument_days_in_range"
            ),
        ]


class MeterTable(ShopRow):
    """A meter's readings against forces for one kind of spoke. Append-only: the newest counts, old readings keep theirs."""

    class Source(models.TextChoices):
        MAKER = "maker", "The maker's chart"
        CALIBRATED = "calibrated", "Calibrated here"
        DERIVED = "derived", "Derived from another thickness"

    meter = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="tables")
    spoke_kind = models.CharField(max_length=40)
    readings = models.JSONField()
    forces_n = models.JSONField()
    resolution = models.FloatField(default=0.5)
    residual_n = models.FloatField(default=20.0)
    source = models.CharField(max_length=10, choices=Source, default=Source.MAKER)
    points = models.JSONField(default=dict, help_text="Readings and known loads of a calibration")
    derived_from = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(resolution__gt=0), name="meter_resolution_positive"),
            models.CheckConstraint(condition=models.Q(residual_n__gte=0), name="meter_residual_not_negative"),
            models.CheckConstraint(
                condition=models.Q(source__in=["maker", "calibrated", "derived"]), name="meter_table_source_known"
            ),
            models.CheckConstraint(
                condition=~models.Q(source="derived") | models.Q(derived_from__isnull=False),
                name="derived_table_says_from_what",
            ),
        ]
        indexes = [models.Index(fields=["meter", "spoke_kind", "created_at"])]


class InstrumentCheck(ShopRow):
    """One check of an instrument, signed by who made it; append-only, the newest says where it stands."""

    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="checks")
    passed = models.BooleanField()
    note = models.CharField(max_length=500)
    figures = models.JSONField(default=dict)
    table = models.ForeignKey(MeterTable, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["instrument", "created_at"])]


class ReadingSet(ShopRow):
    """Readings that were taken in one go: as found, after a pass, or as left."""

    class Stage(models.TextChoices):
        AS_FOUND = "as_found", "As found"
        AFTER_PASS = "after_pass", "After a pass"
        AS_LEFT = "as_left", "As left"

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="reading_sets")
    stage = models.CharField(max_length=10, choices=Stage)
    number = models.PositiveSmallIntegerField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["job", "number"], name="reading_set_number_once"),
            models.CheckConstraint(
                condition=models.Q(stage__in=["as_found", "after_pass", "as_left"]), name="reading_set_stage_known"
            ),
        ]


class Reading(ShopRow):
    """One reading as entered and as N or mm. The highest revision of a place counts; a database trigger forbids change."""

    class Kind(models.TextChoices):
        TENSION = "tension", "Tension"
        LATERAL = "lateral", "Lateral"
        RADIAL = "radial", "Radial"
        DISH = "dish", "Dish"

    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="readings")
    kind = models.CharField(max_length=8, choices=Kind)
    spoke = models.CharField(max_length=4, blank=True)
    revision = models.PositiveSmallIntegerField(default=1)
    withdrawn = models.BooleanField(default=False)
    entered = models.JSONField(help_text="As the person entered it, unit and instrument included")
    value = models.FloatField(help_text="N for tension, mm otherwise")
    sd = models.FloatField()
    meter_table = models.ForeignKey(MeterTable, on_delete=models.PROTECT, null=True, related_name="+")
    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, null=True, related_name="+")

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
        STREAM = "stream", "From an instrument"
        FILE = "file", "From a file"
        LUMP = "lump", "Told by eye"

    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="traces")
    kind = models.CharField(max_length=8, choices=[("lateral", "Lateral"), ("radial", "Radial")])
    source = models.CharField(max_length=6, choices=Source)
    points = models.JSONField(help_text="[angle in degrees, deviation in mm, standard deviation in mm] each")
    said = models.CharField(max_length=200, help_text="What it says, in words")
    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=["lateral", "radial"]), name="trace_kind_known"),
            models.CheckConstraint(condition=models.Q(source__in=["stream", "file", "lump"]), name="trace_source_known"),
        ]


class TraceWithdrawal(ShopRow):
    """A trace that is taken back; it stays in the history."""

    trace = models.OneToOneField(DialTrace, on_delete=models.PROTECT, related_name="withdrawal")


class Plan(ShopRow):
    """A truing plan for one pass, with what it predicts."""

    reading_set = models.ForeignKey(ReadingSet, on_delete=models.PROTECT, related_name="plans")
    tier = models.CharField(max_length=20)
    step_turns = models.FloatField()
    limit_turns = models.FloatField()
    untouchable = models.JSONField(default=list)
    mode = models.CharField(max_length=16, default="balanced")
    learnt = models.ForeignKey("bench.LearntRim", on_delete=models.PROTECT, null=True, related_name="+")
    reason = models.CharField(max_length=1000)
    laps = models.PositiveSmallIntegerField(default=1)
    worst_tension_n = models.FloatField()
    worst_spoke = models.CharField(max_length=4)
    predicted = models.JSONField()

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(step_turns__gt=0, limit_turns__gt=0), name="plan_steps_positive")
        ]


class LearntRim(ShopRow):
    """What a pass taught of a wheel's rim: factors on its stiffnesses, kept with the wheel; append-only, the newest counts."""

    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="learnt_rims")
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


class PlanMove(ShopRow):
    """One nipple of a plan and what was really done to it."""

    class State(models.TextChoices):
        TODO = "todo", "To do"
        DONE = "done", "Done"
        CHANGED = "changed", "Done differently"
        SKIPPED = "skipped", "Skipped"

    plan = models.ForeignKey(Plan, on_delete=models.PROTECT, related_name="moves")
    place = models.PositiveSmallIntegerField()
    spoke = models.CharField(max_length=4)
    turns = models.FloatField()
    tension_before_n = models.FloatField()
    tension_after_n = models.FloatField()
    state = models.CharField(max_length=8, choices=State, default=State.TODO)
    done_turns = models.FloatField(null=True)
    done_at = models.DateTimeField(null=True)
    done_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["plan", "spoke"], name="one_move_per_spoke"),
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
