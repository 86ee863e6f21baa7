"""Learning the rim, the schools of truing, and the plan with a spoke missing."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.learning import RimFactors, learn
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.mechanics.stiffness import stiffness_slopes
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.objective import MODES
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.core.truing.prediction import without_spokes
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import REAR, influence, read_fully


def stiffer(ei_lat: float, ei_rad: float, gj: float):  # type: ignore[no-untyped-def]
    rim = REAR.rim
    changed = replace(rim, ei_lat_nm2=rim.ei_lat_nm2 * ei_lat, ei_rad_nm2=rim.ei_rad_nm2 * ei_rad, gj_nm2=rim.gj_nm2 * gj)
    return replace(REAR, rim=changed)


def exact(wheel, turns: np.ndarray, shape: WheelState) -> Readings:  # type: ignore[no-untyped-def]
    """Readings without noise of a state, after turns on a wheel of its own stiffness whose spokes may push."""
    from felloe.core.mechanics.readings import DishReading, RunoutReading

    moved = influence_of(wheel)
    lateral, radial = moved.lateral_mm @ turns, moved.radial_mm @ turns
    tension = shape.tension_n + moved.tension_n @ turns
    names = [str(n) for n in wheel.names]
    return Readings(
        [TensionReading(n, float(t)) for n, t in zip(names, tension, strict=True)],
        [RunoutReading(a, float(v)) for a, v in zip(wheel.angles_deg, shape.lateral_mm + lateral, strict=True)],
        [RunoutReading(a, float(v)) for a, v in zip(wheel.angles_deg, shape.radial_mm + radial, strict=True)],
        [DishReading(float(shape.dish_mm + lateral.mean()))],
    )


class Learning(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = np.random.default_rng(4)
        self.state = estimate_state(influence(REAR), read_fully(used_wheel(REAR, self.rng, 0.4), self.rng))
        self.turns = np.round(self.rng.normal(0, 0.5, 36) * 8) / 8

    def test_slopes_are_the_difference_between_rims_a_little_stiffer_and_softer(self) -> None:
        """Of tensions and nodes, by each of the three stiffnesses: whole wheels worked out anew on both sides."""
        turns = np.random.default_rng(2).normal(0, 0.3, (REAR.spoke_count, 1))
        inf, step = influence_of(REAR), 1e-3
        moved = inf.displacement @ turns
        nodes, tensions = stiffness_slopes(inf, np.zeros_like(moved), moved)
        for k, off in enumerate(step * np.eye(3)):
            up, down = (influence_of(stiffer(*np.exp(sign * off))) for sign in (1, -1))
            for found, name in ((nodes[k], "displacement"), (tensions[k], "tension_n")):
                wanted = (getattr(up, name) - getattr(down, name)) @ turns / (2 * step)
                self.assertLess(np.abs(found - wanted).max(), 1e-4 * np.abs(wanted).max(), (k, name))

    def test_it_finds_a_rim_of_another_stiffness(self) -> None:
        """Readings made by a wheel 30 % stiffer sideways and 20 % softer in torsion: more than half learnt at once."""
        wheel = stiffer(1.3, 1.1, 0.8)
        before, after = exact(wheel, np.zeros(36), self.state), exact(wheel, self.turns, self.state)
        learnt = learn(REAR, before, after, self.turns)
        assert learnt is not None
        # One pass with a hand's misses allowed for takes away more than half of what was not known.
        self.assertLess(abs(np.log(learnt.factors.ei_lat / 1.3)), 0.5 * np.log(1.3))
        self.assertLess(learnt.misfit_after, 0.6 * learnt.misfit_before)
        self.assertEqual(learnt.shirkers, ())
        self.assertLess(max(learnt.factors.log_sd), RimFactors().log_sd[0])

    def test_on_the_virtual_wheel_predictions_get_better(self) -> None:
        """Judged only on the virtual wheel: what was learnt from one pass predicts the next pass better, on the whole."""
        plain, taught = [], []
        for seed in range(6):
            rng = np.random.default_rng(100 + seed)
            virtual = used_wheel(REAR, rng, 0.4)
            first = read_fully(virtual, rng)
            turns = np.round(rng.normal(0, 0.5, 36) * 8) / 8
            second_wheel = virtual.turned(turns)
            learnt = learn(REAR, first, read_fully(second_wheel, rng), turns)
            assert learnt is not None
            again = np.round(rng.normal(0, 0.5, 36) * 8) / 8
            third = second_wheel.turned(again)
            angles = np.array(REAR.angles_deg)
            true = third.lateral_mm(angles) - second_wheel.lateral_mm(angles)
            for wheel, errors in ((REAR, plain), (learnt.factors.applied(REAR), taught)):
                errors.append(float(np.std(influence_of(wheel).lateral_mm @ again - true)))
        self.assertLess(np.mean(taught), np.mean(plain))

    def test_a_nipple_that_did_not_turn_is_named(self) -> None:
        i = REAR.index_of["R7"]
        turns = self.turns.copy()
        turns[i] = 1.0
        did = turns.copy()
        did[i] = 0.1
        before, after = exact(REAR, np.zeros(36), self.state), exact(REAR, did, self.state)
        learnt = learn(REAR, before, after, turns)
        assert learnt is not None
        self.assertEqual([s.spoke for s in learnt.shirkers], ["R7"])
        self.assertLess(learnt.shirkers[0].share, 0.4)

    def test_too_little_teaches_nothing(self) -> None:
        before = Readings([TensionReading("R1", 900)])
        self.assertIsNone(learn(REAR, before, before, self.turns))
        full = exact(REAR, np.zeros(36), self.state)
        self.assertIsNone(learn(REAR, full, full, np.zeros(36)))


class Schools(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(7)
        self.state = estimate_state(influence(REAR), read_fully(used_wheel(REAR, rng, 0.4, slack_turns=0.3), rng))

    def plan(self, mode: str, **more: object):  # type: ignore[no-untyped-def]
        return make_plan(self.state, PlanOptions(tier=SOUND, mode=mode, **more))  # type: ignore[arg-type]

    def test_one_way_only(self) -> None:
        self.assertGreaterEqual(self.plan("tighten_only").turns.min(), 0)
        self.assertTrue(self.plan("tighten_only").turns.any())
        self.assertLessEqual(self.plan("ease_only").turns.max(), 0)

    def test_what_goes_first(self) -> None:
        """What the school looks at first comes inside, with no more nipples than where all is looked at."""
        straight, round_, both = self.plan("straight_first"), self.plan("round_first"), self.plan("balanced")
        self.assertLessEqual(straight.after.trace.lateral_tir_mm, SOUND.lateral_mm)
        self.assertLessEqual(round_.after.trace.radial_tir_mm, SOUND.radial_mm)
        self.assertLessEqual(max(straight.nipples, round_.nipples), both.nipples)
        self.assertLess(round_.nipples, both.nipples)

    def test_a_stretch_across_the_valve(self) -> None:
        plan = self.plan("local", between=("R16", "L3"))
        allowed = {"R16", "L16", "R17", "L17", "R18", "L18", "R1", "L1", "R2", "L2", "R3", "L3"}
        touched = {m.spoke for m in plan.moves}
        self.assertTrue(touched)
        self.assertLessEqual(touched, allowed)
        with self.assertRaises(BadReading):
            self.plan("local")
        with self.assertRaises(BadReading):
            self.plan("polka")
        with self.assertRaises(UnknownSpoke):
            self.plan("local", between=("R1", "R77"))

    def test_every_school_keeps_the_limit_and_has_a_reason(self) -> None:
        for mode, (name, why) in MODES.items():
            between = ("R1", "R9") if mode == "local" else None
            plan = self.plan(mode, between=between)
            self.assertLessEqual(plan.worst_tension_n, max(REAR.rim.tension_cap_n, float(self.state.tension_n.max()) * 1.06))
            self.assertTrue(name and why.endswith("."))


class RideHome(unittest.TestCase):
    def test_with_a_spoke_missing_the_rim_is_brought_back(self) -> None:
        """R5 gone: judged on the virtual wheel, the ride-home plan takes away most of what its loss did to the rim."""
        rng = np.random.default_rng(3)
        virtual = used_wheel(REAR, rng, 0.15)
        i = REAR.index_of["R5"]
        gone = np.zeros(36)
        gone[i] = -12.0
        broken = virtual.turned(gone)
        self.assertLess(broken.tension_n[i], 1.0)
        state = without_spokes(estimate_state(influence(REAR), read_fully(broken, rng)), frozenset({"R5"}))
        plan = make_plan(state, PlanOptions(tier=SOUND, mode="ride_home", untouchable=frozenset({"R5"})))
        self.assertEqual(plan.turns[i], 0)
        angles = np.arange(0, 360, 2.0)
        before, after = (float(np.ptp(w.lateral_mm(angles))) for w in (broken, broken.turned(plan.turns)))
        self.assertGreater(before, 1.0)
        self.assertLess(after, 0.5 * before)
        self.assertEqual(influence_of(REAR, missing=frozenset({i})).stiffness_n_mm[i], 0)
        self.assertEqual(int(REAR.on_side(Side.RIGHT).sum()), 18)
