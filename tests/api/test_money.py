"""Quote, tax, approval, payments and the lines for the books, through the API."""

from __future__ import annotations

import csv
import io
from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils import timezone

from felloe.accounts.models import User
from felloe.customers.models import Customer
from felloe.queue.models import Job
from felloe.repair.models import Decision, Payment
from felloe.stock.models import Part
from felloe.stock.services import bins
from tests.api.shop import PRICES, BenchCase, person


class MoneyCase(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.odile = person(self.shop, "odile", User.Role.OWNER)
        self.owner = self.speak_for(self.odile)

    def url(self, end: str) -> str:
        return f"jobs/{self.job.pk}/{end}"

    def quote(self, *chosen: str) -> dict[str, Any]:
        found: dict[str, Any] = self.get(self.url(f"quote?chosen={','.join(chosen)}")).json()
        return found

    def decide(self, *chosen: str, **change: Any) -> Any:
        body = {"outcome": "approved", "chosen": chosen, "by_whom": "Invented Customer", "how": "counter", **change}
        return self.post(self.url("decisions"), body)

    def add(self, *extras: tuple[str, int], version: int | None = None) -> Any:
        version = self.quote()["version"] if version is None else version
        lines = [{"name": what, "amount_minor": amount} for what, amount in extras]
        return self.put(self.url("quote"), {"version": version, "extras": lines})

    def tax(self, points: int, included: bool) -> None:
        prices = self.get("prices").json()
        body = {"currency": "EUR", "version": prices["version"], "prices_minor": PRICES}
        self.put("prices", {**body, "tax_basis_points": points, "tax_included": included}, self.owner)


class Quotes(MoneyCase):
    def test_its_lines_add_up_to_the_option_and_to_the_total(self) -> None:
        self.tax(1900, False)
        options = {o["key"]: o for o in self.get(self.url("options")).json()["options"]}
        found = self.quote("true", "hub_overhaul")
        net = options["true"]["price_minor"] + options["hub_overhaul"]["price_minor"]
        self.assertEqual(sum(line["total_minor"] for line in found["lines"]), net)
        self.assertEqual((found["net_minor"], found["gross_minor"] - found["tax_minor"]), (net, net))
        self.assertAlmostEqual(found["tax_minor"], net * 0.19, delta=0.5)

    def test_each_tier_has_its_price_and_the_narrower_costs_more(self) -> None:
        prices = [tier["gross_minor"] for tier in self.quote("true")["tiers"]]
        self.assertEqual(prices, sorted(prices))
        self.assertGreater(prices[-1], prices[0])

    def test_reserved_spokes_stand_at_their_bins_price(self) -> None:
        attributes = {"length_mm": 288.0, "gauge": "plain", "thread_mm": 2.0, "body_mm": 2.0, "head": "elbow"}
        made = self.post("stock/parts", {"kind": "spoke", "name": "Plain 288", "attributes": attributes, "price_minor": 333})
        part = Part.objects.filter(pk=made.json().get("id")).first() or Part.objects.create(
            shop=self.shop, kind="spoke", name="Plain 288", price_minor=333
        )
        bins.write(self.bram, part, "receive", delta=9)
        bins.write(self.bram, part, "reserve", job=self.job, claim=2)
        self.post(self.url("marks"), {"kind": "broken_spoke", "spoke": "R3"})
        self.post(self.url("breaks"), {"spoke": "R3", "place": "elbow"})
        lines = self.quote("rebuild")["lines"]
        ours = next(line for line in lines if line["what"] == "Plain 288")
        self.assertEqual((ours["count"], ours["unit_minor"]), (2, 333))
        rest = next(line for line in lines if line["what"] == "Spoke")
        self.assertEqual((rest["count"], rest["unit_minor"]), (34, PRICES["spoke"]))

    def test_what_is_added_by_hand(self) -> None:
        before = self.quote("true")["gross_minor"]
        self.assertEqual(self.add(("Inner tube", 700), ("For the wait", -200)).status_code, 200)
        self.assertEqual(self.quote("true")["gross_minor"], before + 500)
        self.assertProblem(self.add(("x", 1), version=0), 409, "stale_write")
        self.assertProblem(self.add((" ", 100)), 400, "invalid_input")
        self.assertProblem(self.add(("x", 0)), 422, "bad_extra")
        self.assertEqual(len(self.quote()["extras"]), 2)

    def test_a_reduction_alone_is_kept_and_asked_of_nobody(self) -> None:
        self.assertEqual(self.add(("For the wait", -500)).status_code, 200)
        alone = self.quote()
        self.assertEqual((alone["gross_minor"], alone["refusal"], len(alone["lines"])), (None, "", 1))
        whole = self.quote("true")
        self.assertEqual(whole["gross_minor"], sum(line["total_minor"] for line in whole["lines"]))
        self.add(("All of it and more", -whole["gross_minor"] - 1000))
        self.assertIn("more than the price", self.quote("true")["refusal"])
        self.assertProblem(self.decide("true"), 422, "below_nothing", "chosen")
        self.assertEqual(self.decide("true", outcome="refused").status_code, 201, "a no needs no price")
        self.assertEqual(self.add().status_code, 200)
        self.assertEqual(self.quote()["extras"], [])

    def test_what_is_chosen_twice_is_charged_once(self) -> None:
        self.assertEqual(self.quote("true", "true")["gross_minor"], self.quote("true")["gross_minor"])

    def test_another_shop_and_who_may_not(self) -> None:
        there = self.speak_for(self.stranger)
        for path in ("quote", "account"):
            self.assertEqual(self.get(self.url(path), there).status_code, 404)
        apprentice = self.speak_for(person(self.shop, "wyn", User.Role.APPRENTICE))
        body = {"amount_minor": 100, "how": "cash"}
        self.assertProblem(self.post(self.url("account"), body, client=apprentice), 403, "not_permitted")


class Approvals(MoneyCase):
    def test_what_was_agreed_is_frozen(self) -> None:
        self.tax(700, True)
        self.add(("Inner tube", 700))
        shown = self.quote("true")
        made = self.decide("true", told_minor=shown["gross_minor"]).json()
        self.put("prices", {"currency": "EUR", "version": 2, "prices_minor": {**PRICES, "labour_hour": 1}}, self.owner)
        kept = Decision.objects.get(pk=made["id"])
        self.assertEqual((kept.price_minor, kept.tax_minor), (shown["gross_minor"], shown["tax_minor"]))
        self.assertEqual([line["what"] for line in kept.lines], [line["what"] for line in shown["lines"]])
        self.assertEqual(self.quote("true")["void"], "", "a new price list does not undo what was agreed")

    def test_a_price_that_changed_while_it_was_told_is_told_again(self) -> None:
        told = self.quote("true")["gross_minor"]
        self.assertProblem(self.decide("true", told_minor=told - 1), 409, "price_changed")
        self.assertEqual(self.decide("true", told_minor=told).status_code, 201)

    def test_another_tier_voids_it(self) -> None:
        self.decide("true")
        self.job.refresh_from_db()
        self.patch(self.url("")[:-1], {"version": self.job.version, "tier": "fine"})
        self.assertIn("tier", self.quote("true")["void"])
        wanted = {r["key"]: r["met"] for r in self.get(self.url("requirements")).json()}
        self.assertFalse(wanted["agreed"] if "agreed" in wanted else wanted["decided"])
        self.decide("true")
        self.assertEqual(self.quote("true")["void"], "")

    def test_a_changed_quote_voids_it_and_the_same_again_does_not(self) -> None:
        self.add(("Tube", 700))
        self.decide("true")
        self.add(("Tube", 700))
        self.assertEqual(self.quote("true")["void"], "")
        self.add(("Tube", 900))
        self.assertIn("quote", self.quote("true")["void"])

    def test_on_the_telephone_the_digits_are_repeated(self) -> None:
        words = self.quote("true")["words"]
        digits = "".join(ch for ch in words[-1] if ch.isdigit())
        self.assertEqual(len(digits), 3)
        self.assertProblem(self.decide("true", how="phone"), 422, "digits_missing", "digits")
        wrong = f"{(int(digits) + 1) % 1000:03}"
        self.assertProblem(self.decide("true", how="phone", digits=wrong), 422, "wrong_digits", "digits")
        made = self.decide("true", how="phone", digits=" ".join(digits)).json()
        self.assertEqual(made["words"], words, "what was agreed to is kept word by word")
        self.add(("Tube", 700))
        self.assertNotEqual(self.quote("true")["words"][-1], words[-1])
        said = self.decide("true").json()["words"]
        self.assertNotIn("digits", " ".join(said), "nobody repeated any at the counter")

    def test_a_links_answer_comes_by_the_link_alone(self) -> None:
        self.assertProblem(self.decide("true", how="link"), 400, "invalid_input", "how")
        self.assertEqual(Decision.objects.count(), 0)

    def test_the_database_knows_no_approval_without_a_price_nor_one_that_does_not_add_up(self) -> None:
        whole = {"shop": self.shop, "job": self.job, "outcome": "approved", "chosen": ["true"], "offered": [], "tier": "sound"}
        whole |= {"minutes": 5, "by_whom": "X", "how": "counter"}
        for money in ({}, {"price_minor": 5, "net_minor": 3, "tax_minor": 1}):
            with self.assertRaises(IntegrityError), transaction.atomic():
                Decision.objects.create(**whole, **money)


class Paying(MoneyCase):
    def pay(self, amount: int, **more: Any) -> Any:
        return self.post(self.url("account"), {"amount_minor": amount, "how": "card", **more})

    def test_paid_and_open(self) -> None:
        self.decide("true")
        agreed = self.get(self.url("account")).json()
        self.assertEqual(agreed["open_minor"], agreed["agreed_minor"])
        self.assertEqual(self.pay(1000).json()["open_minor"], agreed["agreed_minor"] - 1000)
        self.assertProblem(self.pay(-1001), 422, "more_than_paid", "amount_minor")
        self.assertProblem(self.pay(0), 422, "nothing", "amount_minor")
        self.assertProblem(self.pay(agreed["agreed_minor"]), 422, "more_than_open", "note")
        self.assertEqual(self.pay(agreed["agreed_minor"], note="a tip").json()["open_minor"], -1000)
        self.assertEqual(self.pay(-1000).json()["open_minor"], 0)
        self.assertEqual(Payment.objects.count(), 3)

    def test_the_same_press_pays_once(self) -> None:
        self.decide("true")
        for _ in range(2):
            self.post(self.url("account"), {"amount_minor": 500, "how": "cash"}, key="one press")
        self.assertEqual(Payment.objects.count(), 1)

    def test_after_the_wheel_has_left_it_can_still_be_paid(self) -> None:
        self.decide("true")
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        self.assertEqual(self.pay(500).status_code, 200)

    def test_lines_for_the_books(self) -> None:
        Customer.objects.update(name="=cmd|calc")
        self.tax(2500, True)
        self.add(("Tube", 700))
        self.decide("true")
        self.add(("Tube", 800), ("For the wait", -200))
        self.decide("true")
        self.pay(300)
        today = timezone.now().date()
        text = self.get(f"money/lines.csv?since={today - timedelta(days=1)}&until={today + timedelta(days=1)}")
        rows = list(csv.DictReader(io.StringIO(text.content.decode())))
        shown = self.quote("true")
        self.assertEqual(len(rows), len(shown["lines"]), "only the newest word of a job")
        self.assertAlmostEqual(sum(float(row["total"]) for row in rows) * 100, shown["gross_minor"], places=6)
        self.assertEqual(rows[-1]["total"], "-2.00", "a figure, that a spreadsheet adds up")
        self.assertEqual({row["customer"] for row in rows}, {"'=cmd|calc"})
        self.assertEqual({row["job_paid"] for row in rows}, {"3.00"})
        self.assertEqual(rows[0]["job_gross"], f"{shown['gross_minor'] / 100:.2f}")
        empty = self.get(f"money/lines.csv?since={today - timedelta(days=9)}&until={today - timedelta(days=8)}")
        self.assertEqual(len(list(csv.reader(io.StringIO(empty.content.decode())))), 1)
        self.assertProblem(self.get(f"money/lines.csv?since={today}&until=2020-01-01"), 422, "before_since", "until")
        there = self.speak_for(self.stranger).get(f"/api/v1/money/lines.csv?since={today}&until={today}")
        self.assertNotIn("cmd", there.content.decode())
