"""When a wheel may leave, row by row of the table, and what counts as a reason."""

from __future__ import annotations

import unittest
from dataclasses import replace

from felloe.core.hand_back import Facts, SaysNothing, check_reason, missing, requirements
from felloe.core.said import Said, say

READY = Facts(decided=True, measured=True, known=True, mean_share=0.97, highest_n=1120, cap_n=1200)


def keys(facts: Facts) -> list[str]:
    return [requirement.key for requirement in missing(requirements(facts))]


class Leaving(unittest.TestCase):
    def test_a_wheel_that_is_ready(self) -> None:
        self.assertEqual(keys(READY), [])

    def test_each_fault_is_its_own_condition(self) -> None:
        for fault, key in (
            ({"measured": False}, "measured"),
            ({"decided": False}, "agreed"),
            ({"unmeasured": ("dish",)}, "measured"),
            ({"outside": ("lateral", "dish")}, "inside"),
            ({"mean_share": 0.1}, "tension"),
            ({"mean_share": 1.31}, "tension"),
            ({"highest_n": 1500}, "limit"),
            ({"open_steps": 6}, "refit"),
            ({"wrong_steps": ("Brake bites.",)}, "safe"),
            ({"unsafe": ("Crack at R5.",)}, "safe"),
        ):
            with self.subTest(fault):
                found = missing(requirements(replace(READY, **fault)))
                self.assertEqual([c.key for c in found], [key])
                self.assertTrue(found[0].missing)

    def test_what_was_not_measured_is_not_met(self) -> None:
        self.assertEqual(keys(Facts(decided=True, measured=False, known=False)), ["measured", "inside", "tension", "limit"])

    def test_safety_is_the_owner_s_alone(self) -> None:
        by = {requirement.key: requirement.waived_by for requirement in requirements(READY)}
        self.assertEqual([key for key, who in by.items() if who == "owner"], ["limit", "refit", "safe"])

    def test_at_the_limit_is_below_it(self) -> None:
        self.assertEqual(keys(replace(READY, highest_n=1200.0)), [])
        self.assertEqual(keys(replace(READY, highest_n=1200.1)), ["limit"])

    def test_a_reason_says_something(self) -> None:
        for nothing in ("", "x", ".", "ok", "......", "12 34", "a b c"):
            with self.subTest(nothing), self.assertRaises(SaysNothing):
                check_reason(nothing, "reason")
        self.assertEqual(check_reason(" Customer rides to the shop tomorrow ", "reason"), "Customer rides to the shop tomorrow")
        self.assertEqual(check_reason("Kunde weiß es", "reason"), "Kunde weiß es")
        self.assertIsInstance(check_reason(say("New spoke, brought to its neighbours."), "note"), Said)
