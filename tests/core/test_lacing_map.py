"""Lacing maps by their properties, lacing errors found again, stripping and replacing."""

import unittest
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from felloe.core.components import Flange, Hub, Rim, SideLacing, Wheel
from felloe.core.lacing.check import Seen, check_lacing
from felloe.core.lacing.map import HEAD_IN, LEADING, OVER, TRAILING, BadLacing, LacingMap, lacing_map
from felloe.core.lacing.pattern import lace
from felloe.core.lacing.replace import ReplaceFacts, neighbours, replace_steps
from felloe.core.lacing.strip import BadCount, StripFacts, check_count, slacken_laps, strip_steps, tally
from felloe.core.mechanics.influence import influence_of
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.bench import lacing as lacing_trial
from tests.core.wheels import ALL, REAR

DRAWN = st.tuples(
    st.sampled_from([16, 20, 24, 28, 32, 36, 40, 48]),
    st.integers(0, 4),
    st.integers(0, 4),
    st.sampled_from(list(Side)),
    st.booleans(),
)


def drawn(count: int, right: int, left: int, first: Side, leading: bool) -> LacingMap:
    limit = count // 8
    sides = [SideLacing(count // 2, min(c, limit)) for c in (right, left)]
    wheel = Wheel(Rim(600), Hub(130, Flange(45, 20), Flange(45, 36)), *sides, first)
    inside = {Side.RIGHT: LEADING} if leading and sides[0].crossings else {}
    return lacing_map(wheel, inside)


class Maps(unittest.TestCase):
    @settings(max_examples=80, deadline=None, derandomize=True)
    @given(DRAWN)
    def test_every_hole_once_and_heads_alternate(self, what) -> None:
        plan = drawn(*what)
        n = plan.wheel.spoke_count
        self.assertEqual(sorted(p.rim_hole for p in plan.places), list(range(1, n + 1)))
        self.assertEqual([p.order for p in plan.places], list(range(1, n + 1)))
        for side in Side:
            mine = sorted((p.flange_hole, p.head) for p in plan.places if p.side is side)
            self.assertEqual([hole for hole, _ in mine], list(range(1, n // 2 + 1)))
            if plan.wheel.side(side).crossings:
                heads = [head for _, head in mine]
                self.assertTrue(all(a != b for a, b in zip(heads, heads[1:] + heads[:1], strict=True)))

    @settings(max_examples=80, deadline=None, derandomize=True)
    @given(DRAWN)
    def test_crossings_are_counted_and_woven(self, what) -> None:
        plan = drawn(*what)
        for place in plan.places:
            self.assertEqual(len(place.crosses), plan.wheel.side(place.side).crossings)
            for other, way in place.crosses:
                back = dict(plan.by_spoke[other].crosses)
                self.assertNotEqual(back[place.spoke], way, "one runs over, the other under")
                self.assertNotEqual(plan.by_spoke[other].lean, place.lean)
            ways = [way for _, way in place.crosses]
            if len(ways) >= 2:
                self.assertNotEqual(ways[-1], ways[-2], "the outermost is interlaced")
                self.assertEqual(ways[0] == OVER, place.head == HEAD_IN)

    @settings(max_examples=40, deadline=None, derandomize=True)
    @given(DRAWN)
    def test_the_valve_is_free(self, what) -> None:
        plan = drawn(*what)
        by_hole = {p.rim_hole: p for p in plan.places}
        self.assertNotEqual(by_hole[1].lean, LEADING)
        self.assertNotEqual(by_hole[plan.wheel.spoke_count].lean, TRAILING)
        self.assertTrue(by_hole[1].beside_valve)

    def test_mirror_image(self) -> None:
        """Seen from the left, a wheel whose first hole is the left one is its mirror image: same leans, same crossings."""
        plan, mirror = lacing_map(REAR), lacing_map(replace(REAR, first_side=Side.LEFT))
        for place in plan.places:
            other = mirror.by_spoke[("L" if place.side is Side.RIGHT else "R") + place.spoke[1:]]
            self.assertEqual((place.lean, place.head, place.rim_hole), (other.lean, other.head, other.rim_hole))
            self.assertEqual([w for _, w in place.crosses], [w for _, w in other.crosses])

    def test_sets_as_practised(self) -> None:
        """Common practice: a set takes every fourth rim hole, the second set the holes midway; the hub is turned between."""
        plan = lacing_map(REAR)
        self.assertEqual([s.every for s in plan.sets], [4, 4, 4, 4])
        first = [p.rim_hole for p in plan.places if p.set_number == 1]
        third = [p.rim_hole for p in plan.places if p.set_number == 3]
        self.assertEqual(first, list(range(1, 36, 4)))
        self.assertEqual(third, list(range(3, 36, 4)))
        self.assertIn("clockwise", plan.sets[2].before)
        self.assertEqual([bool(s.before) for s in plan.sets], [False, False, True, False])
        disc = lacing_map(WHEEL_KINDS["disc-rear-32"].wheel, {Side.RIGHT: TRAILING, Side.LEFT: LEADING})
        self.assertEqual([s.side for s in disc.sets], [Side.RIGHT, Side.RIGHT, Side.LEFT, Side.LEFT])

    def test_the_left_hole_one_lies_beside_the_right_one(self) -> None:
        plan = lacing_map(REAR)
        self.assertEqual((plan.by_spoke["R1"].flange_hole, plan.by_spoke["L1"].flange_hole), (1, 1))

    def test_straight_pull_seats_are_numbered_as_they_stand(self) -> None:
        """12 + 12 spokes at 8 to 22 degrees: every seat once, and clockwise on the drawing is one number on."""
        for angle_deg in (8.0, 11.0, 15.0, 22.0):
            with self.subTest(angle_deg=angle_deg):
                flange = replace(Flange(45, 25), straight_pull_angle_deg=angle_deg)
                wheel = Wheel(Rim(600), Hub(100, flange, flange), SideLacing(12, 2), SideLacing(12, 2))
                found, laced = lacing_map(wheel), lace(wheel)
                for side in Side:
                    mine = [i for i, name in enumerate(wheel.names) if name.side is side]
                    holes = {i: found.by_spoke[str(wheel.names[i])].flange_hole for i in mine}
                    self.assertEqual(sorted(holes.values()), list(range(1, 13)))
                    by_hole = sorted(mine, key=lambda i: holes[i])
                    steps = np.diff([float(laced.hub_angle_rad[i]) for i in by_hole]) + 1e-9
                    # At 15 degrees two seats lie behind each other; none is ever behind the one before it.
                    self.assertTrue(np.all(steps % (2 * np.pi) < np.pi), steps)

    def test_unequal_and_radial_sides(self) -> None:
        for key in ("rear-24-two-to-one", "bladed-front-20"):
            plan = lacing_map(ALL[key])
            for side in Side:
                holes = sorted(p.flange_hole for p in plan.places if p.side is side)
                self.assertEqual(holes, list(range(1, ALL[key].side(side).count + 1)))
        with self.assertRaises(BadLacing):
            lacing_map(ALL["bladed-front-20"], {Side.RIGHT: TRAILING})


class Errors(unittest.TestCase):
    plan = lacing_map(REAR)

    def keys(self, *seen: Seen) -> list[tuple[str, str]]:
        return [(e.key, e.side.value if e.side else "") for e in check_lacing(self.plan, seen).errors]

    def test_a_right_lacing_has_no_error(self) -> None:
        seen = [Seen(p.spoke, p.lean, 3, p.head, p.flange_hole) for p in self.plan.places]
        found = check_lacing(self.plan, seen)
        self.assertEqual(found.errors, ())
        self.assertTrue(found.sure)
        np.testing.assert_allclose(found.surplus_mm, 0, atol=1e-6)

    def test_each_whole_side_error_from_a_few_spokes(self) -> None:
        self.assertEqual(self.keys(Seen("R1", LEADING), Seen("L1", LEADING)), [("valve", "")])
        self.assertEqual(
            self.keys(Seen("L1", LEADING), Seen("L2", TRAILING), Seen("R1", TRAILING)), [("reversed", "L"), ("valve", "")]
        )
        self.assertEqual(self.keys(Seen("R2", crosses=2), Seen("R4", crosses=2)), [("crossings", "R")])
        self.assertEqual(
            self.keys(Seen("L1", flange_hole=2), Seen("L2", flange_hole=self.hole("L2") % 18 + 1)), [("shifted", "L")]
        )
        self.assertEqual(self.keys(Seen("L1", head="in"), Seen("L3", head="in")), [("heads", "L")])

    def hole(self, spoke: str) -> int:
        return self.plan.by_spoke[spoke].flange_hole

    def test_a_shifted_side_shows_in_how_spokes_reach(self) -> None:
        """Common practice: shifted by a hole, half a side barely reaches while the other half stands slack."""
        found = check_lacing(
            self.plan,
            [Seen("R1", reach="right"), Seen("L1", reach="short"), Seen("L2", reach="slack"), Seen("L3", reach="short")],
        )
        self.assertEqual([(e.key, e.side) for e in found.errors], [("shifted", Side.LEFT)])
        surplus = dict(zip(found.spokes, found.surplus_mm, strict=True))
        self.assertLess(surplus["L1"], -5)
        self.assertGreater(surplus["L2"], 5)
        self.assertAlmostEqual(surplus["R1"], 0, places=6)

    def test_found_from_the_first_wrong_spoke(self) -> None:
        for spoke, look, key in (
            ("R6", Seen("R6", crosses=2), "crosses"),
            ("R5", Seen("R5", lean=LEADING), "lean"),
            ("L4", Seen("L4", head="out"), "head"),
            ("L9", Seen("L9", flange_hole=3), "flange_hole"),
        ):
            sound = [Seen(p.spoke, p.lean, 3, p.head, p.flange_hole) for p in self.plan.places[:12] if p.spoke != spoke]
            found = check_lacing(self.plan, [*sound, look])
            with self.subTest(key):
                self.assertEqual([(e.key, e.spoke) for e in found.errors], [(key, spoke)])

    def test_every_whole_side_error_of_every_kind_is_found_in_the_whole(self) -> None:
        """Seeing all spokes of a wheel laced wrong names exactly what was done wrong."""
        for kind in ("rim-brake-rear-36", "disc-front-28", "small-front-20", "hub-gear-rear-36"):
            plan = lacing_map(WHEEL_KINDS[kind].wheel)
            c, m = plan.wheel.left.crossings, plan.wheel.left.count
            for shift in (-1, 1, 2):
                seen = [
                    Seen(p.spoke, p.lean, c, p.head, (p.flange_hole - 1 + shift * (p.side is Side.LEFT)) % m + 1)
                    for p in plan.places
                ]
                found = check_lacing(plan, seen)
                with self.subTest(kind, shift=shift):
                    self.assertEqual([(e.key, e.side) for e in found.errors], [("shifted", Side.LEFT)])
                    self.assertEqual(found.left.shift, shift)

    def test_what_cannot_be_seen_is_refused(self) -> None:
        for bad in ([], [Seen("R1")], [Seen("R30", LEADING)]):
            with self.assertRaises(BadLacing):
                check_lacing(self.plan, bad)
        with self.assertRaises(BadLacing):
            Seen("R1", lean="sideways")

    def test_doubt_is_said(self) -> None:
        """Two hints prove nothing, however loud; and what is felt loosely accuses nobody surely."""
        for seen in (
            [Seen("R1", flange_hole=1), Seen("L1", flange_hole=2)],
            [Seen("R1", LEADING), Seen("R3", LEADING)],
            [Seen("L1", reach="short"), Seen("L2", reach="slack")],
            [Seen("L1", TRAILING, reach="short"), Seen("R2", LEADING, reach="right")],
        ):
            with self.subTest(seen):
                self.assertFalse(check_lacing(self.plan, seen).sure)
        found = check_lacing(self.plan, [Seen("L1", reach="short"), Seen("L2", reach="right"), Seen("R2", LEADING)])
        self.assertFalse(found.sure)

    def test_the_sides_spokes_exchanged_are_named(self) -> None:
        """On a wheel whose sides differ by some 2 mm: the right side's stand slack, the left side's barely reach."""
        right = [Seen(f"R{k}", crosses=3, reach="slack") for k in (1, 2, 7, 8)]
        left = [Seen(f"L{k}", crosses=3, reach="short") for k in (1, 2, 7, 8)]
        found = check_lacing(self.plan, [*right, *left])
        self.assertEqual([e.key for e in found.errors if not e.spoke], ["lengths"])
        self.assertTrue(found.lengths_swapped)
        self.assertIn("exchanged", found.errors[0].what)

    def test_nothing_seen_against_it_is_not_yet_right(self) -> None:
        few = [Seen(p.spoke, p.lean) for p in self.plan.places[:6]]
        found = check_lacing(self.plan, few)
        self.assertEqual((found.errors, found.sure), ((), False))

    def test_remedies_never_exclude_each_other(self) -> None:
        """A whole side is told once: never laced again and moved, nor both turned back and laced anew, for one error."""
        rng, sure = np.random.default_rng(4), 0
        for number in range(60):
            kind = lacing_trial.KINDS[number % len(lacing_trial.KINDS)]
            plan = lacing_trial.plan_of(kind)
            truth = lacing_trial.drawn(rng, kind, lacing_trial.ERRORS[number % len(lacing_trial.ERRORS)])
            seen = [s for p in plan.places[::3] if (s := lacing_trial.looked_at(rng, plan, p, truth)) is not None]
            verdict = check_lacing(plan, seen)
            if not verdict.sure:
                continue
            sure += 1
            for side in Side:
                mine = [e.key for e in verdict.errors if e.side is side and not e.spoke]
                self.assertLessEqual(len(mine), 1, (truth, mine))
        self.assertGreater(sure, 10)

    def test_what_calls_itself_sure_is_right(self) -> None:
        """Asked: at least 95 % of sure verdicts right, over patterns, errors, and vague and partly wrong looks."""
        *_, (_, tally) = lacing_trial.trial(300, seed=8)
        self.assertGreater(sum(tally.sure.values()), 15)
        self.assertGreaterEqual(tally.share, 0.95)
        self.assertEqual(tally.sure_of_few, 0)


class Stripping(unittest.TestCase):
    def test_laps_ease_to_nothing_by_the_model(self) -> None:
        influence, targets = influence_of(REAR), side_targets_n(REAR)
        laps = slacken_laps(influence, targets[Side.RIGHT], targets[Side.LEFT])
        self.assertLessEqual(max(laps[-1].right_n, laps[-1].left_n), 60)
        self.assertEqual(slacken_laps(influence, 10, 10), ())
        self.assertGreaterEqual(len(laps), 3)

    def test_a_lap_against_the_virtual_wheel(self) -> None:
        """The virtual wheel shares no stiffness with the model: after a lap the means lie within 20 N of those foreseen.

        The falls themselves, 90 to 190 N, differ by up to 11 %.
        """
        for key in ("rim-brake-rear-36", "rim-brake-front-32", "disc-front-28", "hub-gear-rear-36", "tandem-rear-40"):
            wheel = ALL[key]
            virtual = used_wheel(wheel, np.random.default_rng(4), 0.0)
            before = {side: virtual.tension_n[wheel.on_side(side)].mean() for side in Side}
            lap = slacken_laps(influence_of(wheel), before[Side.RIGHT], before[Side.LEFT])[0]
            eased = virtual.turned(np.full(wheel.spoke_count, -lap.turns)).tension_n
            for side, foreseen in ((Side.RIGHT, lap.right_n), (Side.LEFT, lap.left_n)):
                with self.subTest(key, side=side):
                    self.assertAlmostEqual(eased[wheel.on_side(side)].mean(), foreseen, delta=20)

    def test_steps_fit_the_wheel(self) -> None:
        plain = [s.key for s in strip_steps(REAR, StripFacts(rear=False, disc=False), 4)]
        self.assertNotIn("sprockets", plain)
        self.assertNotIn("eyes", plain)
        cut = [s.key for s in strip_steps(REAR, StripFacts(rear=True, disc=True, washers=True, closed_rim=True, cut=True), 4)]
        for earlier, later in (("eyes", "cut"), ("slacken", "cut"), ("cut", "count"), ("captive", "cut")):
            self.assertLess(cut.index(earlier), cut.index(later))
        self.assertIn("36 washers", strip_steps(REAR, StripFacts(True, True, washers=True), 4)[-2].what)

    def test_counts(self) -> None:
        self.assertEqual(tally(REAR, "nipple", True, [("out", 30)]).still_in, 6)
        self.assertIn("6 nipples still in", tally(REAR, "nipple", True, [("out", 30)]).word)
        self.assertIn("All nipples are out", tally(REAR, "nipple", True, [("out", 36)]).word)
        self.assertIn("4 nipples to go", tally(REAR, "nipple", True, [("out", 36), ("in", 32)]).word)
        self.assertIn("2 nipples too many", tally(REAR, "nipple", True, [("out", 34), ("in", 36)]).word)
        self.assertIn("All 36 rim washers are in", tally(REAR, "washer", False, [("in", 36)]).word)
        bad = (("nipple", "out", 37), ("nipple", "out", 0), ("nipple", "in", -1), ("cheese", "out", 1), ("spoke", "away", 1))
        for kind, way, count in bad:
            with self.subTest(kind, way=way), self.assertRaises(BadCount):
                check_count(REAR, kind, True, [], way, count)
        check_count(REAR, "nipple", True, [("out", 30)], "out", -2)


class Replacing(unittest.TestCase):
    def test_sprockets_and_rotor_come_off_where_they_are_in_the_way(self) -> None:
        def keys(spoke: str, **facts: object) -> list[str]:
            return [s.key for s in replace_steps(REAR, spoke, ReplaceFacts(**{"rear": True, "disc": False, **facts}))]

        self.assertIn("sprockets", keys("R4"))
        self.assertNotIn("sprockets", keys("L4"))
        self.assertNotIn("sprockets", keys("R4", rear=False))
        self.assertIn("rotor", keys("L4", disc=True))
        self.assertNotIn("rotor", keys("R4", disc=True))
        self.assertIn("pieces", keys("L4", broke_at="elbow"))
        with self.assertRaises(BadLacing):
            keys("R40")

    def test_neighbours_leave_out_the_broken(self) -> None:
        tension = np.arange(36.0)
        found = neighbours(REAR, "R1", tension, {"R18"})
        self.assertEqual(found.spokes, ("R17", "R2"))
        self.assertAlmostEqual(found.tension_n or 0, (tension[REAR.index_of["R17"]] + tension[REAR.index_of["R2"]]) / 2)
        self.assertIsNone(neighbours(REAR, "R1", None).tension_n)
