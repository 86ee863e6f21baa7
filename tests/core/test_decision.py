"""The options side by side, prices, the rim's curve, the refit list, the road card."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date
from itertools import pairwise

import numpy as np
from scipy.optimize import linprog

from felloe.core.decision.options import Case, RepairOption, repair_options, unsafe_reasons
from felloe.core.decision.prices import BadPrice, PriceList
from felloe.core.diagnosis.breakage import Break, pattern_of
from felloe.core.diagnosis.condition import Mark
from felloe.core.diagnosis.rim_damage import judge
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.refit.checklist import BadBike, BikeFacts, recheck_after, refit_steps
from felloe.core.refit.road_advice import TROUBLES, UnknownTrouble, road_card
from felloe.core.runout.frame_gauge import frame_error
from felloe.core.tension.statics import tight_side
from felloe.core.truing.curve import Reach, Verdict, straight_against_even, verdict
from felloe.core.truing.prediction import Prediction, predict
from felloe.core.truing.programme import Box, Programme
from felloe.core.truing.tiers import FINE, RACE, ROADWORTHY, SOUND, Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.core.wheels import influence, read_fully

WHEEL_32 = WHEEL_KINDS["disc-rear-32"].wheel
PRICES = PriceList(
    {"labour_hour": 6000, "spoke": 100, "nipple": 20, "rim": 5000, "rim_tape": 400, "hub_parts": 1500, "axle": 1000}
)


def state_of(bent_mm: float = 0.0, seed: int = 1) -> WheelState:
    rng = np.random.default_rng(seed)
    wheel = used_wheel(WHEEL_32, rng, 0.3)
    readings = read_fully(wheel.dented(140, 20, 0, bent_mm) if bent_mm else wheel, rng)
    return estimate_state(influence(WHEEL_32), readings)


def least_worst(state: WheelState, tier: Tier) -> float:
    """The least share of the tier that turns reach on a wheel, by HiGHS's interior point method; infinite where none keep."""
    wheel, count = state.wheel, state.wheel.spoke_count
    still = predict(state, np.zeros(count))
    # So little that no spoke goes slack.
    turned = [predict(state, one / 50) for one in np.eye(count)]

    def effect(of: Callable[[Prediction], np.ndarray]) -> np.ndarray:
        return 50 * np.array([of(one) - of(still) for one in turned]).T

    rows: list[np.ndarray] = []
    right: list[np.ndarray] = []

    def at_most(effects: np.ndarray, limit: np.ndarray, *more: float) -> None:
        """effects · turns + more · (worst, lateral middle, radial middle) ≤ limit."""
        rows.append(np.hstack([effects, np.tile(more or (0, 0, 0), (len(effects), 1))]))
        right.append(limit)

    for name, tir, first, second in (("lateral_mm", tier.lateral_mm, 1, 0), ("radial_mm", tier.radial_mm, 0, 1)):
        now = getattr(still.trace, name)[::2]
        moved = effect(lambda p, name=name: getattr(p.trace, name)[::2])
        at_most(moved, -now, -tir / 2, -first, -second)
        at_most(-moved, now, -tir / 2, first, second)
    dish = effect(lambda p: np.array([p.dish_mm]))
    at_most(dish, -np.array([still.dish_mm]), -tier.dish_mm, 0, 0)
    at_most(-dish, np.array([still.dish_mm]), -tier.dish_mm, 0, 0)
    for side in Side:
        mine = wheel.on_side(side)
        for sign, factor in ((1, 1 + tier.tension_percent / 100), (-1, 1 - tier.tension_percent / 100)):
            off = effect(lambda p, mine=mine, factor=factor: p.tension_n[mine] - factor * p.tension_n[mine].mean())
            at_most(sign * off, -sign * (still.tension_n[mine] - factor * still.tension_n[mine].mean()))
    at_most(effect(lambda p: p.tension_n), wheel.rim.tension_cap_n - still.tension_n)
    tight, target = wheel.on_side(tight_side(wheel)), wheel.rim.tension_target_n
    mean = effect(lambda p: p.tension_n[tight].mean(keepdims=True))
    at_most(mean, 1.08 * target - still.tension_n[tight].mean(keepdims=True))
    at_most(-mean, still.tension_n[tight].mean(keepdims=True) - 0.92 * target)
    bounds = [(-4, 4)] * count + [(0, None), (None, None), (None, None)]
    cost = np.eye(count + 3)[count]
    found = linprog(cost, np.vstack(rows), np.concatenate(right), bounds=bounds, method="highs-ipm")
    return float(found.fun) if found.fun is not None else np.inf


class Curve(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.sound, cls.bent = state_of(), state_of(3.0)

    def test_more_spread_never_costs_straightness(self) -> None:
        for state in (self.sound, self.bent):
            ratios = [p.ratio for p in straight_against_even(state, SOUND)]
            self.assertGreaterEqual(len(ratios), 5)
            for tighter, wider in pairwise(ratios):
                self.assertGreaterEqual(tighter + 1e-6, wider)

    def test_the_turns_of_a_point_give_its_figures(self) -> None:
        """The programme's own turns, put through the model, land where the point says, inside spread, mean and cap."""
        point = Reach(self.sound, SOUND).best(self.sound, 10)
        assert point is not None
        after = predict(self.sound, point.turns)
        self.assertAlmostEqual(after.dish_mm, point.dish_mm, places=6)
        self.assertLess(abs(after.trace.lateral_tir_mm - point.lateral_tir_mm), 0.02)
        for side in Side:
            mine = after.tension_n[WHEEL_32.on_side(side)]
            self.assertLess(np.abs(mine / mine.mean() - 1).max(), 0.1001)
        self.assertLess(after.tension_n.max(), WHEEL_32.rim.tension_cap_n + 1e-3)

    def test_no_other_turns_do_better(self) -> None:
        """Random turns near the optimum that keep to its bounds never beat its runout."""
        reach = Reach(self.bent, SOUND)
        point, start = reach.best(self.bent, 20), reach.best(self.bent, 15)
        assert point is not None
        assert start is not None
        rng = np.random.default_rng(4)
        tried = 0
        for _ in range(400):
            after = predict(self.bent, start.turns + rng.normal(0, 0.02, WHEEL_32.spoke_count))
            spread = max(
                float(np.abs(after.tension_n[WHEEL_32.on_side(s)] / after.tension_n[WHEEL_32.on_side(s)].mean() - 1).max())
                for s in Side
            )
            if spread > 0.2 or after.tension_n.max() > WHEEL_32.rim.tension_cap_n:
                continue
            tried += 1
            worst = max(np.ptp(after.trace.lateral_mm[::2]) / 0.5, np.ptp(after.trace.radial_mm[::2]) / 0.5)
            self.assertGreaterEqual(worst + 1e-6, point.ratio)
        self.assertGreater(tried, 0)

    def test_as_many_wheels_reach_a_tier_as_an_interior_point_method_finds(self) -> None:
        """Each drawn wheel's least runout by another method, from what `predict` says of one nipple after the other."""
        edges = 0
        for bent_mm, tier in ((0.0, SOUND), (1.4, SOUND), (3.0, SOUND), (0.5, FINE), (0.0, RACE)):
            state = state_of(bent_mm)
            drawn = list(state.draws(np.random.default_rng(7), 5))
            wanted = sum(least_worst(one, tier) <= 0.85 for one in drawn)
            edges += 0 < wanted < len(drawn)
            with self.subTest(bent=bent_mm, tier=tier.name):
                self.assertEqual(Reach(state, tier).count_within(drawn, tier.tension_percent, 0.85), wanted)
        self.assertGreater(edges, 0)

    def test_where_a_programme_begins_does_not_change_where_it_ends(self) -> None:
        """Spreads one after the other, each anew, and backwards."""
        reach = Reach(self.bent, SOUND)
        for spread in (6.0, 15.0, 35.0, 15.0, 6.0):
            point, anew = reach.best(self.bent, spread), Reach(self.bent, SOUND).best(self.bent, spread)
            assert point is not None
            assert anew is not None
            self.assertAlmostEqual(point.ratio, anew.ratio, places=6)

    def test_a_programme_nothing_keeps_to_has_no_end(self) -> None:
        """x ≥ 2 and x ≤ right: none for 1, and the next one begins well after it."""
        box = Box(np.array([0.0]), np.array([10.0]), np.array([1.0]))
        programme = Programme(np.array([[-1.0], [1.0]]), box)
        self.assertIsNone(programme.solve(np.array([-2.0, 1.0])))
        found = programme.solve(np.array([-2.0, 3.0]))
        assert found is not None
        self.assertAlmostEqual(found[0], 2.0)

    def test_a_sound_rim_is_saved_and_a_bent_one_is_not(self) -> None:
        saved = verdict(self.sound, SOUND, np.random.default_rng(1), draws=4)
        self.assertTrue(saved.can)
        self.assertEqual(saved.best_tier, SOUND)
        lost = verdict(self.bent, SOUND, np.random.default_rng(1), draws=4)
        self.assertFalse(lost.can)
        self.assertLess(lost.chance, 0.5)
        self.assertIn("new rim", lost.why.lower())

    def test_a_rim_bent_a_little_reaches_less(self) -> None:
        found = verdict(state_of(1.4), SOUND, np.random.default_rng(1), draws=2)
        self.assertEqual((found.can, found.best_tier), (False, ROADWORTHY))

    def test_the_same_seed_gives_the_same_verdict(self) -> None:
        one, two = (verdict(self.sound, SOUND, np.random.default_rng(7), draws=3) for _ in range(2))
        self.assertEqual(one.chance, two.chance)


def by_key(case: Case, prices: PriceList = PRICES) -> dict[str, RepairOption]:
    return {option.key: option for option in repair_options(case, prices)}


class Options(unittest.TestCase):
    can = Verdict(SOUND, True, 0.9, "sound", Reach(state_of(), SOUND).best(state_of(), 20), "Spokes can.")

    def case(self, **more: object) -> Case:
        return Case(WHEEL_32, SOUND, **{"rear": True, "rim_verdict": self.can, "inside_tier": False, **more})  # type: ignore[arg-type]

    def proposed(self, case: Case) -> set[str]:
        return {key for key, option in by_key(case).items() if option.proposed}

    def test_what_is_proposed(self) -> None:
        crack = judge(Mark("crack", "R3"), WHEEL_32, None, False)
        broken = judge(Mark("spoke_broken", "R3"), WHEEL_32, None, False)
        rough = judge(Mark("hub_rough"), WHEEL_32, None, False)
        two = pattern_of(WHEEL_32, True, [Break("R3", "elbow", date(2026, 1, 1)), Break("R7", "elbow", date(2026, 3, 1))])
        cannot = replace(self.can, can=False, best_tier=ROADWORTHY, chance=0.1)
        self.assertEqual(self.proposed(self.case()), {"true"})
        self.assertEqual(self.proposed(self.case(inside_tier=True)), {"leave"})
        self.assertEqual(self.proposed(self.case(marks=(crack,))), {"new_rim"})
        self.assertEqual(self.proposed(self.case(marks=(broken,))), {"replace"})
        self.assertEqual(self.proposed(self.case(marks=(broken,), pattern=two)), {"rebuild_side"})
        self.assertEqual(self.proposed(self.case(rim_verdict=cannot)), {"new_rim"})
        self.assertEqual(self.proposed(self.case(marks=(rough,))), {"true", "hub_overhaul"})
        bent_frame = frame_error(0, 9, "steel", "rear", 300)
        self.assertIn("frame", self.proposed(self.case(frame=bent_frame)))

    def test_what_is_barred(self) -> None:
        crack = judge(Mark("crack", "R3"), WHEEL_32, None, False)
        options = by_key(self.case(marks=(crack,)))
        for key in ("leave", "true", "rebuild"):
            self.assertTrue(options[key].barred, key)
        self.assertFalse(options["new_rim"].barred)
        self.assertEqual(len(unsafe_reasons(self.case(marks=(crack,)))), 1)
        self.assertEqual(unsafe_reasons(self.case()), ())

    def test_price_is_labour_and_parts_by_hand(self) -> None:
        option = by_key(self.case())["new_rim"]
        wanted = 6000 * option.minutes / 60 + 5000 + 32 * 100 + 32 * 20 + 400
        self.assertAlmostEqual(option.price_minor or 0, wanted, delta=51)
        self.assertIsNone(by_key(self.case(), PriceList({"labour_hour": 6000}))["new_rim"].price_minor)
        self.assertEqual(by_key(self.case())["leave"].price_minor, 0)

    def test_tighter_takes_longer(self) -> None:
        wide = by_key(replace(self.case(), tier=ROADWORTHY))["true"].minutes
        self.assertLess(wide, by_key(self.case())["true"].minutes)

    def test_new_spokes_promise_no_more_than_the_rim(self) -> None:
        weak = replace(self.can, can=False, chance=0.2, best_tier=ROADWORTHY)
        options = by_key(self.case(rim_verdict=weak))
        self.assertEqual(options["rebuild"].chance, 0.2)
        self.assertEqual(options["new_rim"].chance, 0.95)
        self.assertIsNone(by_key(self.case(rim_verdict=None))["true"].chance)

    def test_bad_prices(self) -> None:
        for prices in ({"gold": 1}, {"spoke": -1}, {"spoke": True}, {"spoke": 10**9}):
            with self.subTest(prices=prices), self.assertRaises(BadPrice):
                PriceList(prices)


class Refit(unittest.TestCase):
    def keys(self, **facts: object) -> list[str]:
        return [step.key for step in refit_steps(BikeFacts(**{"brake": "rim", "rear": True, **facts}))]  # type: ignore[arg-type]

    def text(self, key: str, **facts: object) -> str:
        steps = refit_steps(BikeFacts(**{"brake": "rim", "rear": True, **facts}))  # type: ignore[arg-type]
        return next(step.text for step in steps if step.key == key)

    def test_fitted_to_the_bike(self) -> None:
        self.assertIn("rotor_clean", self.keys(brake="disc"))
        self.assertNotIn("rotor_clean", self.keys())
        self.assertIn("direction", self.keys(directional=True))
        self.assertIn("reaction_arm", self.keys(brake="hub", hub_gear=True))
        self.assertNotIn("chain", self.keys(rear=False))
        self.assertNotIn("test_ride", self.keys(with_bike=False))
        self.assertIn("tell_fitter", self.keys(with_bike=False))
        self.assertIn("Glued", self.text("tyre", tyre="glued"))
        self.assertIn("slots", self.text("axle_home", dropout="horizontal"))

    def test_a_torque_is_the_makers_or_left_open(self) -> None:
        self.assertIn("12 N·m (maker's figure)", self.text("clamped", axle="through", axle_torque_nm=12))
        self.assertIn("look it up", self.text("clamped", axle="nuts"))
        with self.assertRaises(BadBike):
            BikeFacts("rim", True, axle_torque_nm=400)

    def test_recheck_comes_sooner_for_new_spokes_and_loads(self) -> None:
        days = [
            recheck_after(use, new, False).days
            for use, new in (("cargo", True), ("sport", True), ("cargo", False), ("sport", False))
        ]
        self.assertEqual(days, sorted(days))
        self.assertLess(recheck_after("sport", False, True).days, days[0])


class Road(unittest.TestCase):
    def test_what_must_be_walked(self) -> None:
        for trouble, carbon, spokes in (
            ("several_broken", False, 36),
            ("rim_cracked", False, 36),
            ("hit", True, 36),
            ("broken_spoke", False, 20),
        ):
            card = road_card(trouble, True, False, carbon, spokes)
            self.assertEqual((card.ride, card.km), (False, 0), trouble)

    def test_every_trouble_has_a_card_that_ends_in_a_workshop_or_a_walk(self) -> None:
        for trouble in TROUBLES:
            card = road_card(trouble, True, False, False, 36)
            self.assertIn("workshop" if card.ride else "fetched", " ".join(card.steps))
            self.assertIn("stop riding", card.steps[0])

    def test_a_load_halves_the_way(self) -> None:
        light, heavy = (road_card("loose_spokes", True, load, False, 36) for load in (False, True))
        self.assertEqual(heavy.km * 2, light.km)
        self.assertIn("load", heavy.steps[1])

    def test_unknown(self) -> None:
        with self.assertRaises(UnknownTrouble):
            road_card("flat tyre", True, False, False, 36)
