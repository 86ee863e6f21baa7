"""All that the estimate of a set rests on, each part asked of the database once: one look serves state, advice and slips."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from functools import cached_property
from uuid import UUID

from felloe.bench.models import DialTrace, ReadingSet
from felloe.bench.services.learning import earlier_sets, known_of_each
from felloe.bench.services.readings import core_readings, traces_of, wheel_of
from felloe.bench.services.rows import Row, newest_rows, standing
from felloe.condition import services as condition
from felloe.core.components import Wheel as CoreWheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.evidence import Observed
from felloe.core.mechanics.joint import EarlierSet, estimate_joint
from felloe.core.mechanics.learning import RimFactors
from felloe.core.mechanics.readings import BROKEN_SD_N, Readings, TensionReading
from felloe.instruments.models import MeterTable
from felloe.places.here import database
from felloe.wheels.services import influence_for


class Look:
    """A set of readings at one moment: what was true when a part was first asked for stays true in here."""

    def __init__(self, reading_set: ReadingSet, newest: Collection[Row] | None = None) -> None:
        self.reading_set = reading_set
        if newest is not None:
            self.newest = newest

    @cached_property
    def wheel(self) -> CoreWheel:
        return wheel_of(self.reading_set)

    @cached_property
    def newest(self) -> Collection[Row]:
        """The newest revision of each place, those too that say that it was withdrawn."""
        return newest_rows(self.reading_set).values()

    @cached_property
    def rows(self) -> list[Row]:
        """What stands, in the order of entry."""
        return standing(self.newest)

    @cached_property
    def _there(self) -> tuple[bool, bool]:
        """Whether there are traces, and broken spokes: most sets have neither, and one question is enough for that."""
        job = self.reading_set.job
        with database().cursor() as cursor:
            cursor.execute(
                """
                SELECT EXISTS (SELECT FROM bench_dialtrace WHERE reading_set_id = %(set)s),
                       EXISTS (SELECT FROM condition_conditionmark WHERE job_id = %(job)s AND kind = 'spoke_broken')
                    OR EXISTS (SELECT FROM condition_conditionmark WHERE wheel_id = %(wheel)s AND kind = 'spoke_broken')
                """,
                {"set": self.reading_set.pk, "job": job.pk, "wheel": job.wheel_id},
            )
            traces, broken = cursor.fetchone()
        return bool(traces), bool(broken)

    @cached_property
    def traces(self) -> list[DialTrace]:
        return traces_of(self.reading_set) if self._there[0] else []

    @cached_property
    def tables(self) -> dict[UUID, MeterTable]:
        """Every table of the meters that were used, by key."""
        used = {row.meter_table_id for row in self.rows if row.meter_table_id is not None}
        if not used:
            return {}
        meters = MeterTable.objects.filter(pk__in=used).values("meter")
        return {table.pk: table for table in MeterTable.objects.filter(meter__in=meters).order_by("created_at")}

    @cached_property
    def broken(self) -> frozenset[str]:
        """Spokes of the wheel that were broken when the set was begun."""
        if not self._there[1]:
            return frozenset()
        return frozenset(condition.broken_at(self.reading_set.job, self.reading_set.created_at)) & self.wheel.index_of.keys()

    @cached_property
    def broken_since(self) -> list[str]:
        """Spokes that broke after anything was last done to the readings: they are not of the wheel of today."""
        if not self.newest or not self._there[1]:
            return []
        return condition.broken_since(self.reading_set.job, max(row.created_at for row in self.newest))

    @cached_property
    def read(self) -> Readings:
        """What was read."""
        return core_readings(self.wheel, self.rows, self.traces)

    @cached_property
    def own(self) -> Readings:
        """The same; a broken spoke counts as read: no tension."""
        read = {r.spoke for r in self.read.tension}
        slack = [TensionReading(name, 0.0, BROKEN_SD_N) for name in sorted(self.broken) if name not in read]
        return replace(self.read, tension=[*self.read.tension, *slack])

    @cached_property
    def _chain(self) -> tuple[list[EarlierSet], ReadingSet]:
        return earlier_sets(self.reading_set, self.wheel, lambda: self.read)

    @cached_property
    def _known(self) -> tuple[RimFactors | None, RimFactors | None]:
        first = self._chain[1]
        if first.pk == self.reading_set.pk:
            (known,) = known_of_each([self.reading_set])
            return known, known
        at_first, known = known_of_each([first, self.reading_set])
        return at_first, known

    @property
    def known(self) -> RimFactors | None:
        """What was known of the rim when the set was begun."""
        return self._known[1]

    @cached_property
    def state(self) -> WheelState:
        return self.estimated(self.own)

    @property
    def seen(self) -> Observed | None:
        """The set's own readings alone, as the estimate saw them, where it has been made and no earlier set went into it."""
        return self.state.seen if "state" in self.__dict__ else None

    def estimated(self, readings: Readings) -> WheelState:
        """The state that `readings` say, those of earlier sets of the job fitted with them over the turns made since."""
        known_at_first = self._known[0]
        return replace(estimate_joint(self.wheel, readings, self._chain[0], known_at_first, influence_for), broken=self.broken)
