"""The queue's plays against a workshop played minute by minute, and against theorems of scheduling."""

from __future__ import annotations

import itertools
import unittest
from datetime import UTC, date, datetime, time, timedelta

import numpy as np
from scipy.stats import lognorm

from felloe.core.promise.answer import is_it_ready
from felloe.core.promise.dates import effects, odds, offers, ready_standing, span_of, standing_of
from felloe.core.promise.desk import DeskJob, tasks
from felloe.core.promise.hours import Calendar, Span, zone_of
from felloe.core.promise.pace import USUAL_WAITS
from felloe.core.promise.sequence import Hanging, in_order, next_for
from felloe.core.promise.simulate import BOTH, FIRST, SECOND, Queued, Worker, play
from felloe.core.promise.work import Estimate, Step
from felloe.core.said import say

UTC_ZONE = zone_of("UTC")
ALWAYS = Calendar(UTC_ZONE, tuple(Span(d, time(0), time(23, 59)) for d in range(7)))
WEEKDAYS = Calendar(UTC_ZONE, tuple(Span(d, time(9), time(17)) for d in range(5)))
MONDAY = datetime(2026, 3, 2, 9, tzinfo=UTC)
HOURLY = timedelta(hours=1)


def steady(calendar: Calendar = WEEKDAYS, key: str = "ann", skills: frozenset[str] = frozenset()) -> Worker:
    """A worker who does nothing else."""
    return Worker(key, calendar, skills, interrupted=0.0)


def fixed(key: str, minutes: float, rank: float, **more) -> Queued:
    """A job that takes exactly so long."""
    return Queued(key, rank, after=(Step("true", minutes, 1e-9),), **more)


def healthy(played, key: str, world: int = 0) -> float:
    """Minutes until ready where nobody fell ill: the commonest outcome."""
    return float(np.median(played.of(key, world)))


class Plays(unittest.TestCase):
    def test_one_after_the_other_over_the_night(self) -> None:
        played = play([fixed("a", 300, 1), fixed("b", 300, 2)], [steady()], MONDAY)
        self.assertAlmostEqual(healthy(played, "a"), 300, delta=0.1)
        # 180 minutes are left of Monday, 120 are done on Tuesday from nine.
        self.assertAlmostEqual(healthy(played, "b"), 1440 + 120, delta=0.1)

    def test_two_benches_take_two_at_once(self) -> None:
        played = play([fixed(k, 60, i) for i, k in enumerate("abc")], [steady(), steady(key="bob")], MONDAY)
        self.assertEqual([round(healthy(played, k)) for k in "abc"], [60, 60, 120])

    def test_who_waits_holds_nobody_up(self) -> None:
        comes = MONDAY + timedelta(hours=6)
        jobs = [fixed("late", 60, 1, waits_on="parts", expected_at=comes), fixed("free", 60, 2)]
        played = play(jobs, [steady()], MONDAY)
        self.assertAlmostEqual(healthy(played, "free"), 60, delta=0.1)
        self.assertGreaterEqual(played.of("late").min(), 6 * 60 + 60 - 0.1)

    def test_who_has_waited_beyond_all_experience_waits_on(self) -> None:
        """A log-normal's tail grows longer with every day: after a month nobody expects the word within the hour."""
        still = [
            float(np.median(play([fixed("a", 1, 1, waits_on="customer", waits_since_h=h)], [steady(ALWAYS)], MONDAY).of("a")))
            for h in (0.0, 5.0, 240.0, 720.0, 5000.0)
        ]
        self.assertEqual(still, sorted(still))
        self.assertGreater(still[3], 24 * 60)
        # Against scipy's own conditional distribution.
        wait = USUAL_WAITS["customer"]
        tail = lognorm(wait.log_sd, scale=wait.median_h)
        self.assertAlmostEqual(still[2] / 60, tail.isf(tail.sf(240) / 2) - 240, delta=0.2 * still[2] / 60)

    def test_a_day_that_was_named_and_is_past_is_no_promise_of_today(self) -> None:
        named = {"waits_on": "parts", "waits_since_h": 100.0, "expected_at": MONDAY - timedelta(days=2)}
        ready = play([fixed("a", 1, 1, **named)], [steady(ALWAYS)], MONDAY).of("a")
        self.assertLess((ready < 180).mean(), 0.3)

    def test_skill_and_person_bind(self) -> None:
        jobs = [
            fixed("fine", 60, 1, needs=frozenset({"fine"})),
            fixed("hers", 60, 2, assigned="bob"),
            fixed("nobody", 60, 3, needs=frozenset({"welding"})),
        ]
        played = play(jobs, [steady(skills=frozenset({"fine"})), steady(key="bob")], MONDAY)
        self.assertEqual([round(healthy(played, k)) for k in ("fine", "hers")], [60, 60])
        self.assertTrue(np.isinf(played.of("nobody")).all())
        self.assertEqual(played.chance("nobody", MONDAY + timedelta(days=50)), 0)
        self.assertIsNone(played.quantile("nobody", 0.8))

    def test_work_in_hand_goes_on_whatever_its_rank(self) -> None:
        played = play([fixed("a", 60, 1), fixed("begun", 60, 9, in_hand=True)], [steady()], MONDAY)
        self.assertEqual([round(healthy(played, k)) for k in ("begun", "a")], [60, 120])

    def test_the_customers_word_comes_between(self) -> None:
        job = Queued("a", 1, before=(Step("decide", 30, 1e-9),), after=(Step("true", 30, 1e-9),), asks=True)
        ready = play([job], [steady(ALWAYS)], MONDAY).of("a")
        self.assertGreater((ready > 61).mean(), 0.2)
        self.assertGreater((ready < 61).mean(), 0.3)

    def test_everything_ends_although_all_wait_for_each_other(self) -> None:
        """Workers with nothing to do, words to come and skills missing: no play goes on for ever."""
        jobs = [
            Queued(str(i), i, before=(Step("decide", 5, 0.4),), after=(Step("true", 20, 0.4),), asks=True,
                   needs=frozenset({"x"} if i % 3 else {"y"}), waits_on="customer" if i % 2 else "")
            for i in range(12)
        ]  # fmt: skip
        nobody = steady(Calendar(UTC_ZONE, ()), "c")
        crew = [steady(key="a", skills=frozenset({"x"})), steady(key="b", skills=frozenset({"z"})), nobody]
        ready = play(jobs, crew, MONDAY).ready_min
        self.assertTrue(np.isfinite(ready[:, :, 1]).all())
        self.assertTrue(np.isinf(ready[:, :, 0]).all())

    def test_the_same_seed_is_the_same_and_another_world_differs_only_by_its_change(self) -> None:
        jobs = [Queued(str(i), i, after=(Step("true", 60, 0.5),)) for i in range(6)]
        once, again = play(jobs, [steady()], MONDAY, seed=5), play(jobs, [steady()], MONDAY, seed=5)
        np.testing.assert_array_equal(once.ready_min, again.ready_min)
        last, first = Queued("5", 9, after=jobs[5].after, worlds=FIRST), Queued("5", -1, after=jobs[5].after, worlds=SECOND)
        two = play([*jobs[:5], last, first], [steady()], MONDAY, seed=5, worlds=2)
        np.testing.assert_allclose(two.ready_min[0], once.ready_min[0])
        self.assertTrue((two.of("5", 1) < two.of("5", 0)).all())
        self.assertTrue((two.of("0", 1) > two.of("0", 0)).all())
        self.assertEqual(BOTH, (True, True))

    def test_nobody_there_and_nothing_to_do(self) -> None:
        self.assertEqual(play([], [steady()], MONDAY).ready_min.shape[-1], 0)
        self.assertTrue(np.isinf(play([fixed("a", 5, 1)], [], MONDAY).ready_min).all())

    def test_lateness_of_one_bench_is_least_by_due_date(self) -> None:
        """Jackson's rule: on one bench no order has a smaller largest lateness than by due date (every order tried)."""
        minutes, due = [50, 20, 80, 35, 60], [140, 90, 260, 60, 200]
        least = min(
            max(np.cumsum([minutes[i] for i in order])[k] - due[i] for k, i in enumerate(order))
            for order in itertools.permutations(range(5))
        )
        played = play([fixed(str(i), m, due[i]) for i, m in enumerate(minutes)], [steady(ALWAYS)], MONDAY)
        self.assertAlmostEqual(max(healthy(played, str(i)) - due[i] for i in range(5)), least, delta=0.1)

    def test_interruptions_stretch_and_absence_moves(self) -> None:
        busy = Worker("ann", WEEKDAYS, interrupted=0.25)
        self.assertAlmostEqual(healthy(play([fixed("a", 60, 1)], [busy], MONDAY), "a"), 80, delta=2)
        away = Calendar(UTC_ZONE, WEEKDAYS.week, frozenset({date(2026, 3, 2), date(2026, 3, 3)}))
        self.assertAlmostEqual(healthy(play([fixed("a", 60, 1)], [steady(away)], MONDAY), "a"), 2 * 1440 + 60, delta=0.1)


class Dates(unittest.TestCase):
    def spread(self):
        return play([Queued("a", 1, after=(Step("true", 240, 0.6),))], [steady()], MONDAY)

    def test_the_first_hours_that_hold_the_line(self) -> None:
        played = self.spread()
        shop, sure = offers(played, "a", WEEKDAYS, 0.8)
        self.assertEqual((shop.key, sure.key), ("shop", "sure"))
        for offer, line in ((shop, 0.8), (sure, 0.95)):
            self.assertGreaterEqual(offer.chance, line)
            self.assertAlmostEqual(offer.chance, (played.of("a") <= (offer.at - MONDAY).total_seconds() / 60).mean())
            before = [s for s in WEEKDAYS.slots(MONDAY) if s < offer.at]
            self.assertTrue(all(played.chance("a", s) < line for s in before))

    def test_nothing_is_offered_where_nobody_can(self) -> None:
        self.assertEqual(offers(play([fixed("a", 5, 1)], [], MONDAY), "a", WEEKDAYS, 0.8), ())

    def test_the_wanted_time_comes_first_with_its_own_chance(self) -> None:
        wanted = MONDAY + timedelta(hours=2)
        found = offers(self.spread(), "a", WEEKDAYS, 0.8, wanted)
        self.assertEqual((found[0].key, found[0].at), ("wanted", wanted))
        self.assertLess(found[0].chance, 0.5)

    def test_squeezing_one_in_is_told_to_those_who_pay(self) -> None:
        jobs = [fixed(str(i), 100, i) for i in range(4)]
        new = fixed("new", 100, 99)
        moved = Queued("new", -1, after=new.after, worlds=SECOND)
        played = play([*jobs, Queued("new", 99, after=new.after, worlds=FIRST), moved], [steady()], MONDAY, worlds=2)
        promises = {str(i): MONDAY + timedelta(minutes=100 * (i + 1) + 20) for i in range(4)} | {"gone": MONDAY + HOURLY}
        found = effects(played, promises, "new")
        self.assertEqual({e.job for e in found}, {"0", "1", "2", "3"})
        self.assertTrue(all(e.after < e.before for e in found))

    def test_odds_never_promise_more(self) -> None:
        for chance, words in ((1, "19 of 20"), (0.95, "19 of 20"), (0.949, "9 of 10"), (0.8, "8 of 10"), (0.799, "7 of 10"),
                              (0.05, "1 of 20"), (0.02, "hardly a chance")):  # fmt: skip
            self.assertEqual(odds(chance), words)

    def test_spans(self) -> None:
        for minutes, words in ((89, "89 min"), (90, "1 h"), (36 * 60 - 1, "35 h"), (36 * 60, "2 days"), (5 * 1440, "5 days")):
            self.assertEqual(span_of(timedelta(minutes=minutes)), words)


class Standings(unittest.TestCase):
    left = Estimate(60, 40, 90)

    def of(self, hours: float | None, chance: float | None, waiting: str = ""):
        at = None if hours is None else MONDAY + timedelta(hours=hours)
        return standing_of(at, MONDAY, 0.8, chance, self.left, waiting)

    def test_levels(self) -> None:
        self.assertEqual(self.of(None, None).level, "none")
        self.assertEqual(self.of(-1 / 3600, 1).level, "late")
        self.assertEqual(self.of(0, 1).level, "fine")
        self.assertEqual(self.of(5, 0.8).level, "fine")
        self.assertEqual(self.of(5, 0.79).level, "danger")
        # What was never played opens no gate.
        self.assertEqual(self.of(5, None).level, "danger")

    def test_why_names_what_it_rests_on(self) -> None:
        why = self.of(5, 0.42, "parts").why
        for part in ("5 h", "4 of 10", "waits on parts", "about 60 min, 40 to 90"):
            self.assertIn(part, why)

    def test_ready_says_whether_it_was_kept(self) -> None:
        kept = ready_standing(MONDAY, MONDAY + HOURLY, MONDAY + 2 * HOURLY)
        self.assertEqual((kept.level, kept.why), ("ready", "ready for 2 h"))
        self.assertIn("60 min after its promise", ready_standing(MONDAY, MONDAY - HOURLY, MONDAY).why)


def hung(key: str, hours: float | None, **more) -> Hanging:
    return Hanging(key, MONDAY, None if hours is None else MONDAY + timedelta(hours=hours), **more)


class Sequence(unittest.TestCase):
    def test_by_the_latest_start(self) -> None:
        order = in_order([hung("short", 5, work_min=10), hung("long", 6, work_min=200), hung("later", 30)])
        self.assertEqual([h.job_id for h in order], ["long", "short", "later"])

    def test_the_clock_alone_reshuffles_nothing_and_nobody_starves(self) -> None:
        """A job without a promise comes before every promise given for more than a week after it came in."""
        old = Hanging("old", MONDAY - timedelta(days=8))
        self.assertEqual(in_order([hung("new", 1), old])[0].job_id, "old")
        self.assertEqual(in_order([hung("new", 1), Hanging("fresh", MONDAY)])[0].job_id, "new")

    def test_wanted_stands_in_for_a_promise(self) -> None:
        wanted = Hanging("w", MONDAY, wanted_at=MONDAY + HOURLY)
        self.assertEqual(in_order([hung("p", 2), wanted])[0].job_id, "w")

    def test_next(self) -> None:
        """Own work comes before a free wheel of the same day, not before one that is due a day earlier."""
        for jobs, expected in (
            ([hung("a", 2), hung("b", 5, assigned_to="ines")], "b"),
            ([hung("a", 2), hung("b", 30, assigned_to="ines")], "a"),
            ([hung("a", 2, assigned_to="bram"), hung("b", 30)], "b"),
            ([hung("a", 2, waiting_on="parts"), hung("b", 5)], "b"),
            ([hung("a", 2, waiting_on="parts")], None),
            ([hung("a", 2, in_hand="bram"), hung("b", 5)], "b"),
            ([hung("a", 2), hung("b", 500, in_hand="ines")], "b"),
            ([hung("a", 2, needs=frozenset({"fine"})), hung("b", 5)], "b"),
            ([hung("a", 2, needs=frozenset({"fine"}), assigned_to="ines"), hung("b", 5)], "a"),
            ([hung("a", 2, ready=True)], None),
            ([], None),
        ):
            found = next_for(jobs, "ines", frozenset({"truing"}))
            self.assertEqual(found.job_id if found else None, expected)


class Desk(unittest.TestCase):
    def test_the_list_is_in_the_order_of_harm_and_holds_no_bench_work(self) -> None:
        jobs = [
            DeskJob("fetch", "ready", say("x"), ready_at=MONDAY - HOURLY),
            DeskJob("dust", "ready", say("x"), ready_at=MONDAY - timedelta(days=100)),
            DeskJob("word", "fine", say("x"), MONDAY + HOURLY, "customer", MONDAY - HOURLY),
            DeskJob("none", "none", say("x")),
            DeskJob("fine", "fine", say("x"), MONDAY + HOURLY),
            DeskJob("tight", "danger", say("x"), MONDAY + HOURLY),
            DeskJob("late", "late", say("x"), MONDAY - HOURLY, "customer", MONDAY - HOURLY),
            DeskJob("told", "late", say("x"), MONDAY - HOURLY, called=frozenset({"call"})),
        ]
        found = [(t.kind, t.job) for t in tasks(jobs, MONDAY, 90)]
        self.assertEqual(found, [("call", "late"), ("call", "tight"), ("approve", "word"), ("promise", "none"),
                                 ("fetch", "fetch"), ("unclaimed", "dust")])  # fmt: skip


class IsItReady(unittest.TestCase):
    def test_the_callers_question(self) -> None:
        for given, key in (
            (("hand_back", MONDAY, None, "", ""), "ready"),
            (("true", None, MONDAY + HOURLY, "", ""), "not_yet"),
            (("true", None, MONDAY - HOURLY, "", ""), "late"),
            (("parts", None, MONDAY - HOURLY, "parts", ""), "waits"),
            (("decide", None, None, "customer", ""), "waits"),
            (("decide", None, None, "owner", ""), "waits"),
            (("done", MONDAY, None, "", "repaired"), "gone"),
            (("done", MONDAY, None, "", "not_fetched"), "gone"),
        ):
            self.assertEqual(is_it_ready(*given, MONDAY).key, key)
