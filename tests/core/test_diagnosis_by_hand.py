"""Damage, breaks and history judged by hand, at their borders. Limits are common practice, no source, as the core says."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
from scipy.stats import entropy

from felloe.core.diagnosis.breakage import Break, Pattern, TensionFacts, pattern_of
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.diagnosis.checks import CHECKS
from felloe.core.diagnosis.condition import Mark
from felloe.core.diagnosis.history import WheelFacts, factors, said_by
from felloe.core.diagnosis.inference import diagnose
from felloe.core.diagnosis.rim_damage import bends, in_vain, judge
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.naming import Side
from felloe.core.tension.statics import side_targets_n
from tests.core.wheels import REAR, SYMMETRIC, influence

TARGETS = side_targets_n(REAR)
PER_SPOKE_N = np.array([TARGETS[name.side] for name in REAR.names])
RIGHT = REAR.on_side(Side.RIGHT)


def state(share_right: float = 1.0, share_left: float = 1.0) -> WheelState:
    """A straight, round wheel whose sides stand at given shares of their target, exactly."""
    read = Readings([TensionReading(str(n), TARGETS[n.side], 5) for n in REAR.names])
    still = np.zeros(REAR.spoke_count)
    tension = PER_SPOKE_N * np.where(RIGHT, share_right, share_left)
    return replace(estimate_state(influence(REAR), read), tension_n=tension, lateral_mm=still, radial_mm=still)


class Bent(unittest.TestCase):
    def test_a_flat_begins_beyond_four_tenths_with_spokes_below_six_tenths(self) -> None:
        cases = (
            (-0.41, 0.59, 0.59, 1),
            (-0.4, 0.59, 0.59, 0),
            (-0.41, 0.61, 0.59, 0),
            (-0.41, 0.59, 0.61, 0),
            (0.41, 0.5, 0.5, 0),
        )
        for depth, right, left, expected in cases:
            wheel = state(right, left)
            radial = wheel.radial_mm.copy()
            radial[9] = depth
            with self.subTest(depth=depth, right=right, left=left):
                self.assertEqual(len(bends(replace(wheel, radial_mm=radial))), expected)

    def test_a_sideways_bend_needs_the_pulling_side_far_tight_and_the_other_loose(self) -> None:
        """Bent right, the left ones pull it back; bent left, the right ones."""
        cases = (
            (0.41, 0.74, 1.26, 1), (0.4, 0.74, 1.26, 0), (0.41, 0.76, 1.26, 0), (0.41, 0.74, 1.24, 0), (0.41, 1.26, 0.74, 0),
            (-0.41, 1.26, 0.74, 1), (-0.4, 1.26, 0.74, 0), (-0.41, 1.24, 0.74, 0), (-0.41, 1.26, 0.76, 0),
            (-0.41, 0.74, 1.26, 0),
        )  # fmt: skip
        for aside, right, left, expected in cases:
            wheel = state(right, left)
            lateral = wheel.lateral_mm.copy()
            lateral[20] = aside
            found = bends(replace(wheel, lateral_mm=lateral))
            with self.subTest(aside=aside, right=right, left=left):
                self.assertEqual(len(found), expected)
                if found:
                    self.assertEqual(found[0].spokes, (str(REAR.names[20]),))
                    self.assertIn("right" if aside > 0 else "left", found[0].why)

    def test_a_place_counts_with_two_neighbours_either_way(self) -> None:
        """The mean over five holes of a rear wheel: three of one side, two of the other, the place in the middle."""
        wheel = state()
        place = 12
        mine, other = (RIGHT, ~RIGHT) if RIGHT[place] else (~RIGHT, RIGHT)
        near = np.zeros(REAR.spoke_count, dtype=bool)
        near[place - 2 : place + 3] = True
        self.assertEqual((int((near & mine).sum()), int((near & other).sum())), (3, 2))
        radial = wheel.radial_mm.copy()
        radial[place] = -0.5
        for share, expected in ((0.59, 1), (0.61, 0)):
            tension = np.where(near, PER_SPOKE_N * share, PER_SPOKE_N)
            with self.subTest(share=share):
                self.assertEqual(len(bends(replace(wheel, radial_mm=radial, tension_n=tension))), expected)
        # One of the five at its target takes the mean of its side up: (2·0.5 + 1)/3 = 0.67.
        tension = np.where(near, PER_SPOKE_N * 0.5, PER_SPOKE_N)
        tension[place - 2] = PER_SPOKE_N[place - 2]
        self.assertEqual(len(bends(replace(wheel, radial_mm=radial, tension_n=tension))), 0)

    def test_places_two_apart_are_one_bend_and_three_apart_are_two(self) -> None:
        wheel = state(0.5, 0.5)

        def found(*places: int) -> list[tuple[str, ...]]:
            radial = wheel.radial_mm.copy()
            radial[list(places)] = -0.6
            return [bend.spokes for bend in bends(replace(wheel, radial_mm=radial))]

        def names(*places: int) -> tuple[str, ...]:
            return tuple(str(REAR.names[i]) for i in places)

        self.assertEqual(found(5, 7), [names(5, 7)])
        self.assertEqual(found(5, 8), [names(5), names(8)])
        self.assertEqual(found(34, 0), [names(34, 0)])
        self.assertEqual(found(1, 35), [names(35, 1)])
        self.assertEqual(found(33, 0), [names(0), names(33)])
        self.assertEqual(found(35, 1, 10), [names(35, 1), names(10)])


class Judged(unittest.TestCase):
    def test_depth_of_a_dent_at_the_borders(self) -> None:
        even = state()
        for depth, brake, expected in (
            (0.99, True, "record"), (1.0, True, "watch"), (2.99, True, "watch"), (3.0, True, "not_to_ride"),
            (1.0, False, "record"), (2.99, False, "record"), (3.0, False, "watch"),
        ):  # fmt: skip
            with self.subTest(depth=depth, brake=brake):
                self.assertEqual(judge(Mark("dent", "R5", depth), REAR, even, brake).level, expected)
        self.assertEqual(judge(Mark("dent", "R5"), REAR, even, True).level, "watch")
        self.assertEqual(judge(Mark("dent", "R5"), REAR, None, False).level, "watch")

    def test_a_dent_in_a_bend_is_watched_however_shallow(self) -> None:
        wheel = state(0.5, 0.5)
        radial = wheel.radial_mm.copy()
        radial[REAR.index_of["R5"]] = -0.6
        bent = replace(wheel, radial_mm=radial)
        self.assertEqual(judge(Mark("dent", "R5", 0.2), REAR, bent, False).level, "watch")
        self.assertEqual(judge(Mark("dent", "R9", 0.2), REAR, bent, False).level, "record")
        self.assertEqual(judge(Mark("dent", "R5", 3.2), REAR, bent, True).level, "not_to_ride")

    def test_walls_of_a_worn_track_at_the_borders(self) -> None:
        """Worn out below 1.0 mm, near its end below 1.2; a maker's own limit shifts both."""
        for wall, expected in ((0.99, "not_to_ride"), (1.0, "watch"), (1.19, "watch"), (1.21, "record")):
            with self.subTest(wall=wall):
                self.assertEqual(judge(Mark("wear", "R1", wall), REAR, None, True).level, expected)
        for wall, expected in ((0.79, "not_to_ride"), (0.8, "watch"), (0.99, "watch"), (1.01, "record")):
            with self.subTest(limit=0.8, wall=wall):
                self.assertEqual(judge(Mark("wear", "R1", wall), REAR, None, True, 0.8).level, expected)

    def test_a_bulge_at_nine_tenths_of_the_limit_and_at_the_limit(self) -> None:
        cap = REAR.rim.tension_cap_n
        wheel = state()
        for tension_n, expected in ((0.9 * cap, "record"), (0.9 * cap + 1, "watch"), (cap, "watch"), (cap + 1, "not_to_ride")):
            tension = wheel.tension_n.copy()
            tension[REAR.index_of["L8"]] = tension_n
            with self.subTest(tension_n=tension_n):
                self.assertEqual(judge(Mark("bulge", "L8"), REAR, replace(wheel, tension_n=tension), True).level, expected)

    def test_carbon_forbids_what_aluminium_bears_and_nothing_else(self) -> None:
        carbon = replace(REAR, rim=replace(REAR.rim, material="carbon"))
        levels = {
            kind: judge(Mark(kind, "R2"), carbon, None, False).level for kind in ("dent", "bulge", "eyelet", "track_mark")
        }
        self.assertEqual(levels, {"dent": "not_to_ride", "bulge": "not_to_ride", "eyelet": "watch", "track_mark": "record"})

    def test_the_place_is_said_with_its_sides(self) -> None:
        wheel = state()
        i = REAR.index_of["R4"]
        lateral, radial = wheel.lateral_mm.copy(), wheel.radial_mm.copy()
        lateral[i], radial[i] = -0.31, 0.22
        why = judge(Mark("dent", "R4", 0.2), REAR, replace(wheel, lateral_mm=lateral, radial_mm=radial), False).why
        self.assertIn("0.31 mm to the left, 0.22 mm outward", why)
        why = judge(Mark("dent", "R4", 0.2), REAR, replace(wheel, lateral_mm=-lateral, radial_mm=-radial), False).why
        self.assertIn("0.31 mm to the right, 0.22 mm inward", why)
        self.assertIn("0.00 mm to the right, 0.00 mm outward", judge(Mark("track_mark", "R5"), REAR, wheel, True).why)
        self.assertIn("There:", judge(Mark("eyelet", "R5"), REAR, wheel, True).why)
        self.assertNotIn("There:", judge(Mark("spoke_kinked", "R5"), REAR, wheel, True).why)
        self.assertNotIn("measured", judge(Mark("eyelet", "R5"), REAR, None, True).why)

    def test_work_is_in_vain_on_a_rim_or_flange_that_must_not_be_ridden(self) -> None:
        def lines(*marks: Mark) -> int:
            return len(in_vain([judge(mark, REAR, None, True) for mark in marks]))

        self.assertEqual(lines(Mark("crack", "R3")), 1)
        self.assertEqual(lines(Mark("flange_cracked")), 1)
        self.assertEqual(lines(Mark("axle_broken"), Mark("spoke_broken", "R3"), Mark("dent", "R5", 0.3)), 0)
        self.assertEqual(lines(Mark("crack", "R3"), Mark("crack", "R3"), Mark("crack", "R5")), 2)


class Breaks(unittest.TestCase):
    def read(self, *breaks: tuple[str, str, int], rear: bool = True, facts: TensionFacts | None = None, wheel=REAR) -> Pattern:  # type: ignore[no-untyped-def]
        start = date(2026, 1, 1)
        found = pattern_of(wheel, rear, [Break(spoke, place, start + timedelta(days)) for spoke, place, days in breaks], facts)
        assert found is not None
        return found

    def shares(self, *breaks: tuple[str, str, int], **known) -> dict[str, float]:  # type: ignore[no-untyped-def]
        return {suspect.key: suspect.share for suspect in self.read(*breaks, **known).suspects}

    def weighed(self, weights: dict[str, float], *breaks: tuple[str, str, int], **known) -> None:  # type: ignore[no-untyped-def]
        """Shares as these weights give them, and in their order."""
        found = self.shares(*breaks, **known)
        total = sum(weights.values())
        self.assertEqual(set(found), set(weights))
        for key, weight in weights.items():
            self.assertAlmostEqual(found[key], weight / total, 9, key)
        self.assertEqual(list(found.values()), sorted(found.values(), reverse=True))

    def test_first_suspects_of_every_place(self) -> None:
        """On the tight side of a front wheel nothing leans but that no chain runs there: a fifth of its weight."""
        weights = {
            "elbow": {"low_tension": 3, "uneven": 3, "age": 2.5, "elbow_seat": 2, "chain": 1.5 / 5},
            "middle": {"impact": 4, "chain": 2 / 5, "corrosion": 2, "twist": 1.5},
            "thread": {"too_short": 3, "bent_at_nipple": 3, "corrosion": 2},
            "nipple_head": {"too_short": 4, "alloy_nipple": 3, "bent_at_nipple": 1.5},
            "rim": {"over_tension": 3, "soft_rim": 3},
        }
        for place, expected in weights.items():
            with self.subTest(place):
                self.weighed(expected, ("R3", place, 0), rear=False)

    def test_behind_the_sprockets(self) -> None:
        self.weighed({"impact": 4, "chain": 6, "corrosion": 2, "twist": 1.5}, ("R3", "middle", 0))
        # One on the left as well, far off: no chain.
        self.weighed({"impact": 8, "chain": 0.8, "corrosion": 4, "twist": 3}, ("R3", "middle", 0), ("L12", "middle", 400))

    def test_on_the_looser_side(self) -> None:
        elbow = {"low_tension": 4.5, "uneven": 3, "age": 2.5, "elbow_seat": 2, "chain": 0.3}
        self.weighed(elbow, ("L3", "elbow", 0))
        # Neither side of this front wheel is the looser.
        self.weighed({**elbow, "low_tension": 3}, ("L3", "elbow", 0), rear=False, wheel=SYMMETRIC)
        # As many on one side as on the other: nothing said of sides.
        both = {"low_tension": 6, "uneven": 6, "age": 5, "elbow_seat": 4, "chain": 0.6}
        self.weighed(both, ("L3", "elbow", 0), ("R12", "elbow", 400))

    def test_side_by_side(self) -> None:
        """Two holes apart is side by side, three is not; the count goes round."""
        apart = {"impact": 8, "chain": 4 * 0.2, "corrosion": 4, "twist": 3}
        near = {**apart, "impact": 8 * 1.8, "chain": 4 * 0.2 * 1.3}
        name = [str(n) for n in REAR.names]
        for first, second, expected in (
            (4, 5, near),
            (4, 6, near),
            (4, 7, apart),
            (35, 1, near),
            (34, 1, apart),
            (0, 35, near),
        ):
            with self.subTest(first=name[first], second=name[second]):
                # Neither wholly on the right nor, over the looser side, on the low-tension list.
                self.weighed(expected, (name[first], "middle", 0), (name[second], "middle", 500), rear=False)
        # The same spoke twice is no neighbour of itself.
        self.weighed(apart, ("R4", "middle", 0), ("R4", "middle", 500), rear=False)

    def test_three_in_a_life_point_to_age(self) -> None:
        breaks = (("R2", "elbow", 0), ("R8", "elbow", 400), ("R14", "elbow", 800))
        self.weighed({"low_tension": 9, "uneven": 9, "age": 15, "elbow_seat": 6, "chain": 0.9}, *breaks, rear=False)

    def test_tension_leans(self) -> None:
        base = {"low_tension": 3.0, "uneven": 3.0, "age": 2.5, "elbow_seat": 2.0, "chain": 0.3}
        for facts, change in (
            (TensionFacts(mean_share=0.79), {"low_tension": 7.5}), (TensionFacts(mean_share=0.8), {"low_tension": 1.2}),
            (TensionFacts(spread_percent=20.1), {"uneven": 6.0}), (TensionFacts(spread_percent=20), {"uneven": 1.2}),
            (TensionFacts(over_cap=True), {}),
        ):  # fmt: skip
            with self.subTest(facts):
                self.weighed({**base, **change}, ("R3", "elbow", 0), rear=False, facts=facts)
        self.weighed({"over_tension": 9, "soft_rim": 3}, ("R3", "rim", 0), facts=TensionFacts(over_cap=True))
        thread = {"too_short": 3.0, "bent_at_nipple": 3.0, "corrosion": 2.0}
        self.weighed(thread, ("R3", "thread", 0), facts=TensionFacts(length_spread_mm=2.0))
        self.weighed({**thread, "too_short": 9}, ("R3", "thread", 0), facts=TensionFacts(length_spread_mm=2.1))

    def test_what_is_due(self) -> None:
        cases = (
            ("one", [("R2", "elbow", 0)], "one_spoke", Side.RIGHT),
            ("within half a year", [("R2", "elbow", 0), ("R8", "elbow", 183)], "side", Side.RIGHT),
            ("just after half a year", [("R2", "elbow", 0), ("R8", "elbow", 184)], "one_spoke", Side.RIGHT),
            ("in any order", [("L8", "elbow", 100), ("L2", "elbow", 0)], "side", Side.LEFT),
            ("on either side", [("R2", "elbow", 0), ("L8", "elbow", 30)], "one_spoke", Side.LEFT),
            ("three on a side", [("R2", "elbow", 0), ("R8", "elbow", 400), ("R14", "elbow", 800)], "side", Side.RIGHT),
            ("three over both", [("R2", "elbow", 0), ("L8", "elbow", 400), ("R14", "elbow", 800)], "wheel", None),
            ("both sides twice", [("R2", "elbow", 0), ("R8", "elbow", 9), ("L2", "elbow", 400),
            ("L8", "elbow", 410)], "wheel", None),
            ("through the rim", [("R2", "elbow", 0), ("R8", "rim", 400)], "new_rim", None),
        )  # fmt: skip
        for what, breaks, advice, side in cases:
            with self.subTest(what):
                found = self.read(*breaks)
                self.assertEqual((found.advice, found.side), (advice, side))
        mixed = TensionFacts(length_spread_mm=2.5)
        self.assertEqual(self.read(("L2", "elbow", 0), facts=mixed).side, Side.LEFT)
        self.assertEqual(self.read(("L2", "elbow", 0), facts=mixed).advice, "side")
        self.assertEqual(self.read(("L2", "elbow", 0), facts=TensionFacts(length_spread_mm=2.0)).advice, "one_spoke")


class Before(unittest.TestCase):
    """What the wheel says beforehand; every factor is common practice, no source."""

    def moved(self, **facts) -> dict[str, float]:  # type: ignore[no-untyped-def]
        return {cause: round(factor, 6) for cause, factor in factors(WheelFacts(**facts)).items() if factor != 1}

    def test_factors(self) -> None:
        through = {"axle_not_home": 0.1, "hanger_overlap": 0.02, "stop_screws": 0.02, "axle_ends_proud": 0.02, "axle_bent": 0.4}
        cases: tuple[tuple[dict[str, object], dict[str, float]], ...] = (
            ({}, {}),
            ({"brake": "rim"}, {"rotor_bent": 0.02}),
            ({"brake": "disc"}, {"rotor_bent": 1.6, "brake_off_centre": 0.2, "rim_worn": 0.05}),
            ({"brake": "hub"}, {"rotor_bent": 0.02, "brake_off_centre": 0.1, "rim_worn": 0.05}),
            ({"front": True}, {"hanger_overlap": 0.05, "stop_screws": 0.2}),
            ({"axle": "through"}, through),
            ({"axle": "nuts"}, {"axle_ends_proud": 0.5}),
            ({"axle": "through", "front": True}, {**through, "hanger_overlap": 0.001, "stop_screws": 0.004}),
            ({"breaks": 1}, {"broken_spoke": 1.8, "low_tension": 1.5, "one_loose": 1.3}),
            ({"breaks": 3}, {"broken_spoke": 3.4, "low_tension": 1.5, "one_loose": 1.3}),
            ({"breaks": 9}, {"broken_spoke": 4, "low_tension": 1.5, "one_loose": 1.3}),
            ({"marks": ("dent", "dent")}, {"rim_dent": 4, "rim_bent": 2}),
            ({"marks": ("crack",)}, {"rim_crack": 10}),
            ({"marks": ("bulge",)}, {"rim_crack": 3}),
            ({"marks": ("wear",)}, {"rim_worn": 4}),
            ({"marks": ("hub_play",)}, {"bearing_play": 3}),
            ({"marks": ("hub_rough",)}, {"bearing_rough": 4}),
            ({"marks": ("axle_bent",)}, {"axle_bent": 6}),
            ({"marks": ("axle_broken",)}, {"axle_broken": 10}),
            ({"marks": ("spoke_broken",)}, {"broken_spoke": 6}),
            ({"marks": ("nipple_seized",)}, {}),
            ({"found_before": {"off_dish": 365}}, {"off_dish": 2}),
            ({"found_before": {"off_dish": 366, "no_such_cause": 3}}, {}),
            ({"found_before": {"bearing_rough": 10}}, {"bearing_rough": 2, "spacers": 3, "off_dish": 1.5}),
        )
        for facts, expected in cases:
            with self.subTest(facts):
                self.assertEqual(self.moved(**facts), expected)

    def test_what_is_said_of_it(self) -> None:
        self.assertEqual(said_by(WheelFacts()), ())
        lines = said_by(
            WheelFacts(breaks=2, found_before={"off_dish": 300, "lateral_untrue": 12, "spacers": 366}, marks=("dent",))
        )
        self.assertEqual(len(lines), 4)
        self.assertIn("2 spokes", lines[0])
        self.assertIn("12 days", lines[1])
        self.assertIn("300 days", lines[2])
        self.assertTrue(lines[3].startswith("on record"))
        self.assertIn("365 days", said_by(WheelFacts(found_before={"off_dish": 365}))[0])


class Cost(unittest.TestCase):
    def test_the_first_look_with_the_wheel_out_costs_taking_it_out(self) -> None:
        """All checks on the bike answered by nothing, what is left needs the wheel out: 2 minutes more, once."""
        on_bike = {
            "spokes_by_hand": "unknown", "drops_in": "unknown", "stop_screws": "unknown", "slot_hidden": "unknown",
            "ends_proud": "unknown", "clamp_firm": "unknown", "play": "unknown", "where_rubs": "unknown", "hop": "unknown",
            "tyre_line": "unknown", "pads_alike": "unknown", "rotor": "unknown", "rim_surface": "unknown",
            "brake_track": "unknown", "rattle": "unknown", "squeeze": "unknown", "flip": "unknown", "hub_was_apart": "unknown",
        }  # fmt: skip
        first = diagnose(("creaks",), on_bike).next_check
        assert first is not None
        alone = {"axle_turns": 1.5, "bearing_feel": 1.0, "tension_there": 1.0}
        self.assertAlmostEqual(first.minutes, alone[first.key] + 2.0)
        # Who does not know has not taken it out.
        still = diagnose(("creaks",), {**on_bike, first.key: "unknown"}).next_check
        assert still is not None
        self.assertAlmostEqual(still.minutes, alone[still.key] + 2.0)
        answer = {"axle_turns": "true", "bearing_feel": "smooth", "tension_there": "no"}[first.key]
        second = diagnose(("creaks",), {**on_bike, first.key: answer}).next_check
        assert second is not None
        self.assertAlmostEqual(second.minutes, alone[second.key])


class Weighed(unittest.TestCase):
    """The whole inference once more over arrays, by scipy's entropy, on answers drawn at random."""

    def setUp(self) -> None:
        self.causes = list(CAUSES)

    def shares(self, complaints: tuple[str, ...], answers: dict[str, str]) -> np.ndarray:
        weight = np.array([max(sum(CAUSES[c].weight.get(tag, 0) for tag in complaints), 0.6) for c in self.causes])
        for key, answer in answers.items():
            weight = weight * self.likelihood(key)[:, list(CHECKS[key].answers).index(answer)]
        return weight / weight.sum()

    def likelihood(self, key: str) -> np.ndarray:
        return np.array([CHECKS[key].by_cause.get(c, CHECKS[key].otherwise) for c in self.causes])

    def drawn(self):  # type: ignore[no-untyped-def]
        rng = np.random.default_rng(4)
        for _ in range(60):
            complaints = tuple(
                rng.choice(["rubs", "hops", "off_side", "creaks", "hit", "check", "loose_spokes"], 2, replace=False)
            )
            keys = rng.choice(list(CHECKS), int(rng.integers(0, 6)), replace=False)
            yield complaints, {str(k): str(rng.choice(list(CHECKS[k].answers))) for k in keys}
        # And as a wheel with one cause would answer, nearly everything asked: then something gets clear.
        for cause in self.causes:
            keys = rng.choice(list(CHECKS), len(CHECKS) - 3, replace=False)
            answers = {}
            for key in (str(k) for k in keys):
                chances = [CHECKS[key].chance(cause, answer) for answer in CHECKS[key].answers]
                answers[key] = list(CHECKS[key].answers)[int(np.argmax(chances))]
            yield ("check",), answers

    def test_shares_and_the_next_check(self) -> None:
        clear_seen = asked = 0
        for complaints, answers in self.drawn():
            found = diagnose(complaints, answers)
            shares = self.shares(complaints, answers)
            with self.subTest(complaints=complaints, answers=answers):
                for ranked in found.causes:
                    self.assertAlmostEqual(ranked.share, shares[self.causes.index(ranked.key)], 9)
                best = self.causes[int(shares.argmax())]
                self.assertEqual(found.causes[0].key, best)
                out = any(CHECKS[key].where != "on the bike" for key in answers)
                rows = []
                for key in (key for key in CHECKS if key not in answers):
                    joint = shares[:, None] * self.likelihood(key)
                    chance = joint.sum(axis=0)
                    after = joint / chance
                    gain = entropy(shares, base=2) - float(chance @ entropy(after, base=2))
                    could = any(c >= 0.02 and after[self.causes.index(best), a] < 0.5 for a, c in enumerate(chance))
                    minutes = CHECKS[key].minutes + (2.0 if CHECKS[key].where != "on the bike" and not out else 0)
                    rows.append((gain / (minutes + 0.3), key, gain, could, minutes))
                worth = [row for row in rows if (row[3] if shares.max() >= 0.85 else row[2] >= 0.02)]
                self.assertEqual(found.clear, shares.max() >= 0.85 and not worth)
                if worth:
                    first = max(worth)
                    assert found.next_check is not None
                    self.assertEqual(found.next_check.key, first[1])
                    self.assertAlmostEqual(found.next_check.gain_bit, first[2], 9)
                    self.assertAlmostEqual(found.next_check.minutes, first[4], 9)
                    asked += 1
                else:
                    self.assertIsNone(found.next_check)
                clear_seen += found.clear
                unsafe = [c for c in self.causes if CAUSES[c].unsafe and shares[self.causes.index(c)] > 0.1]
                self.assertEqual(set(found.unsafe), set(unsafe))
        self.assertGreater(asked, 20)
        self.assertGreater(clear_seen, 2)

    def test_what_speaks_for_and_against(self) -> None:
        """An answer counts from twice or half as often on; strongest first."""
        for complaints, answers in self.drawn():
            found = diagnose(complaints, answers)
            for ranked in found.causes[:6]:
                odds = {}
                for key, answer in answers.items():
                    place = list(CHECKS[key].answers).index(answer)
                    odds[key] = CHECKS[key].chance(ranked.key, answer) / CHECKS[key].otherwise[place]
                with self.subTest(cause=ranked.key, answers=answers):
                    self.assertEqual(set(ranked.speaks_for), {k for k, o in odds.items() if o > 2})
                    self.assertEqual(set(ranked.speaks_against), {k for k, o in odds.items() if o < 0.5})
                    strength = [odds[k] for k in ranked.speaks_for]
                    self.assertEqual(strength, sorted(strength, reverse=True))
                    strength = [odds[k] for k in ranked.speaks_against]
                    self.assertEqual(strength, sorted(strength))


if __name__ == "__main__":
    unittest.main()
