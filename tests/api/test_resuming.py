"""A plan that was left half way: two readings before its next nipple, kept, and never in anybody's way."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import time_machine
from django.db import DatabaseError, transaction
from django.utils import timezone

from felloe.bench.models import LearntRim, ResumeProof
from felloe.queue.models import JobEvent
from tests.api.shop import BenchCase


class Resuming(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.read_all(lump_mm=1.6)
        self.plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        self.spokes = [move["key"] for move in self.plan["moves"]]
        self.assertGreater(len(self.spokes), 3)

    def done(self, spoke: str, state: str = "done") -> None:
        self.assertEqual(self.put(f"plans/{self.plan['id']}/moves/{spoke}", {"state": state}).status_code, 200)

    def resume(self, minutes: float = 60) -> Any:
        with time_machine.travel(timezone.now() + timedelta(minutes=minutes), tick=False):
            return self.get(f"plans/{self.plan['id']}/resume").json()

    def prove(self, readings: list[Any], minutes: float = 60) -> Any:
        with time_machine.travel(timezone.now() + timedelta(minutes=minutes), tick=False):
            return self.post(f"plans/{self.plan['id']}/resume", {"readings": readings})

    def foreseen(self, asked: list[Any], off: float = 0.0) -> list[Any]:
        """The two readings as the state and the plan's turns foresee them, the second off by so much; dial's zero at 3 mm."""
        from felloe.bench.services.plans import find_plan, moves_of
        from felloe.bench.services.resuming import _asked

        plan = find_plan(self.bram, self.plan["id"])
        found = {(one.kind, one.spoke): one.foreseen for one in _asked(plan, moves_of(plan)).asked}
        return [
            {"kind": one["kind"], "spoke": one["spoke"], "unit": "mm" if one["kind"] == "lateral" else "N",
             "value": round(found[one["kind"], one["spoke"]] + (3 if one["kind"] == "lateral" else 0) + off * place, 2)}
            for place, one in enumerate(asked)
        ]  # fmt: skip

    def test_the_sets_before_are_read_once_and_anew_when_one_of_them_changes(self) -> None:
        from felloe.bench.services import learning, readings

        for spoke in self.spokes:
            self.done(spoke)
        first, self.set = self.set, self.open_set("after_pass")
        self.read("tension", "R1", 1010)
        later = readings.find_set(self.bram, self.set)

        def before() -> Any:
            return learning.earlier_sets(later, readings.wheel_of(later))[0][0]

        kept = before()
        self.read("tension", "R2", 1020)
        self.assertIs(before(), kept, "what is read now changes nothing of the sets before")
        turned = kept.turns[readings.wheel_of(later).index_of[self.plan["moves"][0]["spoke"]]]
        self.assertAlmostEqual(turned, self.plan["moves"][0]["turns"])
        # What this very set taught counts as well: a nipple that did half of its turn.
        shirker = {"spoke": self.plan["moves"][0]["spoke"], "share": 0.5}
        LearntRim.objects.create(
            shop=self.shop, wheel=later.job.wheel, wheel_version=later.job.wheel.version, reading_set=later, ei_lat=1, ei_rad=1,
            gj=1, log_sd=[0.1, 0.1, 0.1], changes=4, misfit_before=2, misfit_after=1, shirkers=[shirker], created_by=self.bram,
        )  # fmt: skip
        learnt = before().turns[readings.wheel_of(later).index_of[shirker["spoke"]]]
        self.assertAlmostEqual(learnt, self.plan["moves"][0]["turns"] / 2)
        self.set = first
        self.read("tension", "R5", 1234)
        self.assertEqual([r.tension_n for r in before().readings.tension if r.spoke == "R5"], [1234])
        self.done(self.spokes[0], "todo")
        self.assertEqual(learning.earlier_sets(later, readings.wheel_of(later))[0], [], "nobody knows what was turned")

    def test_a_plan_not_begun_and_one_just_worked_ask_for_nothing(self) -> None:
        self.assertIsNone(self.resume()["left_at"])
        self.done(self.spokes[0])
        self.assertIsNone(self.resume(minutes=5)["left_at"])

    def test_it_goes_on_at_its_nipple_after_two_readings(self) -> None:
        self.done(self.spokes[0])
        self.done(self.spokes[1])
        found = self.resume()
        self.assertEqual((found["due"], found["last_spoke"], found["next_spoke"]), (True, self.spokes[1], self.spokes[2]))
        self.assertEqual((found["left_by"], len(found["readings"])), ("Bram", 2))
        self.assertGreater(found["shows_percent"], 20)
        answer = self.prove(self.foreseen(found["readings"]))
        self.assertEqual(answer.status_code, 201, answer.content)
        self.assertEqual((answer.json()["due"], answer.json()["held"]), (False, True))
        self.assertIn("go on", answer.json()["said"])
        kept = ResumeProof.objects.get()
        self.assertEqual({(r["kind"], r["spoke"]) for r in kept.readings}, {(r["kind"], r["spoke"]) for r in found["readings"]})
        self.assertEqual(JobEvent.objects.filter(job=self.job, kind="resumed").count(), 1)

    def test_what_somebody_turned_is_said_and_bars_nothing(self) -> None:
        self.done(self.spokes[0])
        asked = self.resume()["readings"]
        answer = self.prove(self.foreseen(asked, off=1.5 if asked[1]["kind"] == "lateral" else 400))
        self.assertFalse(answer.json()["held"])
        self.assertIn("Not as it was left", answer.json()["said"])
        self.done(self.spokes[1])

    def test_after_the_next_nipple_it_is_asked_anew(self) -> None:
        self.done(self.spokes[0])
        self.prove(self.foreseen(self.resume()["readings"]))
        self.assertFalse(self.resume()["due"])
        self.done(self.spokes[1])
        self.assertIsNone(self.resume(minutes=1)["left_at"])
        self.assertTrue(self.resume()["due"])

    def test_what_was_measured_or_planned_since_needs_no_proof(self) -> None:
        self.done(self.spokes[0])
        self.set = self.open_set("after_pass")
        self.read("tension", "R1", 1000)
        self.assertIsNone(self.resume()["left_at"])
        self.assertProblem(self.prove([]), 409, "not_interrupted")

    def test_half_wrong_and_strange_readings(self) -> None:
        self.done(self.spokes[0])
        asked = self.resume()["readings"]
        both = self.foreseen(asked)
        for readings in ([], both[:1], [both[0], both[0]]):
            answer = self.prove(readings)
            self.assertEqual(answer.status_code, 422, answer.content)
        answer = self.prove([{**both[0], "spoke": "R99"}, both[1]])
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(ResumeProof.objects.count(), 0)

    def test_it_is_kept_as_it_was_read(self) -> None:
        self.done(self.spokes[0])
        self.prove(self.foreseen(self.resume()["readings"]))
        for deed in (ResumeProof.objects.all().delete, lambda: ResumeProof.objects.update(held=False)):
            with self.assertRaises(DatabaseError), transaction.atomic():
                deed()

    def test_another_shop_and_the_front_desk(self) -> None:
        self.done(self.spokes[0])
        away = self.speak_for(self.stranger)
        self.assertEqual(self.get(f"plans/{self.plan['id']}/resume", client=away).status_code, 404)
        self.assertEqual(self.post(f"plans/{self.plan['id']}/resume", {"readings": []}, client=away).status_code, 404)

    def test_a_reading_that_cannot_be_is_refused_at_its_place(self) -> None:
        self.done(self.spokes[0])
        both = self.foreseen(self.resume()["readings"])
        answer = self.prove([both[0], {**both[1], "value": 4000}])
        self.assertEqual(answer.status_code, 422)
        self.assertEqual(answer.json()["errors"][0]["field"], f"{both[1]['kind']}.{both[1]['spoke']}")
