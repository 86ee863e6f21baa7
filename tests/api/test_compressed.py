"""Answers go compressed to whoever takes them so, of a length that tells nothing, and files stay what they are."""

from __future__ import annotations

import gzip
import json
from typing import Any

import brotli

from tests.api.shop import BenchCase


class Compressed(BenchCase):
    def asked(self, path: str, takes: str) -> Any:
        return self.client.get(f"/api/v1/{path}", headers={"Accept-Encoding": takes} if takes else {})

    def test_json_goes_by_brotli_else_by_gzip_else_as_it_is(self) -> None:
        path = f"jobs/{self.job.pk}"
        plain = self.asked(path, "")
        self.assertFalse(plain.has_header("Content-Encoding"))
        for takes, coding, opened in (
            ("gzip, deflate, br, zstd", "br", brotli.decompress),
            ("br;q=0.5", "br", brotli.decompress),
            ("gzip, br;q=0", "gzip", gzip.decompress),
            ("gzip", "gzip", gzip.decompress),
            ("BR", "br", brotli.decompress),
        ):
            with self.subTest(takes):
                answer = self.asked(path, takes)
                self.assertEqual(answer["Content-Encoding"], coding)
                self.assertIn("Accept-Encoding", answer["Vary"])
                self.assertLess(len(answer.content), len(plain.content) / 2)
                self.assertEqual(int(answer["Content-Length"]), len(answer.content))
                self.assertEqual(json.loads(opened(answer.content)), plain.json())
        self.assertIn("Accept-Encoding", plain["Vary"])

    def test_its_length_tells_nothing(self) -> None:
        lengths = {len(self.asked(f"jobs/{self.job.pk}", "br").content) for _ in range(30)}
        self.assertGreater(len(lengths), 8)
        self.assertGreater(max(lengths) - min(lengths), 30)

    def test_what_is_refused_goes_so_too_and_what_is_short_as_it_is(self) -> None:
        refused = self.asked("jobs/00000000-0000-4000-8000-000000000000", "br")
        self.assertEqual(refused.status_code, 404)
        self.assertEqual(json.loads(refused.content)["status"], 404)
        self.assertFalse(refused.has_header("Content-Encoding"))

    def test_a_file_stays_what_it_is_to_its_last_byte(self) -> None:
        plain = self.asked(f"jobs/{self.job.pk}/record", "")
        self.assertIn("attachment", plain["Content-Disposition"])
        answer = self.asked(f"jobs/{self.job.pk}/record", "gzip, br")
        self.assertEqual(answer["Content-Encoding"], "gzip")
        self.assertEqual(gzip.decompress(answer.content), plain.content)
