"""The seams: whose answer it is, in whose name a write comes, what a lost cookie and a fault say, and who waits for whom."""

from __future__ import annotations

from typing import Any
from unittest import mock

from django.test import TransactionTestCase
from rest_framework.test import APIClient

from felloe.accounts.models import Shop
from felloe.bench.models import Reading, ReadingSet
from felloe.queue.models import Job, Photo
from felloe.records.models import SignOff
from felloe.repair.models import Decision
from felloe.repair.services import decisions
from felloe.stock import services as stock
from felloe.stock.models import Movement
from tests.api.shop import PRICES, BenchCase, ShopCase, open_job, person
from tests.api.test_concurrency import at_once
from tests.api.test_stock import SPOKE


class WhoseAnswer(ShopCase):
    def test_every_answer_of_the_api_is_signed_and_no_page_is(self) -> None:
        for path in ("session", "rail", "nothing-here"):
            self.assertEqual(self.get(path)["X-Felloe"], "1")
        self.assertNotIn("X-Felloe", self.client.get("/"))

    def test_a_fault_of_felloes_own_is_a_problem_document(self) -> None:
        self.client.raise_request_exception = False
        with mock.patch("felloe.promises.services.own_and_shared", side_effect=RuntimeError("broken")):
            answer = self.get("rail")
        self.assertProblem(answer, 500, "server_fault")
        self.assertEqual(answer["X-Felloe"], "1")

    def test_a_write_without_its_cookie_is_told_so_and_asking_who_is_signed_in_brings_it_back(self) -> None:
        strict = APIClient(enforce_csrf_checks=True)
        strict.force_login(self.bram)
        body = {"force_unit": "kgf"}
        self.assertProblem(strict.patch("/api/v1/session", body, format="json"), 403, "csrf_failed")
        strict.get("/api/v1/session")
        token = strict.cookies["csrftoken"].value
        self.assertEqual(strict.patch("/api/v1/session", body, format="json", HTTP_X_CSRFTOKEN=token).status_code, 200)
        anonymous = APIClient(enforce_csrf_checks=True)
        sign_in = {"username": "bram", "password": "a long password", "shop": self.shop.code}
        self.assertProblem(anonymous.post("/api/v1/session", sign_in, format="json"), 403, "csrf_failed")


class InWhoseName(BenchCase):
    def test_nothing_is_written_for_one_person_by_the_session_of_another(self) -> None:
        body = {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"}
        path = f"/api/v1/reading-sets/{self.set}/readings"
        ines = self.speak_for(self.ines)
        answer = ines.post(path, body, format="json", HTTP_X_FELLOE_PERSON=str(self.bram.pk))
        self.assertProblem(answer, 403, "other_person")
        self.assertIn("Ines", answer.json()["detail"])
        self.assertEqual(Reading.objects.count(), 0)
        mine = ines.post(path, body, format="json", HTTP_X_FELLOE_PERSON=str(self.ines.pk))
        self.assertEqual(mine.status_code, 201)

    def test_a_key_used_up_says_what_became_of_the_first(self) -> None:
        body = {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"}
        path = f"reading-sets/{self.set}/readings"
        first = self.post(path, body, key="press")
        again = self.post(path, {**body, "value": 950}, key="press")
        self.assertProblem(again, 409, "write_key_reused")
        self.assertEqual(again.json()["saved"]["id"], first.json()["id"])
        self.assertEqual(Reading.objects.count(), 1)

    def test_a_photo_sent_twice_under_one_key_is_kept_once(self) -> None:
        import io

        from PIL import Image

        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "grey").save(picture, "JPEG")
        for _ in range(2):
            answer = self.client.post(
                f"/api/v1/jobs/{self.job.pk}/photos",
                picture.getvalue(),
                content_type="image/jpeg",
                HTTP_IDEMPOTENCY_KEY="photo",
            )
            self.assertEqual(answer.status_code, 201)
        self.assertEqual(Photo.objects.count(), 1)


class Deciding(BenchCase):
    def test_what_changed_while_it_was_worked_out_is_not_decided_on(self) -> None:
        self.read_all()
        body = {"outcome": "approved", "chosen": ["true"], "by_whom": "Wen Loveday", "how": "counter"}
        before = decisions.case_of

        def meanwhile(user: Any, job: Any) -> Any:
            found = before(user, job)
            self.read("lateral", "R9", 3.0)
            return found

        with mock.patch.object(decisions, "case_of", meanwhile):
            answer = self.post(f"jobs/{self.job.pk}/decisions", body)
        self.assertProblem(answer, 409, "options_changed")
        self.assertEqual(Decision.objects.count(), 0)
        self.assertEqual(self.post(f"jobs/{self.job.pk}/decisions", body).status_code, 201)


class WhoWaitsForWhom(TransactionTestCase):
    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here", prices_minor=PRICES)
        self.bram = person(self.shop, "bram")

    def client_of(self) -> APIClient:
        client = APIClient()
        client.force_login(self.bram)
        return client

    def call(self, path: str, body: Any) -> Any:
        return self.client_of().post(f"/api/v1/{path}", body, format="json")

    def measured(self) -> tuple[Job, ReadingSet]:
        job = open_job(self.bram)
        made = self.call(f"jobs/{job.pk}/reading-sets", {"stage": "as_left"}).json()["id"]
        self.call(f"reading-sets/{made}/readings", {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"})
        self.call(
            f"jobs/{job.pk}/decisions",
            {"outcome": "approved", "chosen": ["true"], "by_whom": "Invented Customer", "how": "counter"},
        )
        for step in self.client_of().get(f"/api/v1/jobs/{job.pk}/refit").json()["steps"]:
            self.call(f"jobs/{job.pk}/refit", {"step": step["key"], "result": "right"})
        return job, ReadingSet.objects.get(pk=made)

    def test_a_reading_and_a_sign_off_at_once_never_leave_a_reading_that_was_overlooked(self) -> None:
        for round_ in range(4):
            job, made = self.measured()
            reading = {"kind": "tension", "spoke": "R2", "value": 900 + round_, "unit": "N"}
            at_once(
                [
                    lambda made=made, reading=reading: self.call(f"reading-sets/{made.pk}/readings", reading),
                    lambda job=job: self.call(f"jobs/{job.pk}/sign-off", {"version": 1, "reason": "only looked at"}),
                ]
            )
            signed = SignOff.objects.get(job=job)
            counted = signed.figures["as_left"]
            self.assertIsNotNone(counted)
            later = Reading.objects.filter(reading_set=made, created_at__gt=signed.created_at).exists()
            back = self.call(f"jobs/{job.pk}/hand-back", {"version": 1, "note": ""})
            self.assertEqual(back.status_code, 409 if later else 200, back.content)

    def test_reserving_and_handing_back_at_once_leave_no_claim_of_a_wheel_that_is_gone(self) -> None:
        part = stock.add_part(self.bram, SPOKE)
        stock.count_bin(self.bram, part.pk, 50)
        for _ in range(4):
            job, _made = self.measured()
            self.call(f"jobs/{job.pk}/sign-off", {"version": 1, "reason": "only looked at"})
            answers = at_once(
                [
                    lambda job=job: self.call(f"jobs/{job.pk}/hand-back", {"version": 1, "note": ""}).status_code,
                    *[
                        lambda job=job: (
                            self.call(
                                f"stock/parts/{part.pk}/movements", {"kind": "reserve", "job": str(job.pk), "count": 2}
                            ).status_code
                        )
                        for _ in range(3)
                    ],
                ]
            )
            self.assertEqual(answers[0], 200)
            self.assertTrue(set(answers[1:]) <= {200, 201, 409}, answers)
            self.assertEqual(stock.figures_of(part).claim_of(str(job.pk)), 0)
        self.assertTrue(Movement.objects.filter(kind="release").count() <= Movement.objects.filter(kind="reserve").count())
