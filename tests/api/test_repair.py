"""What was found on a wheel, what was decided about it, and whether it may leave: by the API, from mark to hand-back."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import DatabaseError, IntegrityError, transaction
from django.utils import timezone

from felloe.accounts.models import User
from felloe.condition.models import ConditionMark, Ending, SpokeBreak
from felloe.core.decision.prices import PRICED
from felloe.queue.models import Job
from felloe.repair.models import Decision, RefitAnswer
from tests.api.shop import BenchCase, person

PRICES = {
    "labour_hour": 5400, "spoke": 150, "nipple": 20, "washer": 15, "rim": 4200, "rim_tape": 300, "hub_parts": 900, "axle": 1500,
}  # fmt: skip


class RepairCase(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.odile = person(self.shop, "odile", User.Role.OWNER)
        self.owner = self.speak_for(self.odile)

    def url(self, end: str) -> str:
        return f"jobs/{self.job.pk}/{end}"

    def mark(self, kind: str, spoke: str = "", **more: Any) -> Any:
        return self.post(self.url("marks"), {"kind": kind, "spoke": spoke, **more}).json()

    def version(self) -> int:
        return int(Job.objects.get(pk=self.job.pk).version)

    def signed_off(self) -> None:
        self.set = self.open_set("as_left")
        self.read_all()
        made = self.post(self.url("sign-off"), {"version": self.version(), "reason": ""})
        self.assertEqual(made.status_code, 201, made.content)

    def back(self, client: Any = None, note: str = "") -> Any:
        return self.post(self.url("hand-back"), {"version": self.version(), "note": note}, client=client)


class Marks(RepairCase):
    def test_a_mark_stands_with_its_judgement_its_maker_and_its_place(self) -> None:
        found = self.mark("crack", " r7 ", note="  at the eyelet ")
        (mark,) = found["marks"]
        self.assertEqual(
            (mark["spoke"], mark["level"], mark["note"], mark["by"]), ("R7", "not_to_ride", "at the eyelet", "Bram")
        )
        self.assertEqual(mark["remedy"], "New rim.")
        self.assertIsNone(mark["earlier_job"])

    def test_refused_at_its_field_and_nothing_kept(self) -> None:
        marks = self.url("marks")
        self.refuses(marks, {"kind": "crack"}, "bad_condition", "spoke")
        self.refuses(marks, {"kind": "axle_bent", "spoke": "R1"}, "bad_condition", "spoke")
        self.refuses(marks, {"kind": "dent", "spoke": "R1", "measure_mm": 21}, "bad_condition", "measure_mm")
        self.refuses(marks, {"kind": "crack", "spoke": "R1", "measure_mm": 1}, "bad_condition", "measure_mm")
        self.refuses(marks, {"kind": "dent", "spoke": "R40"}, "unknown_spoke", "spoke")
        self.assertProblem(self.post(marks, {"kind": "scuff", "spoke": "R1"}), 400, "invalid_input", "kind")
        self.assertEqual(ConditionMark.objects.count(), 0)

    def test_a_photo_of_another_shop_cannot_be_hung_on_it(self) -> None:
        body = {"kind": "dent", "spoke": "R1", "photo": "00000000-0000-4000-8000-000000000000"}
        self.assertEqual(self.post(self.url("marks"), body).status_code, 404)
        self.assertEqual(ConditionMark.objects.count(), 0)

    def test_worn_walls_are_judged_by_what_was_measured(self) -> None:
        """Limits of a worn aluminium wall: common practice, no source; just above and just below each."""
        for wall, level in ((1.3, "record"), (1.1, "watch"), (0.9, "not_to_ride")):
            found = self.mark("wear", "R1", measure_mm=wall)
            self.assertEqual(found["marks"][-1]["level"], level, wall)

    def test_mended_with_a_word_once_and_for_all_the_job_after_it(self) -> None:
        mark = self.mark("nipple_rounded", "L3")["marks"][0]["id"]
        end = self.url(f"marks/{mark}/end")
        self.refuses(end, {"how": "mended", "note": "  "}, "reason_needed", "note")
        self.assertEqual(self.post(end, {"how": "mended", "note": "new nipple"}).json()["marks"], [])
        self.assertEqual(self.post(end, {"how": "mended", "note": "again"}).status_code, 404)
        self.assertEqual((ConditionMark.objects.count(), Ending.objects.count()), (1, 1))

    def test_what_was_found_is_never_changed_or_taken_away(self) -> None:
        self.mark("crack", "R7")
        for change in (
            lambda: ConditionMark.objects.update(spoke="R8"),
            lambda: ConditionMark.objects.all().delete(),
        ):
            with self.assertRaises(DatabaseError), transaction.atomic():
                change()
        self.assertEqual(ConditionMark.objects.get().spoke, "R7")


class Breaks(RepairCase):
    def test_a_fresh_break_leaves_a_broken_spoke_an_old_one_only_its_history(self) -> None:
        today = timezone.now().date()
        old = {"spoke": "R1", "place": "elbow", "noticed_on": (today - timedelta(days=90)).isoformat()}
        self.post(self.url("breaks"), old)
        found = self.post(self.url("breaks"), {"spoke": "r5", "place": "elbow"}).json()
        self.assertEqual([b["spoke"] for b in found["breaks"]], ["R1", "R5"])
        self.assertEqual([(m["kind"], m["spoke"]) for m in found["marks"]], [("spoke_broken", "R5")])
        again = self.post(self.url("breaks"), {"spoke": "R5", "place": "middle"}).json()
        self.assertEqual(len(again["marks"]), 1)

    def test_the_second_break_within_months_asks_for_more_than_a_spoke(self) -> None:
        one = self.post(self.url("breaks"), {"spoke": "R5", "place": "elbow"}).json()
        self.assertEqual(one["pattern"]["advice"], "one_spoke")
        two = self.post(self.url("breaks"), {"spoke": "R9", "place": "elbow"}).json()
        self.assertEqual((two["pattern"]["advice"], two["pattern"]["side"]), ("side", "R"))
        self.assertTrue(two["pattern"]["reasons"])
        self.assertAlmostEqual(sum(s["share"] for s in two["pattern"]["suspects"]), 1, places=2)

    def test_a_day_ahead_or_a_place_that_is_none(self) -> None:
        ahead = (timezone.now().date() + timedelta(days=1)).isoformat()
        self.refuses(self.url("breaks"), {"spoke": "R5", "place": "elbow", "noticed_on": ahead}, "bad_break", "noticed_on")
        self.refuses(self.url("breaks"), {"spoke": "R19", "place": "elbow"}, "unknown_spoke", "spoke")
        self.assertProblem(self.post(self.url("breaks"), {"spoke": "R5", "place": "tip"}), 400, "invalid_input", "place")
        self.assertEqual(SpokeBreak.objects.count(), 0)

    def test_a_break_that_never_was(self) -> None:
        found = self.post(self.url("breaks"), {"spoke": "R5", "place": "elbow"}).json()
        end = self.url(f"breaks/{found['breaks'][0]['id']}/end")
        self.refuses(end, {"note": ""}, "reason_needed", "note")
        self.assertEqual(self.post(end, {"note": "was the other wheel"}).json()["breaks"], [])
        self.assertEqual(self.post(end, {"note": "again"}).status_code, 404)


class Frame(RepairCase):
    def gauge(self, **change: Any) -> Any:
        body = {"material": "steel", "gap_right_mm": 0, "gap_left_mm": 4, **change}
        return self.post(self.url("frame-checks"), body)

    def test_half_the_gap_and_only_steel_may_be_set(self) -> None:
        """g/2 of the gap per stay; steel alone may be set: common practice, no source."""
        steel = self.gauge().json()["frame"]
        self.assertAlmostEqual(steel["each_stay_mm"], 2.0)
        self.assertIn(steel["advice"], ("leave", "set"))
        for material in ("aluminium", "carbon", "titanium", "unknown"):
            self.assertNotEqual(self.gauge(material=material).json()["frame"]["advice"], "set", material)

    def test_the_other_side_is_the_mirror_image(self) -> None:
        left = self.gauge().json()["frame"]
        right = self.gauge(gap_left_mm=0, gap_right_mm=4).json()["frame"]
        self.assertEqual({left["toward"], right["toward"]}, {"L", "R"})
        self.assertAlmostEqual(left["offset_mm"], -right["offset_mm"])
        self.assertAlmostEqual(abs(left["at_rim_swung_mm"]), abs(right["at_rim_swung_mm"]))

    def test_gaps_that_cannot_be(self) -> None:
        for change in ({"gap_left_mm": -1}, {"gap_right_mm": 2}, {"gap_left_mm": 400}):
            response = self.gauge(**change)
            self.assertEqual(response.status_code, 422, change)
        self.assertIsNone(self.get(self.url("condition")).json()["frame"])


class Deciding(RepairCase):
    def setUp(self) -> None:
        super().setUp()
        self.put("prices", {"currency": "EUR", "version": 1, "prices_minor": PRICES}, self.owner)

    def options(self) -> dict[str, Any]:
        return {o["key"]: o for o in self.get(self.url("options")).json()["options"]}

    def decide(self, chosen: list[str], **change: Any) -> Any:
        body = {"outcome": "approved", "chosen": chosen, "by_whom": "Invented Customer", "how": "counter", **change}
        return self.post(self.url("decisions"), body)

    def test_time_parts_and_price_agree_with_one_another(self) -> None:
        for option in self.options().values():
            parts = sum(PRICES[p["key"]] * p["count"] for p in option["parts"])
            # Labour goes by the minute and is rounded once, minutes are shown whole.
            labour = PRICES["labour_hour"] * option["minutes"] / 60
            self.assertAlmostEqual(option["price_minor"], parts + labour, delta=PRICES["labour_hour"] / 60, msg=option["key"])

    def test_without_a_price_there_is_none_and_not_nothing(self) -> None:
        self.put("prices", {"currency": "EUR", "version": 2, "prices_minor": {"spoke": 150}}, self.owner)
        self.assertTrue(all(o["price_minor"] is None for o in self.options().values() if o["minutes"]))
        self.assertProblem(self.decide(["true"]), 422, "no_price", "chosen")
        self.assertEqual(Decision.objects.count(), 0)
        with self.assertRaises(IntegrityError), transaction.atomic():
            Decision.objects.create(
                shop=self.shop,
                job=self.job,
                outcome="approved",
                chosen=["true"],
                offered=[],
                tier="sound",
                minutes=5,
                by_whom="X",
            )

    def test_what_was_offered_is_kept_as_it_was(self) -> None:
        before = self.options()["true"]
        made = self.decide(["true", "true"], note="wants it by Friday").json()
        self.assertEqual((made["chosen"], made["price_minor"], made["by"]), (["true"], before["price_minor"], "Bram"))
        dearer = {**PRICES, "labour_hour": 9900}
        self.put("prices", {"currency": "EUR", "version": 2, "prices_minor": dearer}, self.owner)
        self.assertGreater(self.options()["true"]["price_minor"], before["price_minor"])
        kept = self.get(self.url("options")).json()["decisions"][0]
        self.assertEqual(kept["price_minor"], before["price_minor"])

    def test_refusals_at_their_field(self) -> None:
        self.assertProblem(self.decide([]), 422, "nothing_chosen", "chosen")
        self.assertProblem(self.decide(["polish"]), 422, "unknown_option", "chosen")
        self.assertProblem(self.decide(["true"], by_whom=" "), 400, "invalid_input", "by_whom")
        self.assertProblem(self.decide(["true"], how="by pigeon"), 400, "invalid_input", "how")
        self.assertEqual(Decision.objects.count(), 0)

    def test_leaving_a_cracked_rim_needs_the_warning_that_was_given(self) -> None:
        self.mark("crack", "R7")
        self.assertTrue(self.options()["leave"]["barred"])
        self.assertTrue(self.options()["true"]["barred"])
        self.assertTrue(self.options()["new_rim"]["proposed"])
        self.assertProblem(self.decide(["leave"]), 422, "warning_needed", "warning")
        self.assertProblem(self.decide([], outcome="refused"), 422, "warning_needed", "warning")
        made = self.decide([], outcome="refused", warning="Do not ride it.").json()
        self.assertEqual((made["outcome"], made["warning"]), ("refused", "Do not ride it."))
        history = self.get(self.url("")[:-1]).json()
        self.assertIn("Do not ride it.", str(history))

    def test_a_refusal_of_a_safe_wheel_needs_no_warning(self) -> None:
        self.assertEqual(self.decide([], outcome="refused").status_code, 201)

    def test_a_tighter_tier_takes_longer_and_says_so_in_the_price(self) -> None:
        told = []
        for tier in ("roadworthy", "sound", "fine", "race"):
            self.patch(f"jobs/{self.job.pk}", {"version": self.version(), "tier": tier})
            option = self.options()["true"]
            told.append((option["minutes"], option["price_minor"]))
        self.assertEqual(told, sorted(set(told)))


class Prices(RepairCase):
    def prices(self, **change: Any) -> Any:
        return self.put("prices", {"currency": "EUR", "version": 1, "prices_minor": PRICES, **change}, self.owner)

    def test_read_by_all_changed_by_the_owner(self) -> None:
        body = {"currency": "EUR", "version": 1, "prices_minor": PRICES}
        self.assertProblem(self.put("prices", body), 403, "not_permitted")
        self.assertEqual(self.prices().json()["version"], 2)
        read = self.get("prices").json()
        self.assertEqual(read["prices_minor"], PRICES)
        self.assertEqual(set(read["names"]), set(PRICED))

    def test_two_owners_at_one_list(self) -> None:
        self.prices()
        stale = self.prices(prices_minor={"spoke": 1})
        self.assertEqual(stale.status_code, 409)
        self.assertEqual(stale.json()["current"]["prices_minor"], PRICES)
        self.assertEqual(stale.json()["yours"]["prices_minor"], {"spoke": 1})

    def test_prices_that_cannot_be(self) -> None:
        for prices in ({"spoke": -1}, {"bell": 100}, {"spoke": 10_000_001}):
            self.assertProblem(self.prices(prices_minor=prices), 422, "bad_price")
        self.assertProblem(self.prices(currency="euro"), 400, "invalid_input", "currency")
        self.assertEqual(self.get("prices").json()["version"], 1)


class Refit(RepairCase):
    def step(self, key: str, result: str = "right", note: str = "") -> Any:
        return self.post(self.url("refit"), {"step": key, "result": result, "note": note})

    def test_the_list_fits_the_bike(self) -> None:
        keys = [s["key"] for s in self.get(self.url("refit")).json()["steps"]]
        self.assertIn("chain", keys)
        self.assertNotIn("rotor_clean", keys)
        self.assertProblem(self.step("rotor_clean"), 422, "unknown_step")

    def test_the_last_word_on_a_step_counts_and_the_first_stays(self) -> None:
        self.assertProblem(self.step("brake", "wrong"), 422, "reason_needed", "note")
        self.step("brake", "wrong", "pad hits the tyre")
        steps = {s["key"]: s for s in self.step("brake").json()["steps"]}
        self.assertEqual((steps["brake"]["result"], steps["brake"]["by"]), ("right", "Bram"))
        self.assertEqual(RefitAnswer.objects.filter(step="brake").count(), 2)

    def test_a_day_to_look_again(self) -> None:
        today = timezone.now().date()
        proposed = self.get(self.url("refit")).json()["recheck_proposed_on"]
        self.assertGreater(proposed, today.isoformat())
        passed = self.put(self.url("recheck"), {"on": (today - timedelta(days=1)).isoformat()})
        self.assertProblem(passed, 422, "past_day", "on")
        self.assertEqual(self.put(self.url("recheck"), {"on": proposed}).json()["recheck_on"], proposed)

    def test_new_spokes_are_looked_at_sooner(self) -> None:
        before = self.get(self.url("refit")).json()["recheck_proposed_on"]
        body = {"outcome": "approved", "chosen": ["rebuild"], "by_whom": "Invented Customer", "how": "counter"}
        self.post(self.url("decisions"), body)
        self.assertLess(self.get(self.url("refit")).json()["recheck_proposed_on"], before)


class Leaving(RepairCase):
    def test_an_unsafe_wheel_leaves_by_the_owners_word_alone_and_with_a_reason(self) -> None:
        self.signed_off()
        self.agree_and_refit(self.job)
        self.mark("crack", "R7")
        refused = self.back()
        self.assertProblem(refused, 409, "unsafe_wheel")
        self.assertIn("Crack at R7", refused.json()["missing"][0])
        self.assertProblem(self.back(self.owner, "."), 422, "says_nothing", "note")
        self.assertIsNone(Job.objects.get(pk=self.job.pk).handed_back_at)
        self.assertEqual(self.back(self.owner, "goes to the wall as a clock").status_code, 200)
        told = str(self.get(f"jobs/{self.job.pk}").json())
        self.assertIn("NOT TO BE RIDDEN", told)
        self.assertIn("goes to the wall as a clock", told)
        (left,) = self.get("rail", client=self.owner).json()["handed_back"]
        self.assertEqual((left["ended_as"], left["left_with"]), ("repaired", "unsafe"))

    def test_mended_it_may_leave(self) -> None:
        self.signed_off()
        self.agree_and_refit(self.job)
        mark = self.mark("axle_broken")["marks"][0]["id"]
        self.assertProblem(self.back(), 409, "unsafe_wheel")
        self.post(self.url(f"marks/{mark}/end"), {"how": "mended", "note": "new axle"})
        self.assertEqual(self.back().status_code, 200)

    def test_a_refit_step_that_is_not_right_holds_it_back(self) -> None:
        self.signed_off()
        self.agree_and_refit(self.job)
        self.post(self.url("refit"), {"step": "brake", "result": "wrong", "note": "lever to the bar"})
        self.assertProblem(self.back(), 409, "unsafe_wheel")
        self.post(self.url("refit"), {"step": "brake", "result": "right"})
        self.assertEqual(self.back().json()["left_with"], "")

    def test_after_it_has_left_nothing_more_is_found_on_this_job(self) -> None:
        self.signed_off()
        self.agree_and_refit(self.job)
        self.assertEqual(self.back().status_code, 200)
        for path, body in (
            ("marks", {"kind": "crack", "spoke": "R7"}),
            ("breaks", {"spoke": "R7", "place": "elbow"}),
            ("frame-checks", {"material": "steel", "gap_right_mm": 0, "gap_left_mm": 1}),
            ("decisions", {"outcome": "approved", "chosen": ["true"], "by_whom": "X", "how": "counter"}),
            ("refit", {"step": "brake", "result": "right"}),
        ):
            self.assertProblem(self.post(self.url(path), body), 409, "job_done")

    def test_the_road_card_by_the_api(self) -> None:
        card = self.get("road-advice?trouble=broken_spoke&spokes=32&loaded=false").json()
        loaded = self.get("road-advice?trouble=broken_spoke&spokes=32&loaded=true").json()
        self.assertTrue(card["ride"])
        self.assertLess(loaded["km"], card["km"])
        self.assertFalse(self.get("road-advice?trouble=rim_cracked").json()["ride"])
        self.assertProblem(self.get("road-advice?trouble=puncture"), 400, "invalid_input", "trouble")
        self.assertProblem(self.get("road-advice?trouble=wobbles&spokes=4"), 400, "invalid_input", "spokes")
