"""What is known of a rim when a set is begun: of the wheel itself, else of others with the same rim in this shop."""

from __future__ import annotations

from felloe.accounts.models import User
from felloe.bench.models import LearntRim, ReadingSet
from felloe.bench.services import readings
from felloe.bench.services.learning import MOST_ALIKE, known_of, known_of_each
from felloe.core.mechanics.learning import RimFactors, pooled
from felloe.queue.models import Job
from felloe.wheels.models import Wheel
from tests.api.shop import SMALL_KIND, ShopCase, open_job

SD = (0.1, 0.2, 0.3)


class KnownRim(ShopCase):
    def begun(self, job: Job, by: User | None = None) -> ReadingSet:
        made = readings.open_set(by or self.bram, job.pk, "as_found")
        return ReadingSet.objects.select_related("job__wheel").get(pk=made.pk)

    def learnt(self, reading_set: ReadingSet, ei_lat: float, version: int | None = None) -> RimFactors:
        wheel = reading_set.job.wheel
        LearntRim.objects.create(
            shop_id=reading_set.shop_id,
            wheel=wheel,
            wheel_version=wheel.version if version is None else version,
            reading_set=reading_set,
            ei_lat=ei_lat,
            ei_rad=1.1,
            gj=0.9,
            log_sd=list(SD),
            changes=20,
            misfit_before=2.0,
            misfit_after=1.0,
            created_by=reading_set.created_by,
        )
        return RimFactors(ei_lat, 1.1, 0.9, SD)

    def test_of_this_wheel_the_newest_that_was_there_when_the_set_was_begun(self) -> None:
        job = open_job(self.bram)
        first = self.begun(job)
        self.assertIsNone(known_of(first))
        earlier = self.learnt(first, 1.2)
        newer = self.learnt(first, 1.3)
        second = self.begun(job)
        self.learnt(second, 1.4)
        self.assertEqual(known_of_each([first, second]), [None, newer])
        self.assertNotEqual(earlier, newer)

    def test_one_of_other_dimensions_counts_no_more(self) -> None:
        job = open_job(self.bram)
        first = self.begun(job)
        self.learnt(first, 1.2)
        Wheel.objects.filter(pk=job.wheel_id).update(version=job.wheel.version + 1)
        self.assertIsNone(known_of(self.begun(job)))

    def test_else_of_others_with_this_rim_the_newest_of_each(self) -> None:
        job = open_job(self.bram)
        one, other, unlike = (
            self.begun(open_job(self.bram)),
            self.begun(open_job(self.bram)),
            self.begun(open_job(self.bram, SMALL_KIND)),
        )
        elsewhere = self.begun(open_job(self.stranger), self.stranger)
        self.learnt(one, 1.9)
        of_one = self.learnt(one, 1.2)
        self.learnt(unlike, 2.5)
        self.learnt(elsewhere, 2.7)
        before = self.begun(job)
        of_other = self.learnt(other, 1.4)
        self.learnt(other, 3.0, version=other.job.wheel.version + 1)
        after = self.begun(job)
        self.assertEqual(known_of_each([before, after]), [pooled([of_one]), pooled([of_one, of_other])])
        own = self.learnt(before, 0.8)
        self.assertEqual(known_of_each([before, self.begun(job)]), [pooled([of_one]), own])

    def test_of_many_only_the_newest_are_looked_at(self) -> None:
        one = self.begun(open_job(self.bram))
        self.learnt(self.begun(open_job(self.bram)), 5.0)
        for _ in range(MOST_ALIKE - 1):
            self.learnt(one, 1.1)
        newest = self.learnt(one, 1.2)
        self.assertEqual(known_of(self.begun(open_job(self.bram))), pooled([newest]))
