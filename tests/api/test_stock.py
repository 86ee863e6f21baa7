"""Bins: claims, takes, orders, waiting jobs, the library as CSV; two people after the last eighteen."""

from __future__ import annotations

from typing import Any

from django.db import DatabaseError, transaction
from django.test import TransactionTestCase
from rest_framework.test import APIClient

from felloe.accounts.models import Shop, User
from felloe.queue.models import Job
from felloe.stock import services
from felloe.stock.models import Movement, Part
from tests.api.shop import ShopCase, open_job, person
from tests.api.test_concurrency import at_once

SPOKE = {
    "kind": "spoke",
    "name": "Spoke 290",
    "bin": "A1",
    "supplier": "Quay Supply",
    "attributes": {"length_mm": 290, "end_diameter_mm": 2.0},
}


class Bins(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.part = self.post("stock/parts", SPOKE).json()["id"]
        self.first, self.second = open_job(self.bram), open_job(self.ines)

    def move(self, kind: str, count: int, job: Job | None = None, client: APIClient | None = None, **more: Any) -> Any:
        body = {"kind": kind, "count": count, **({"job": str(job.pk)} if job else {}), **more}
        return self.post(f"stock/parts/{self.part}/movements", body, client=client)

    def test_a_part_is_refused_at_its_field(self) -> None:
        self.refuses("stock/parts", SPOKE, "bad_part", "name")
        bad = {**SPOKE, "name": "Other", "attributes": {"length_mm": 2, "end_diameter_mm": 2}}
        self.refuses("stock/parts", bad, "bad_part", "attributes.length_mm")
        self.assertProblem(self.post("stock/parts", {**SPOKE, "kind": "bell"}), 400, "invalid_input", "kind")
        self.assertEqual(Part.objects.count(), 1)

    def test_reserve_take_return_count(self) -> None:
        self.assertEqual(self.move("count", 40).json()["on_hand"], 40)
        found = self.move("reserve", 18, self.first).json()
        self.assertEqual((found["on_hand"], found["free"], found["claims"][0]["covered"]), (40, 22, 18))
        self.assertProblem(self.move("take", 23, self.second), 422, "not_enough", "count")
        self.assertEqual(self.move("take", 18, self.first).json()["claims"], [])
        self.assertEqual(self.move("return", 2, self.first).json()["on_hand"], 24)
        self.assertProblem(self.move("return", 17, self.first), 422, "not_enough", "count")
        self.assertProblem(self.move("release", 1, self.first), 422, "not_enough", "count")
        ledger = self.get(f"stock/parts/{self.part}/movements").json()["movements"]
        entries = [(m["kind"], m["delta"], m["claim_delta"]) for m in ledger[::-1]]
        self.assertEqual(entries, [("count", 40, 0), ("reserve", 0, 18), ("take", -18, -18), ("return", 2, 0)])
        self.assertEqual(ledger[0]["by"], "Bram")
        self.refuses(f"stock/parts/{self.part}/movements", {"kind": "take", "count": 1}, "job_needed")

    def test_cutting_takes_longer_ones(self) -> None:
        self.move("count", 10)
        self.assertProblem(self.move("cut", 4, self.first, to_mm=291), 422, "bad_part", "to_mm")
        self.assertEqual(self.move("cut", 4, self.first, to_mm=284).json()["on_hand"], 6)
        self.assertIn("cut to 284 mm", self.get(f"stock/parts/{self.part}/movements").json()["movements"][0]["note"])

    def test_parts_that_come_release_the_job_that_waits(self) -> None:
        self.move("count", 4)
        self.move("reserve", 18, self.first)
        self.first.refresh_from_db()
        self.assertEqual(self.first.waiting_on, "parts")
        found = self.get("stock/orders").json()
        line = found["proposed"][0]["lines"][0]
        self.assertEqual((found["proposed"][0]["supplier"], line["count"], line["why"]), ("Quay Supply", 14, "14 wait for it"))
        sent = self.post("stock/orders", {"supplier": "Quay Supply", "lines": [{"part": self.part, "count": 14}]}).json()
        self.assertEqual(sent["proposed"], [])
        order = sent["orders"][0]
        line = order["lines"][0]["id"]
        part_way = self.post(f"stock/orders/{order['id']}/receive", {"lines": [{"line": line, "count": 10}]}).json()
        self.assertEqual((part_way["orders"][0]["state"], part_way["freed_jobs"]), ("sent", []))
        self.assertProblem(
            self.post(f"stock/orders/{order['id']}/receive", {"lines": [{"line": line, "count": 5}]}),
            422,
            "not_enough",
            "count",
        )
        whole = self.post(f"stock/orders/{order['id']}/receive", {"lines": [{"line": line, "count": 4}]}).json()
        self.assertEqual((whole["orders"][0]["state"], whole["freed_jobs"]), ("received", [self.first.number]))
        self.first.refresh_from_db()
        self.assertEqual(self.first.waiting_on, "")
        self.assertEqual(self.get("stock").json()["parts"][0]["on_hand"], 18)
        self.assertProblem(self.post(f"stock/orders/{order['id']}/cancel", {}), 409, "order_closed")

    def test_a_cancelled_order_is_proposed_again(self) -> None:
        self.move("reserve", 5, self.first)
        order = self.post("stock/orders", {"supplier": "Quay Supply", "lines": [{"part": self.part, "count": 5}]}).json()[
            "orders"
        ][0]
        found = self.post(f"stock/orders/{order['id']}/cancel", {}).json()
        self.assertEqual(found["proposed"][0]["lines"][0]["count"], 5)

    def test_the_ledger_is_append_only(self) -> None:
        self.move("count", 4)
        with self.assertRaises(DatabaseError), transaction.atomic():
            Movement.objects.update(delta=400)

    def test_a_stale_change_brings_both_versions(self) -> None:
        self.assertEqual(self.patch(f"stock/parts/{self.part}", {"version": 1, "minimum": 36}).json()["minimum"], 36)
        stale = self.patch(f"stock/parts/{self.part}", {"version": 1, "minimum": 20})
        self.assertProblem(stale, 409, "stale_write")
        self.assertEqual(stale.json()["current"]["minimum"], 36)

    def test_another_shop_sees_and_takes_nothing(self) -> None:
        other = self.speak_for(self.stranger)
        self.assertEqual(self.get("stock", client=other).json()["parts"], [])
        self.assertEqual(self.move("take", 1, self.first, client=other).status_code, 404)
        self.assertEqual(self.patch(f"stock/parts/{self.part}", {"version": 1, "minimum": 1}, client=other).status_code, 404)

    def test_library_out_and_in(self) -> None:
        self.move("count", 12)
        text = self.get("stock/library.csv").content.decode()
        self.assertIn("Spoke 290", text)
        self.assertEqual([row["does"] for row in self.post("stock/library/preview", {"text": text}).json()], ["same"])
        more = text + "nipple,Nipples 12,B1,,,100,100,7,,40" + "," * (text.splitlines()[0].count(",") - 9) + "\r\n"
        rows = self.post("stock/library/preview", {"text": more}).json()
        self.assertEqual([row["does"] for row in rows], ["same", "wrong"])
        self.refuses("stock/library/import", {"text": more}, "bad_rows", "line 3")
        self.assertEqual(Part.objects.count(), 1)
        small = "kind,name,counted,for_thread_mm,minimum\r\nnipple,Nipples 12,240,2.0,100\r\nspoke,Spoke 290,9,,\r\n"
        self.refuses("stock/library/import", {"text": small}, "bad_rows")
        good = "kind,name,counted,for_thread_mm,minimum\r\nnipple,Nipples 12,240,2.0,100\r\n"
        self.assertEqual(self.post("stock/library/import", {"text": good}).json(), {"touched": 1})
        self.assertEqual(
            {p["name"]: p["on_hand"] for p in self.get("stock").json()["parts"]}, {"Nipples 12": 240, "Spoke 290": 12}
        )

    def test_columns_that_a_file_has_not_are_left_alone(self) -> None:
        coloured = {**SPOKE["attributes"], "colour": "black"}
        self.patch(f"stock/parts/{self.part}", {"version": 1, "attributes": coloured, "minimum": 36})
        text = "kind,name,length_mm,end_diameter_mm,minimum\r\nspoke,Spoke 290,290,2,18\r\n"
        self.assertEqual(self.post("stock/library/import", {"text": text}).json(), {"touched": 1})
        part = self.get("stock").json()["parts"][0]
        self.assertEqual((part["minimum"], part["bin"], part["supplier"]), (18, "A1", "Quay Supply"))
        self.assertEqual(part["attributes"]["colour"], "black")

    def test_a_cut_to_nothing_is_refused(self) -> None:
        self.move("count", 10)
        self.assertProblem(self.move("cut", 1, self.first), 422, "bad_part", "to_mm")
        self.assertEqual(Movement.objects.filter(kind="cut").count(), 0)

    def test_the_owner_says_whether_the_shop_cuts(self) -> None:
        self.assertEqual(self.client.put("/api/v1/stock/machine", {"cuts_spokes": True}, format="json").status_code, 403)
        owner = person(self.shop, "odile", User.Role.OWNER)
        self.assertEqual(
            self.speak_for(owner).put("/api/v1/stock/machine", {"cuts_spokes": True}, format="json").status_code, 200
        )
        self.assertTrue(self.get("stock").json()["cuts_spokes"])


class TheLastEighteen(TransactionTestCase):
    def test_two_people_take_the_last_eighteen_and_one_gets_them(self) -> None:
        shop = Shop.objects.create(name="Here")
        people = [person(shop, name) for name in ("bram", "ines", "pip", "odile")]
        part = services.add_part(people[0], SPOKE)
        services.count_bin(people[0], part.pk, 18)
        jobs = [open_job(user) for user in people]
        clients = []
        for user in people:
            client = APIClient()
            client.force_login(user)
            clients.append(client)

        def take(client: APIClient, job: Job) -> Any:
            body = {"kind": "take", "count": 18, "job": str(job.pk)}
            return client.post(f"/api/v1/stock/parts/{part.pk}/movements", body, format="json")

        answers = at_once([lambda c=c, j=j: take(c, j) for c, j in zip(clients, jobs, strict=True)])
        self.assertEqual(sorted(a.status_code for a in answers), [200, 422, 422, 422])
        told = next(a for a in answers if a.status_code == 422).json()["detail"]
        self.assertIn("0 to be had, 18 wanted", told)
        self.assertEqual(services.figures_of(part).on_hand, 0)


class HandedBack(ShopCase):
    def test_lets_its_claims_go_and_who_waited_is_told(self) -> None:
        first, second = open_job(self.bram), open_job(self.bram)
        part = services.add_part(self.bram, SPOKE)
        services.count_bin(self.bram, part.pk, 10)
        services.reserve(self.bram, part.pk, first.pk, 8)
        services.reserve(self.bram, part.pk, second.pk, 6)
        second.refresh_from_db()
        self.assertEqual(second.waiting_on, "parts")
        made = self.post(f"jobs/{first.pk}/reading-sets", {"stage": "as_left"}).json()["id"]
        self.post(f"reading-sets/{made}/readings", {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"})
        self.post(f"jobs/{first.pk}/sign-off", {"version": 1, "reason": "only looked at"})
        self.agree_and_refit(first)
        back = self.post(f"jobs/{first.pk}/hand-back", {"version": 1, "note": ""})
        self.assertEqual(back.status_code, 200, back.content)
        figures = services.figures_of(part)
        self.assertEqual((figures.on_hand, figures.claim_of(str(first.pk)), figures.covered_of(str(second.pk))), (10, 0, 6))
        second.refresh_from_db()
        self.assertEqual(second.waiting_on, "")
