"""Live truing through HTTP: nipple by nipple with looks between, on a stand-in whose wheel turns along."""

from __future__ import annotations

from typing import Any

import numpy as np
from django.db import IntegrityError, connection, transaction
from django.utils import timezone

from felloe.bench.models import DialTrace, LiveLook, LivePass, PlanMove, Reading, ReadingSet
from felloe.bench.services import live_looks, turns
from felloe.cli.instrument import stand_in
from felloe.core.measuring.stream import Sample
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.tiers import TIERS
from tests.api.shop import BenchCase, person
from tests.bench.passes import figures
from tests.bench.workshops import Reader


class LiveCase(BenchCase):
    """A stand-in's wheel in the stand, read whole."""

    def setUp(self) -> None:
        super().setUp()
        self.stand = stand_in("rim-brake-rear-36", 3)
        self.rng = np.random.default_rng(1)
        self.dial = self.post("instruments", {"name": "Dial", "kind": "dial", "address": "127.0.0.1:9"}).json()["id"]

    @property
    def virtual(self) -> VirtualWheel:
        return self.stand.virtual

    def read_wheel(self, kinds: tuple[str, ...] = ("tension", "lateral", "radial", "dish")) -> None:
        found = Reader().full(self.virtual, self.rng)
        set_row = ReadingSet.objects.get(pk=self.set)
        shop = {"shop_id": self.shop.pk, "reading_set": set_row, "created_by": self.bram, "entered": {}}
        names = [str(n) for n in self.virtual.wheel.names]
        rows = [Reading(kind="tension", spoke=r.spoke, value=r.tension_n, sd=r.sd_n, **shop) for r in found.tension]
        for kind in ("lateral", "radial"):
            rows += [
                Reading(kind=kind, spoke=n, value=r.deviation_mm, sd=r.sd_mm, **shop)
                for n, r in zip(names, getattr(found, kind), strict=True)
            ]
        rows += [Reading(kind="dish", spoke="", value=r.dish_mm, sd=r.sd_mm, **shop) for r in found.dish]
        Reading.objects.bulk_create([row for row in rows if row.kind in kinds])

    def begin(self, **body: Any) -> Any:
        return self.post(f"reading-sets/{self.set}/live", body)

    def step(self, step: dict[str, Any], what: str, **body: Any) -> Any:
        return self.post(f"plans/{step['plan_id']}/live/{what}", {"version": step["version"], **body})

    def turn_next(self, step: dict[str, Any]) -> dict[str, Any]:
        made = self.step(step, "turned", spoke=step["next"]["spoke"], turns=step["next"]["turns"])
        assert made.status_code == 200, made.content
        return made.json()

    def look(self, step: dict[str, Any], kind: str = "lateral") -> dict[str, Any]:
        """A turn past the stand-in's dial, as the ear would have heard it."""
        found = live_looks.live_follow.find_live(self.bram, step["plan_id"])
        self.stand.turn_nipples(live_looks.live_follow.totals(found))
        shape = self.stand.shapes[kind]
        turn = [
            Sample(kind, float(v) + float(self.rng.normal(0, 0.008)), "mm", "", float(a))
            for a, v in zip(self.stand.angles, shape, strict=True)
        ]
        live_looks.keep_turn(self.bram, found.plan_id, step["version"], self.dial, kind, turn)
        return self.get(f"plans/{step['plan_id']}/live").json()


class LiveTruing(LiveCase):
    def test_goes_on_until_it_is_enough_and_the_wheel_is_truly_inside(self) -> None:
        self.read_wheel()
        sound = TIERS[self.job.tier]
        self.assertFalse(figures(self.virtual).inside(sound))
        step = self.begin().json()
        self.assertFalse(step["enough"])
        asked: set[str] = set()
        for _ in range(60):
            if step["ask"] and step["ask"] not in asked:
                asked.add(step["ask"])
                value = float(self.virtual.tension_n[self.virtual.wheel.index_of[step["ask"]]])
                made = self.step(step, "reading", kind="tension", spoke=step["ask"], value=max(0, round(value)), unit="N")
                step = made.json()
            if step["next"] is None:
                break
            step = self.look(self.look(self.turn_next(step)), "radial")
        self.assertTrue(step["enough"], step["said"])
        self.assertTrue(figures(self.virtual).inside(sound), figures(self.virtual))
        self.assertLessEqual(figures(self.virtual).over, 1.0)
        ended = self.step(step, "end").json()
        self.assertTrue(ended["ended"])
        # What was seen last is the set that the next pass goes on from.
        after = ReadingSet.objects.get(pk=ended["ended_set_id"])
        self.assertEqual((after.stage, after.number), ("after_pass", 2))
        self.assertEqual({t.kind for t in DialTrace.objects.filter(reading_set=after)}, {"lateral", "radial"})
        state = self.get(f"reading-sets/{after.pk}/state").json()
        true = figures(self.virtual)
        self.assertLess(abs(state["lateral_tir_mm"] - true.lateral_mm), 0.12)
        off = [s["tension_n"] - t for s, t in zip(state["spokes"], self.virtual.tension_n, strict=True)]
        self.assertLess(float(np.sqrt(np.mean(np.square(off)))), 45)

    def test_the_list_shrinks_and_each_deed_is_kept_with_who_and_when(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        ahead = 1 + len(step["rest"])
        first = step["next"]["spoke"]
        step = self.turn_next(step)
        self.assertFalse(step["looked"])
        step = self.look(step)
        self.assertTrue(step["looked"])
        self.assertLess(1 + len(step["rest"]), ahead + 1)
        move = PlanMove.objects.get(plan=step["plan_id"])
        self.assertEqual((move.spoke, move.state, move.done_by), (first, "done", self.bram))
        self.assertEqual(LiveLook.objects.get().after_moves, 1)
        self.assertEqual(self.get(f"plans/{step['plan_id']}").json()["moves"][0]["spoke"], first)

    def test_two_tablets_work_on_one_pass_and_the_slower_is_told(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        other = self.speak_for(self.ines)
        again = self.post(f"reading-sets/{self.set}/live", {}, client=other).json()
        self.assertEqual(again["plan_id"], step["plan_id"])
        self.turn_next(step)
        late = self.post(
            f"plans/{step['plan_id']}/live/turned",
            {"version": again["version"], "spoke": again["next"]["spoke"], "turns": again["next"]["turns"]},
            client=other,
        )
        self.assertProblem(late, 409, "live_went_on")
        self.assertEqual(PlanMove.objects.count(), 1)

    def test_the_same_press_twice_turns_once(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        body = {"version": step["version"], "spoke": step["next"]["spoke"], "turns": step["next"]["turns"]}
        for _ in range(2):
            made = self.post(f"plans/{step['plan_id']}/live/turned", body, key="one-press")
            self.assertEqual(made.status_code, 200)
        self.assertEqual(PlanMove.objects.count(), 1)

    def test_a_nipple_that_will_not_turn_is_left_from_then_on(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        stuck = step["next"]["spoke"]
        step = self.step(step, "turned", spoke=stuck, turns=0).json()
        self.assertNotIn(stuck, [step["next"]["spoke"], *(r["spoke"] for r in step["rest"])])
        self.assertEqual(PlanMove.objects.get().state, "skipped")
        self.assertTrue(step["looked"])
        for _ in range(3):
            step = self.look(self.turn_next(step))
            self.assertNotIn(stuck, [(step["next"] or {}).get("spoke"), *(r["spoke"] for r in step["rest"])])
        # And remembered for the wheel.
        self.assertIn(stuck, self.get(f"reading-sets/{self.set}/left-alone").json()["names"])

    def test_the_wrong_nipple_is_noticed_and_mended(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        noted, turned = step["next"]["spoke"], step["next"]["turns"]
        step = self.turn_next(step)
        side, number = noted[0], int(noted[1:])
        really = f"{side}{number % 18 + 1}"
        self.stand.turn_nipples({really: turned})
        shape = self.stand.shapes["lateral"]
        turn = [Sample("lateral", float(v), "mm", "", float(a)) for a, v in zip(self.stand.angles, shape, strict=True)]
        live_looks.keep_turn(self.bram, step["plan_id"], step["version"], self.dial, "lateral", turn)
        step = self.get(f"plans/{step['plan_id']}/live").json()
        self.assertEqual((step["suspect"]["spoke"], step["suspect"]["turns"]), (really, turned))
        self.assertIn(f"as if {really} had been turned, not {noted}", step["suspect"]["said"])
        # The other dial's look takes nothing of it back.
        shown = self.stand.shapes["radial"]
        other = [Sample("radial", float(v), "mm", "", float(a)) for a, v in zip(self.stand.angles, shown, strict=True)]
        live_looks.keep_turn(self.bram, step["plan_id"], step["version"], self.dial, "radial", other)
        step = self.get(f"plans/{step['plan_id']}/live").json()
        self.assertEqual(step["suspect"]["spoke"], really)
        step = self.step(step, "mend", spoke=really.lower(), turns=turned).json()
        self.assertIsNone(step["suspect"])
        move = PlanMove.objects.get()
        self.assertEqual((move.spoke, move.state, move.done_turns), (really, "changed", turned))
        off = step["state"]["lateral_tir_mm"] - float(np.ptp(shape))
        self.assertLess(abs(off), 0.1)

    def test_a_turn_that_was_none_is_taken_back(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        found = step["state"]["lateral_tir_mm"]
        turned = self.turn_next(step)
        self.assertNotEqual(turned["state"]["lateral_tir_mm"], found)
        back = self.step(turned, "take-back").json()
        self.assertEqual(back["state"]["lateral_tir_mm"], found)
        self.assertEqual(back["nipples_turned"], 0)
        self.assertProblem(self.step(back, "take-back"), 409, "nothing_turned")

    def test_a_single_value_of_the_dial_counts_only_with_the_others(self) -> None:
        self.read_wheel(("tension",))
        step = self.begin().json()
        self.assertEqual(step["unread"], ["dish", "lateral", "radial"])
        refused = self.step(step, "reading", kind="lateral", spoke="R3", value=0.3, unit="mm")
        self.assertProblem(refused, 422, "no_zero", "value")
        self.assertEqual(LiveLook.objects.count(), 0)

    def test_one_value_after_a_nipple(self) -> None:
        self.read_wheel()
        step = self.turn_next(self.begin().json())
        found = live_looks.live_follow.find_live(self.bram, step["plan_id"])
        self.stand.turn_nipples(live_looks.live_follow.totals(found))
        wheel = self.virtual.wheel
        spoke = step["last"]["spoke"]
        true = float(self.virtual.lateral_mm(np.array([wheel.angles_deg[wheel.index_of[spoke]]]))[0]) + 3.0
        after = self.step(step, "reading", kind="lateral", spoke=spoke, value=round(true, 2), unit="mm")
        self.assertEqual(after.status_code, 200, after.content)
        self.assertTrue(after.json()["looked"])
        place = wheel.index_of[spoke]
        before_sd = step["state"]["spokes"][place]["lateral_sd_mm"]
        self.assertLess(after.json()["state"]["spokes"][place]["lateral_sd_mm"], before_sd)

    def test_by_eye_alone_claims_little_and_ends_when_nothing_rubs(self) -> None:
        told = {"kind": "lateral", "first": "R5", "last": "R11", "height_mm": 0.8, "toward": "L"}
        self.post(f"reading-sets/{self.set}/lumps", told)
        step = self.begin().json()
        self.assertEqual((step["unread"], step["by_eye"]), (["dish", "radial", "tension"], ["lateral"]))
        self.assertIsNone(step["chance"])
        self.assertLessEqual(abs(step["next"]["turns"]), 0.5)
        self.assertEqual([c["measured"] for c in step["state"]["checks"] if c["figure"] != "lateral"], [False] * 3)
        step = self.turn_next(step)
        step = self.step(step, "told", kind="lateral", clear=True).json()
        self.assertTrue(step["enough"])
        self.assertIn("Too little was read of radial, dish, tension", step["said"])

    def test_one_spoke_read_by_the_way_claims_no_evenness_and_four_of_a_side_do(self) -> None:
        self.post(
            f"reading-sets/{self.set}/lumps",
            {"kind": "lateral", "first": "R5", "last": "R11", "height_mm": 0.8, "toward": "L"},
        )
        step = self.begin().json()
        names = [f"{side}{i}" for i in range(1, 5) for side in "RL"]
        for number, name in enumerate(names, start=1):
            value = 1000 if name[0] == "R" else 480
            step = self.step(step, "reading", kind="tension", spoke=name, value=value, unit="N").json()
            self.assertEqual("tension" in step["unread"], number < len(names), name)

    def test_a_turn_of_another_plan_that_is_taken_back_is_taken_back_here(self) -> None:
        self.read_wheel()
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        first, second = plan["moves"][:2]
        for move in (first, second):
            self.put(f"plans/{plan['id']}/moves/{move['key']}", {"state": "done"})
        step = self.begin().json()
        place = next(i for i, s in enumerate(step["state"]["spokes"]) if s["name"] == first["spoke"])
        before = step["state"]["spokes"][place]["tension_n"]
        # The later mark stays the latest: by its time alone nothing would seem to have changed.
        self.put(f"plans/{plan['id']}/moves/{first['key']}", {"state": "todo"})
        after = self.get(f"plans/{step['plan_id']}/live").json()["state"]["spokes"][place]["tension_n"]
        self.assertGreater((before - after) * np.sign(first["turns"]), 10)

    def test_ends_once_and_takes_nothing_after(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        ended = self.step(step, "end").json()
        # Nothing was turned: there is nothing to read again.
        self.assertIsNone(ended["ended_set_id"])
        self.assertProblem(self.step(ended, "turned", spoke="R1", turns=0.25), 409, "live_ended")
        self.assertProblem(self.step(ended, "end"), 409, "live_ended")
        # Another may begin.
        self.assertNotEqual(self.begin().json()["plan_id"], step["plan_id"])

    def test_bad_input_is_refused_at_its_place_and_nothing_is_kept(self) -> None:
        self.assertProblem(self.begin(), 422, "too_few_readings")
        self.read_wheel()
        step = self.begin().json()
        self.assertProblem(self.step(step, "turned", spoke="R44", turns=0.25), 422, "unknown_spoke", "spoke")
        self.assertProblem(self.step(step, "turned", spoke="R4", turns=9), 400, "invalid_input", "turns")
        self.assertProblem(self.step(step, "told", kind="lateral", first="R4", last="R9", height_mm=0.5), 422, "bad_reading")
        self.assertProblem(self.step(step, "reading", kind="tension", spoke="R1", value=9000, unit="N"), 422, "bad_reading")
        self.assertEqual((PlanMove.objects.count(), LiveLook.objects.count(), LivePass.objects.get().version), (0, 0, 1))

    def test_an_old_set_is_no_ground(self) -> None:
        self.read_wheel()
        old, self.set = self.set, self.open_set("after_pass")
        self.read("tension", "R1", 900)
        self.assertProblem(self.post(f"reading-sets/{old}/live", {}), 409, "set_is_old")

    def test_a_spoke_that_breaks_or_a_wheel_read_again_leaves_only_the_end(self) -> None:
        self.read_wheel()
        for happens in ("break", "read"):
            step = self.look(self.turn_next(self.begin().json()))
            if happens == "break":
                self.post(f"jobs/{self.job.pk}/breaks", {"spoke": "R5", "place": "elbow"})
            else:
                self.set = self.open_set("after_pass")
                self.read("tension", "R1", 900)
            now = self.get(f"plans/{step['plan_id']}/live").json()
            with self.subTest(happens):
                self.assertIsNone(now["next"])
                self.assertFalse(now["enough"])
                self.assertIn("since this pass began", now["said"])
                made = PlanMove.objects.count()
                self.assertProblem(self.step(now, "turned", spoke="R1", turns=0.25), 409, "live_stale")
                self.assertProblem(self.step(now, "told", kind="lateral", clear=True), 409, "live_stale")
                self.assertEqual(PlanMove.objects.count(), made)
                sets = ReadingSet.objects.count()
                ended = self.step(now, "end")
                self.assertEqual(ended.status_code, 200)
                # What was seen of another wheel is no reading of this one.
                self.assertEqual((ended.json()["ended_set_id"], ReadingSet.objects.count()), (None, sets))
            if happens == "break":
                self.set = self.open_set("after_pass")
                self.read_wheel()

    def test_what_another_plan_of_the_set_turned_is_turned(self) -> None:
        self.read_wheel()
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        move = plan["moves"][0]
        self.put(f"plans/{plan['id']}/moves/{move['key']}", {"state": "done"})
        step = self.begin().json()
        place = next(i for i, s in enumerate(step["state"]["spokes"]) if s["name"] == move["spoke"])
        as_read = self.get(f"reading-sets/{self.set}/state").json()["spokes"][place]["tension_n"]
        change = step["state"]["spokes"][place]["tension_n"] - as_read
        self.assertGreater(change * np.sign(move["turns"]), 10)

    def test_another_shop_sees_nothing_and_the_desk_may_only_look(self) -> None:
        self.read_wheel()
        step = self.begin().json()
        stranger = self.speak_for(self.stranger)
        self.assertEqual(self.get(f"plans/{step['plan_id']}/live", stranger).status_code, 404)
        desk = self.speak_for(person(self.shop, "pip", "desk"))
        self.assertEqual(self.get(f"plans/{step['plan_id']}/live", desk).status_code, 200)
        refused = self.post(f"plans/{step['plan_id']}/live/end", {"version": step["version"]}, client=desk)
        self.assertEqual(refused.status_code, 403)

    def test_the_database_holds_one_open_pass_of_a_set_and_forbids_to_change_a_look(self) -> None:
        self.read_wheel()
        step = self.look(self.turn_next(self.begin().json()))
        row = LivePass.objects.get()
        plan = row.plan
        plan.pk = None
        plan._state.adding = True
        plan.save()
        with self.assertRaises(IntegrityError), transaction.atomic():
            LivePass.objects.create(shop_id=row.shop_id, plan=plan, reading_set=row.reading_set, left={}, created_by=self.bram)
        with self.assertRaises(IntegrityError), transaction.atomic():
            LivePass.objects.filter(pk=row.pk).update(ended_at=timezone.now())
        with self.assertRaises(IntegrityError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE bench_livelook SET number = 9")
        self.assertEqual(step["looks"], 1)

    def test_an_ear_tells_the_stand_in_what_was_turned(self) -> None:
        self.read_wheel()
        step = self.turn_next(self.begin().json())
        told: list[dict[str, Any]] = []

        def listen(address: tuple[str, int], say: dict[str, Any], purpose: str = "value") -> Any:
            told.append(say)
            raise ConnectionAbortedError

        original, turns.listen = turns.listen, listen
        try:
            with self.assertRaises(ConnectionAbortedError):
                self.step(step, "turn", instrument=self.dial, kind="lateral")
        finally:
            turns.listen = original
        self.assertEqual(told, [{"trace": "lateral", "turned": {step["last"]["spoke"]: step["last"]["turns"]}}])
