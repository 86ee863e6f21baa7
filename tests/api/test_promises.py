"""Promises over HTTP: dates with their chance, never for closed doors, and what one does to the others."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone

from felloe.calendar import services as calendar
from felloe.core.promise.dates import odds
from felloe.promises import services as promises
from felloe.promises.models import ShopPlay
from felloe.queue import services as queue
from felloe.queue.models import Job, JobEvent, ShopPace, StageTime, WorkSpan
from felloe.queue.services.pace import relearn
from tests.api.shop import ShopCase, job_values, open_job, person


class PromiseCase(ShopCase):
    def slot(self, days: float) -> datetime:
        """An open hour so many days ahead."""
        return next(calendar.shop_calendar(self.shop).slots(timezone.now() + timedelta(days=days)))

    def shut(self, days: float) -> datetime:
        """Three in the morning."""
        return datetime.combine(self.slot(days).date(), time(3), calendar.shop_calendar(self.shop).zone)

    def give(self, job: Job, at: datetime | None, version: int | None = None) -> Any:
        body = {"version": version or Job.objects.get(pk=job.pk).version, "promised_at": at.isoformat() if at else None}
        return self.post(f"jobs/{job.pk}/promise", body)


class Offers(PromiseCase):
    def test_two_dates_in_opening_hours_the_surer_later(self) -> None:
        for _ in range(5):
            open_job(self.bram)
        found = self.post("offers", {"tier": "sound", "spokes": 32}).json()
        shop, sure = found["offers"]
        self.assertEqual((shop["key"], sure["key"]), ("shop", "sure"))
        self.assertGreaterEqual(shop["chance"], 0.8)
        self.assertGreaterEqual(sure["chance"], 0.95)
        open_hours = calendar.shop_calendar(self.shop)
        for offer in found["offers"]:
            at = datetime.fromisoformat(offer["at"])
            self.assertTrue(open_hours.is_open(at))
            self.assertGreater(at, timezone.now())
            self.assertEqual(offer["odds"], odds(offer["chance"]))
        self.assertLess(shop["at"], sure["at"])
        self.assertEqual(Job.objects.count(), 5)

    def test_a_wanted_time_is_answered_with_what_it_does(self) -> None:
        wanted = self.slot(3)
        found = self.post("offers", {"tier": "sound", "wanted_at": wanted.isoformat()}).json()
        self.assertEqual(found["offers"][0]["key"], "wanted")
        self.assertEqual(datetime.fromisoformat(found["offers"][0]["at"]), wanted)
        # Wanted for closed doors or for yesterday: only what can be promised is offered.
        for bad in (self.shut(3), timezone.now() - timedelta(days=1)):
            found = self.post("offers", {"tier": "sound", "wanted_at": bad.isoformat()}).json()
            self.assertEqual([o["key"] for o in found["offers"]], ["shop", "sure"])

    def test_a_shop_without_a_bench_offers_nothing_and_says_the_work(self) -> None:
        for who in (self.bram, self.ines):
            who.role = "desk"
            who.save()
        found = self.post("offers", {"tier": "sound"}).json()
        self.assertEqual(found["offers"], [])
        self.assertIn("min", found["estimate"])

    def test_more_work_in_front_is_a_later_date(self) -> None:
        first = self.post("offers", {"tier": "sound"}).json()["offers"][0]["at"]
        for _ in range(30):
            open_job(self.bram)
        self.assertLess(first, self.post("offers", {"tier": "sound"}).json()["offers"][0]["at"])


class Giving(PromiseCase):
    def test_with_its_chance_and_in_the_history(self) -> None:
        job = open_job(self.bram)
        at = self.slot(6)
        answer = self.give(job, at).json()
        self.assertEqual(datetime.fromisoformat(answer["promised_at"]), at)
        self.assertGreater(answer["promise_chance"], 0.9)
        self.give(job, self.slot(7))
        notes = [e.note for e in JobEvent.objects.filter(job=job, kind="promised").order_by("created_at")]
        self.assertIn("promised for", notes[0])
        self.assertIn("moved from", notes[1])

    def test_never_for_closed_doors_nor_for_the_past(self) -> None:
        job = open_job(self.bram)
        for at in (self.shut(2), timezone.now() - timedelta(hours=1), timezone.now() + timedelta(days=400)):
            with self.subTest(at):
                self.assertProblem(self.give(job, at), 422, "closed_then", "promised_at")
        self.assertIsNone(Job.objects.get(pk=job.pk).promised_at)
        # Nor by the way of taking in: nothing is left behind.
        answer = self.post("jobs", job_values(promised_at=self.shut(2).isoformat()))
        self.assertProblem(answer, 422, "closed_then", "promised_at")
        self.assertEqual(Job.objects.count(), 1)

    def test_a_holiday_is_closed(self) -> None:
        day = self.slot(4)
        zone = calendar.shop_calendar(self.shop).zone
        self.shop.refresh_from_db()
        closed = [{"day": day.astimezone(zone).date(), "name": "Fair"}]
        week = [{"weekday": d, "starts": time(9), "ends": time(17)} for d in range(7)]
        calendar.set_hours(self.bram, self.shop.version, {"time_zone": "UTC", "week": week, "closed_days": closed})
        self.assertProblem(self.give(open_job(self.bram), day), 422, "closed_then", "promised_at")

    def test_a_stale_promise_is_refused_and_none_is_taken_back(self) -> None:
        job = open_job(self.bram)
        self.give(job, self.slot(5))
        self.assertProblem(self.give(job, self.slot(6), version=1), 409, "stale_write")
        self.assertIsNone(self.give(job, None).json()["promised_at"])

    def test_a_job_of_another_shop(self) -> None:
        other = open_job(self.stranger)
        self.assertProblem(self.give(other, self.slot(5)), 404, "not_found")
        look = {"promised_at": self.slot(5).isoformat()}
        self.assertProblem(self.post(f"jobs/{other.pk}/promise/look", look), 404, "not_found")

    def test_a_look_says_who_pays(self) -> None:
        """One mechanic, a full day: to put the last first takes the chance of those before it."""
        self.ines.role = "desk"
        self.ines.save()
        jobs = [open_job(self.bram) for _ in range(8)]
        slots = [s for _, s in zip(range(60), calendar.shop_calendar(self.shop).slots(timezone.now()), strict=False)]
        for i, job in enumerate(jobs):
            Job.objects.filter(pk=job.pk).update(promised_at=slots[2 + 2 * i])
        found = self.post(f"jobs/{jobs[-1].pk}/promise/look", {"promised_at": slots[2].isoformat()}).json()
        self.assertTrue(found["effects"])
        self.assertNotIn(str(jobs[-1].pk), {e["job"] for e in found["effects"]})
        self.assertEqual(Job.objects.get(pk=jobs[-1].pk).promised_at, slots[16])

    def test_a_ready_wheel_is_not_promised_by_a_play(self) -> None:
        job = open_job(self.bram)
        Job.objects.filter(pk=job.pk).update(stage="hand_back", ready_at=timezone.now())
        self.assertProblem(
            self.post(f"jobs/{job.pk}/promise/look", {"promised_at": self.slot(2).isoformat()}), 409, "nothing_to_do"
        )


class RailOfDays(PromiseCase):
    def test_danger_is_a_chance_below_the_shops_line(self) -> None:
        job = open_job(self.bram, promised_at=self.slot(8))
        hanging = self.get("rail").json()["hanging"][0]
        self.assertEqual(hanging["level"], "fine")
        self.assertGreater(hanging["chance"], 0.9)
        Job.objects.filter(pk=job.pk).update(waiting_on="parts", waits_since=timezone.now(), version=2)
        Job.objects.filter(pk=job.pk).update(promised_at=self.slot(0.1))
        self.assertEqual(self.get("rail").json()["hanging"][0]["level"], "danger")

    def test_ready_hangs_apart_and_is_no_work(self) -> None:
        job = open_job(self.bram, promised_at=self.slot(3))
        Job.objects.filter(pk=job.pk).update(stage="hand_back", ready_at=timezone.now() - timedelta(days=2))
        rail = self.get("rail").json()
        self.assertEqual((rail["hanging"], rail["next_job_id"]), ([], None))
        self.assertEqual(rail["ready"][0]["level"], "ready")
        self.assertIn("2 days", rail["ready"][0]["why"])

    def test_days_hold_bench_hours_and_work(self) -> None:
        open_job(self.bram, promised_at=self.slot(4))
        days = self.get("rail").json()["days"]
        zone = calendar.shop_calendar(self.shop).zone
        due = self.slot(4).astimezone(zone).date().isoformat()
        on = {d["day"]: d for d in days}
        self.assertGreater(on[due]["work_min"], 60)
        # Two mechanics, whole days of eight hours, less what goes to other things.
        full = [d for d in days[1:] if datetime.fromisoformat(d["day"]).weekday() < 5]
        self.assertTrue(full)
        self.assertTrue(all(abs(d["bench_min"] - 2 * 480 * 0.85) <= 1 for d in full))

    def test_who_is_away_takes_his_hours_with_him(self) -> None:
        open_job(self.bram, promised_at=self.slot(6))
        before = {d["day"]: d["bench_min"] for d in self.get("rail").json()["days"]}
        day = next(d for d in list(before)[1:] if datetime.fromisoformat(d).weekday() < 5)
        answer = self.post(f"staff/{self.ines.pk}/absences", {"first_day": day, "last_day": day, "why": "ill"})
        self.assertEqual(answer.status_code, 201, answer.content)
        after = {d["day"]: d["bench_min"] for d in self.get("rail").json()["days"]}
        self.assertAlmostEqual(after[day], before[day] / 2, delta=1)
        self.post(f"absences/{answer.json()['absences'][0]['id']}/end", {})
        self.assertEqual({d["day"]: d["bench_min"] for d in self.get("rail").json()["days"]}[day], before[day])

    def test_the_desks_list_and_a_call_that_was_made(self) -> None:
        late = open_job(self.bram, promised_at=timezone.now() - timedelta(hours=3))
        unpromised = open_job(self.bram)
        desk = self.get("rail").json()["desk"]
        self.assertEqual([(t["kind"], t["number"]) for t in desk], [("call", late.number), ("promise", unpromised.number)])
        told = self.post(f"jobs/{late.pk}/told", {"about": "call", "note": "Friday is fine too"})
        self.assertEqual(told.status_code, 204)
        self.assertEqual([t["kind"] for t in self.get("rail").json()["desk"]], ["promise"])
        self.assertEqual(JobEvent.objects.filter(job=late, kind="told_call").count(), 1)

    def test_chances_are_played_again_once_anything_changed(self) -> None:
        job = open_job(self.bram, promised_at=self.slot(3))
        self.get("rail")
        first = ShopPlay.objects.get(shop=self.shop)
        self.get("rail")
        self.assertEqual(ShopPlay.objects.get(shop=self.shop).played_at, first.played_at)
        self.patch(f"jobs/{job.pk}", {"version": job.version, "tier": "race"})
        self.get("rail")
        self.assertGreater(ShopPlay.objects.get(shop=self.shop).played_at, first.played_at)


class Clock(PromiseCase):
    def test_up_and_down_in_one_tap_each(self) -> None:
        job = open_job(self.bram)
        found = self.post(f"jobs/{job.pk}/take-up", {}).json()
        self.assertTrue(found["mine"])
        self.assertEqual(found["in_hand"]["person"], "Bram")
        self.assertEqual(self.get("rail").json()["mine"], str(job.pk))
        found = self.post(f"jobs/{job.pk}/put-down", {"note": "R5 is seized, oiled"}).json()
        self.assertEqual((found["in_hand"], found["note"], found["note_by"]), (None, "R5 is seized, oiled", "Bram"))
        self.assertProblem(self.post(f"jobs/{job.pk}/put-down", {}), 409, "not_in_hand")

    def test_taking_up_another_puts_the_first_down(self) -> None:
        first, second = open_job(self.bram), open_job(self.bram)
        for job in (first, second, second):
            self.post(f"jobs/{job.pk}/take-up", {})
        self.assertEqual(list(WorkSpan.objects.filter(ended_at=None).values_list("job", flat=True)), [second.pk])
        self.assertEqual(WorkSpan.objects.count(), 2)

    def test_a_wheel_in_a_colleagues_hands_is_handed_over_not_taken(self) -> None:
        job = open_job(self.bram)
        self.post(f"jobs/{job.pk}/take-up", {})
        hers = self.speak_for(self.ines)
        self.assertProblem(self.post(f"jobs/{job.pk}/take-up", {}, client=hers), 409, "in_hand")
        desk = person(self.shop, "pip", "desk")
        self.assertProblem(self.post(f"jobs/{job.pk}/put-down", {"to": str(desk.pk)}), 422, "unknown_person")
        self.post(f"jobs/{job.pk}/put-down", {"to": str(self.ines.pk), "note": "True it to the end"})
        self.assertEqual(Job.objects.get(pk=job.pk).assigned_to, self.ines)
        self.assertEqual(self.post(f"jobs/{job.pk}/take-up", {}, client=hers).status_code, 200)

    def test_who_ends_anothers_work_writes_in_his_own_name(self) -> None:
        job = open_job(self.bram)
        queue.take_up(self.bram, job.pk)
        found = self.post(f"jobs/{job.pk}/put-down", {"note": "He was called away"}, client=self.speak_for(self.ines)).json()
        self.assertEqual((found["note"], found["note_by"]), ("He was called away", "Ines"))

    def test_the_wheels_of_one_who_has_left_are_anybodys(self) -> None:
        job = open_job(self.bram, assigned_to=self.ines.pk)
        self.assertIsNone(self.get("rail").json()["next_job_id"])
        self.ines.is_active = False
        self.ines.save()
        self.assertEqual(self.get("rail").json()["next_job_id"], str(job.pk))

    def test_two_at_once_are_impossible_in_the_database(self) -> None:
        job, other = open_job(self.bram), open_job(self.bram)
        queue.take_up(self.bram, job.pk)
        now = timezone.now()
        row = {"shop": self.shop, "stage": "true", "started_at": now, "last_deed_at": now}
        for wrong in ({"job": other, "person": self.bram}, {"job": job, "person": self.ines}):
            with self.assertRaises(IntegrityError), transaction.atomic():
                WorkSpan.objects.create(**row, **wrong)

    def test_what_is_done_anyhow_runs_the_clock(self) -> None:
        job = open_job(self.bram)
        self.post(f"jobs/{job.pk}/marks", {"kind": "dent", "spoke": "R4", "measure_mm": 1.0})
        span = WorkSpan.objects.get()
        self.assertEqual((span.job, span.person, span.ended_at), (job, self.bram, None))
        # A look at a colleague's wheel, a call about another one: neither moves a clock.
        other = open_job(self.bram)
        self.post(f"jobs/{other.pk}/marks", {"kind": "dent", "spoke": "R4", "measure_mm": 1.0})
        self.patch(f"jobs/{other.pk}", {"version": other.version, "tier": "fine"})
        self.assertEqual(WorkSpan.objects.count(), 1)

    def test_leaving_a_stage_keeps_what_it_took_beside_the_estimate(self) -> None:
        job = open_job(self.bram)
        queue.take_up(self.bram, job.pk)
        WorkSpan.objects.update(started_at=timezone.now() - timedelta(minutes=12))
        self.post(f"jobs/{job.pk}/stage", {"version": Job.objects.get(pk=job.pk).version, "to_stage": "check_on_bike"})
        taken = StageTime.objects.get()
        self.assertEqual((taken.stage, taken.usual_min, taken.counts), ("take_in", 5, True))
        self.assertAlmostEqual(taken.taken_min, 12, delta=0.5)
        self.assertEqual(WorkSpan.objects.get(ended_at=None).stage, "check_on_bike")

    def test_a_forgotten_clock_is_asked_about_and_teaches_nothing(self) -> None:
        job = open_job(self.bram)
        queue.take_up(self.bram, job.pk)
        begun = timezone.now() - timedelta(days=2)
        WorkSpan.objects.update(started_at=begun, last_deed_at=begun + timedelta(minutes=10))
        found = self.get(f"jobs/{job.pk}/work").json()
        self.assertTrue(found["forgotten"])
        self.assertLess(datetime.fromisoformat(found["believed_until"]), begun + timedelta(hours=2))
        before = {"stopped_at": (begun - timedelta(hours=1)).isoformat()}
        self.assertProblem(self.post(f"jobs/{job.pk}/put-down", before), 422, "bad_time", "stopped_at")
        stopped = begun + timedelta(minutes=25)
        self.assertEqual(self.post(f"jobs/{job.pk}/put-down", {"stopped_at": stopped.isoformat()}).status_code, 200)
        span = WorkSpan.objects.get()
        self.assertEqual((span.ended, span.believed_at), ("forgotten", stopped))
        self.post(f"jobs/{job.pk}/stage", {"version": Job.objects.get(pk=job.pk).version, "to_stage": "check_on_bike"})
        self.assertFalse(StageTime.objects.filter(counts=True).exists())

    def test_a_shop_learns_its_own_pace(self) -> None:
        job = open_job(self.bram)
        usual = promises.work_of(self.bram, job.pk).left_min
        StageTime.objects.bulk_create(
            StageTime(shop=self.shop, job=job, stage="true", tier="sound", taken_min=60, usual_min=30, estimated_min=30)
            for _ in range(40)
        )
        relearn(self.shop.pk, timezone.now())
        slower = promises.work_of(self.bram, job.pk).left_min
        self.assertAlmostEqual(slower - usual, 30, delta=8)
        # The same minutes stand in the quote.
        option = next(o for o in self.get(f"jobs/{job.pk}/options").json()["options"] if o["key"] == "true")
        self.assertAlmostEqual(option["minutes"], 2 * 30 * 36 / 32, delta=6)
        # And in nobody else's shop.
        theirs = open_job(self.stranger)
        self.assertAlmostEqual(promises.work_of(self.stranger, theirs.pk).left_min, usual, delta=1)

    def test_a_shop_learns_its_waits_from_the_same_jobs_as_its_pace(self) -> None:
        """Old waits of jobs whose stages are no longer counted say nothing of how often a job waits."""
        now = timezone.now()
        timed, older = open_job(self.bram), [open_job(self.bram) for _ in range(30)]
        StageTime.objects.create(
            shop=self.shop, job=timed, stage="true", tier="sound", taken_min=30, usual_min=30, estimated_min=30
        )
        for job in older:
            job.waits.create(shop=self.shop, on="parts", since=now - timedelta(hours=90), until=now)
        relearn(self.shop.pk, now)
        self.assertLess(ShopPace.objects.get().waits["parts"]["chance"], 0.15)

    def test_spokes_that_were_replaced_are_counted_in_what_was_usual(self) -> None:
        job = open_job(self.bram)
        Job.objects.filter(pk=job.pk).update(stage="strip_lace")
        queue.take_up(self.bram, job.pk)
        for spoke in ("R2", "R4", "R6", "R8"):
            marks = self.post(f"jobs/{job.pk}/marks", {"kind": "spoke_broken", "spoke": spoke}).json()["marks"]
        decided = {"outcome": "approved", "chosen": ["replace"], "how": "counter", "by_whom": "Maud", "warning": "not to ride"}
        self.assertEqual(self.post(f"jobs/{job.pk}/decisions", decided).status_code, 201)
        for mark in marks:
            self.post(f"jobs/{job.pk}/marks/{mark['id']}/end", {"how": "mended", "note": "new spoke"})
        WorkSpan.objects.update(started_at=timezone.now() - timedelta(minutes=38))
        self.post(f"jobs/{job.pk}/stage", {"version": Job.objects.get(pk=job.pk).version, "to_stage": "true"})
        self.assertAlmostEqual(StageTime.objects.get(stage="strip_lace").usual_min, 8 + 4 * 6 + 6)

    def test_a_day_that_was_named_is_taken_back(self) -> None:
        job = open_job(self.bram)
        named = self.patch(f"jobs/{job.pk}", {"version": 1, "waiting_on": "parts", "expected_on": "2099-01-05"}).json()
        self.assertEqual(named["expected_on"], "2099-01-05")
        kept = self.patch(f"jobs/{job.pk}", {"version": named["version"], "waiting_on": "parts"}).json()
        self.assertEqual(kept["expected_on"], "2099-01-05")
        cleared = self.patch(f"jobs/{job.pk}", {"version": kept["version"], "expected_on": None}).json()
        self.assertIsNone(cleared["expected_on"])

    def test_waits_are_kept_with_their_length(self) -> None:
        job = open_job(self.bram)
        version = job.version
        for on in ("customer", "parts", ""):
            version = self.patch(f"jobs/{job.pk}", {"version": version, "waiting_on": on}).json()["version"]
        self.assertEqual(
            [(w.on, w.until is not None) for w in job.waits.order_by("since")], [("customer", True), ("parts", True)]
        )
        self.assertIsNone(Job.objects.get(pk=job.pk).waits_since)
