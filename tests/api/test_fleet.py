"""Lots through the API: a list in, a sample, one word, a part given back, and exceptions."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from felloe.accounts.models import User
from felloe.bench.services import entering, readings
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.customers.models import Bike, Customer
from felloe.fleet.models import Lot, LotItem
from felloe.fleet.services import deeds
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.wheels.models import Wheel
from tests.api.shop import SMALL_KIND, ShopCase, person, specification

NUMBERS = "asset;place\n" + "\n".join(f"F{i};north" for i in range(1, 9))


class FleetCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = Customer.objects.create(shop=self.shop, name="District nurses")

    def values(self, text: str = NUMBERS, **change: Any) -> dict[str, Any]:
        wheel = {"position": "front", "kind": SMALL_KIND, "specification": specification(SMALL_KIND)}
        body = {"name": "Nurse bikes", "customer_id": str(self.owner.pk), "text": text, "brake": "rim", "wheel": wheel}
        return {**body, "complaint": "yearly check", **change}

    def open(self, text: str = NUMBERS, **change: Any) -> dict[str, Any]:
        made = self.post("lots", self.values(text, **change))
        assert made.status_code == 201, made.content
        found: dict[str, Any] = made.json()
        return found

    def measure(self, job: str, share: float = 1.0) -> None:
        targets = side_targets_n(WHEEL_KINDS[SMALL_KIND].wheel)
        made = readings.open_set(self.bram, job, "as_found")  # type: ignore[arg-type]
        entries = [
            {"kind": "tension", "spoke": f"{side.value}{i}", "value": round(share * target), "unit": "N"}
            for i in range(1, 6)
            for side, target in targets.items()
        ]
        entering.save_readings(self.bram, made.pk, entries)


class Opening(FleetCase):
    def test_every_number_has_its_bike_wheel_and_job(self) -> None:
        lot = self.open()
        self.assertEqual([item["label"] for item in lot["items"]], [f"F{i}" for i in range(1, 9)])
        self.assertEqual(len({item["number"] for item in lot["items"]}), 8)
        self.assertEqual(Bike.objects.filter(customer=self.owner, asset_number="F3").count(), 1)
        self.assertEqual(self.get("lots").json()[0]["wheels"], 8)
        self.assertEqual(self.get("find?text=F7").json()[0]["job"]["number"], lot["items"][6]["number"])

    def test_known_bikes_and_wheels_are_those(self) -> None:
        self.open("F1\nF2")
        refused = self.post("lots", self.values("F2\nF3"))
        self.assertProblem(refused, 422, "already_open", "text")
        self.assertEqual(Job.objects.count(), 2, "all or nothing")
        seen = self.post("lots/preview", {"customer_id": str(self.owner.pk), "text": "F2\nF3\nF3", "position": "front"}).json()
        self.assertEqual((seen["count"], seen["doubled"], seen["known"], seen["already_open"]), (2, ["F3"], ["F2"], ["F2"]))
        Job.objects.update(stage="done", handed_back_at="2026-01-01T00:00Z", ended_as="cancelled")
        self.open("F1\nF3")
        self.assertEqual((Bike.objects.count(), Wheel.objects.count()), (3, 3))

    def test_lists_that_cannot_be(self) -> None:
        for text in ("asset\n", "x" * 41):
            self.assertProblem(self.post("lots", self.values(text)), 422, "bad_assets", "text")
        theirs = Customer.objects.create(shop=self.elsewhere, name="Theirs")
        self.assertEqual(self.post("lots", self.values(customer_id=str(theirs.pk))).status_code, 404)
        self.assertEqual((Lot.objects.count(), Job.objects.count()), (0, 0))

    def test_the_same_press_opens_one_lot(self) -> None:
        for _ in range(2):
            self.post("lots", self.values(), key="one press")
        self.assertEqual((Lot.objects.count(), LotItem.objects.count()), (1, 8))


class Sampling(FleetCase):
    def test_a_few_spokes_of_one_wheel_after_another(self) -> None:
        lot = self.open("\n".join(f"F{i}" for i in range(40)))
        self.assertEqual(lot["sampling"]["lot_is"], "go_on")
        self.assertEqual(len(lot["next_to_measure"]), 5)
        self.measure(lot["next_to_measure"][0], 0.5)
        self.measure(lot["next_to_measure"][1], 1.0)
        again = self.get(f"lots/{lot['id']}").json()
        self.assertEqual((again["sampling"]["measured"], again["sampling"]["bad"]), (2, 1))
        self.assertEqual(again["next_to_measure"][0], lot["next_to_measure"][2], "the order is drawn once")
        samples = {item["job"]: item["sample"] for item in again["items"]}
        self.assertEqual([samples[job] for job in lot["next_to_measure"][:3]], ["bad", "good", ""])
        self.measure(again["next_to_measure"][0], 0.5)
        self.measure(again["next_to_measure"][1], 0.5)
        ended = self.get(f"lots/{lot['id']}").json()["sampling"]
        self.assertEqual((ended["lot_is"], ended["fewest_more"]), ("bad", 0))

    def test_the_questions_do_not_grow_with_what_is_measured(self) -> None:
        lot = self.open("\n".join(f"F{i}" for i in range(12)))

        def count() -> int:
            with CaptureQueriesContext(connection) as asked:
                self.get(f"lots/{lot['id']}")
            return len(asked)

        self.measure(lot["next_to_measure"][0])
        few = count()
        for job in lot["next_to_measure"][1:]:
            self.measure(job)
        self.assertEqual(count(), few)

    def test_breaks_that_are_alike(self) -> None:
        lot = self.open("\n".join(f"F{i}" for i in range(12)))
        for item in lot["items"][:11]:
            self.post(f"jobs/{item['job']}/breaks", {"spoke": "R3", "place": "thread"})
        found = self.get(f"lots/{lot['id']}").json()["batch"]
        self.assertEqual((found["points_to"], found["breaks"]), ("batch", 11))


class Together(FleetCase):
    def each(self, lot: dict[str, Any]) -> int:
        return int(self.get(f"jobs/{lot['items'][0]['job']}/quote?chosen=true").json()["gross_minor"])

    def agree(self, lot: dict[str, Any], each: int, **change: Any) -> Any:
        body = {"chosen": ["true"], "by_whom": "Matron", "how": "writing", "each_minor": each, **change}
        return self.post(f"lots/{lot['id']}/agree", body)

    def test_one_word_for_all_but_exceptions(self) -> None:
        lot = self.open()
        odd = lot["items"][2]
        self.put(f"lots/{lot['id']}/items/{odd['job']}", {"reason": "rim cracked"})
        dearer = lot["items"][4]
        self.put(f"jobs/{dearer['job']}/quote", {"version": 0, "extras": [{"name": "Tube", "amount_minor": 700}]})
        found = self.agree(lot, self.each(lot)).json()
        self.assertEqual(found["done"], 6)
        self.assertEqual([left["label"] for left in found["left_out"]], ["F3", "F5"])
        self.assertEqual(Decision.objects.filter(by_whom="Matron").count(), 6)
        again = self.agree(lot, self.each(lot)).json()
        self.assertEqual((again["done"], Decision.objects.count()), (0, 6), "who agreed is not asked twice")
        states = {item["label"]: (item["state"], item["agreed"]) for item in self.get(f"lots/{lot['id']}").json()["items"]}
        self.assertEqual((states["F3"], states["F1"][1]), (("exception", False), True))

    def test_not_by_phone_and_not_by_others(self) -> None:
        lot = self.open()
        self.assertProblem(self.agree(lot, 1, how="phone"), 400, "invalid_input", "how")
        apprentice = self.speak_for(person(self.shop, "wyn", User.Role.APPRENTICE))
        body = {"chosen": ["true"], "by_whom": "X", "how": "writing", "each_minor": 1}
        self.assertProblem(self.post(f"lots/{lot['id']}/agree", body, client=apprentice), 403, "not_permitted")
        there = self.speak_for(self.stranger)
        self.assertEqual(self.get(f"lots/{lot['id']}", there).status_code, 404)
        self.assertEqual(self.get("lots", there).json(), [])

    def test_a_part_goes_back_by_the_gates_of_every_wheel(self) -> None:
        lot = self.open("F1\nF2\nF3")
        asked = [item["job"] for item in lot["items"]]
        found = self.post(f"lots/{lot['id']}/return", {"jobs": asked[:2]}).json()
        self.assertEqual((found["done"], [left["label"] for left in found["left_out"]]), (0, ["F1", "F2"]))
        self.assertIn("Sign the wheel off", found["left_out"][0]["reason"])
        self.assertEqual(Job.objects.filter(handed_back_at=None).count(), 3)
        strange = self.open("X1")["items"][0]["job"]
        self.assertEqual(self.post(f"lots/{lot['id']}/return", {"jobs": [strange]}).status_code, 404)
        Job.objects.filter(pk=asked[0]).update(stage="done", handed_back_at="2026-01-01T00:00Z", ended_as="repaired")
        self.assertEqual(self.get("lots").json()[1]["returned"], 1)
        self.assertEqual(self.get(f"lots/{lot['id']}").json()["items"][0]["state"], "returned")
        refused = self.put(f"lots/{lot['id']}/items/{asked[0]}", {"reason": "x"})
        self.assertEqual(refused.status_code, 409)

    def test_an_exception_can_be_taken_back(self) -> None:
        lot = self.open("F1\nF2")
        job = lot["items"][0]["job"]
        deeds.set_exception(self.bram, lot["id"], job, "bent")
        self.assertEqual(self.put(f"lots/{lot['id']}/items/{job}", {"reason": ""}).json()["items"][0]["state"], "waits")
