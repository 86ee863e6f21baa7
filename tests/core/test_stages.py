"""Stages of a job."""

import unittest

from felloe.core.stages import DONE, STAGE_KEYS, StageRefused, check_move


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
