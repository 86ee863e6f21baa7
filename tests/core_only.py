"""Run the core's tests alone: no database, no Django set-up."""

from __future__ import annotations

import sys
import unittest

from tests.priming import read_sources
from tests.runner import CountingResult, count_line


def main() -> int:
    suite = unittest.defaultTestLoader.discover("tests/core", top_level_dir=".")
    read_sources()
    result = unittest.TextTestRunner(resultclass=CountingResult).run(suite)
    line, ran = count_line(result)
    print(line, flush=True)
    return 0 if result.wasSuccessful() and ran else 1


if __name__ == "__main__":
    sys.exit(main())
