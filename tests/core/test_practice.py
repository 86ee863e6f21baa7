"""Practice wheels: spoilt so that they can be mended, answering as real ones do, and judged by what they truly are."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.influence import influence_of
from felloe.core.practice import deeds
from felloe.core.practice.compare import TrueFigures, best_plan, compare, settled_figures
from felloe.core.practice.exercises import FAULT_WORDS, FINDABLE, LADDER, MODES, SIGNS, own_exercise
from felloe.core.practice.judging import fewest_touches, judge_guess, tight_enough
from felloe.core.practice.lacing_task import answer_cross, answer_hole, questions
from felloe.core.practice.lessons import lesson
from felloe.core.practice.marks import mark_answers, mark_truing, mastered
from felloe.core.practice.sounds import plucked
from felloe.core.practice.spoilt import Subject, spoil
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.pitch import CROSSING, free_length
from felloe.core.truing.tiers import SOUND
from felloe.core.wheel_kinds import WHEEL_KINDS

TRUED = [rung for rung in LADDER.values() if rung.mode not in ("find", "lace")]


def made(key: str, seed: int = 1, **change: object) -> Subject:
    return spoil(replace(LADDER[key], **change), np.random.default_rng(seed)).subject  # type: ignore[arg-type]


class Spoilt(unittest.TestCase):
    def test_each_rung_begins_outside_and_can_be_brought_inside_below_the_limit(self) -> None:
        # The way in is the planner's, what comes of it is the nonlinear wheel's.
        for rung in TRUED:
            with self.subTest(rung.key):
                subject = spoil(rung, np.random.default_rng(7)).subject
                influence = influence_of(WHEEL_KINDS[rung.kind].wheel)
                for place in range(subject.wheel.spoke_count):
                    subject = deeds.new_nipple(subject, place)
                self.assertFalse(TrueFigures.of(subject).inside(rung.tier))
                for _ in range(4):
                    turns = best_plan(subject, rung.tier, influence).turns
                    subject = replace(subject, virtual=subject.virtual.turned(turns))
                    if TrueFigures.of(subject).inside(rung.tier):
                        break
                self.assertTrue(TrueFigures.of(subject).inside(rung.tier))
                self.assertLess(float(subject.virtual.tension_n.max()), subject.wheel.rim.tension_cap_n + 30)

    def test_every_fault_is_put_where_it_is_said_to_be(self) -> None:
        for fault in FAULT_WORDS:
            with self.subTest(fault):
                kind = "bladed-front-20" if fault == "twisted_blade" else "rim-brake-rear-36"
                spoilt = spoil(own_exercise(kind, [fault], "meter", "sound"), np.random.default_rng(3))
                subject, spokes = spoilt.subject, spoilt.faults[fault]
                place = subject.wheel.index_of[spokes[0]] if spokes else -1
                figures = TrueFigures.of(subject)
                shows = {
                    "lump": figures.lateral_mm > 0.9,
                    "hop": figures.radial_mm > 0.9 > figures.lateral_mm,
                    "dish": abs(figures.dish_mm) > 0.9 > figures.lateral_mm,
                    "slack": figures.mean_n < 400,
                    "bent": figures.lateral_mm > 0.3,
                    "wrong_nipple": subject.grip[place] < 1,
                    "seized": subject.friction[place] > 1,
                    "twisted_blade": deeds.askew(subject) == tuple(spokes),
                    "mislaced": subject.swapped == tuple(spokes),
                }
                self.assertTrue(shows[fault], figures)

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        for asked, field in (
            (("no-such-kind", ["lump"], "meter", "sound"), "kind"),
            (("disc-front-28", ["twisted_blade"], "meter", "sound"), "faults"),
            (("disc-front-28", ["gremlins"], "meter", "sound"), "faults"),
            (("disc-front-28", [], "meter", "sound"), "faults"),
            (("disc-front-28", ["lump"], "by magic", "sound"), "mode"),
            (("disc-front-28", ["lump"], "meter", "perfect"), "tier"),
            (("disc-front-28", ["lump", "seized"], "find", "sound"), "faults"),
        ):
            with self.subTest(asked), self.assertRaises(BadReading) as refused:
                own_exercise(*asked)
            self.assertEqual(refused.exception.field, field)
        self.assertEqual(own_exercise("disc-front-28", [], "find", "sound").faults, ("any",))

    def test_any_kind_takes_any_fault(self) -> None:
        for kind in WHEEL_KINDS:
            for fault in ("lump", "hop", "dish", "slack", "bent", *FINDABLE):
                subject = spoil(own_exercise(kind, [fault], "meter", "sound"), np.random.default_rng(5)).subject
                self.assertTrue(np.isfinite(subject.virtual.tension_n).all(), (kind, fault))


class Deeds(unittest.TestCase):
    def test_what_is_turned_is_in_the_thread_or_in_the_spoke(self) -> None:
        subject = made("one-lump")
        after = deeds.turn(subject, 5, 0.25, True)
        thread = float(after.virtual.turns[5] - subject.virtual.turns[5])
        self.assertAlmostEqual(thread + float(after.virtual.twist_turns[5] - subject.virtual.twist_turns[5]), 0.25, places=9)
        self.assertGreater(thread, 0.05)
        self.assertGreater(float(after.virtual.tension_n[5]), float(subject.virtual.tension_n[5]) + 15)

    def test_a_seized_nipple_turns_its_spoke_along_and_twists_it_off(self) -> None:
        spoilt = spoil(own_exercise("rim-brake-rear-36", ["seized"], "meter", "sound"), np.random.default_rng(2))
        subject = spoilt.subject
        place = subject.wheel.index_of[spoilt.faults["seized"][0]]
        before = float(subject.virtual.tension_n[place])
        once = deeds.turn(subject, place, 0.5, True)
        self.assertAlmostEqual(float(once.virtual.twist_turns[place]), 0.5, places=2)
        self.assertAlmostEqual(float(once.virtual.tension_n[place]), before, delta=5)
        broken = deeds.turn(deeds.turn(once, place, 0.5, True), place, 0.25, True)
        self.assertEqual(broken.snapped, {place})
        self.assertEqual(float(broken.virtual.tension_n[place]), 0)
        with self.assertRaises(BadReading):
            deeds.turn(broken, place, 0.25, True)
        oiled = deeds.turn(deeds.oil(subject, place), place, 0.5, True)
        self.assertGreater(float(oiled.virtual.tension_n[place]), before + 50)

    def test_a_wrong_thread_takes_a_share_until_the_nipple_is_changed(self) -> None:
        spoilt = spoil(own_exercise("rim-brake-rear-36", ["wrong_nipple"], "meter", "sound"), np.random.default_rng(2))
        subject = replace(spoilt.subject, friction=np.zeros_like(spoilt.subject.friction))
        place = subject.wheel.index_of[spoilt.faults["wrong_nipple"][0]]
        gained = [
            float(deeds.turn(wheel, place, 0.5, True).virtual.tension_n[place] - wheel.virtual.tension_n[place])
            for wheel in (subject, deeds.new_nipple(subject, place))
        ]
        self.assertLess(gained[0], 0.4 * gained[1])

    def test_a_blade_that_is_not_held_is_left_askew_and_turned_back(self) -> None:
        subject = made("blades", faults=("lump",))
        self.assertEqual(deeds.askew(subject), ())
        for held in (True, False):
            after = deeds.turn(subject, 4, 0.5, held)
            self.assertEqual(bool(deeds.askew(after)), not held)
        flat = deeds.straighten(after, 4)
        self.assertEqual(deeds.askew(flat), ())
        self.assertGreater(float(flat.virtual.turns[4]), float(after.virtual.turns[4]))

    def test_squeezing_lets_twist_out_but_not_a_seized_one(self) -> None:
        subject = deeds.turn(made("one-lump"), 5, 0.5, True)
        self.assertGreater(float(subject.virtual.twist_turns[5]), 0.02)
        self.assertLess(float(deeds.settle(subject).virtual.twist_turns[5]), 0.3 * float(subject.virtual.twist_turns[5]))

    def test_a_pluck_has_the_pitch_of_its_tension(self) -> None:
        # Mersenne's law by hand against the loudest line of the spectrum.
        subject = made("one-lump")
        free = free_length(subject.wheel, "R3", CROSSING)
        place = subject.wheel.index_of["R3"]
        sound = plucked(subject.virtual, place, np.random.default_rng(1), 22_050)
        found = np.fft.rfftfreq(len(sound), 1 / 22_050)[int(np.abs(np.fft.rfft(sound)).argmax())]
        string = np.sqrt(float(subject.virtual.tension_n[place]) / free.mass_kg_m) / (2 * free.length_mm / 1000)
        self.assertAlmostEqual(found / string, round(found / string), delta=0.05)


class Judged(unittest.TestCase):
    def pass_of(
        self, turned: dict[int, float], key: str = "one-lump", seed: int = 1, settle: bool = True
    ) -> tuple[str, object]:
        subject = made(key, seed)
        rung = LADDER[key]
        best = best_plan(subject, rung.tier, influence_of(WHEEL_KINDS[rung.kind].wheel))
        by_place, after = np.zeros(subject.wheel.spoke_count), subject
        for place, turns in turned.items():
            by_place[place] = turns
            after = deeds.turn(after, place, turns, True)
        found = compare(subject, deeds.settle(after) if settle else after, by_place, len(turned), rung.tier, best)
        return found.sentence, found

    def test_turns_are_accounted_for_to_the_last(self) -> None:
        _, found = self.pass_of({3: 0.5, 20: -0.75, 21: 1.0})
        assert hasattr(found, "turned")
        self.assertAlmostEqual(found.turned, 2.25)  # type: ignore[attr-defined]
        parts = found.needed + found.too_far + found.wrong_way + found.elsewhere  # type: ignore[attr-defined]
        self.assertAlmostEqual(parts, 2.25)

    def test_the_sentence_is_about_what_was_done(self) -> None:
        subject = made("one-lump")
        lump = spoil(LADDER["one-lump"], np.random.default_rng(1)).faults["lump"]
        places = [subject.wheel.index_of[name] for name in lump]
        signs = {i: subject.wheel.names[i].side.sign for i in places}
        angle = subject.wheel.angles_deg[places[2]]
        toward = -np.sign(float(subject.virtual.lateral_mm(np.array([angle]))[0]))
        right = {i: 0.5 * float(toward) * signs[i] for i in places}
        self.assertIn("wrong way", self.pass_of({i: -t for i, t in right.items()})[0])
        self.assertRegex(self.pass_of(right)[0], "Inside|not enough|too far")
        far = (places[2] + 16) % subject.wheel.spoke_count
        self.assertIn("nothing was wrong", self.pass_of({far: 0.25, (far + 1) % 32: 0.25, (far + 5) % 32: 0.25})[0])

    def test_a_straight_wheel_with_a_broken_spoke_is_no_good_wheel(self) -> None:
        good = TrueFigures(0.1, 0.1, 0.0, 5.0, 1000.0)
        marked = mark_truing(good, SOUND, 4, 4, 2.0, 0, 0, 60, tight=True)
        self.assertEqual((marked.mark, marked.inside), (3, True))
        for harm in ({"snapped": 1}, {"askew": 1}, {"tight": False}):
            said = {"askew": 0, "snapped": 0, "tight": True, **harm}
            marked = mark_truing(good, SOUND, 4, 4, 2.0, said["askew"], said["snapped"], 60, bool(said["tight"]))
            self.assertEqual((marked.mark, marked.inside), (0, False), harm)
        self.assertEqual(mark_truing(good, SOUND, 40, 4, 9.0, 0, 0, 60, True).mark, 1)
        self.assertEqual(mark_truing(replace(good, lateral_mm=0.6), SOUND, 4, 4, 2.0, 0, 0, 60, True).mark, 0)

    def test_what_is_judged_is_the_wheel_after_its_twists_have_let_go(self) -> None:
        after = deeds.turn(made("one-lump"), 5, 0.5, True)
        self.assertNotAlmostEqual(settled_figures(after).lateral_mm, TrueFigures.of(after).lateral_mm, places=3)

    def test_mastery_is_well_done_twice_running(self) -> None:
        self.assertFalse(mastered([3]))
        self.assertTrue(mastered([0, 2, 3]))
        self.assertFalse(mastered([3, 3, 1]))
        self.assertEqual([mark_answers(wrong, True, 0, 1, "lace").mark for wrong in (0, 2, 3)], [3, 2, 1])
        self.assertEqual(mark_answers(0, False, 0, 1, "find").mark, 0)


class Judging(unittest.TestCase):
    def test_a_fault_is_named_with_its_place_and_a_bend_by_its_neighbours_too(self) -> None:
        subject = made("find-the-fault", faults=("bent",))
        names = [str(name) for name in subject.wheel.names]
        for off, right in ((0, True), (2, True), (-2, True), (3, False), (-3, False)):
            told = judge_guess(subject, "bent", [names[1]], "bent", names[(1 + off) % len(names)])
            self.assertEqual(told.right, right, off)
        self.assertFalse(judge_guess(subject, "seized", [names[1]], "seized", names[2]).right)
        self.assertTrue(judge_guess(subject, "slack", [], "slack", names[5]).right)
        self.assertEqual(judge_guess(subject, "seized", [names[1]], "bent", names[1]).says, SIGNS["bent"])

    def test_a_slack_wheel_is_not_tight_enough_and_an_ideal_one_is(self) -> None:
        slack, lump = made("slack"), made("one-lump")
        self.assertFalse(tight_enough(slack, TrueFigures.of(slack)))
        self.assertTrue(tight_enough(lump, TrueFigures.of(lump)))

    def test_the_fewest_touches_are_those_of_a_wheel_whose_nipples_turn(self) -> None:
        rung = LADDER["seized-and-wrong"]
        influence = influence_of(WHEEL_KINDS[rung.kind].wheel)
        stuck = spoil(rung, np.random.default_rng(4)).subject
        touches = fewest_touches(stuck, rung.tier, influence)
        self.assertGreater(touches, 0)
        inside = replace(made("one-lump"), virtual=VirtualWheel.ideal(WHEEL_KINDS["rim-brake-front-32"].wheel))
        self.assertEqual(fewest_touches(inside, SOUND, influence_of(inside.wheel)), 0)


class Laced(unittest.TestCase):
    def test_right_answers_lace_the_wheel_and_wrong_ones_say_what_they_would_do(self) -> None:
        for kind in ("rim-brake-rear-36", "bladed-front-20", "rear-24-two-to-one"):
            wheel = WHEEL_KINDS[kind].wheel
            laced = lace(wheel)
            for question in questions(wheel):
                i = wheel.index_of[question.place.spoke]
                if question.what == "cross":
                    over = dict(question.place.crosses)[question.other] == "over"
                    self.assertTrue(answer_cross(question, over).right)
                    self.assertFalse(answer_cross(question, not over).right)
                    continue
                self.assertTrue(answer_hole(wheel, question, i + 1).right)
                for j in range(wheel.spoke_count):
                    if j == i:
                        continue
                    told = answer_hole(wheel, question, j + 1)
                    self.assertFalse(told.right)
                    if "too short" in told.says:
                        # By the distance in space itself.
                        off = np.linalg.norm(laced.hub_hole_mm[i] - laced.seat_mm[j]) - laced.span_mm[i]
                        self.assertIn(f"{off:.0f} mm", told.says)
            with self.assertRaises(BadReading):
                answer_hole(wheel, questions(wheel)[0], wheel.spoke_count + 1)


class Lessons(unittest.TestCase):
    def test_the_right_way_is_better_than_every_wrong_one(self) -> None:
        for key in {rung.lesson for rung in LADDER.values()}:
            with self.subTest(key):
                found = lesson(key)
                self.assertGreaterEqual(len(found.lines), 3)
                rights = [way for way in found.ways if way.right]
                self.assertEqual(len(rights), 0 if key == "lace" else 1)
                for way in found.ways:
                    if not way.right:
                        better, worse = rights[0].figures, way.figures
                        self.assertLess(
                            better.lateral_mm + better.radial_mm + abs(better.dish_mm) + better.spread_percent / 40,
                            worse.lateral_mm + worse.radial_mm + abs(worse.dish_mm) + worse.spread_percent / 40 + 0.2,
                            way.name,
                        )

    def test_what_a_wrong_way_is_said_to_do_it_does(self) -> None:
        lump, hop, slack = lesson("lump"), lesson("hop"), lesson("slack")
        self.assertGreater(lump.ways[1].figures.spread_percent, 2 * lump.before.spread_percent)
        self.assertGreater(lump.ways[2].figures.radial_mm, 5 * lump.before.radial_mm)
        self.assertGreater(hop.ways[1].figures.lateral_mm, 1)
        self.assertLess(hop.ways[1].figures.radial_mm, hop.before.radial_mm)
        self.assertGreater(slack.ways[1].figures.radial_mm, 0.3)
        self.assertGreater(abs(slack.ways[2].figures.dish_mm), 1)

    def test_every_mode_and_fault_has_its_words(self) -> None:
        self.assertEqual({rung.mode for rung in LADDER.values()}, set(MODES))
        self.assertEqual(set(SIGNS), set(FINDABLE))
        with self.assertRaises(BadReading):
            lesson("nothing")
