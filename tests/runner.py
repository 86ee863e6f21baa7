"""Django's test runner, which closes on one line of counts and fails when nothing ran."""

from __future__ import annotations

import unittest
from typing import Any

from django.test import TransactionTestCase
from django.test.runner import DiscoverRunner

from tests.emptying import emptied
from tests.priming import read_sources
from tests.told import ToldSuite


class CountingResult(unittest.TextTestResult):
    """Remembers which tests ended well, subtests and class failures considered."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.good: set[str] = set()

    def addSuccess(self, test: unittest.TestCase) -> None:
        super().addSuccess(test)
        self.good.add(test.id())

    def addExpectedFailure(self, test: unittest.TestCase, err: Any) -> None:
        super().addExpectedFailure(test, err)
        self.good.add(test.id())


def count_line(result: Any) -> tuple[str, bool]:
    """The closing line, and whether anything ran at all."""
    bad = {getattr(test, "test_case", test).id() for test, _ in result.failures + result.errors}
    bad |= {test.id() for test in result.unexpectedSuccesses}
    # An error in tearDown comes after addSuccess, so the bad ones are taken out of the good.
    good = getattr(result, "good", set()) - bad
    return f"{len(good)} passed, {len(bad)} failed, {len(result.skipped)} skipped", bool(good or result.skipped)


class Runner(DiscoverRunner):
    line = ""
    parallel_test_suite = ToldSuite

    def get_resultclass(self) -> Any:
        return super().get_resultclass() or CountingResult

    def suite_result(self, suite: Any, result: Any, **kwargs: Any) -> int:
        self.line, ran = count_line(result)
        return super().suite_result(suite, result, **kwargs) or (0 if ran else 1)

    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        TransactionTestCase._fixture_teardown = emptied  # type: ignore[attr-defined]

    def build_suite(self, *args: Any, **kwargs: Any) -> Any:
        suite = super().build_suite(*args, **kwargs)
        read_sources()
        return suite

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        try:
            return super().run_tests(*args, **kwargs)
        finally:
            if self.line:
                print(self.line, flush=True)
