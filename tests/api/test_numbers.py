"""The owner's numbers, of a shop whose days are written down by hand."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime, timedelta
from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from felloe.accounts.models import User
from felloe.condition.models import Finding
from felloe.queue.models import Job, StageTime
from tests.api.shop import SMALL_KIND, ShopCase, open_job, person

START = datetime(2026, 3, 2, 10, tzinfo=UTC)


class NumbersCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = self.speak_for(person(self.shop, "odile", User.Role.OWNER))

    def done(self, came: float, lead: float, promised: float | None = None, **more: Any) -> Job:
        """A job that came on a day after START and was ready after `lead` days; `promised` counted from coming."""
        job = open_job(self.bram, SMALL_KIND)
        at = START + timedelta(days=came)
        Job.objects.filter(pk=job.pk).update(
            created_at=at,
            ready_at=at + timedelta(days=lead),
            handed_back_at=at + timedelta(days=lead),
            promised_at=None if promised is None else at + timedelta(days=promised),
            promise_chance=None if promised is None else 0.8,
            stage="done",
            ended_as="repaired",
            **more,
        )
        job.refresh_from_db()
        return job

    def time(self, job: Job, stage: str, taken: float, estimated: float, counts: bool = True) -> None:
        made = StageTime.objects.create(
            shop=self.shop,
            job=job,
            stage=stage,
            tier="sound",
            taken_min=taken,
            usual_min=20,
            estimated_min=estimated,
            counts=counts,
        )
        StageTime.objects.filter(pk=made.pk).update(created_at=job.ready_at)

    def numbers(self, since: str = "2026-03-02", until: str = "2026-03-29", client: Any = None) -> dict[str, Any]:
        found: dict[str, Any] = self.get(f"numbers?since={since}&until={until}", client or self.owner).json()
        return found


class Numbers(NumbersCase):
    def test_counted_by_hand(self) -> None:
        first = self.done(0, 1, promised=2)
        self.done(0, 2, promised=2)
        self.done(7, 4, promised=3)
        last = self.done(8, 3)
        self.time(first, "true", 30, 20)
        self.time(last, "true", 10, 20)
        self.time(last, "true", 500, 20, counts=False)
        found = self.numbers()
        self.assertEqual((found["kept"]["hits"], found["kept"]["of"]), (2, 3))
        self.assertEqual(found["stated"], 0.8)
        self.assertEqual(found["lead_days"], 2.5)
        self.assertEqual(
            [(w["monday"], w["ready"], w["kept"]["hits"]) for w in found["weeks"]], [("2026-03-02", 2, 2), ("2026-03-09", 2, 0)]
        )
        self.assertEqual([(s["stage"], s["times"], s["hours"], s["ratio"]) for s in found["stages"]], [("true", 3, 0.7, 1.0)])
        self.assertEqual([(h["tier"], h["jobs"], h["hours"]) for h in found["hours"]], [("sound", 2, 0.7)])

    def test_comebacks_by_what_was_found(self) -> None:
        job = self.done(0, 2)
        again = self.done(30, 1)
        Job.objects.filter(pk=again.pk).update(wheel=job.wheel)
        for cause in ("axle_bent", "broken_spoke"):
            Finding.objects.create(shop=self.shop, job=again, cause=cause, share=0.9)
        found = self.numbers()
        self.assertEqual((found["comebacks"]["hits"], found["comebacks"]["of"]), (1, 1))
        self.assertEqual([(c["cause"], c["count"]) for c in found["comeback_causes"]], [("broken_spoke", 1)])

    def test_days_are_the_shops(self) -> None:
        self.shop.time_zone = "Pacific/Auckland"
        self.shop.save()
        self.done(0, 0.1)  # 12:24 UTC is past midnight there
        self.assertEqual(self.numbers("2026-03-03", "2026-03-03")["weeks"][0]["ready"], 1)
        self.assertEqual(self.numbers("2026-03-02", "2026-03-02")["weeks"], [])

    def test_a_new_shop_has_none_and_another_sees_none(self) -> None:
        self.done(0, 1, promised=2)
        there = self.speak_for(person(self.elsewhere, "olga", User.Role.OWNER))
        found = self.numbers(client=there)
        self.assertEqual((found["kept"]["share"], found["lead_days"], found["weeks"]), (None, None, []))

    def test_the_owners_only_and_days_that_can_be(self) -> None:
        self.assertProblem(self.get("numbers?since=2026-03-02&until=2026-03-03"), 403, "not_permitted")
        self.assertProblem(self.get("numbers?since=2026-03-02&until=2026-03-01", self.owner), 422, "before_since", "until")
        self.assertProblem(self.get("numbers?since=2020-03-02&until=2026-03-01", self.owner), 422, "too_long", "until")
        self.assertProblem(self.get("numbers?since=x&until=2026-03-01", self.owner), 400, "invalid_input", "since")

    def test_as_a_table(self) -> None:
        self.done(0, 1, promised=2)
        answer = self.get("numbers.csv?since=2026-03-02&until=2026-03-29", self.owner)
        rows = {(row["figure"], row["of"]): row for row in csv.DictReader(io.StringIO(answer.content.decode()))}
        self.assertEqual((rows["promises_kept", ""]["value"], rows["promises_kept", ""]["count"]), ("1.0", "1"))
        self.assertEqual(rows["week_lead_days", "2026-03-02"]["value"], "1.0")

    def test_the_questions_do_not_grow_with_the_shop(self) -> None:
        def count() -> int:
            with CaptureQueriesContext(
                connection,
            ) as asked:
                self.numbers()
            return len(asked)

        self.done(0, 1, promised=2)
        few = count()
        for i in range(12):
            self.time(self.done(i, 1, promised=2), "true", 10, 10)
        self.assertEqual(count(), few)
