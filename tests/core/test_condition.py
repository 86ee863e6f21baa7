"""Damage at its place, breaks over a life, the frame gauge. Rules of the trade: common practice, no source."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

import numpy as np

from felloe.core.diagnosis.breakage import (
    NEW_RIM,
    ONE_SPOKE,
    PLACES,
    SIDE,
    SUSPECTS,
    WHEEL,
    BadBreak,
    Break,
    TensionFacts,
    pattern_of,
)
from felloe.core.diagnosis.condition import CONDITIONS, LEVELS, BadCondition, Mark
from felloe.core.diagnosis.history import WheelFacts, factors, said_by
from felloe.core.diagnosis.inference import diagnose
from felloe.core.diagnosis.rim_damage import bends, judge
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.naming import Side
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS

WHEEL_36 = WHEEL_KINDS["rim-brake-rear-36"].wheel


def even_state() -> WheelState:
    targets = side_targets_n(WHEEL_36)
    tension = [TensionReading(str(n), targets[n.side], 5) for n in WHEEL_36.names]
    return estimate_state(influence_of(WHEEL_36), Readings(tension))


class Marks(unittest.TestCase):
    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        cases = (
            ("kind", ("scratch", "R1", None)),
            ("spoke", ("dent", "", None)),
            ("spoke", ("hub_play", "R1", None)),
            ("measure_mm", ("crack", "R1", 1.0)),
            ("measure_mm", ("dent", "R1", 40.0)),
            ("measure_mm", ("dent", "R1", -1.0)),
        )
        for field, (kind, spoke, measure) in cases:
            with self.subTest(kind=kind, field=field), self.assertRaises(BadCondition) as caught:
                Mark(kind, spoke, measure)
            self.assertEqual(caught.exception.field, field)

    def test_a_crack_a_broken_spoke_and_a_broken_axle_are_never_ridden(self) -> None:
        for kind, spoke in (("crack", "R3"), ("spoke_broken", "L4"), ("axle_broken", ""), ("flange_cracked", "")):
            self.assertEqual(judge(Mark(kind, spoke), WHEEL_36, None, True).level, "not_to_ride", kind)

    def test_wear_goes_by_the_wall(self) -> None:
        levels = [judge(Mark("wear", "R1", wall), WHEEL_36, None, True).level for wall in (1.6, 1.1, 0.9)]
        self.assertEqual(levels, ["record", "watch", "not_to_ride"])
        self.assertEqual(judge(Mark("wear", "R1"), WHEEL_36, None, True).level, "watch")
        self.assertEqual(judge(Mark("wear", "R1", 1.1), WHEEL_36, None, True, wall_limit_mm=1.3).level, "not_to_ride")

    def test_a_dent_is_graver_under_a_rim_brake(self) -> None:
        state = even_state()
        under = [judge(Mark("dent", "R5", depth), WHEEL_36, state, True).level for depth in (0.5, 1.5, 3.5)]
        self.assertEqual(under, ["record", "watch", "not_to_ride"])
        disc = [judge(Mark("dent", "R5", depth), WHEEL_36, state, False).level for depth in (0.5, 1.5, 3.5)]
        self.assertEqual(disc, ["record", "record", "watch"])

    def test_nothing_on_carbon_is_only_watched(self) -> None:
        carbon = replace(WHEEL_36, rim=replace(WHEEL_36.rim, material="carbon"))
        for kind in ("dent", "crack", "bulge"):
            self.assertEqual(judge(Mark(kind, "R2"), carbon, None, False).level, "not_to_ride", kind)

    def test_a_bulge_is_judged_by_the_tension_at_its_place(self) -> None:
        base = even_state()
        place = WHEEL_36.index_of["R7"]

        def at(tension_n: float) -> str:
            tension = base.tension_n.copy()
            tension[place] = tension_n
            return judge(Mark("bulge", "R7"), WHEEL_36, replace(base, tension_n=tension), True).level

        cap = WHEEL_36.rim.tension_cap_n
        self.assertEqual([at(0.6 * cap), at(0.95 * cap), at(1.05 * cap)], ["record", "watch", "not_to_ride"])
        self.assertEqual(judge(Mark("bulge", "R7"), WHEEL_36, None, True).level, "watch")

    def test_the_verdict_says_the_figures_at_the_place(self) -> None:
        self.assertIn("1000 N", judge(Mark("dent", "R5", 0.5), WHEEL_36, even_state(), False).why)
        self.assertIn("Nothing measured", judge(Mark("dent", "R5", 0.5), WHEEL_36, None, False).why)

    def test_every_kind_has_a_level_and_a_remedy(self) -> None:
        for kind in CONDITIONS.values():
            self.assertIn(kind.level, LEVELS)
            self.assertTrue(kind.remedy.endswith("."))


class Bends(unittest.TestCase):
    def test_an_even_wheel_has_none_nor_has_one_slack_spoke(self) -> None:
        state = even_state()
        self.assertEqual(bends(state), ())
        tension, lateral = state.tension_n.copy(), state.lateral_mm.copy()
        tension[WHEEL_36.index_of["L6"]] = 50
        lateral[WHEEL_36.index_of["R6"]] = 0.9
        self.assertEqual(bends(replace(state, tension_n=tension, lateral_mm=lateral)), ())

    def test_a_flat_with_slack_spokes_is_named_across_the_valve(self) -> None:
        state = even_state()
        near = [34, 35, 0, 1]
        tension, radial = state.tension_n.copy(), state.radial_mm.copy()
        tension[[32, 33, *near, 2, 3]] *= 0.3
        radial[near] = -0.8
        found = bends(replace(state, tension_n=tension, radial_mm=radial))
        self.assertEqual(len(found), 1)
        self.assertEqual(found[0].spokes, tuple(str(WHEEL_36.names[i]) for i in near))
        self.assertIn("slack", found[0].why)

    def test_a_sideways_bend_pulls_against_its_spokes(self) -> None:
        """Bent right with the left far tight and the right loose is the rim; the other way round it is only the spokes."""
        state = even_state()
        near = np.arange(10, 15)
        right = WHEEL_36.on_side(Side.RIGHT)
        around = np.arange(8, 17)
        lateral = state.lateral_mm.copy()
        lateral[near] = 1.2
        bent, pulled = state.tension_n.copy(), state.tension_n.copy()
        bent[around] *= np.where(right[around], 0.4, 1.6)
        pulled[around] *= np.where(right[around], 1.6, 0.4)
        self.assertEqual(len(bends(replace(state, tension_n=bent, lateral_mm=lateral))), 1)
        self.assertEqual(bends(replace(state, tension_n=pulled, lateral_mm=lateral)), ())


class Breakage(unittest.TestCase):
    def pattern(self, *breaks: tuple[str, str, int], facts: TensionFacts | None = None, rear: bool = True):  # type: ignore[no-untyped-def]
        rows = [Break(spoke, place, date(2026, 1, 1).replace(month=month)) for spoke, place, month in breaks]
        return pattern_of(WHEEL_36, rear, rows, facts)

    def test_advice_by_the_rules(self) -> None:
        cases = (
            (ONE_SPOKE, [("R3", "elbow", 1)], None),
            (SIDE, [("R3", "elbow", 1), ("R9", "elbow", 4)], None),
            (ONE_SPOKE, [("R3", "elbow", 1), ("R9", "elbow", 11)], None),
            (ONE_SPOKE, [("R3", "elbow", 1), ("L9", "elbow", 2)], None),
            (SIDE, [("L3", "elbow", 1), ("L5", "middle", 8), ("L9", "thread", 12)], None),
            (WHEEL, [("R3", "elbow", 1), ("R9", "elbow", 2), ("L1", "elbow", 3), ("L8", "elbow", 4)], None),
            (WHEEL, [("R3", "elbow", 1), ("L9", "elbow", 8), ("R12", "elbow", 12)], None),
            (SIDE, [("R3", "nipple_head", 1)], TensionFacts(length_spread_mm=3.0)),
            (NEW_RIM, [("R3", "rim", 1)], None),
        )
        for advice, breaks, facts in cases:
            with self.subTest(advice=advice, breaks=breaks):
                found = self.pattern(*breaks, facts=facts)
                self.assertEqual(found.advice, advice)
                self.assertTrue(all(found.reasons))

    def test_first_suspects_by_place_and_by_what_was_measured(self) -> None:
        def first(*breaks: tuple[str, str, int], **more: object) -> str:
            return self.pattern(*breaks, **more).suspects[0].key  # type: ignore[no-any-return]

        slack = TensionFacts(mean_share=0.6, spread_percent=12)
        self.assertEqual(first(("L3", "elbow", 1), facts=slack), "low_tension")
        self.assertEqual(first(("L3", "elbow", 1), facts=TensionFacts(mean_share=1.0, spread_percent=40)), "uneven")
        self.assertEqual(first(("R3", "middle", 1), ("R4", "middle", 9)), "chain")
        self.assertEqual(first(("L3", "middle", 1)), "impact")
        self.assertEqual(first(("R3", "nipple_head", 1)), "too_short")
        self.assertEqual(first(("R3", "rim", 1), facts=TensionFacts(over_cap=True)), "over_tension")
        self.assertEqual(first(("R3", "elbow", 1), ("L9", "elbow", 8), ("R12", "elbow", 12)), "age")

    def test_shares_add_up_and_every_suspect_can_come_up(self) -> None:
        seen = set()
        for place in PLACES:
            found = self.pattern(("L2", place, 3))
            self.assertAlmostEqual(sum(s.share for s in found.suspects), 1)
            seen |= {s.key for s in found.suspects}
        self.assertEqual(seen, {cause for by in SUSPECTS.values() for cause in by})

    def test_no_break_no_pattern_and_no_such_place(self) -> None:
        self.assertIsNone(pattern_of(WHEEL_36, True, []))
        with self.assertRaises(BadBreak):
            Break("R1", "knee", date(2026, 1, 1))


class History(unittest.TestCase):
    def test_the_wheel_moves_the_prior_and_answers_still_decide(self) -> None:
        def share(cause: str, facts: WheelFacts | None, answers: dict[str, str] | None = None) -> float:
            found = diagnose(("rubs",), answers or {}, facts)
            return next(r.share for r in found.causes if r.key == cause)

        self.assertLess(share("rotor_bent", WheelFacts("rim")), 0.01)
        self.assertGreater(share("rotor_bent", WheelFacts("disc")), share("rotor_bent", None))
        self.assertLess(share("hanger_overlap", WheelFacts("rim", front=True)), share("hanger_overlap", None) / 5)
        self.assertGreater(share("broken_spoke", WheelFacts("rim", breaks=2)), 2 * share("broken_spoke", WheelFacts("rim")))
        again = WheelFacts("rim", found_before={"lateral_untrue": 30})
        self.assertGreater(share("lateral_untrue", again), share("lateral_untrue", WheelFacts("rim")))
        old = WheelFacts("rim", found_before={"lateral_untrue": 900})
        self.assertAlmostEqual(share("lateral_untrue", old), share("lateral_untrue", WheelFacts("rim")))
        self.assertGreater(share("axle_not_home", again, {"drops_in": "yes", "where_rubs": "round"}), 0.7)

    def test_hub_work_makes_spacers_likelier(self) -> None:
        worked = WheelFacts("rim", found_before={"bearing_rough": 20})
        self.assertGreater(factors(worked)["spacers"], 2)

    def test_what_it_says(self) -> None:
        lines = said_by(WheelFacts("rim", breaks=2, found_before={"off_dish": 12}, marks=("dent", "dent", "face_marks")))
        self.assertEqual(lines, ("2 spokes broken since the last rebuild", "rim off-dish found 12 days ago", "on record: dent"))
        self.assertEqual(said_by(WheelFacts("disc", front=True)), ())
