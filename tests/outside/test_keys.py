"""Time-ordered keys against the worked example of RFC 9562 (from memory), and the standard library's own reading of them."""

from __future__ import annotations

import time
import unittest
from datetime import UTC, datetime
from uuid import RFC_4122, UUID

from felloe.accounts.keys import made_of, uuid7


class TimeOrdered(unittest.TestCase):
    def test_the_worked_example(self) -> None:
        """RFC 9562, appendix A.6: Tuesday, 22 February 2022, 14:22:22 at UTC−05:00."""
        moment = int(datetime(2022, 2, 22, 19, 22, 22, tzinfo=UTC).timestamp() * 1000)
        made = made_of(moment, 0xCC3 << 62 | 0x18C4DC0C0C07398F)
        self.assertEqual(made, UUID("017F22E2-79B0-7CC3-98C4-DC0C0C07398F"))

    def test_version_variant_and_moment_are_read_back(self) -> None:
        before = time.time_ns() // 1_000_000
        made = [uuid7() for _ in range(500)]
        after = time.time_ns() // 1_000_000
        self.assertEqual({(one.version, one.variant) for one in made}, {(7, RFC_4122)})
        moments = [one.int >> 80 for one in made]
        self.assertEqual(moments, sorted(moments))
        self.assertTrue(all(before <= moment <= after for moment in moments))
        self.assertEqual(len(set(made)), 500)
