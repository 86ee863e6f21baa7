"""Sides, names, angles."""

import unittest

from felloe.core.errors import ImpossibleGeometry, UnknownSpoke
from felloe.core.naming import Side, SpokeName, hole_angles_deg, names_round_the_rim


class Names(unittest.TestCase):
    def test_read_as_people_write_them(self) -> None:
        for text in ("R5", "r5", " R5 "):
            self.assertEqual(str(SpokeName.parse(text)), "R5")

    def test_refuses_what_is_no_name(self) -> None:
        for text in ("", "5", "R0", "X3", "R5b", "R123", "RR1", "R-1"):
            with self.subTest(text), self.assertRaises(UnknownSpoke):
                SpokeName.parse(text)

    def test_equal_numbers_lie_together(self) -> None:
        names = [str(n) for n in names_round_the_rim(4, 4, Side.RIGHT)]
        self.assertEqual(names, ["R1", "L1", "R2", "L2", "R3", "L3", "R4", "L4"])
        names = [str(n) for n in names_round_the_rim(4, 4, Side.LEFT)]
        self.assertEqual(names[:4], ["L1", "R1", "L2", "R2"])

    def test_two_to_one_runs_in_threes(self) -> None:
        names = [str(n) for n in names_round_the_rim(8, 4, Side.RIGHT)]
        self.assertEqual(names[:6], ["R1", "L1", "R2", "R3", "L2", "R4"])

    def test_other_counts_are_refused(self) -> None:
        with self.assertRaises(ImpossibleGeometry):
            names_round_the_rim(9, 7, Side.RIGHT)

    def test_valve_lies_between_last_and_first_hole(self) -> None:
        angles = hole_angles_deg(36)
        self.assertEqual(angles[0], 5.0)
        self.assertEqual(angles[-1], 355.0)
