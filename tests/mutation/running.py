"""Run the tests that reach a mutant, each in a process of its own, forked with numpy loaded and nothing of the core."""

from __future__ import annotations

import hashlib
import importlib.abc
import importlib.util
import io
import json
import os
import signal
import subprocess
import sys
import time
import unittest
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from types import ModuleType
from typing import Any

from tests.mutation.mutants import CORE, ROOT, Mutant, mutated
from tests.progress import bar

KILLED, SURVIVED, TOO_LONG, UNREACHED = "killed", "survived", "too long", "unreached"
#: A mutant that runs so much longer than the tests do is stuck.
PATIENCE_S, PATIENCE_TIMES = 20.0, 4.0
#: Of the tests that may notice a mutant, fastest first, so many seconds' worth are run; what they leave counts as survived.
BUDGET_S = 120.0


@dataclass(frozen=True)
class Reach:
    """One test: how long it takes, and the functions of the core that it calls, by module."""

    test: str
    seconds: float
    calls: frozenset[tuple[str, str]]


def flat(suite: Any) -> Iterator[unittest.TestCase]:
    """The tests of a suite one by one."""
    for one in suite:
        if isinstance(one, unittest.TestSuite):
            yield from flat(one)
        else:
            yield one


def suites() -> Iterator[unittest.TestCase]:
    """Every test of the core, and those against things outside, one by one."""
    for folder in ("tests/core", "tests/outside"):
        yield from flat(unittest.defaultTestLoader.discover(folder, top_level_dir=str(ROOT)))


def reach_of(module: str) -> list[Reach]:
    """Run the tests of one module once and note which functions of the core each of them calls."""
    core = str(CORE)
    found = []
    for test in flat(unittest.defaultTestLoader.loadTestsFromName(module)):
        calls: set[tuple[str, str]] = set()

        def trace(frame: Any, event: str, arg: object, calls: set[tuple[str, str]] = calls) -> None:
            name = frame.f_code.co_filename
            if event == "call" and name.startswith(core):
                calls.add((str(Path(name).relative_to(ROOT)), frame.f_code.co_qualname if sys.version_info >= (3, 11) else ""))

        begun = time.perf_counter()
        sys.settrace(trace)
        try:
            result = unittest.TestResult()
            # In a suite of its own, so that its class is set up.
            unittest.TestSuite([test]).run(result)
        finally:
            sys.settrace(None)
        if not result.wasSuccessful():
            told = (result.errors + result.failures)[0][1]
            raise SystemExit(f"{test.id()} fails already: mend it first\n{told}")
        found.append(Reach(test.id(), time.perf_counter() - begun, frozenset(calls)))
    return found


def reaching(mutant: Mutant, all_of: Sequence[Reach]) -> list[Reach]:
    """The tests that may notice a mutant, fastest first: those that call its function, or at a module's top any of it."""
    function = mutant.function.split(".")[-1] if mutant.function else ""
    names = [{part for path, name in reach.calls if path == mutant.path for part in name.split(".")} for reach in all_of]
    # What no test calls by name stands in a class or at the top, and is run when the module is loaded.
    known = function and any(function in mine for mine in names)
    found = [reach for reach, mine in zip(all_of, names, strict=True) if (function in mine if known else mine)]
    if not found:
        # Tables with no function of their own are read by the modules that import them.
        users = _importers(mutant.module)
        found = [reach for reach in all_of if any(path in users for path, _ in reach.calls)]
    spent, within = 0.0, []
    for reach in sorted(found, key=lambda reach: reach.seconds):
        spent += reach.seconds
        if within and spent > BUDGET_S:
            break
        within.append(reach)
    return within


@cache
def _importers(module: str) -> frozenset[str]:
    """Modules of the core that import from `module`, by path."""
    wanted = f"from {module} import"
    return frozenset(str(path.relative_to(ROOT)) for path in CORE.rglob("*.py") if wanted in path.read_text())


class _Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Gives the mutated module instead of the one on disk."""

    def __init__(self, mutant: Mutant) -> None:
        self.mutant = mutant

    def find_spec(self, name: str, path: object, target: object = None) -> Any:
        if name == self.mutant.module:
            return importlib.util.spec_from_loader(name, self, origin=self.mutant.path)
        return None

    def exec_module(self, module: ModuleType) -> None:
        code = compile(mutated(self.mutant), str(ROOT / self.mutant.path), "exec")
        exec(code, module.__dict__)


def outcome(mutant: Mutant, tests: Sequence[Reach]) -> str:
    """Fork, change the module, run the tests until one fails."""
    if not tests:
        return UNREACHED
    limit = PATIENCE_S + PATIENCE_TIMES * sum(reach.seconds for reach in tests)
    child = os.fork()
    if child == 0:
        _in_child(mutant, tests)
    end = time.monotonic() + limit
    while True:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            return SURVIVED if os.waitstatus_to_exitcode(status) == 0 else KILLED
        if time.monotonic() > end:
            os.kill(child, signal.SIGKILL)
            os.waitpid(child, 0)
            return TOO_LONG
        time.sleep(0.02)


def _in_child(mutant: Mutant, tests: Sequence[Reach]) -> None:
    code = 1
    try:
        sys.stdout = sys.stderr = io.StringIO()
        sys.meta_path.insert(0, _Changed(mutant))
        result = unittest.TestResult()
        result.failfast = True
        for reach in tests:
            unittest.defaultTestLoader.loadTestsFromName(reach.test).run(result)
            if not result.wasSuccessful():
                break
        code = 0 if result.wasSuccessful() else 1
    finally:
        os._exit(code)


def kept_reach(store: Path) -> list[Reach]:
    """As `reach_of_all`, kept for each file of tests while neither it nor the core changes; worked out by a process of its
    own, since who forks for mutants must not have loaded the core."""
    subprocess.run([sys.executable, "-m", "tests.mutation.running", str(store)], check=True, cwd=ROOT)
    return [_row(row) for row in json.loads(store.read_text())["reach"]]


def _row(row: dict[str, Any]) -> Reach:
    return Reach(row["test"], row["seconds"], frozenset(map(tuple, row["calls"])))


def stamps() -> dict[str, str]:
    """For every module of tests, of what decides what it reaches: itself, what tests share, and the core."""
    tests = [path for folder in ("core", "outside") for path in sorted((ROOT / "tests" / folder).rglob("*.py"))]
    shared = hashlib.sha256()
    for path in [*sorted(CORE.rglob("*.py")), *(path for path in tests if not path.name.startswith("test_"))]:
        shared.update(path.read_bytes())
    return {
        ".".join(path.relative_to(ROOT).with_suffix("").parts): hashlib.sha256(shared.digest() + path.read_bytes()).hexdigest()
        for path in tests
        if path.name.startswith("test_")
    }


def renew(store: Path) -> None:
    """Bring the kept map up to date: only what changed is run again."""
    now = stamps()
    kept = json.loads(store.read_text()) if store.exists() else {}
    known = {name for name, stamp in now.items() if kept.get("stamps", {}).get(name) == stamp}

    def module(test: str) -> str:
        return ".".join(test.split(".")[:3])

    rows = [row for row in kept.get("reach", []) if module(row["test"]) in known]
    wanted = sorted({module(test.id()) for test in suites()} - known)
    store.parent.mkdir(parents=True, exist_ok=True)
    with ProcessPoolExecutor(os.cpu_count()) as workers:
        waiting = {workers.submit(reach_of, name): name for name in wanted}
        for number, done in enumerate(as_completed(waiting), start=1):
            rows += [{"test": r.test, "seconds": r.seconds, "calls": sorted(r.calls)} for r in done.result()]
            known.add(waiting[done])
            # Kept as it goes: what comes after may fail, and then is begun from here.
            store.write_text(json.dumps({"stamps": {name: now[name] for name in known}, "reach": rows}))
            bar(number, len(wanted), "files of tests: which reaches what")


if __name__ == "__main__":
    renew(Path(sys.argv[1]))
