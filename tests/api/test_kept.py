"""What is kept between questions is what would be read anew: after every kind of deed, and after deeds that come late."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

import psycopg
from django.db import connection, transaction
from django.test import SimpleTestCase, TransactionTestCase, override_settings
from django.test.utils import CaptureQueriesContext
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob
from rest_framework.renderers import JSONRenderer

from felloe.accounts.models import Shop, User
from felloe.api.language import spoken_for
from felloe.bench.services import plans
from felloe.calendar import services as calendar
from felloe.condition import services as condition
from felloe.customers import services as customers
from felloe.live.server import dsn
from felloe.promises import services as promises
from felloe.promises.api.serializers import RailSerializer
from felloe.promises.models import ShopPlay
from felloe.promises.services import floor, plays
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.services import places
from felloe.queue.services.pace import relearn
from felloe.repair.services import unsafe
from tests.api.described import DescribedClient
from tests.api.shop import PRICES, BenchCase, ShopCase, open_job, person


def a_tuesday() -> datetime:
    """The next Tuesday at ten: whether a deed shows on the rail hangs on the hour of the week."""
    today = timezone.now()
    tuesday = today + timedelta(days=7 - (today.weekday() - 1) % 7)
    return tuesday.replace(hour=10, minute=0, second=0, microsecond=0)


def told_in_english(client: DescribedClient) -> Any:
    return client.get("/api/v1/rail", HTTP_ACCEPT_LANGUAGE="en").json()


class KeptCase(TransactionTestCase):
    read, read_all = BenchCase.read, BenchCase.read_all
    put, post, patch, get, speak_for = ShopCase.put, ShopCase.post, ShopCase.patch, ShopCase.get, ShopCase.speak_for

    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here", prices_minor=PRICES)
        self.bram = person(self.shop, "bram")
        self.odile = person(self.shop, "odile", User.Role.OWNER)
        self.client = self.speak_for(self.bram)  # type: ignore[assignment]
        self.owner = self.speak_for(self.odile)
        now = a_tuesday()
        self.jobs = [open_job(self.bram, promised_at=now + timedelta(hours=30 + i)) for i in range(4)]
        self.job = self.jobs[0]
        # A second open job on the same wheel: what is noted on one is true of both.
        self.twin = queue.open_job(self.bram, {"wheel_id": self.job.wheel_id, "complaint": "again", "second": True})
        self.now = now

    def fresh(self, job: Job | None = None) -> Job:
        return Job.objects.get(pk=(job or self.job).pk)

    def slot(self, days: float) -> datetime:
        return next(calendar.shop_calendar(self.shop).slots(self.now + timedelta(days=days)))

    def shown(self) -> tuple[Any, Any]:
        return promises.rail(self.bram, self.now), unsafe.unsafe_jobs(self.bram)

    def test_what_is_written_once_for_all_is_what_each_would_have_been_told(self) -> None:
        """In each language and for each person, also on the second question; held against the fields of DRF's own renderer."""
        queue.change_job(self.bram, self.jobs[1].pk, self.fresh(self.jobs[1]).version, {"assigned_to": self.odile.pk})
        own = ("now", "next_job_id", "mine")
        for _ in range(2):
            for client, user in ((self.client, self.bram), (self.owner, self.odile)):
                for language in ("en", "de"):
                    told = client.get("/api/v1/rail", HTTP_ACCEPT_LANGUAGE=language).json()
                    whole = promises.rail(user, datetime.fromisoformat(told["now"]))
                    wanted = json.loads(JSONRenderer().render(spoken_for(RailSerializer(whole).data, language)))
                    self.assertEqual({k: told[k] for k in own}, {k: wanted[k] for k in own})
                    self.assertEqual(told, wanted)
        german = self.client.get("/api/v1/rail", HTTP_ACCEPT_LANGUAGE="de").json()
        self.assertNotEqual(german["hanging"][0]["why"], told_in_english(self.client)["hanging"][0]["why"])

    def test_two_of_one_name_hang_apart_and_a_customers_wheels_together(self) -> None:
        hanging = self.get("rail").json()["hanging"]
        numbers = {h["job"]["number"]: h["customer_no"] for h in hanging}
        # The four were each brought by another customer of the same invented name; the twin is of the first's.
        self.assertEqual(len(set(numbers.values())), 4)
        self.assertEqual(numbers[self.twin.number], numbers[self.job.number])

    def anew(self) -> tuple[Any, Any]:
        floor._kept.forget()
        unsafe._kept.forget()
        return self.shown()


class EveryDeed(KeptCase):
    def test_what_is_kept_is_what_would_be_read(self) -> None:
        job, owner = self.job, self.owner
        made: dict[str, Any] = {}

        def read_all() -> None:
            self.set = made["set"] = self.post(f"jobs/{job.pk}/reading-sets", {"stage": "as_found"}).json()["id"]
            self.read_all(1000, 482, 1.2)

        def plan() -> None:
            made["plan"] = plans.add_plan(self.bram, made["set"], {"as_read": True, "despite": "To know what it would take."})

        def turn() -> None:
            move = made["plan"].moves.order_by("spoke").first()
            assert move is not None
            plans.mark_move(self.bram, made["plan"].pk, move.spoke, "done", move.turns)

        def version(of: Job | None = None) -> int:
            return self.fresh(of).version

        deeds: dict[str, Callable[[], Any]] = {
            "another job": lambda: open_job(self.bram, promised_at=self.now + timedelta(hours=50)),
            "tier": lambda: queue.change_job(self.bram, job.pk, version(), {"tier": "race"}),
            "complaint": lambda: queue.change_job(self.bram, job.pk, version(), {"complaint": "hops now"}),
            "waits": lambda: queue.change_job(self.bram, job.pk, version(), {"waiting_on": "customer"}),
            "waits no more": lambda: queue.change_job(self.bram, job.pk, version(), {"waiting_on": ""}),
            "promise": lambda: queue.promise(self.bram, job.pk, version(), self.slot(3), 0.9, self.now),
            "promise taken back": lambda: queue.promise(
                self.bram, self.jobs[1].pk, version(self.jobs[1]), None, None, self.now
            ),
            "a mark": lambda: condition.add_mark(self.bram, job.pk, {"kind": "crack", "spoke": "R4"}),
            "a spoke to replace": lambda: condition.add_mark(self.bram, job.pk, {"kind": "spoke_corroded", "spoke": "R7"}),
            "readings": read_all,
            "plan": plan,
            "a nipple": turn,
            "agreed": lambda: self.post(
                f"jobs/{job.pk}/decisions",
                {"outcome": "approved", "chosen": ["true"], "by_whom": "Wen", "how": "counter", "warning": "Do not ride it."},
            ),
            "quote": lambda: self.put(
                f"jobs/{job.pk}/quote", {"version": 0, "extras": [{"name": "Tube", "amount_minor": 500}]}
            ),
            "taken up": lambda: self.post(f"jobs/{job.pk}/take-up", {"stand": None}),
            "hook": lambda: queue.change_job(
                self.bram, job.pk, version(), {"hook": places.add_place(self.odile, "hook", "A1").pk}
            ),
            "customer": lambda: customers.change_customer(
                self.bram, self.jobs[2].wheel.bike.customer_id, 1, {"name": "Renamed"}
            ),
            "told": lambda: self.post(f"jobs/{self.jobs[2].pk}/told", {"about": "call", "note": ""}),
            "line": lambda: self.put("shop/settings", {"name": "Here", "promise_line_percent": 95, "version": 1}, owner),
            "shifts": lambda: calendar.set_shifts(self.odile, self.bram.pk, User.objects.get(pk=self.bram.pk).version, []),
            "away": lambda: calendar.add_absence(
                self.odile,
                self.bram.pk,
                {"first_day": self.now.date(), "last_day": self.now.date() + timedelta(days=9), "why": "ill"},
            ),
            "learned": lambda: relearn(self.shop.pk, self.now),
            "ended": lambda: self.post(
                f"jobs/{self.jobs[3].pk}/ends",
                {"version": version(self.jobs[3]), "end": "cancelled", "reason": "Customer telephoned."},
            ),
        }
        self.shown()
        changed = set()
        for name, deed in deeds.items():
            before = self.shown()
            answer = deed()
            self.assertLess(getattr(answer, "status_code", 200), 300, (name, getattr(answer, "content", "")))
            kept = self.shown()
            with self.subTest(deed=name):
                self.assertEqual(kept, self.anew())
            if kept != before:
                changed.add(name)
        # Nearly every deed shows, so that nothing is compared with nothing.
        # "told" shows only where the job is late at this hour of the day.
        self.assertLessEqual(set(deeds) - changed, {"plan", "a nipple", "taken up", "shifts", "learned", "told"})
        self.assertEqual({row.job_id for row in unsafe.unsafe_jobs(self.bram)}, {job.pk, self.twin.pk})


class TwoAtOnce(SimpleTestCase):
    def test_a_colleague_adds_while_it_is_renewed(self) -> None:
        known = {uuid4(): number for number in range(8)}
        gone = next(iter(known))

        class Adding(set[UUID]):
            """Whoever asks it, somebody else's question adds to what is kept at that moment."""

            def __contains__(self, pk: object) -> bool:
                known[uuid4()] = 0
                return super().__contains__(pk)

        self.assertEqual(list(floor.without(known, Adding({gone})).values()), list(range(1, 8)))


class Late(KeptCase):
    def complaint(self) -> str:
        rail = promises.rail(self.bram, self.now)
        return next(h.job.complaint for h in rail.hanging if h.job.id == self.job.pk)

    def test_a_change_that_was_under_way_is_not_missed(self) -> None:
        self.complaint()
        with psycopg.connect(dsn()) as slow:
            slow.execute("UPDATE queue_job SET complaint = 'slow' WHERE id = %s", [self.job.pk])
            Job.objects.filter(pk=self.twin.pk).update(complaint="quick")
            self.assertNotEqual(self.complaint(), "slow")
            slow.commit()
        self.assertEqual(self.complaint(), "slow")

    def test_who_has_written_sees_his_own(self) -> None:
        self.complaint()
        with transaction.atomic():
            Job.objects.filter(pk=self.job.pk).update(complaint="mine")
            self.assertEqual(self.complaint(), "mine")
            transaction.set_rollback(True)
        self.assertNotEqual(self.complaint(), "mine", "what was rolled back was never kept")

    def test_little_is_asked_where_little_has_changed(self) -> None:
        def asked() -> int:
            with CaptureQueriesContext(connection) as seen:
                self.shown()
            return len(seen)

        self.anew()
        still = asked()
        self.assertLessEqual(still, 3)
        self.shown()
        Job.objects.filter(pk=self.twin.pk).update(complaint="once")
        one = asked()
        for other in self.jobs[1:]:
            Job.objects.filter(pk=other.pk).update(complaint="more")
        self.assertEqual(asked(), one, "three changed jobs cost no more questions than one")

    def test_another_shops_changes_are_its_own(self) -> None:
        there = Shop.objects.create(name="There")
        ines = person(there, "ines")
        open_job(ines)
        self.complaint()
        self.assertEqual(len(promises.rail(ines, self.now).hanging), 1)
        self.assertEqual(len(promises.rail(self.bram, self.now).hanging), 5)


@override_settings(FELLOE_PLAYS_ASIDE=True)
class Aside(KeptCase):
    """A worker plays; meanwhile what was played is answered, and nothing is guessed."""

    def tearDown(self) -> None:
        # The worker's table is not emptied between tests, and its next worker would look for this shop.
        with connection.cursor() as cursor:
            cursor.execute("DELETE FROM procrastinate_jobs WHERE queue_name = 'play'")

    def chance(self, job: Job, later_s: int = 0) -> float | None:
        rail = promises.rail(self.bram, self.now + timedelta(seconds=later_s))
        return next(h.chance for h in rail.hanging if h.job.id == job.pk)

    def waiting(self) -> int:
        return ProcrastinateJob.objects.filter(status="todo", queueing_lock=f"play/{self.shop.pk}").count()

    def test_the_queue_is_played_by_the_worker_once(self) -> None:
        self.chance(self.job)
        first = ShopPlay.objects.get().fingerprint
        self.assertEqual(self.waiting(), 0, "the first time nobody can wait")
        for text in ("one", "two"):
            Job.objects.filter(pk=self.job.pk).update(complaint=text, version=7 + len(text))
            queue.change_job(self.bram, self.job.pk, self.fresh().version, {"complaint": text})
            self.chance(self.job)
            self.chance(self.job)
        self.assertEqual(self.waiting(), 1)
        self.assertEqual(ShopPlay.objects.get().fingerprint, first)
        plays.play_aside(self.shop.pk, self.now + timedelta(seconds=5))
        self.assertNotEqual(ShopPlay.objects.get().fingerprint, first)
        self.chance(self.job, 6)
        self.assertEqual(self.waiting(), 1, "nothing new is asked for")

    def test_a_promise_given_since_has_the_chance_that_was_stated(self) -> None:
        self.chance(self.job)
        at = self.slot(4)
        queue.promise(self.bram, self.twin.pk, self.fresh(self.twin).version, at, 0.77, self.now)
        self.assertEqual(self.chance(self.twin), 0.77)
        # Of one that nobody played and nobody stated nothing is guessed: it is played for at once.
        Job.objects.filter(pk=self.twin.pk).update(promised_at=at + timedelta(hours=1), promise_chance=None)
        played = ShopPlay.objects.get().fingerprint
        self.assertIsNotNone(self.chance(self.twin))
        self.assertNotEqual(ShopPlay.objects.get().fingerprint, played)

    def test_without_a_worker_the_question_plays_after_a_while(self) -> None:
        self.chance(self.job)
        played = ShopPlay.objects.get().fingerprint
        queue.change_job(self.bram, self.job.pk, self.fresh().version, {"complaint": "x"})
        self.chance(self.job, 1)
        self.assertEqual(ShopPlay.objects.get().fingerprint, played)
        self.chance(self.job, 60)
        self.assertNotEqual(ShopPlay.objects.get().fingerprint, played)
