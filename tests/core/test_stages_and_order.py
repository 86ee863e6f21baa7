"""Stages and the order of the rail."""

import unittest
from datetime import UTC, datetime, timedelta

from felloe.core.promise.order import Hanging, in_order, next_for, standing_of
from felloe.core.stages import DONE, STAGE_KEYS, StageRefused, check_move, minutes_left

NOW = datetime(2026, 3, 2, 10, 0, tzinfo=UTC)


def job(name: str, hours: float | None, stage: str = "true", person: str | None = None, waiting: str = "") -> Hanging:
    return Hanging(name, stage, None if hours is None else NOW + timedelta(hours=hours), person, waiting)


class Stages(unittest.TestCase):
    def test_thirteen_in_the_order_of_work(self) -> None:
        self.assertEqual(len(STAGE_KEYS), 13)
        self.assertEqual((STAGE_KEYS[0], STAGE_KEYS[-1]), ("take_in", "hand_back"))

    def test_the_next_is_free_all_else_says_why(self) -> None:
        check_move("take_in", "check_on_bike", "")
        check_move("take_in", "true", "only a loose spoke")
        check_move("true", "as_found", "dial had slipped")
        for to_stage, reason, field in (("true", " ", "reason"), ("take_in", "x", "to_stage"), ("nowhere", "x", "to_stage")):
            with self.subTest(to_stage), self.assertRaises(StageRefused) as caught:
                check_move("take_in", to_stage, reason)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(StageRefused):
            check_move(DONE, "true", "again")

    def test_work_left_shrinks(self) -> None:
        left = [minutes_left(key) for key in STAGE_KEYS]
        self.assertEqual(left, sorted(left, reverse=True))
        self.assertEqual(minutes_left(DONE), 0)


class Order(unittest.TestCase):
    def test_by_promise_without_promise_last(self) -> None:
        order = in_order([job("c", None), job("b", 5), job("a", -1)])
        self.assertEqual([j.job_id for j in order], ["a", "b", "c"])

    def test_next_is_the_earliest_that_can_be_worked(self) -> None:
        jobs = [job("parts", -1, waiting="parts"), job("hers", 1, person="ines"), job("mine", 5, person="bram"), job("free", 3)]
        self.assertEqual(next_for(jobs, "bram").job_id, "mine")
        self.assertEqual(next_for(jobs, "ines").job_id, "hers")
        self.assertEqual(next_for(jobs, "odile").job_id, "free")
        self.assertIsNone(next_for([jobs[0]], "bram"))

    def test_an_earlier_day_comes_before_ones_own(self) -> None:
        jobs = [job("free", 3), job("mine", 40, person="bram")]
        self.assertEqual(next_for(jobs, "bram").job_id, "free")

    def test_standing(self) -> None:
        self.assertEqual(standing_of(job("a", -1), NOW).level, "late")
        self.assertEqual(standing_of(job("a", 1), NOW).level, "danger")
        self.assertEqual(standing_of(job("a", 20), NOW).level, "fine")
        self.assertEqual(standing_of(job("a", 20, waiting="parts"), NOW).level, "danger")
        self.assertEqual(standing_of(job("a", None), NOW).level, "none")
        self.assertIn("about 55 min of work left", standing_of(job("a", 20), NOW).why)
