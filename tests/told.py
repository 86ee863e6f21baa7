"""What a test's process tells the runner of a failure, in words that always pass from one process to the other.

Django sends the subtest itself, and with it the test's clients and rows, which cannot be sent: then the whole run ends
without saying which test failed.
"""

from __future__ import annotations

import pickle
import traceback
from dataclasses import dataclass
from typing import Any

from django.test.runner import ParallelTestSuite, RemoteTestResult, RemoteTestRunner


@dataclass(frozen=True)
class ToldCase:
    """A test by its name."""

    name: str

    def id(self) -> str:
        return self.name


@dataclass(frozen=True)
class ToldSubTest:
    """A subtest by its names, as a result class asks for them."""

    name: str
    words: str
    first_line: str | None
    test_case: ToldCase
    failureException = AssertionError

    def id(self) -> str:
        return self.name

    def shortDescription(self) -> str | None:
        return self.first_line

    def __str__(self) -> str:
        return self.words


def sendable(err: Any) -> Any:
    """The error as it is where it can be sent, else one of its kind that holds its words."""
    try:
        pickle.loads(pickle.dumps(err))
    except Exception:
        kind = AssertionError if issubclass(err[0], AssertionError) else RuntimeError
        return kind, kind("".join(traceback.format_exception(*err))), None
    return err


class ToldResult(RemoteTestResult):
    def addError(self, test: Any, err: Any) -> None:
        super().addError(test, sendable(err))

    def addFailure(self, test: Any, err: Any) -> None:
        super().addFailure(test, sendable(err))

    def addSubTest(self, test: Any, subtest: Any, err: Any) -> None:
        if err is not None:
            told = ToldSubTest(subtest.id(), str(subtest), subtest.shortDescription(), ToldCase(test.id()))
            self.events.append(("addSubTest", self.test_index, told, sendable(err)))


class ToldRunner(RemoteTestRunner):
    resultclass = ToldResult


class ToldSuite(ParallelTestSuite):
    runner_class = ToldRunner
