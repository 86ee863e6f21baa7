"""Every end of a job by the API: who may, what stands against it, what is kept, and taking a job up again."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.db import IntegrityError, transaction
from django.utils import timezone

from felloe.accounts.models import Shop
from felloe.queue.models import Job
from felloe.queue.services import quiet_days
from felloe.repair.services import refit
from tests.api.shop import open_job, person
from tests.api.test_repair import RepairCase

REFUSED = {"outcome": "refused", "chosen": [], "by_whom": "Invented Customer", "how": "counter"}


class EndsCase(RepairCase):
    def setUp(self) -> None:
        super().setUp()
        self.desk = self.speak_for(person(self.shop, "pip", "desk"))

    def end(self, end: str, reason: str = "the customer telephoned", client: Any = None, job: Job | None = None) -> Any:
        job = Job.objects.get(pk=(job or self.job).pk)
        body = {"version": job.version, "end": end, "reason": reason}
        return self.post(f"jobs/{job.pk}/ends", body, client=client)

    def ways(self) -> dict[str, dict[str, Any]]:
        return {way["key"]: way for way in self.get(self.url("ends")).json()}

    def found(self, cause: str) -> None:
        made = self.post(self.url("diagnosis/findings"), {"cause": cause, "reason": "seen at once on the stand"})
        self.assertIn(made.status_code, (200, 201), made.content)

    def refit_all(self) -> None:
        for step in refit.refit_of(self.bram, self.job.pk).steps:
            refit.answer_step(self.bram, self.job.pk, step.key, "right", "")

    def reopen(self, reason: str = "it rubs again", client: Any = None) -> Any:
        return self.post(self.url("reopen"), {"version": self.version(), "reason": reason}, client=client)


class Ends(EndsCase):
    def test_no_fault_of_the_wheel_ends_without_a_reading(self) -> None:
        self.assertProblem(self.end("no_fault"), 422, "cannot_end", "end")
        self.found("brake_off_centre")
        self.assertTrue(self.ways()["no_fault"]["proposed"])
        # The bike is ridden away: its steps are answered first.
        self.assertProblem(self.end("no_fault"), 422, "cannot_end", "end")
        self.refit_all()
        ended = self.end("no_fault", "brake centred, spins free").json()
        self.assertEqual((ended["stage"], ended["ended_as"]), ("done", "no_fault"))
        last = ended["events"][-1]
        self.assertEqual(last["kind"], "ended")
        self.assertIn("What we found: brake off-centre. brake centred, spins free", last["note"])
        self.assertEqual(self.ways(), {})

    def test_an_unsafe_cause_elsewhere_is_put_right_first(self) -> None:
        self.found("clamp_loose")
        self.refit_all()
        self.assertProblem(self.end("no_fault"), 422, "cannot_end", "end")
        self.post(self.url("mended"), {"note": "torqued to the figure"})
        ended = self.end("no_fault", "clamped to the maker's figure")
        self.assertEqual(ended.json()["ended_as"], "no_fault")

    def test_a_refused_repair_ends_as_declined_and_only_with_its_warning(self) -> None:
        self.assertProblem(self.end("declined"), 422, "cannot_end", "end")
        self.post(self.url("decisions"), REFUSED)
        self.mark("crack", "R7")
        self.assertProblem(self.end("declined"), 422, "cannot_end", "end")
        self.post(self.url("decisions"), {**REFUSED, "warning": "It may break under you."})
        self.assertProblem(self.end("declined", client=self.desk), 403, "not_permitted")
        ended = self.end("declined").json()
        self.assertTrue(ended["events"][-1]["note"].startswith("NOT TO BE RIDDEN. Repair declined."))

    def test_the_desk_ends_what_was_declined_or_cancelled_untouched(self) -> None:
        self.post(self.url("decisions"), REFUSED)
        self.assertEqual(self.end("declined", client=self.desk).json()["ended_as"], "declined")
        other = open_job(self.bram, complaint="creaks")
        self.assertEqual(self.end("cancelled", client=self.desk, job=other).json()["ended_as"], "cancelled")
        third = open_job(self.bram, complaint="creaks")
        self.assertProblem(self.end("beyond_repair", client=self.desk, job=third), 403, "not_permitted")
        wyn = self.speak_for(person(self.shop, "wyn", "apprentice"))
        self.assertProblem(self.end("cancelled", client=wyn, job=third), 403, "not_permitted")

    def test_a_wheel_worked_on_is_neither_cancelled_nor_no_fault(self) -> None:
        self.set = self.open_set("as_found")
        self.read_all(lump_mm=0.9)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        self.client.put(f"/api/v1/plans/{plan['id']}/moves/{plan['moves'][0]['spoke']}", {"state": "done"}, format="json")
        self.assertProblem(self.end("cancelled"), 422, "cannot_end", "end")
        self.post(self.url("decisions"), REFUSED)
        self.assertProblem(self.end("declined"), 403, "not_permitted")
        self.assertTrue(self.end("declined", client=self.owner).json()["events"][-1]["note"].startswith("NOT TO BE RIDDEN."))

    def test_beyond_repair_leaves_with_its_label(self) -> None:
        ended = self.end("beyond_repair", "rim cracked at four holes").json()
        self.assertIn("NOT TO BE RIDDEN. Beyond repair.", ended["events"][-1]["note"])
        self.assertEqual(ended["left_with"], "unsafe")

    def test_what_the_signed_reason_answered_for_is_seen_afterwards(self) -> None:
        self.set = self.open_set("as_left")
        self.read_all(lump_mm=0.8)
        signed = self.post(self.url("sign-off"), {"version": self.version(), "reason": "customer takes it as it is"})
        self.assertEqual(signed.status_code, 201, signed.content)
        self.agree_and_refit(self.job)
        self.assertEqual(self.back().json()["left_with"], "short")
        again = self.reopen("wants it straight after all").json()
        self.assertEqual(again["left_with"], "")

    def test_not_fetched_waits_for_the_shop_s_rule(self) -> None:
        self.assertProblem(self.end("not_fetched", client=self.owner), 422, "cannot_end", "end")
        refused = self.put("shop/rules", {"unfetched_days": 3, "reopen_days": 30}, self.owner)
        self.assertEqual(refused.status_code, 400, refused.content)
        self.assertEqual(self.put("shop/rules", {"unfetched_days": 20, "reopen_days": 7}, self.client).status_code, 403)
        self.assertEqual(self.put("shop/rules", {"unfetched_days": 20, "reopen_days": 7}, self.owner).status_code, 200)
        job = Job.objects.get(pk=self.job.pk)
        for days in (0, 19, 21):
            self.assertEqual(quiet_days(job, timezone.now() + timedelta(days=days, minutes=1)), days)
        with patch("felloe.records.services.ending.queue.quiet_days", return_value=19):
            self.assertProblem(self.end("not_fetched", client=self.owner), 422, "cannot_end", "end")
        with patch("felloe.records.services.ending.queue.quiet_days", return_value=21):
            self.assertProblem(self.end("not_fetched"), 403, "not_permitted")
            ended = self.end("not_fetched", "three letters unanswered", client=self.owner)
        self.assertEqual(ended.json()["ended_as"], "not_fetched")

    def test_a_reason_in_words_and_the_newest_version(self) -> None:
        self.assertProblem(self.end("cancelled", "x"), 422, "says_nothing", "reason")
        stale = self.post(self.url("ends"), {"version": 99, "end": "cancelled", "reason": "customer telephoned"})
        self.assertEqual(stale.status_code, 409)
        self.assertEqual(Job.objects.get(pk=self.job.pk).stage, "take_in")

    def test_an_ended_job_takes_no_work(self) -> None:
        self.end("cancelled")
        self.assertProblem(self.end("cancelled"), 409, "job_done")
        self.assertProblem(self.post(self.url("marks"), {"kind": "crack", "spoke": "R1"}), 409, "job_done")

    def test_the_database_knows_no_end_without_a_name(self) -> None:
        for change in ({"ended_as": "repaired"}, {"stage": "done", "handed_back_at": timezone.now()}):
            with self.subTest(change), self.assertRaises(IntegrityError), transaction.atomic():
                Job.objects.filter(pk=self.job.pk).update(**change)
        with self.assertRaises(IntegrityError), transaction.atomic():
            Job.objects.filter(pk=self.job.pk).update(left_with="unsafe")
        with self.assertRaises(IntegrityError), transaction.atomic():
            Shop.objects.filter(pk=self.shop.pk).update(unfetched_days=1)

    def test_another_shop_sees_no_ends(self) -> None:
        stranger = self.speak_for(self.stranger)
        self.assertEqual(self.get(self.url("ends"), client=stranger).status_code, 404)
        self.assertEqual(self.end("cancelled", client=stranger).status_code, 404)
        self.assertEqual(self.reopen(client=stranger).status_code, 404)


class Reopening(EndsCase):
    def test_a_cancelled_job_comes_back_where_it_was(self) -> None:
        self.post(self.url("stage"), {"version": self.version(), "to_stage": "check_on_bike"})
        self.assertProblem(self.reopen(), 409, "job_open")
        self.end("cancelled")
        self.assertProblem(self.reopen("."), 422, "says_nothing", "reason")
        again = self.reopen("customer wants it after all").json()
        self.assertEqual((again["stage"], again["ended_as"], again["handed_back_at"]), ("check_on_bike", "", None))
        self.assertEqual(again["events"][-1]["kind"], "reopened")

    def test_only_within_the_shop_s_time(self) -> None:
        self.end("cancelled")
        Job.objects.filter(pk=self.job.pk).update(handed_back_at=timezone.now() - timedelta(days=31))
        self.assertProblem(self.reopen(), 422, "cannot_reopen", "reason")

    def test_not_beside_another_job_on_the_wheel(self) -> None:
        self.end("cancelled")
        second = open_job(self.bram, wheel_id=self.job.wheel_id, second=True)
        refused = self.reopen()
        self.assertProblem(refused, 422, "cannot_reopen", "reason")
        self.assertIn(str(second.number), refused.json()["detail"])

    def test_a_sign_off_and_a_refit_from_before_bind_no_longer(self) -> None:
        self.signed_off()
        self.agree_and_refit(self.job)
        self.assertEqual(self.back().status_code, 200)
        self.reopen("hop felt on the road")
        self.assertProblem(self.back(), 409, "sign_off_outdated")
        missing = [r["key"] for r in self.get(self.url("requirements")).json() if not r["met"]]
        self.assertEqual(missing, ["refit"])


class Moving(EndsCase):
    def move(self, to_stage: str, reason: str = "") -> Any:
        return self.post(self.url("stage"), {"version": self.version(), "to_stage": to_stage, "reason": reason})

    def test_no_hand_back_stage_by_twelve_clicks(self) -> None:
        for stage in ("check_on_bike", "check_off_bike", "identify", "as_found"):
            self.assertEqual(self.move(stage).status_code, 200)
        refused = self.move("decide")
        self.assertProblem(refused, 422, "stage_refused", "reason")
        self.assertIn("Measure as found", refused.json()["detail"])
        self.set = self.open_set("as_found")
        # The last of all readings takes the job on by itself.
        self.read_all()
        self.assertProblem(self.move("parts"), 422, "stage_refused", "reason")
        self.assertEqual(self.move("parts", "agreed at the counter before").status_code, 200)

    def test_what_was_agreed_and_left_undone_keeps_the_wheel(self) -> None:
        self.mark("spoke_kinked", "R4")
        agreed = self.post(
            self.url("decisions"), {**REFUSED, "outcome": "approved", "chosen": ["replace", "true"], "warning": "Told so."}
        )
        self.assertEqual(agreed.status_code, 201, agreed.content)
        self.set = self.open_set("as_left")
        self.read_all()
        found = {r["key"]: r for r in self.get(self.url("requirements")).json()}
        self.assertIn("R4 still to be replaced", found["agreed"]["missing"])
        self.assertFalse(found["agreed"]["met"])
        # Withdrawn in words: a newer decision without it.
        self.post(self.url("decisions"), {**REFUSED, "outcome": "approved", "chosen": ["true"], "warning": "Told so."})
        found = {r["key"]: r for r in self.get(self.url("requirements")).json()}
        self.assertTrue(found["agreed"]["met"])
