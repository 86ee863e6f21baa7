"""One line of progress for what takes long: to the eye on a terminal, a line each in a log."""

from __future__ import annotations

import sys


def bar(done: int, of: int, text: str = "") -> None:
    """Draw it; the last call ends the line."""
    filled = 30 * done // max(1, of)
    live = sys.stderr.isatty()
    end = "\n" if done >= of or not live else ""
    line = f"[{'#' * filled}{'.' * (30 - filled)}] {done}/{of} {text:<40}".rstrip()
    print(f"\r{line}" if live else line, end=end, file=sys.stderr, flush=True)
