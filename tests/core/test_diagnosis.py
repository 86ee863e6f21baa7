"""From complaints to causes: the table is sound, Bayes' rule is Bayes' rule, and cases of the trade come out right."""

import itertools
import math
import random
import statistics
import unittest

from felloe.core.diagnosis.causes import CAUSES, COMPLAINTS, prior
from felloe.core.diagnosis.checks import CHECKS, ON_BIKE, Check
from felloe.core.diagnosis.history import WheelFacts, asked_of
from felloe.core.diagnosis.inference import UnknownAnswer, diagnose, entropy_bit, expected_gain_bit, updated
from tests.core.diagnosis_cases import MORE

#: What a wheel with a cause answers where it differs from a sound wheel; written from the trade before any weight was tuned.
#: complaint tags, true cause, answers that differ from the first (sound) answer of each check.
CASES: tuple[tuple[tuple[str, ...], str, dict[str, str]], ...] = (
    (("rubs",), "axle_not_home", {"drops_in": "yes", "where_rubs": "round"}),
    (("off_side",), "axle_not_home", {"drops_in": "yes", "where_rubs": "round", "flip": "stays"}),
    (("off_side",), "stop_screws", {"stop_screws": "unequal", "where_rubs": "round", "flip": "stays"}),
    (("rubs", "off_side"), "stop_screws", {"stop_screws": "unequal", "where_rubs": "round", "flip": "stays"}),
    (("off_side",), "hanger_overlap", {"slot_hidden": "yes", "where_rubs": "round"}),
    (("rubs",), "hanger_overlap", {"slot_hidden": "yes", "where_rubs": "round", "flip": "stays"}),
    (("rubs",), "axle_ends_proud", {"ends_proud": "yes", "clamp_firm": "loose", "where_rubs": "round"}),
    (("creaks",), "clamp_loose", {"clamp_firm": "loose", "where_rubs": "no"}),
    (("rubs",), "clamp_loose", {"clamp_firm": "loose", "drops_in": "yes", "where_rubs": "round"}),
    (("rubs",), "bearing_play", {"play": "knocks", "where_rubs": "no"}),
    (("check",), "bearing_play", {"play": "knocks", "where_rubs": "no", "bearing_feel": "rough"}),
    (("creaks",), "bearing_play", {"play": "knocks", "where_rubs": "no"}),
    (("creaks",), "bearing_rough", {"bearing_feel": "rough", "where_rubs": "no"}),
    (("check",), "bearing_rough", {"bearing_feel": "rough", "where_rubs": "no"}),
    (("hit",), "axle_bent", {"axle_turns": "circle", "where_rubs": "round", "bearing_feel": "rough"}),
    (("rubs",), "axle_broken", {"play": "knocks", "axle_turns": "pulls", "where_rubs": "round", "bearing_feel": "rough"}),
    (("off_side",), "off_dish", {"flip": "changes", "where_rubs": "round"}),
    (("rubs",), "off_dish", {"flip": "changes", "where_rubs": "round"}),
    (("off_side",), "spacers", {"flip": "changes", "where_rubs": "round", "hub_was_apart": "yes"}),
    (("rubs", "off_side"), "spacers", {"flip": "changes", "where_rubs": "round", "hub_was_apart": "yes"}),
    (("off_side",), "frame", {"flip": "stays", "where_rubs": "round"}),
    (("hit", "off_side"), "frame", {"flip": "stays", "where_rubs": "round"}),
    (("rubs",), "lateral_untrue", {"where_rubs": "once"}),
    (("check",), "lateral_untrue", {"where_rubs": "once"}),
    (("hops",), "radial_untrue", {"hop": "wave", "where_rubs": "no"}),
    (("check",), "radial_untrue", {"hop": "wave", "where_rubs": "no"}),
    (("hit",), "rim_bent", {"where_rubs": "once", "hop": "wave", "tension_there": "yes", "spokes_by_hand": "one"}),
    (("hit", "rubs"), "rim_bent", {"where_rubs": "once", "hop": "wave", "tension_there": "yes"}),
    (("hops", "hit"), "rim_bent", {"where_rubs": "once", "hop": "wave", "tension_there": "yes"}),
    (("hit",), "rim_dent", {"hop": "one", "rim_surface": "dent", "where_rubs": "no"}),
    (("hops",), "rim_dent", {"hop": "one", "rim_surface": "dent", "where_rubs": "no"}),
    (("creaks",), "rim_crack", {"rim_surface": "crack", "where_rubs": "no"}),
    (("check",), "rim_crack", {"rim_surface": "crack", "where_rubs": "no"}),
    (("check",), "rim_worn", {"brake_track": "worn", "where_rubs": "no"}),
    (("rubs",), "rim_worn", {"brake_track": "worn", "where_rubs": "no"}),
    (("broken_spoke",), "broken_spoke", {"spokes_by_hand": "broken", "where_rubs": "once"}),
    (("rubs",), "broken_spoke", {"spokes_by_hand": "broken", "where_rubs": "once"}),
    (("loose_spokes",), "low_tension", {"spokes_by_hand": "all", "where_rubs": "no"}),
    (("check",), "low_tension", {"spokes_by_hand": "all", "where_rubs": "no"}),
    (("loose_spokes",), "one_loose", {"spokes_by_hand": "one", "where_rubs": "once"}),
    (("creaks",), "settling", {"squeeze": "pings", "where_rubs": "no"}),
    (("creaks",), "dry_crossings", {"squeeze": "creaks", "where_rubs": "no"}),
    (("creaks",), "loose_part_in_rim", {"rattle": "yes", "where_rubs": "no"}),
    (("hops",), "tyre_seat", {"tyre_line": "wanders", "where_rubs": "no"}),
    (("check", "hops"), "tyre_seat", {"tyre_line": "wanders", "where_rubs": "no"}),
    (("rubs",), "brake_off_centre", {"pads_alike": "off", "where_rubs": "round"}),
    (("off_side", "rubs"), "brake_off_centre", {"pads_alike": "off", "where_rubs": "round"}),
    (("rubs",), "rotor_bent", {"rotor": "wobbles", "pads_alike": "disc", "where_rubs": "no"}),
    (("hit", "rubs"), "rotor_bent", {"rotor": "wobbles", "pads_alike": "disc", "where_rubs": "no"}),
)  # fmt: skip

#: The answer of a sound wheel where it is not the first of the check's list.
SOUND = {"drops_in": "no", "slot_hidden": "no", "ends_proud": "no", "play": "firm", "where_rubs": "no", "hop": "no",
         "rattle": "no", "flip": "middle", "hub_was_apart": "no", "tension_there": "no"}  # fmt: skip


def answer_of(check: str, differing: dict[str, str]) -> str:
    return differing.get(check) or SOUND.get(check) or next(iter(CHECKS[check].answers))


def questioned(complaints: tuple[str, ...], differing: dict[str, str], facts: WheelFacts | None = None) -> tuple[str, int]:
    """Ask as the inference wishes until it stops; the first cause and the number of questions."""
    answers: dict[str, str] = {}
    while (found := diagnose(complaints, answers, facts)).next_check is not None:
        answers[found.next_check.key] = answer_of(found.next_check.key, differing)
    return found.causes[0].key, len(answers)


class Cases(unittest.TestCase):
    def test_enough_cases_over_all_causes(self) -> None:
        self.assertGreaterEqual(len(CASES), 40)
        self.assertEqual({cause for _, cause, _ in CASES}, set(CAUSES))

    def test_nine_of_ten_right_in_six_questions(self) -> None:
        results = [(cause, *questioned(complaints, differing)) for complaints, cause, differing in CASES]
        wrong = [(cause, found) for cause, found, _ in results if cause != found]
        self.assertLessEqual(len(wrong) / len(CASES), 0.10, wrong)
        self.assertLessEqual(statistics.median(count for *_, count in results), 6, [count for *_, count in results])


class MoreCases(unittest.TestCase):
    """Together with those above more than a hundred wheels."""

    def test_over_all_causes_and_kinds_of_bike(self) -> None:
        self.assertGreaterEqual(len(CASES) + len(MORE), 110)
        self.assertEqual({told.cause for told in MORE}, set(CAUSES))
        self.assertEqual(len({(t.complaints, t.cause, t.facts.brake, t.facts.axle, t.facts.front) for t in MORE}), len(MORE))

    def test_nine_of_ten_right_in_six_questions(self) -> None:
        results = [(told.cause, *questioned(told.complaints, told.finds, told.facts)) for told in MORE]
        wrong = [(cause, found) for cause, found, _ in results if cause != found]
        self.assertLessEqual(len(wrong) / len(MORE), 0.10, wrong)
        self.assertLessEqual(statistics.median(count for *_, count in results), 6)

    def test_no_check_is_asked_that_the_bike_has_no_place_for(self) -> None:
        for told in MORE:
            answers: dict[str, str] = {}
            while (found := diagnose(told.complaints, answers, told.facts)).next_check is not None:
                self.assertTrue(asked_of(told.facts, found.next_check.key), (told, found.next_check.key))
                answers[found.next_check.key] = answer_of(found.next_check.key, told.finds)
        through = WheelFacts(brake="disc", axle="through", front=True)
        for check in ("drops_in", "stop_screws", "slot_hidden", "ends_proud", "pads_alike", "brake_track"):
            self.assertFalse(asked_of(through, check), check)
            self.assertTrue(asked_of(None, check), check)


class Clear(unittest.TestCase):
    def test_nothing_is_clear_while_an_open_check_could_overturn_it(self) -> None:
        """At every step of every case: where a cause is called clear, each answer left to give keeps it first."""
        for told in MORE:
            answers: dict[str, str] = {}
            while True:
                found = diagnose(told.complaints, answers, told.facts)
                if found.clear:
                    first = found.causes[0].key
                    shares = {r.key: r.share for r in found.causes}
                    for key, check in CHECKS.items():
                        if key in answers or not asked_of(told.facts, key):
                            continue
                        for answer in check.answers:
                            chance = sum(shares[c] * check.chance(c, answer) for c in shares)
                            if chance >= 0.02:
                                again = diagnose(told.complaints, {**answers, key: answer}, told.facts)
                                self.assertEqual(again.causes[0].key, first, (told, key, answer))
                if found.next_check is None:
                    break
                answers[found.next_check.key] = answer_of(found.next_check.key, told.finds)

    def test_a_bent_axle_is_not_concluded_as_dish(self) -> None:
        """It rubs round and changes sides when flipped, like a dish error: the axle is turned before anything is clear."""
        answers: dict[str, str] = {}
        differing = {"where_rubs": "round", "flip": "changes", "axle_turns": "circle", "bearing_feel": "rough"}
        while (found := diagnose(("off_side",), answers, WheelFacts(brake="rim"))).next_check is not None:
            answers[found.next_check.key] = answer_of(found.next_check.key, differing)
        self.assertIn("axle_turns", answers)
        self.assertEqual(found.causes[0].key, "axle_bent")

    def test_cheap_looks_on_the_bike_come_before_the_wheel_is_taken_out(self) -> None:
        for complaints in (("rubs",), ("off_side",), ("rubs", "off_side")):
            answers: dict[str, str] = {}
            asked = []
            while (found := diagnose(complaints, answers, WheelFacts(brake="rim"))).next_check is not None and len(asked) < 4:
                asked.append(CHECKS[found.next_check.key])
                answers[found.next_check.key] = answer_of(found.next_check.key, {"where_rubs": "round"})
            self.assertEqual({check.where for check in asked}, {ON_BIKE}, complaints)
            self.assertLessEqual(asked[0].minutes, 0.7)


class WrittenOrder(unittest.TestCase):
    """The order of the trade for a wheel that rubs or sits to one side (common practice, no source): each path gives its cause."""

    def test_each_path(self) -> None:
        order = (
            "drops_in",
            "stop_screws",
            "slot_hidden",
            "play",
            "axle_turns",
            "ends_proud",
            "where_rubs",
            "flip",
            "hub_was_apart",
        )
        stated = {
            "drops_in": ("yes", "axle_not_home"), "stop_screws": ("unequal", "stop_screws"), "slot_hidden": ("yes", "hanger_overlap"),
            "play": ("knocks", "bearing_play"), "axle_turns": ("circle", "axle_bent"), "ends_proud": ("yes", "axle_ends_proud"),
            "where_rubs": ("once", "lateral_untrue"), "hub_was_apart": ("yes", "spacers"),
        }  # fmt: skip
        for n, check in enumerate(order):
            if check not in stated:
                continue
            answer, cause = stated[check]
            answers = {c: answer_of(c, {"where_rubs": "round", "flip": "changes"}) for c in order[:n]} | {check: answer}
            with self.subTest(check):
                self.assertEqual(diagnose(("rubs", "off_side"), answers).causes[0].key, cause)
        for flip, cause in (("changes", "off_dish"), ("stays", "frame")):
            answers = {
                c: answer_of(c, {"where_rubs": "round", "flip": flip, "pads_alike": "disc"}) for c in (*order, "pads_alike")
            }
            with self.subTest(flip):
                self.assertEqual(diagnose(("rubs", "off_side"), answers).causes[0].key, cause)

    def test_axle_broken(self) -> None:
        found = diagnose(("rubs",), {"play": "knocks", "axle_turns": "pulls"})
        self.assertEqual(found.causes[0].key, "axle_broken")
        self.assertIn("axle_broken", found.unsafe)


class Soundness(unittest.TestCase):
    def test_every_cause_can_be_reached(self) -> None:
        for complaints, cause, differing in CASES:
            answers = {key: answer_of(key, differing) for key in CHECKS}
            shares = {r.key: r.share for r in diagnose(complaints, answers).causes}
            with self.subTest(cause, complaints=complaints):
                self.assertGreater(shares[cause], 0.2)

    def test_no_order_of_answers_contradicts_itself(self) -> None:
        """Whatever is answered, shares stay a distribution, and the order does not matter."""
        rng = random.Random(5)
        for _ in range(300):
            keys = rng.sample(list(CHECKS), rng.randint(1, len(CHECKS)))
            answers = {key: rng.choice([*CHECKS[key].answers, "unknown"]) for key in keys}
            complaints = tuple(rng.sample(list(COMPLAINTS), rng.randint(0, 3)))
            one = diagnose(complaints, answers)
            two = diagnose(complaints, dict(sorted(answers.items())))
            self.assertAlmostEqual(sum(r.share for r in one.causes), 1)
            self.assertTrue(all(math.isfinite(r.share) and r.share > 0 for r in one.causes))
            for a, b in zip(sorted(one.causes, key=lambda r: r.key), sorted(two.causes, key=lambda r: r.key), strict=True):
                self.assertAlmostEqual(a.share, b.share)
            self.assertNotIn(one.next_check.key if one.next_check else "", answers)

    def test_dont_know_changes_nothing_but_is_not_asked_again(self) -> None:
        plain, unknown = diagnose(("rubs",), {}), diagnose(("rubs",), {"where_rubs": "unknown"})
        self.assertEqual([r.share for r in plain.causes], [r.share for r in unknown.causes])
        asked = {"where_rubs"}
        answers = {"where_rubs": "unknown"}
        while (step := diagnose(("rubs",), answers).next_check) is not None:
            self.assertNotIn(step.key, asked)
            asked.add(step.key)
            answers[step.key] = "unknown"

    def test_cheap_checks_come_before_dear_ones(self) -> None:
        first = diagnose(("off_side",), {}).next_check
        self.assertLess(CHECKS[first.key].minutes, 1)

    def test_a_conclusion_says_why_from_the_answers_given(self) -> None:
        found = diagnose(("rubs",), {"drops_in": "yes", "where_rubs": "round", "clamp_firm": "firm"})
        self.assertTrue(found.clear)
        self.assertIn("does the axle drop further into the dropouts: yes", found.why)
        self.assertIn("drops_in", found.causes[0].speaks_for)

    def test_unknown_words_are_placed(self) -> None:
        for complaints, answers, field in (
            (("sings",), {}, "complaints"),
            ((), {"nose": "red"}, "nose"),
            ((), {"play": "red"}, "play"),
        ):
            with self.subTest(field), self.assertRaises(UnknownAnswer) as caught:
                diagnose(complaints, answers)
            self.assertEqual(caught.exception.field, field)


class Textbook(unittest.TestCase):
    def test_entropy(self) -> None:
        """Shannon 1948: a fair coin is 1 bit, a fair die log₂ 6; (1/2, 1/4, 1/8, 1/8) is 1.75 bit."""
        self.assertAlmostEqual(entropy_bit({"a": 0.5, "b": 0.5}), 1)
        self.assertAlmostEqual(entropy_bit(dict.fromkeys("abcdef", 1 / 6)), math.log2(6))
        self.assertAlmostEqual(entropy_bit({"a": 0.5, "b": 0.25, "c": 0.125, "d": 0.125}), 1.75)
        self.assertEqual(entropy_bit({"a": 1.0}), 0)

    def test_bayes_by_hand(self) -> None:
        """The textbook's test for a rare illness: 1 % ill, 99 % sensitive, 95 % specific: a positive means 1/6 ill."""
        test = Check("t", "?", "", 1, {"positive": "", "negative": ""}, (0.05, 0.95), {"ill": (0.99, 0.01)})
        after = updated({"ill": 0.01, "well": 0.99}, test, "positive")
        self.assertAlmostEqual(after["ill"], 0.0099 / (0.0099 + 0.0495))
        self.assertAlmostEqual(after["ill"], 1 / 6)

    def test_expected_gain_by_hand(self) -> None:
        """A check that tells two even causes apart for certain is worth one bit; one that does not, none."""
        apart = Check("t", "?", "", 1, {"y": "", "n": ""}, (1e-12, 1 - 1e-12), {"a": (1 - 1e-12, 1e-12)})
        same = Check("t", "?", "", 1, {"y": "", "n": ""}, (0.3, 0.7), {})
        even = {"a": 0.5, "b": 0.5}
        self.assertAlmostEqual(expected_gain_bit(even, apart), 1, places=6)
        self.assertAlmostEqual(expected_gain_bit(even, same), 0)

    def test_priors_add_up(self) -> None:
        for n in range(3):
            for complaints in itertools.combinations(COMPLAINTS, n):
                self.assertAlmostEqual(sum(prior(complaints).values()), 1)
