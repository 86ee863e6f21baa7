"""Linear programmes that are much alike, each solved from where the one before it ended.

Solved by HiGHS through its own binding, since scipy's knows no warm start. Method: Huangfu & Hall, *Parallelizing the dual
revised simplex method*, Mathematical Programming Computation 10 (2018).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from highspy import Highs, HighsBasis, HighsModelStatus, MatrixFormat, ObjSense
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: Which simplex: the dual one where right-hand sides change, the primal one where rows only give more room.
DUAL, PRIMAL = 1, 4
#: Ends that say something: the least cost, or that nothing keeps to the rows.
TELLING = (HighsModelStatus.kOptimal, HighsModelStatus.kInfeasible)


@dataclass(frozen=True)
class Box:
    """What the unknowns may be (n,), and what one of each costs (n,)."""

    lowest: Array
    highest: Array
    cost: Array


class Programme:
    """Least cost within a box and with `rows` (r, n) times the unknowns within limits (r,) that may change."""

    def __init__(self, rows: Array, box: Box, simplex: int = DUAL) -> None:
        self._highs = Highs()
        for option, value in (("output_flag", False), ("presolve", "off"), ("threads", 1), ("simplex_strategy", simplex)):
            self._highs.setOptionValue(option, value)
        there = rows != 0
        starts = np.concatenate([[0], np.cumsum(there.sum(axis=1))[:-1]]).astype(np.int32)
        self._free = np.full(len(rows), -np.inf)
        self._every = np.arange(len(rows), dtype=np.int32)
        self._highs.passModel(
            rows.shape[1],
            len(rows),
            int(there.sum()),
            int(MatrixFormat.kRowwise),
            int(ObjSense.kMinimize),
            0.0,
            box.cost,
            box.lowest,
            box.highest,
            self._free,
            -self._free,
            starts,
            np.nonzero(there)[1].astype(np.int32),
            rows[there],
            np.zeros(rows.shape[1], dtype=np.int32),
        )

    def begin_at(self, basis: HighsBasis) -> None:
        """Begin where another programme of as many rows and unknowns ended."""
        self._highs.setBasis(basis)

    @property
    def ended_at(self) -> HighsBasis:
        """Where the last programme ended."""
        return self._highs.getBasis()

    def solve(self, most: Array, least: Array | None = None) -> Array | None:
        """The unknowns (n,) at the least cost; None where none keep to the rows, or where it cannot be told that any do."""
        self._highs.changeRowsBounds(len(most), self._every, self._free if least is None else least, most)
        self._highs.run()
        if self._highs.getModelStatus() not in TELLING:
            # An end that leads nowhere: once more, from nothing.
            self._highs.clearSolver()
            self._highs.run()
        if self._highs.getModelStatus() != HighsModelStatus.kOptimal:
            return None
        return np.array(self._highs.getSolution().col_value)
