"""How a job ends without a repair: what stands against each end, who may, what the customer reads, and reopening.

The rules are common practice, no source; each row was written from the shop's side, before the code.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from felloe.core.decision.agreed import Bench, not_done
from felloe.core.endings import ENDS, CannotEnd, CannotReopen, Ground, check_reopening, way_named, ways_to_end
from felloe.core.hand_back import Facts, SaysNothing, missing, requirements
from felloe.core.stages import LEAVES_SOMETHING, STAGE_KEYS, StageRefused, check_move

CRACK = ("Crack at R5.",)


def open_ends(**ground: object) -> set[str]:
    return {way.key for way in ways_to_end(Ground(**ground)) if not way.barred}  # type: ignore[arg-type]


class Ends(unittest.TestCase):
    def test_which_ends_are_open(self) -> None:
        """An untouched job can be cancelled; each fact opens its own end and shuts those that would hide it."""
        for ground, expected in (
            ({}, {"cancelled", "beyond_repair"}),
            ({"elsewhere": True, "cause": "Brake off-centre"}, {"no_fault", "cancelled", "beyond_repair"}),
            ({"elsewhere": True, "open_steps": 2}, {"cancelled", "beyond_repair"}),
            ({"elsewhere": True, "worked": True}, {"beyond_repair"}),
            ({"elsewhere": True, "unsafe": CRACK}, {"beyond_repair"}),
            ({"refused": True}, {"declined", "cancelled", "beyond_repair"}),
            ({"refused": True, "unsafe": CRACK}, {"beyond_repair"}),
            ({"refused": True, "unsafe": CRACK, "warned": True}, {"declined", "beyond_repair"}),
            ({"refused": True, "worked": True}, {"declined", "beyond_repair"}),
            ({"quiet_days": 89}, {"cancelled", "beyond_repair"}),
            ({"quiet_days": 90}, {"cancelled", "beyond_repair", "not_fetched"}),
            ({"quiet_days": 30, "unfetched_days": 30, "worked": True}, {"beyond_repair", "not_fetched"}),
        ):
            with self.subTest(ground):
                self.assertEqual(open_ends(**ground), expected)

    def test_every_state_has_an_end(self) -> None:
        """Over every combination of facts: something is always open, and nothing that was worked on is cancelled."""
        for bits in range(64):
            flag = [bool(bits >> i & 1) for i in range(6)]
            ground = {
                "elsewhere": flag[0], "refused": flag[1], "warned": flag[2], "worked": flag[3],
                "unsafe": CRACK if flag[4] else (), "open_steps": 3 if flag[5] else 0,
            }  # fmt: skip
            found = open_ends(**ground)
            self.assertTrue(found, ground)
            if flag[3] or flag[4]:
                self.assertFalse(found & {"cancelled", "no_fault"}, ground)
            for way in ways_to_end(Ground(**ground)):  # type: ignore[arg-type]
                if not way.barred and flag[4]:
                    self.assertTrue(way.not_to_ride, way.key)
                    self.assertNotEqual(way.who, "counter", way.key)

    def test_who_may(self) -> None:
        self.assertEqual(way_named(Ground(), "cancelled").who, "counter")
        self.assertEqual(way_named(Ground(refused=True), "declined").who, "counter")
        self.assertEqual(way_named(Ground(refused=True, warned=True, unsafe=CRACK), "declined").who, "skilled")
        self.assertEqual(way_named(Ground(refused=True, worked=True), "declined").who, "owner")
        self.assertEqual(way_named(Ground(), "beyond_repair").who, "skilled")
        self.assertEqual(way_named(Ground(quiet_days=400), "not_fetched").who, "owner")

    def test_what_is_proposed_comes_first(self) -> None:
        self.assertEqual(ways_to_end(Ground(elsewhere=True))[0].key, "no_fault")
        self.assertEqual(ways_to_end(Ground(refused=True))[0].key, "declined")
        self.assertFalse(any(way.proposed for way in ways_to_end(Ground())))

    def test_the_customer_reads_what_happened(self) -> None:
        words = way_named(Ground(elsewhere=True, cause="Brake off-centre"), "no_fault").words
        self.assertEqual(words, "Nothing is wrong with your wheel itself. What we found: brake off-centre.")
        self.assertIn("not finished", way_named(Ground(refused=True, worked=True), "declined").words)
        self.assertIn("leaves as it came", way_named(Ground(refused=True), "declined").words)
        self.assertIn("45 days", way_named(Ground(quiet_days=60, unfetched_days=45), "not_fetched").words)
        for way in ways_to_end(Ground()):
            self.assertTrue(way.words)
            self.assertEqual(way.name, ENDS[way.key])

    def test_a_barred_or_unknown_end_is_refused(self) -> None:
        for end in ("no_fault", "declined", "not_fetched", "repaired", "sold"):
            with self.subTest(end), self.assertRaises(CannotEnd) as caught:
                way_named(Ground(), end)
            self.assertEqual(caught.exception.field, "end")

    def test_reopening(self) -> None:
        check_reopening(30, 30, None)
        for ago, within, again in ((31, 30, None), (1, 0, None), (0, 30, 141)):
            with self.subTest(ago=ago), self.assertRaises(CannotReopen):
                check_reopening(ago, within, again)


class Agreed(unittest.TestCase):
    def test_each_option_has_its_own_proof(self) -> None:
        bare = Bench(as_left=False, to_replace=("R4",), laced=10, spokes=36, a_side=18, hub=("Axle bent",))
        done = Bench(as_left=True, laced=36, spokes=36, a_side=18)
        for option, what in (
            ("true", "not measured as left"),
            ("replace", "R4 still to be replaced"),
            ("rebuild_side", "10 of 18"),
            ("rebuild", "10 of 36"),
            ("new_rim", "10 of 36"),
            ("hub_overhaul", "Axle bent"),
        ):
            with self.subTest(option):
                (line,) = not_done([option], bare)
                self.assertIn(what, line)
                self.assertEqual(not_done([option], done), ())
        self.assertEqual(not_done(["leave", "frame"], bare), ())
        # A wheel of which nothing is known owes nothing but its readings.
        self.assertEqual(not_done(["rebuild", "rebuild_side", "new_rim", "replace", "hub_overhaul"], Bench(as_left=False)), ())
        self.assertEqual(len(not_done(["true", "hub_overhaul"], bare)), 2)
        self.assertEqual(not_done(["rebuild_side"], replace(bare, laced=18)), ())

    def test_refused_or_undone_is_not_agreed_and_done(self) -> None:
        ready = Facts(decided=True, measured=True, known=True, mean_share=1.0, highest_n=1000, cap_n=1200)
        for change, what in (({"refused": True}, "refused"), ({"undone": ("True the wheel: not measured",)}, "not done")):
            with self.subTest(change):
                (found,) = missing(requirements(replace(ready, **change)))
                self.assertEqual((found.key, found.waived_by), ("agreed", "skilled"))
                self.assertIn(what, found.missing)


class Moving(unittest.TestCase):
    def test_a_stage_with_nothing_to_show_is_left_with_a_reason(self) -> None:
        for stage in LEAVES_SOMETHING:
            after = STAGE_KEYS[STAGE_KEYS.index(stage) + 1]
            with self.subTest(stage):
                check_move(stage, after, "", undone=set(LEAVES_SOMETHING) - {stage})
                with self.assertRaises(StageRefused) as caught:
                    check_move(stage, after, " ", undone={stage})
                self.assertEqual(caught.exception.field, "reason")
                with self.assertRaises(SaysNothing):
                    check_move(stage, after, "x", undone={stage})
                check_move(stage, after, "wheel came without tension", undone={stage})

    def test_no_end_is_reached_by_clicks(self) -> None:
        """From taking in to hand-back without a word: impossible while nothing was done."""
        stage, words = STAGE_KEYS[0], 0
        for after in STAGE_KEYS[1:]:
            try:
                check_move(stage, after, "", undone=LEAVES_SOMETHING)
            except StageRefused:
                words += 1
                check_move(stage, after, "left out on purpose", undone=LEAVES_SOMETHING)
            stage = after
        self.assertEqual((stage, words), (STAGE_KEYS[-1], 4))
