"""A shop's own tiers: what they may be, what they are kin to, and what they ask of hands and time."""

from __future__ import annotations

import json
import unittest
from itertools import pairwise
from pathlib import Path

from felloe.core.errors import BadRecord, ImpossibleGeometry, TradeError
from felloe.core.money.consent import TIER_PLAIN, plain_words
from felloe.core.promise.skills import needs_of
from felloe.core.promise.work import JobFacts, tier_min
from felloe.core.record import record_from_dict, record_to_dict
from felloe.core.truing.own_tiers import first_choice, own_tier, with_own
from felloe.core.truing.tiers import CLEARING, FINE, RACE, ROADWORTHY, SOUND, TIERS, Tier

TOURING = Tier("touring", 0.4, 0.4, 0.5, 18)


class OwnTiers(unittest.TestCase):
    def test_figures_within_what_is_measured_and_signed_off(self) -> None:
        self.assertEqual(own_tier("  touring   plus ", 2.0, 0.05, 2.0, 40), Tier("touring plus", 2.0, 0.05, 2.0, 40))
        for at, bad in ((0, 2.01), (0, 0.04), (1, 2.1), (1, -1), (2, 0.0), (2, 3), (3, 41), (3, 2.9), (0, float("nan"))):
            figures = [0.5, 0.5, 0.5, 20.0]
            figures[at] = bad
            with self.subTest(at=at, bad=bad), self.assertRaises(ImpossibleGeometry) as refused:
                own_tier("own", *figures)
            self.assertEqual(refused.exception.field, ("lateral_mm", "radial_mm", "dish_mm", "tension_percent")[at])

    def test_names_that_mean_something_are_refused(self) -> None:
        for bad in ("", "  ", "x" * 21, "Sound", "RACE", "ride_home", "lap"):
            with self.subTest(bad=bad), self.assertRaises(BadRecord) as refused:
                own_tier(bad, 0.5, 0.5, 0.5, 20)
            self.assertEqual(refused.exception.field, "name")
        self.assertEqual(own_tier("sound", 0.4, 0.4, 0.4, 18).said, SOUND.said)
        self.assertEqual(own_tier("touring", 0.4, 0.4, 0.4, 18).said, "touring")

    def test_from_the_widest_to_the_narrowest(self) -> None:
        mine = Tier("sound", 0.6, 0.6, 0.6, 22)
        found = with_own([TOURING, mine])
        self.assertEqual(list(found), ["roadworthy", "sound", "touring", "fine", "race"])
        self.assertEqual(found["sound"], mine)
        self.assertEqual(first_choice(found.values()), mine)
        self.assertEqual(first_choice([RACE, TOURING, ROADWORTHY]), TOURING)

    def test_nothing_is_claimed_of_a_tier_that_its_figures_do_not_keep(self) -> None:
        self.assertEqual([tier.kin for tier in TIERS.values()], list(TIERS))
        self.assertEqual(TOURING.kin, "sound")
        # One figure wide is wide: very straight, yet as uneven as a roadworthy wheel.
        self.assertEqual(Tier("own", 0.2, 0.2, 0.2, 25).kin, "roadworthy")
        self.assertEqual(Tier("own", 1.8, 1.8, 1.8, 35).kin, "roadworthy")
        self.assertEqual(CLEARING.kin, "roadworthy")
        self.assertEqual(plain_words(TOURING), TIER_PLAIN["sound"])
        self.assertEqual(plain_words(TOURING, " For long ways. "), "For long ways.")

    def test_hands_and_minutes_follow_the_figures(self) -> None:
        self.assertEqual([round(tier_min(tier), 9) for tier in TIERS.values()], [20, 30, 45, 75])
        self.assertTrue(30 < tier_min(TOURING) < 45, tier_min(TOURING))
        ladder = [Tier("own", mm, mm, mm, 20) for mm in (2.0, 1.3, 0.8, 0.5, 0.4, 0.3, 0.25, 0.2, 0.1)]
        self.assertTrue(all(tier_min(wide) <= tier_min(narrow) for wide, narrow in pairwise(ladder)))
        # Half the tolerance of race takes more than half as long again, not the same: the law goes on.
        self.assertGreater(tier_min(Tier("own", 0.1, 0.1, 0.1, 20)), 1.5 * 75)
        # Even as race, straight as sound: it takes as long as race.
        self.assertAlmostEqual(tier_min(Tier("own", 0.5, 0.5, 0.5, 10)), 75)
        self.assertEqual(needs_of(JobFacts("true", TOURING)), {"truing"})
        self.assertEqual(needs_of(JobFacts("true", Tier("own", 0.3, 0.3, 0.3, 14))), {"fine"})

    def test_a_record_carries_the_figures_that_were_promised(self) -> None:
        record = json.loads(Path("docs/formats/examples/disc-front-28-quick.json").read_text(encoding="utf-8"))
        for tier, targets in (
            (FINE, {"tier": "fine"}),
            (TOURING, {"tier": "touring", "lateral_mm": 0.4, "radial_mm": 0.4, "dish_mm": 0.5, "tension_percent": 18}),
            (Tier("sound", 0.6, 0.6, 0.6, 22),
             {"tier": "sound", "lateral_mm": 0.6, "radial_mm": 0.6, "dish_mm": 0.6, "tension_percent": 22}),
        ):  # fmt: skip
            with self.subTest(tier=tier.name):
                read = record_from_dict({**record, "targets": targets})
                self.assertEqual(read.tier, tier)
                self.assertEqual(record_to_dict(read)["targets"], targets)
        whole = {"tier": "touring", "lateral_mm": 0.4, "radial_mm": 0.4, "dish_mm": 0.5, "tension_percent": 18}
        for bad, field in (
            ({"tier": "touring"}, "targets.tier"),
            ({**whole, "lateral_mm": 9}, "targets.lateral_mm"),
            ({**whole, "radial_mm": "x"}, "targets.radial_mm"),
            ({"tier": "touring", "lateral_mm": 0.4}, "targets.radial_mm"),
            ({**whole, "tier": "Sound"}, "targets.tier"),
            ({**whole, "more": 1}, "targets.more"),
        ):
            with self.subTest(bad=bad), self.assertRaises(TradeError) as refused:
                record_from_dict({**record, "targets": bad})
            self.assertEqual(refused.exception.field, field)
