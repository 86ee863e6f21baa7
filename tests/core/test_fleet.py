"""Lots: the sequential test against an exact count of its error rates and simulated lots, batches, lists of numbers."""

from __future__ import annotations

import unittest

import numpy as np

from felloe.core.diagnosis.breakage import PLACES
from felloe.core.fleet.assets import MOST, BadAssets, read_assets
from felloe.core.fleet.batch import BATCH, MORE, TOO_FEW, USUAL, LotBreak, batch_verdict
from felloe.core.fleet.sampling import (
    ALPHA,
    BAD,
    BETA,
    BETWEEN,
    GO_ON,
    GOOD,
    BadSampling,
    Sampling,
    judge_wheel,
    lot_verdict,
)  # fmt: skip

LOT = 120


def lots(share: float, times: int, seed: int) -> list[np.ndarray]:
    rng = np.random.default_rng(seed)
    bad = np.zeros(LOT, dtype=bool)
    bad[: round(share * LOT)] = True
    return [rng.permutation(bad) for _ in range(times)]


def measure(lot: np.ndarray) -> tuple[str, int]:
    for n in range(1, LOT + 1):
        found = lot_verdict([bool(b) for b in lot[:n]], LOT)
        if found.verdict != GO_ON:
            return found.verdict, n
    raise AssertionError("a lot that is measured whole is decided")


class Sequential(unittest.TestCase):
    def test_error_rates_on_simulated_lots(self) -> None:
        times = 1500
        # Three standard deviations of the count of a rate of 5 % in so many lots.
        room = 3 * np.sqrt(0.05 * 0.95 / times)
        good = [measure(lot) for lot in lots(0.05, times, 1)]
        self.assertLessEqual(sum(v == BAD for v, _ in good) / times, ALPHA + room)
        bad = [measure(lot) for lot in lots(0.20, times, 2)]
        self.assertLessEqual(sum(v == GOOD for v, _ in bad) / times, BETA + room)
        self.assertLess(np.mean([n for _, n in good]), LOT / 3)
        self.assertLess(np.mean([n for _, n in bad]), LOT / 3)
        perfect = measure(np.zeros(LOT, dtype=bool))
        self.assertEqual(perfect[0], GOOD)
        self.assertLess(perfect[1], 25)

    def test_error_rates_counted_exactly_for_lots_without_end(self) -> None:
        """Walk every path of counts by its probability, with the lines drawn from the likelihoods themselves."""
        for share, wrong in ((0.05, "bad"), (0.20, "good")):
            alive, mistaken = {0: 1.0}, 0.0
            for n in range(1, 1000):
                after: dict[int, float] = {}
                for bad, p in alive.items():
                    for more, q in ((1, share), (0, 1 - share)):
                        after[bad + more] = after.get(bad + more, 0.0) + p * q
                alive = {}
                for bad, p in after.items():
                    ratio = (0.20 / 0.05) ** bad * (0.80 / 0.95) ** (n - bad)
                    if ratio <= 0.05 / 0.95:
                        mistaken += p * (wrong == "good")
                    elif ratio >= 0.95 / 0.05:
                        mistaken += p * (wrong == "bad")
                    else:
                        alive[bad] = p
            self.assertLess(sum(alive.values()), 1e-6)
            self.assertLessEqual(mistaken, 0.05 / 0.95, wrong)

    def test_the_lines_are_those_of_the_likelihoods(self) -> None:
        rng = np.random.default_rng(3)
        for _ in range(300):
            n = int(rng.integers(1, 60))
            found = [bool(b) for b in rng.random(n) < 0.12]
            said = lot_verdict(found, 10**6).verdict
            wanted = GO_ON
            for i in range(1, n + 1):
                bad = sum(found[:i])
                ratio = 4.0**bad * (0.80 / 0.95) ** (i - bad)
                if not 0.05 / 0.95 < ratio < 0.95 / 0.05:
                    wanted = GOOD if ratio < 1 else BAD
                    break
            self.assertEqual(said, wanted)

    def test_what_is_left_cannot_change_what_is_certain(self) -> None:
        self.assertEqual(lot_verdict([True, True], 10).certain, True)
        self.assertEqual((lot_verdict([False] * 10, 10).verdict, lot_verdict([False] * 10, 10).certain), (GOOD, True))
        self.assertEqual(lot_verdict([True] + [False] * 9, 10).verdict, BETWEEN)
        self.assertEqual(lot_verdict([], 3).verdict, GO_ON)

    def test_how_many_more_at_least_is_reached(self) -> None:
        found: list[bool] = [False, True]
        said = lot_verdict(found, LOT)
        self.assertEqual(said.verdict, GO_ON)
        for answer in (False, True):
            short = lot_verdict([*found, *[answer] * (said.fewest_more - 1)], LOT)
            self.assertEqual(short.verdict, GO_ON)
        ends = [lot_verdict([*found, *[answer] * said.fewest_more], LOT).verdict for answer in (False, True)]
        self.assertIn(True, [verdict != GO_ON for verdict in ends])

    def test_samplings_and_lots_that_cannot_be(self) -> None:
        for change in ({"good_share": 0.3}, {"bad_share": 1.0}, {"good_share": 0.0}, {"alpha": 0.4}, {"beta": 0.0}):
            with self.assertRaises(BadSampling):
                Sampling(**change)
        for found, of in (([], 0), ([True, True], 1)):
            with self.assertRaises(BadSampling):
                lot_verdict(found, of)


class Wheels(unittest.TestCase):
    TARGETS = {"R": 1000.0, "L": 600.0}

    def judge(self, right: float = 1000, left: float = 600, count: int = 4, **more: float) -> bool | None:
        read = {**{f"R{i}": right for i in range(1, count + 1)}, **{f"L{i}": left for i in range(1, count + 1)}, **more}
        return judge_wheel(read, self.TARGETS, 20).bad

    def test_good_bad_and_not_known(self) -> None:
        self.assertIs(self.judge(), False)
        self.assertIs(self.judge(right=1190), False)
        self.assertIs(self.judge(right=1210), True)
        self.assertIs(self.judge(left=470), True)
        self.assertIs(self.judge(R9=590), True)
        self.assertIs(self.judge(R9=610), False)
        self.assertIsNone(self.judge(count=3))
        self.assertIs(judge_wheel({}, self.TARGETS, 20, broken=["R3"]).bad, True)


class Batches(unittest.TestCase):
    def breaks(self, *counts: tuple[str, str, int]) -> list[LotBreak]:
        kinds = [(side, place) for side, place, count in counts for _ in range(count)]
        return [LotBreak(str(i), side, place) for i, (side, place) in enumerate(kinds)]

    def test_alike_and_more_than_usual(self) -> None:
        found = batch_verdict(self.breaks(("R", "elbow", 30)), LOT, 0.25)
        self.assertEqual(found.verdict, BATCH)
        self.assertIn("one batch", found.why)
        self.assertEqual(batch_verdict(self.breaks(("R", "elbow", 9)), LOT, 0.25).verdict, USUAL)
        self.assertEqual(batch_verdict(self.breaks(("R", "elbow", 3)), LOT, 0.25).verdict, TOO_FEW)

    def test_many_at_different_places_share_something_else(self) -> None:
        places = list(PLACES)
        mixed = self.breaks(*((side, place, 5) for side in "RL" for place in places[:3]))
        self.assertEqual(batch_verdict(mixed, LOT, 0.25).verdict, MORE)

    def test_several_breaks_in_one_wheel_are_one(self) -> None:
        one = [LotBreak("w", "R", "elbow")] * 30
        self.assertEqual((batch_verdict(one, LOT, 0.25).verdict, batch_verdict(one, LOT, 0.25).breaks), (TOO_FEW, 1))

    def test_lots_that_are_usual_are_seldom_accused(self) -> None:
        rng = np.random.default_rng(5)
        accused = 0
        for _ in range(400):
            count = rng.poisson(LOT * 0.3 * 0.5)
            kinds = [
                ("R" if rng.random() < 0.6 else "L", "elbow" if rng.random() < 0.7 else str(rng.choice([*PLACES])))
                for _ in range(count)
            ]
            wheels = rng.choice(LOT, size=min(count, LOT), replace=False)
            accused += (
                batch_verdict([LotBreak(str(w), *k) for w, k in zip(wheels, kinds, strict=False)], LOT, 0.5).verdict == BATCH
            )
        self.assertLessEqual(accused, 4)


class Numbers(unittest.TestCase):
    def test_lists_as_they_come(self) -> None:
        self.assertEqual(read_assets("A1\nA2\n\nA1\n").numbers, ("A1", "A2"))
        self.assertEqual(read_assets("A1\nA2\nA1").doubled, ("A1",))
        self.assertEqual(read_assets("place;Asset number\nnorth;17\nsouth;18\n").numbers, ("17", "18"))
        self.assertEqual(read_assets("\ufeffasset,x\r\n7,\r\n").numbers, ("7",))

    def test_what_is_no_list(self) -> None:
        for text in ("", " \n ", "asset\n", "x" * 41, "a\x07b", "asset;x\n;1\n", "\n".join(map(str, range(MOST + 1)))):
            with self.subTest(text[:20]), self.assertRaises(BadAssets):
                read_assets(text)
