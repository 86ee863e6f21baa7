"""Schools of truing, what-ifs, learning from pass to pass, and the ride home, through HTTP."""

from __future__ import annotations

from typing import Any

import numpy as np

from felloe.bench.models import LearntRim, Plan, PlanMove
from felloe.bench.services import entering, plans, readings
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.virtual_wheel import VirtualWheel
from tests.api.shop import BenchCase
from tests.core.wheels import REAR


class Modes(BenchCase):
    def plan(self, **body: Any) -> Any:
        return self.post(f"reading-sets/{self.set}/plans", body)

    def test_every_school_is_named_with_its_reason(self) -> None:
        modes = self.get("plan-modes").json()
        self.assertEqual(modes[0]["key"], "balanced")
        self.assertTrue(all(m["why"] for m in modes))

    def test_tighten_only_and_one_stretch(self) -> None:
        self.read_all(tension_right=900, tension_left=430, lump_mm=1.0)
        made = self.plan(mode="tighten_only").json()
        self.assertEqual(made["mode"], "tighten_only")
        self.assertTrue(all(m["turns"] > 0 for m in made["moves"]))
        local = self.plan(mode="local", between=["R8", "L10"]).json()
        self.assertLessEqual({m["spoke"] for m in local["moves"]}, {"R8", "L8", "R9", "L9", "R10", "L10"})
        self.assertProblem(self.plan(mode="local"), 422, "bad_reading", "between")
        self.assertProblem(self.plan(mode="polka"), 400, "invalid_input", "mode")

    def test_the_step_goes_by_the_wheel(self) -> None:
        self.read_all(lump_mm=1.5)
        self.assertEqual(self.plan().json()["step_turns"], 0.125)
        for i in range(1, 19):
            for side in "RL":
                self.read("lateral", f"{side}{i}", 0.02 * (i % 2))
        self.assertEqual(self.plan().json()["step_turns"], 0.0625)

    def test_the_ride_home_needs_a_broken_spoke_and_says_how_far(self) -> None:
        self.read_all()
        self.assertProblem(self.plan(mode="ride_home"), 422, "nothing_broken")
        self.post(f"jobs/{self.job.pk}/breaks", {"spoke": "R5", "place": "elbow"})
        self.read("tension", "R5", 0)
        for i, off in ((3, -0.9), (4, -1.8), (5, -2.6), (6, -1.8), (7, -0.9)):
            self.read("lateral", f"R{i}", off)
        made = self.plan(mode="ride_home").json()
        self.assertIn("at most 15 km, not faster than 15 km/h", made["reason"])
        self.assertIn("R5", made["untouchable"])
        # At the roadside: few nipples, all near the gap.
        self.assertTrue(1 <= len({m["spoke"] for m in made["moves"]}) <= 6)
        self.assertTrue(all(2 <= int(m["spoke"][1:]) <= 8 for m in made["moves"]), made["moves"])

    def test_a_wheel_under_construction_gets_laps_and_its_next_one(self) -> None:
        ahead = self.get(f"reading-sets/{self.set}/laps").json()
        self.assertEqual([lap["share"] for lap in ahead], [0.25, 0.5, 0.75, 1.0])
        self.read_all(tension_right=300, tension_left=150)
        ahead = self.get(f"reading-sets/{self.set}/laps").json()
        self.assertEqual([lap["share"] for lap in ahead], [0.5, 0.75, 1.0])
        made = self.plan(mode="build").json()
        tight = [m for m in made["moves"] if m["spoke"].startswith("R")]
        self.assertGreater(len(tight), 12)
        mean = sum(t for t, n in zip(made["predicted"]["tension_n"], REAR.names, strict=True) if str(n)[0] == "R") / 18
        self.assertAlmostEqual(mean, ahead[0]["right_mean_n"], delta=40)

    def test_each_nipple_says_how_far_its_spoke_twists(self) -> None:
        self.read_all(lump_mm=1.5)
        moves = self.plan().json()["moves"]
        for move in moves:
            self.assertLess(move["twist_turns"], 0.2)
            self.assertEqual(move["twist_turns"] * 16 % 1, 0)
        tightest = max((m for m in moves if m["turns"] > 0), key=lambda m: m["tension_after_n"])
        self.assertGreater(tightest["twist_turns"], 0)


class ByEye(BenchCase):
    def test_a_lump_told_by_eye_gives_a_plan_that_claims_little(self) -> None:
        told = {"kind": "lateral", "first": "R5", "last": "R11", "height_mm": 0.8, "toward": "L"}
        self.post(f"reading-sets/{self.set}/lumps", told)
        self.assertEqual(self.post(f"reading-sets/{self.set}/trade-off", {}).json()["by_eye"], ["lateral"])
        plan = self.plan().json()
        self.assertIsNone(plan["chance"])
        self.assertIn("Too little was read of radial, dish, tension", plan["reason"])
        self.assertTrue(plan["moves"])
        self.assertTrue(all(abs(m["turns"]) <= 0.5 for m in plan["moves"]))

    def test_told_by_eye_again_after_a_pass_it_is_still_told_by_eye(self) -> None:
        told = {"kind": "lateral", "first": "R5", "last": "R11", "height_mm": 0.8, "toward": "L"}
        for _ in range(2):
            self.post(f"reading-sets/{self.set}/lumps", told)
            # Enough readings of one go make a set that the next one goes on from.
            self.read("tension", "R1", 1000)
            plan = self.plan().json()
            self.assertIsNone(plan["chance"])
            # One spoke's tension is no ground to claim evenness.
            self.assertEqual(plan["unread"], ["dish", "radial", "tension"])
            self.set = self.open_set("after_pass")

    def test_a_chance_names_what_it_is_about(self) -> None:
        for i in range(1, 19):
            for side in "RL":
                self.read("lateral", f"{side}{i}", 0.9 if 7 <= i <= 9 else 0.0)
        plan = self.plan().json()
        self.assertEqual(plan["unread"], ["dish", "radial", "tension"])
        self.assertIsNotNone(plan["chance"])
        self.assertEqual(self.post(f"reading-sets/{self.set}/trade-off", {}).json()["unread"], plan["unread"])

    def test_what_was_read_before_is_read(self) -> None:
        self.read_all()
        self.set = self.open_set("after_pass")
        told = {"kind": "lateral", "first": "R5", "last": "R11", "height_mm": 0.8, "toward": "L"}
        self.post(f"reading-sets/{self.set}/lumps", told)
        self.assertEqual(self.post(f"reading-sets/{self.set}/trade-off", {}).json()["by_eye"], [])

    def plan(self):
        return self.post(f"reading-sets/{self.set}/plans", {})


class FewNipples(BenchCase):
    def test_the_trade_off_is_what_the_plan_then_does(self) -> None:
        self.read_all(lump_mm=1.5)
        found = self.post(f"reading-sets/{self.set}/trade-off", {}).json()
        choices = {c["nipples"]: c for c in found["choices"]}
        self.assertEqual(found["choices"][0]["nipples"], 0)
        proposed = next(c for c in found["choices"] if c["proposed"])
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        self.assertEqual(len({m["spoke"] for m in plan["moves"]}), proposed["nipples"])
        self.assertAlmostEqual(plan["chance"], proposed["chance"], delta=0.01)
        few = self.post(f"reading-sets/{self.set}/plans", {"nipples": 4}).json()
        self.assertLessEqual(len({m["spoke"] for m in few["moves"]}), 4)
        self.assertIn(len({m["spoke"] for m in few["moves"]}), choices)
        self.assertProblem(self.post(f"reading-sets/{self.set}/plans", {"chance": 0.3}), 422, "bad_reading", "chance")
        self.assertProblem(self.post(f"reading-sets/{self.set}/trade-off", {"nipples": 0}), 422, "bad_reading", "nipples")

    def test_a_nipple_that_was_skipped_is_remembered_for_the_wheel(self) -> None:
        self.assertEqual(self.get(f"reading-sets/{self.set}/left-alone").json()["names"], [])
        self.read_all(lump_mm=1.5)
        plan = self.post(f"reading-sets/{self.set}/plans", {"untouchable": ["L2"]}).json()
        key = plan["moves"][0]["key"]
        self.client.put(f"/api/v1/plans/{plan['id']}/moves/{key}", {"state": "skipped"}, format="json")
        names = self.get(f"reading-sets/{self.set}/left-alone").json()["names"]
        self.assertEqual(names, sorted({"L2", plan["moves"][0]["spoke"]}))

    def test_turns_tried_by_hand_become_a_plan_unless_they_do_harm(self) -> None:
        self.read_all(lump_mm=1.5)
        plan = self.post(f"reading-sets/{self.set}/plans", {"turns": {"R9": -0.25, "l9": 0.25}}).json()
        self.assertEqual({m["spoke"]: m["turns"] for m in plan["moves"]}, {"R9": -0.25, "L9": 0.25})
        for turns in ({"R9": 2.0}, {"R9": 0.01}, {"R99": 0.25}, {"R9": 3}):
            with self.subTest(turns):
                refused = self.post(f"reading-sets/{self.set}/plans", {"turns": turns})
                self.assertEqual(refused.status_code, 400 if turns == {"R9": 3} else 422, refused.json())
        self.assertEqual(len(self.get(f"jobs/{self.job.pk}/plans").json()), 1)

    def test_a_suspected_slip_that_would_change_the_plan_is_asked_about_first(self) -> None:
        self.read_all()
        self.read("tension", "R5", 100)
        slips = self.get(f"reading-sets/{self.set}/advice").json()["slips"]
        self.assertTrue(slips)
        refused = self.post(f"reading-sets/{self.set}/plans", {})
        self.assertProblem(refused, 409, "slips_open")
        self.assertEqual(self.post(f"reading-sets/{self.set}/plans", {"as_read": True}).status_code, 201)

    def test_what_stands_above_the_limit_is_said_before_the_first_nipple(self) -> None:
        self.read_all(lump_mm=1.0, tension_right=1100)
        self.read("tension", "R5", 1290)
        plan = self.post(f"reading-sets/{self.set}/plans", {"as_read": True}).json()
        self.assertIn("R5", plan["caution"])
        self.assertLess(plan["predicted"]["tension_n"][[str(n) for n in REAR.names].index("R5")], 1290)
        self.assertLessEqual(plan["worst_tension_n"], 1291)


class RimVerdict(BenchCase):
    def test_it_needs_some_readings(self) -> None:
        self.read("tension", "R1", 1000)
        self.assertProblem(self.get(f"reading-sets/{self.set}/verdict"), 422, "too_few_readings")

    def test_a_sound_wheel_can_and_a_far_bent_one_cannot(self) -> None:
        self.read_all(lump_mm=0.6)
        found = self.get(f"reading-sets/{self.set}/verdict").json()
        self.assertTrue(found["can"])
        self.assertEqual(found["bends"], [])
        self.assertIn("can be trued", found["to_customer"])
        self.read_all(lump_mm=8.0)
        found = self.get(f"reading-sets/{self.set}/verdict").json()
        self.assertFalse(found["can"])
        self.assertIn("new rim", found["to_customer"])
        self.assertIn("R9", [s for b in found["bends"] for s in b["spokes"]])
        self.assertGreater(found["points"][0]["lateral_tir_mm"], found["points"][-1]["lateral_tir_mm"])


class WhatIf(BenchCase):
    def ask(self, **turns: float) -> Any:
        return self.post(f"reading-sets/{self.set}/what-if", {"turns": turns})

    def test_nothing_turned_is_the_state_and_a_turn_moves_it(self) -> None:
        self.read_all(lump_mm=0.8)
        state = self.get(f"reading-sets/{self.set}/state").json()
        still = self.ask().json()
        self.assertAlmostEqual(still["lateral_tir_mm"], state["lateral_tir_mm"], places=2)
        self.assertEqual(still["tension_n"], [s["tension_n"] for s in state["spokes"]])
        pulled = self.ask(R9=-0.5, L9=0.5).json()
        self.assertLess(pulled["lateral_tir_mm"], still["lateral_tir_mm"])
        i = [s["name"] for s in state["spokes"]].index("L9")
        self.assertGreater(pulled["tension_n"][i], still["tension_n"][i] + 100)
        self.assertIn("R1", self.ask(R1=3).json()["over_cap"])
        self.assertEqual(Plan.objects.count(), 0)

    def test_it_follows_what_is_read_meanwhile(self) -> None:
        self.read_all(lump_mm=0.8)
        before = self.ask(R1=0.25).json()["lateral_tir_mm"]
        self.read("lateral", "R9", 2.0)
        self.assertGreater(self.ask(R1=0.25).json()["lateral_tir_mm"], before + 0.3)
        self.post(f"reading-sets/{self.set}/withdraw", {"kind": "lateral", "spoke": "R9"})
        self.assertLess(self.ask(R1=0.25).json()["lateral_tir_mm"], before + 0.3)

    def test_refusals(self) -> None:
        self.assertProblem(self.ask(R99=1), 422, "unknown_spoke", "turns")
        self.assertProblem(self.ask(R1=9), 400, "invalid_input")


class FromPassToPass(BenchCase):
    """A virtual wheel read, planned, turned and read again."""

    def fill(self, virtual: VirtualWheel, stage: str, rng: np.random.Generator, only: set[str] | None = None) -> str:
        made = readings.open_set(self.bram, self.job.pk, stage)
        angles = np.array(REAR.angles_deg)
        lateral, radial = virtual.lateral_mm(angles), virtual.radial_mm(angles)
        taken: list[dict[str, Any]] = []
        for i, name in enumerate(REAR.names):
            if only is not None and str(name) not in only:
                continue
            tension = max(0.0, float(virtual.tension_n[i] + rng.normal(0, 15)))
            entries = (("tension", tension, "N"), ("lateral", lateral[i], "mm"), ("radial", radial[i], "mm"))
            for kind, value, unit in entries:
                taken.append({"kind": kind, "spoke": str(name), "value": round(float(value), 2), "unit": unit})
        gap = {"kind": "dish", "method": "gauge", "gap_mm": round(2 * virtual.dish_mm, 1), "gap_side": "R"}
        entering.save_readings(self.bram, made.pk, [*taken, gap])
        return str(made.pk)

    def work(self, set_id: str, virtual: VirtualWheel) -> VirtualWheel:
        plan = plans.add_plan(self.bram, set_id, {})  # type: ignore[arg-type]
        turns = np.zeros(36)
        for move in plans.moves_of(plan):
            turns[REAR.index_of[move.spoke]] = move.turns
            plans.mark_move(self.bram, plan.pk, move.key, PlanMove.State.DONE, None)
        return virtual.turned(turns)

    def test_the_rim_is_learnt_kept_and_used(self) -> None:
        rng = np.random.default_rng(5)
        virtual = used_wheel(REAR, rng, 0.5)
        virtual = self.work(self.fill(virtual, "as_found", rng), virtual)
        second = self.fill(virtual, "after_pass", rng)
        self.assertEqual(LearntRim.objects.count(), 0)
        made = self.post(f"reading-sets/{second}/plans", {}).json()
        row = LearntRim.objects.get()
        self.assertEqual((row.wheel_id, row.wheel_version), (self.job.wheel_id, self.job.wheel.version))
        self.assertAlmostEqual(made["learnt"]["ei_lat"], row.ei_lat)
        self.assertGreaterEqual(row.misfit_before, row.misfit_after)
        looked = self.get(f"reading-sets/{second}/pass").json()
        self.assertTrue(looked["made"] and looked["as_foreseen"], looked["said"])
        self.assertEqual(len(looked["foreseen"]["tension_n"]), 36)
        self.assertFalse(self.get(f"reading-sets/{Plan.objects.earliest('created_at').reading_set_id}/pass").json()["made"])
        third = self.fill(virtual, "as_left", rng)
        self.assertIsNotNone(self.get(f"reading-sets/{third}/state").json()["headline"])

    def test_few_readings_after_a_pass_rest_on_those_before_it(self) -> None:
        rng = np.random.default_rng(5)
        virtual = used_wheel(REAR, rng, 0.5)
        virtual = self.work(self.fill(virtual, "as_found", rng), virtual)
        few = self.fill(virtual, "after_pass", rng, {"R1", "L5", "R9", "L14"})
        state = self.get(f"reading-sets/{few}/state").json()
        self.assertEqual(state["reading_count"], 13)
        true = float(np.ptp(virtual.lateral_mm(np.arange(360.0))))
        self.assertAlmostEqual(state["lateral_tir_mm"], true, delta=0.25)
        self.assertIsNone(next(s for s in state["spokes"] if s["name"] == "R2")["measured_n"])
        off = np.abs(np.array([s["tension_n"] for s in state["spokes"]]) - virtual.tension_n)
        self.assertLess(float(off.mean()), 30)
