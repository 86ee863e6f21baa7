"""`bin/felloe mutate [PACKAGE] [--count N]`: change the core in small ways and see whether any test notices."""

from __future__ import annotations

import argparse
import os
import random
import re
import subprocess
import sys
import tomllib
from collections import Counter
from concurrent.futures import ProcessPoolExecutor, as_completed
from multiprocessing import get_context
from pathlib import Path

from tests.mutation.mutants import ROOT, Mutant, all_mutants
from tests.mutation.running import KILLED, SURVIVED, TOO_LONG, UNREACHED, Reach, kept_reach, outcome, reaching
from tests.progress import bar

EQUAL = Path(__file__).with_name("equal.toml")
#: The changed lines come first: those of so many commits back, and what is not committed yet.
COMMITS_BACK = 10


def changed_lines() -> set[tuple[str, int]]:
    """Lines of the core that changed lately, by git; none where there is no history."""
    asked = ["git", "-C", str(ROOT), "diff", "-U0", f"HEAD~{COMMITS_BACK}", "--", "felloe/core"]
    told = subprocess.run(asked, capture_output=True, text=True, check=False).stdout
    found, path = set(), ""
    for line in told.splitlines():
        if line.startswith("+++ b/"):
            path = line[6:]
        elif hunk := re.match(r"@@ -\S+ \+(\d+)(?:,(\d+))? @@", line):
            first, count = int(hunk[1]), int(hunk[2] or 1)
            found |= {(path, number) for number in range(first, first + count)}
    return found


def equal_in_effect() -> dict[str, str]:
    """Mutants that change nothing that anybody could see, with the reason; each entry names one mutant and no more."""
    listed = {row["mutant"]: row["why"] for row in tomllib.loads(EQUAL.read_text()).get("equal", [])} if EQUAL.exists() else {}
    known = Counter(mutant.name for mutant in all_mutants())
    wrong = [name for name in listed if known[name] != 1]
    if wrong:
        raise SystemExit("these lines of equal.toml name no mutant, or several:\n" + "\n".join(wrong))
    return listed


def chosen(package: str, count: int, seed: int) -> list[Mutant]:
    """A sample, changed lines first, drawn from every package alike."""
    rng = random.Random(seed)
    changed, equal = changed_lines(), equal_in_effect()
    pool = [mutant for mutant in all_mutants(package) if mutant.name not in equal]
    rng.shuffle(pool)
    pool.sort(key=lambda mutant: (mutant.path, mutant.line) not in changed)
    by_package: dict[str, list[Mutant]] = {}
    for mutant in pool:
        by_package.setdefault(mutant.package, []).append(mutant)
    found: list[Mutant] = []
    while len(found) < min(count, len(pool)):
        for mine in by_package.values():
            if mine and len(found) < count:
                found.append(mine.pop(0))
    return found


_REACH: list[Reach] = []


def judge(mutant: Mutant) -> str:
    return outcome(mutant, reaching(mutant, _REACH))


def main() -> int:
    asked = argparse.ArgumentParser(prog="bin/felloe mutate", description=__doc__)
    asked.add_argument("package", nargs="?", default="", help="one package of felloe/core, such as truing; all of them else")
    asked.add_argument("--count", type=int, default=100)
    asked.add_argument("--seed", type=int, default=1)
    said = asked.parse_args()
    packages = sorted({mutant.package for mutant in all_mutants()})
    if said.package and said.package not in packages:
        print(f"there is no package {said.package}; known: {', '.join(packages)}", file=sys.stderr)
        return 2
    store = Path(os.environ.get("FELLOE_STATE", ROOT / ".felloe")) / "reach.json"
    _REACH.extend(kept_reach(store))
    mutants = chosen(said.package, said.count, said.seed)
    results: dict[Mutant, str] = {}
    import numpy  # noqa: F401
    import scipy.interpolate
    import scipy.linalg
    import scipy.optimize  # noqa: F401

    with ProcessPoolExecutor(os.cpu_count(), mp_context=get_context("fork")) as workers:
        waiting = {workers.submit(judge, mutant): mutant for mutant in mutants}
        for done in as_completed(waiting):
            results[waiting[done]] = done.result()
            bar(len(results), len(mutants), f"{Counter(results.values())[SURVIVED]} survived")
    report(results)
    return 0


def report(results: dict[Mutant, str]) -> None:
    """By package, then every survivor."""
    print(f"{'package':<14}{'mutants':>9}{'noticed':>9}{'share':>8}")
    noticed = (KILLED, TOO_LONG)
    for package in sorted({m.package for m in results}):
        mine = [what for m, what in results.items() if m.package == package]
        good = sum(what in noticed for what in mine)
        print(f"{package:<14}{len(mine):>9}{good:>9}{100 * good / len(mine):>7.0f} %")
    good = sum(what in noticed for what in results.values())
    print(f"{'all':<14}{len(results):>9}{good:>9}{100 * good / max(1, len(results)):>7.0f} %")
    left = sorted((m for m, what in results.items() if what in (SURVIVED, UNREACHED)), key=lambda m: (m.path, m.line))
    for mutant in left:
        print(f"{results[mutant]:<10} {mutant.path}:{mutant.line} {mutant.function}: {mutant.change}")


if __name__ == "__main__":
    sys.exit(main())
