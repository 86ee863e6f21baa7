"""python -m felloe.cli.backup FILE: whether a backup is whole, without a database."""

from __future__ import annotations

import sys
from pathlib import Path

from felloe.upkeep.archive import Damaged, checked

if __name__ == "__main__":
    try:
        print(f"· whole, made at {checked(Path(sys.argv[1])).made_at}")
    except Damaged as damaged:
        sys.exit(f"· {damaged}")
