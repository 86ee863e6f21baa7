"""Jobs: opened whole or not at all, moved with reasons, changed without overwriting anybody."""

from datetime import timedelta
from typing import Any

from django.db import DatabaseError, connection, transaction
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from felloe.calendar.services import shop_calendar
from felloe.customers.models import Bike, Customer
from felloe.queue.models import Job, JobEvent
from felloe.wheels.models import Wheel
from tests.api.shop import BenchCase, ShopCase, job_values, open_job, specification


class Opening(ShopCase):
    def test_everything_new_in_one_go(self) -> None:
        at = next(shop_calendar(self.shop).slots(timezone.now() + timedelta(days=2)))
        response = self.post("jobs", job_values(promised_at=at.isoformat()))
        self.assertEqual(response.status_code, 201, response.content)
        job = response.json()
        self.assertEqual(job["number"], 101)
        self.assertEqual(job["stage"], "take_in")
        self.assertEqual(job["customer"]["name"], "Invented Customer")
        self.assertEqual(len(job["wheel"]["derived"]["spokes"]), 36)
        self.assertEqual([e["kind"] for e in job["events"]], ["opened", "promised"])

    def test_an_impossible_wheel_leaves_nothing_behind(self) -> None:
        values = job_values()
        values["wheel"]["specification"]["rim"]["erd_mm"] = 90
        self.assertProblem(self.post("jobs", values), 422, "impossible_geometry", "specification.rim.erd_mm")
        self.assertEqual(
            (Customer.objects.count(), Bike.objects.count(), Wheel.objects.count(), Job.objects.count()), (0, 0, 0, 0)
        )

    def test_what_is_missing_is_named(self) -> None:
        self.assertProblem(self.post("jobs", {"complaint": "rubs"}), 400, "invalid_input", "wheel")
        values = job_values()
        del values["customer"]
        self.assertProblem(self.post("jobs", values), 400, "invalid_input", "customer")
        self.assertProblem(self.post("jobs", job_values(complaint="")), 400, "invalid_input", "complaint")

    def test_a_wheel_seen_before_comes_back(self) -> None:
        first = open_job(self.bram)
        again = self.post("jobs", {"wheel_id": str(first.wheel_id), "complaint": "again", "second": True}).json()
        self.assertEqual(again["wheel"]["id"], str(first.wheel_id))
        self.assertEqual(Wheel.objects.count(), 1)

    def test_the_same_key_opens_one_job(self) -> None:
        one, two = (self.post("jobs", job_values(), key="k1") for _ in range(2))
        self.assertEqual(one.json()["id"], two.json()["id"])
        self.assertEqual(two["Idempotent-Replay"], "true")
        self.assertEqual(Job.objects.count(), 1)
        self.assertProblem(self.post("jobs", job_values(complaint="other"), key="k1"), 409, "write_key_reused")

    def test_a_failed_write_may_be_tried_again_with_its_key(self) -> None:
        bad = job_values(complaint="")
        self.assertEqual(self.post("jobs", bad, key="k2").status_code, 400)
        self.assertEqual(self.post("jobs", job_values(), key="k2").status_code, 201)


class Moving(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram)

    def move(self, to_stage: str, reason: str = "", version: int | None = None):
        self.job.refresh_from_db()
        body = {"version": version or self.job.version, "to_stage": to_stage, "reason": reason}
        return self.post(f"jobs/{self.job.pk}/stage", body)

    def test_forward_is_free_and_takes_the_job_in_hand(self) -> None:
        moved = self.move("check_on_bike").json()
        self.assertEqual(moved["stage"], "check_on_bike")
        self.assertEqual(moved["assigned_to"]["username"], "bram")

    def test_skipping_says_why(self) -> None:
        self.assertProblem(self.move("true"), 422, "stage_refused", "reason")
        self.assertEqual(self.move("true", "only a loose spoke").json()["stage"], "true")
        event = JobEvent.objects.filter(job=self.job, kind="stage").get()
        self.assertEqual((event.note, event.from_stage, event.created_by), ("only a loose spoke", "take_in", self.bram))

    def test_stale(self) -> None:
        self.move("check_on_bike")
        self.assertProblem(self.move("check_off_bike", version=1), 409, "stale_write")


class Changing(ShopCase):
    def test_two_people_one_job(self) -> None:
        job = open_job(self.bram)
        ines = self.speak_for(self.ines)
        self.assertEqual(self.patch(f"jobs/{job.pk}", {"version": 1, "tier": "fine"}, client=ines).status_code, 200)
        response = self.patch(f"jobs/{job.pk}", {"version": 1, "complaint": "hops", "tier": "sound"})
        self.assertProblem(response, 409, "stale_write")
        body = response.json()
        self.assertEqual(body["yours"]["complaint"], "hops")
        self.assertEqual(
            (body["current"]["tier"], body["current"]["version"], body["current"]["changed_by"]), ("fine", 2, "Ines")
        )
        job.refresh_from_db()
        self.assertEqual((job.complaint, job.tier), ("rubs", "fine"))
        again = self.patch(f"jobs/{job.pk}", {"version": 2, "complaint": "hops"})
        self.assertEqual((again.json()["complaint"], again.json()["version"]), ("hops", 3))

    def test_a_wheel_changed_by_two(self) -> None:
        job = open_job(self.bram)
        path = f"wheels/{job.wheel_id}"
        spec = specification()
        spec["rim"]["erd_mm"] = 604
        self.assertEqual(self.patch(path, {"version": 1, "specification": spec}).json()["specification"]["rim"]["erd_mm"], 604)
        self.assertProblem(self.patch(path, {"version": 1, "specification": specification()}), 409, "stale_write")

    def test_history_cannot_be_rewritten(self) -> None:
        open_job(self.bram)
        for statement in ("UPDATE queue_jobevent SET note = 'x'", "DELETE FROM queue_jobevent"):
            with self.subTest(statement), self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(statement)


class Rail(ShopCase):
    def test_order_next_and_danger(self) -> None:
        now = timezone.now()
        late = open_job(self.bram, promised_at=now - timedelta(hours=2))
        parts = open_job(self.bram, promised_at=now - timedelta(hours=5))
        self.patch(f"jobs/{parts.pk}", {"version": 1, "waiting_on": "parts"})
        hers = open_job(self.bram, promised_at=now - timedelta(hours=3), assigned_to=self.ines.pk)
        later = open_job(self.bram, promised_at=now + timedelta(days=6))
        open_job(self.bram)
        rail = self.get("rail").json()
        self.assertEqual(
            [h["job"]["number"] for h in rail["hanging"]], [parts.number, hers.number, late.number, later.number, 105]
        )
        self.assertEqual([h["level"] for h in rail["hanging"]], ["late", "late", "late", "fine", "none"])
        self.assertEqual(rail["next_job_id"], str(late.pk))
        self.assertEqual(self.get("rail", client=self.speak_for(self.ines)).json()["next_job_id"], str(hers.pk))

    def test_the_rail_asks_few_questions(self) -> None:
        """As many for two jobs as for eight, once the queue has been played."""

        def asked() -> int:
            self.get("rail")
            with CaptureQueriesContext(connection) as seen:
                self.get("rail")
            return len(seen)

        for _ in range(2):
            open_job(self.bram)
        few = asked()
        for _ in range(6):
            open_job(self.bram)
        self.assertEqual(asked(), few)


class Geometry(ShopCase):
    def test_what_follows(self) -> None:
        body = self.post("geometry", {"specification": specification()}).json()
        self.assertAlmostEqual(body["sides"]["R"]["spoke_length_mm"], 291.1)
        self.assertEqual(body["tight_side"], "R")
        self.assertTrue(body["tension_is_default"])

    def test_impossible_at_its_field(self) -> None:
        for path, value, field in (
            (("right", "crossings"), 4 + 1, "specification.right.crossings"),
            (("rim", "bead_seat_mm"), 600, "specification.rim.bead_seat_mm"),
            (("hub", "right", "center_to_flange_mm"), 90, "specification.hub.right.center_to_flange_mm"),
        ):
            spec = specification()
            node = spec
            for key in path[:-1]:
                node = node[key]
            node[path[-1]] = value
            with self.subTest(field):
                self.assertProblem(self.post("geometry", {"specification": spec}), 422, "impossible_geometry", field)
        spec = specification()
        spec["rim"]["erd_mm"] = "six hundred"
        self.assertProblem(self.post("geometry", {"specification": spec}), 400, "invalid_input", "specification.rim.erd_mm")

    def test_every_kind_on_offer_can_be_made(self) -> None:
        for kind in self.get("wheel-kinds").json():
            with self.subTest(kind["key"]):
                self.assertEqual(self.post("geometry", {"specification": kind["specification"]}).status_code, 200)


class NoWrongRecord(ShopCase):
    """Taking in makes no record that cannot be: the kind's end, and a wheel that already has an open job."""

    def test_a_kind_for_the_other_end_is_refused_and_nothing_is_made(self) -> None:
        body = job_values("disc-front-28")
        body["wheel"] = {**body["wheel"], "position": "rear"}
        self.assertProblem(self.post("jobs", body), 422, "wrong_kind", "wheel.kind")
        self.assertEqual((Job.objects.count(), Customer.objects.count()), (0, 0))

    def test_a_second_open_job_on_a_wheel_is_told_and_made_on_purpose_only(self) -> None:
        first = self.post("jobs", job_values()).json()
        again = {"wheel_id": first["wheel"]["id"], "complaint": "creaks"}
        told = self.post("jobs", again)
        self.assertProblem(told, 409, "already_open")
        self.assertEqual((told.json()["job"], told.json()["number"]), (first["id"], first["number"]))
        self.assertEqual(Job.objects.count(), 1)
        self.assertEqual(self.post("jobs", {**again, "second": True}).status_code, 201)

    def test_kinds_say_where_they_belong(self) -> None:
        kinds = {kind["key"]: kind for kind in self.get("wheel-kinds").json()}
        self.assertEqual((kinds["disc-front-28"]["position"], kinds["disc-front-28"]["brakes"]), ("front", ["disc"]))
        self.assertEqual(kinds["rear-24-two-to-one"]["position"], "rear")


class History(BenchCase):
    """Who changed what: as it was and as it is, and nothing that stayed."""

    def change(self, **values: Any) -> list[str]:
        before = {event.pk for event in JobEvent.objects.filter(job=self.job)}
        version = Job.objects.get(pk=self.job.pk).version
        self.assertEqual(self.patch(f"jobs/{self.job.pk}", {"version": version, **values}).status_code, 200)
        return [str(event.note) for event in JobEvent.objects.filter(job=self.job).exclude(pk__in=before)]

    def test_only_what_changed_is_named(self) -> None:
        whole = {
            "complaint": self.job.complaint, "tier": "sound", "wanted_at": None, "hook": None, "expected_on": None,
            "assigned_to": None, "waiting_on": "",
        }  # fmt: skip
        self.assertEqual(self.change(**whole), [], "a form that was saved as it stood changed nothing")
        self.assertEqual(Job.objects.get(pk=self.job.pk).version, self.job.version)
        self.assertEqual(self.change(**whole | {"complaint": "hops"}), [f"complaint: “{self.job.complaint}” → “hops”"])
        self.assertEqual(self.change(assigned_to=str(self.ines.pk)), ["who does it: nobody → Ines"])
        self.assertEqual(self.change(assigned_to=None), ["who does it: Ines → nobody"])
        self.assertEqual(
            self.change(tier="fine"), ["tier: sound (0.5 / 0.5 / 0.5 mm, ±20 %) → fine (0.3 / 0.3 / 0.3 mm, ±15 %)"]
        )
        self.assertEqual(
            self.change(waiting_on="parts", expected_on="2031-02-03"),
            ["what it waits for: nothing → Parts; when it is to come: none → 2031-02-03"],
        )
        self.assertEqual(self.change(load_kg=90, with_bike=False),
                         ["load: none → 90 kg; with or without the bike: the whole bike → the wheel alone"])  # fmt: skip
        wanted = self.change(wanted_at="2031-02-03T12:00:00Z")
        self.assertEqual(wanted, ["by when it is wanted: none → 2031-02-03 12:00"])
