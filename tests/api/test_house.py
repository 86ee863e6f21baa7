"""The page, its headers, and the closing line of the runner."""

import io
import unittest

from django.test import SimpleTestCase, TestCase

from tests.runner import CountingResult, count_line


class Page(TestCase):
    def test_every_address_gives_the_page_and_none_of_it_is_cached(self) -> None:
        for path in ("/", "/jobs/whatever", "/take-in"):
            response = self.client.get(path)
            self.assertEqual(response.status_code, 200)
            self.assertIn("no-cache", response["Cache-Control"])
            self.assertIn('id="root"', response.content.decode())

    def test_the_policy_allows_nothing_from_outside(self) -> None:
        policy = self.client.get("/")["Content-Security-Policy"]
        self.assertIn("default-src 'none'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotIn("http", policy)

    def test_unknown_api_addresses_are_404(self) -> None:
        self.assertEqual(self.client.get("/api/v1/nothing").status_code, 404)


class Closing(SimpleTestCase):
    def count(self, case: type[unittest.TestCase]) -> tuple[str, bool]:
        result = CountingResult(unittest.runner._WritelnDecorator(io.StringIO()), False, 0)
        unittest.defaultTestLoader.loadTestsFromTestCase(case).run(result)
        return count_line(result)

    def test_counts_a_mix(self) -> None:
        class Mix(unittest.TestCase):
            def test_good(self) -> None: ...

            def test_bad(self) -> None:
                self.fail()

            def test_sub(self) -> None:
                for i in range(3):
                    with self.subTest(i):
                        self.assertEqual(i, 0)

            @unittest.skip("on purpose")
            def test_skipped(self) -> None: ...

        self.assertEqual(self.count(Mix), ("1 passed, 2 failed, 1 skipped", True))

    def test_nothing_run_is_no_success(self) -> None:
        class Empty(unittest.TestCase): ...

        self.assertEqual(self.count(Empty), ("0 passed, 0 failed, 0 skipped", False))
