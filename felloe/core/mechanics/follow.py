"""A wheel followed nipple by nipple: what is known of it after each turn and after each reading, at once.

Its unknowns are those of mechanics.estimate and, last, the logarithms of the rim's three stiffnesses: each turn shows a little
of them. A turn moves the mean as the model says and adds what a hand may have missed; a reading corrects both.
Source: the linear Kalman filter, Kalman, *A New Approach to Linear Filtering and Prediction Problems* (J. Basic Eng. 82, 1960).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import block_diag, cho_factor, cho_solve

from felloe.core.mechanics.estimate import DATUM_SD_MM, Doubt, WheelState, at_holes, check_readings, datum_groups, reading_rows
from felloe.core.mechanics.joint import HAND_SHARE, METER_SHARE_SD, TWIST_SD_TURNS, turn_slopes
from felloe.core.mechanics.prior import Prior
from felloe.core.mechanics.readings import Readings
from felloe.core.tension.statics import side_targets_n

Array = NDArray[np.float64]

#: EI sideways, EI in plane and GJ.
STIFFNESSES = 3
#: A spoke below this share of its side's target may hang slack, and so much of a turn does nothing on it [turns]. Common
#: practice, no source.
SLACK_SHARE, SLACK_TURNS = 0.15, 0.3
#: A dial that was left in its place stands by so much elsewhere after a while [mm]. Common practice, no source.
STOOD_SD_MM = 0.03
#: The response to turns is worked out anew once a stiffness is found to be so much another (logarithm).
ANEW_LOG = 0.06


@dataclass(frozen=True, eq=False)
class Followed:
    """A wheel in the stand: its `state` now, by what logarithms (3,) its rim's stiffnesses were found to differ from those that
    the state's influence rests on, and minus twice the logarithm of the last reading's likelihood, but for a constant."""

    state: WheelState
    logs: Array
    unlikeness: float = 0.0

    @classmethod
    def begun(cls, state: WheelState) -> Followed:
        """From an estimated state, before the first nipple."""
        _, _, covariance = turn_slopes(state)
        wider = state.with_maps(
            np.hstack([state.node_map, np.zeros((len(state.displacement), STIFFNESSES))]),
            np.hstack([state.maps[0], np.zeros((len(state.tension_n), STIFFNESSES))]),
            block_diag(state.maps[2], covariance),
        )
        return cls(wider, np.zeros(STIFFNESSES))

    def turned(self, place: int, turns: float) -> Followed:
        """After the nipple at `place` was turned by `turns`, or about so."""
        state = self.state
        influence = state.influence
        displacement, tension, _ = turn_slopes(state)
        node_map, tension_map, covariance = state.node_map.copy(), state.maps[0].copy(), state.maps[2].copy()
        # What a stiffer rim would have made of this turn is unknown with the rim.
        node_map[:, -STIFFNESSES:] += turns * displacement[:, :, place].T
        tension_map[:, -STIFFNESSES:] += turns * tension[:, :, place].T
        covariance[place, place] += (HAND_SHARE * turns) ** 2 + (TWIST_SD_TURNS**2 if turns else 0.0)
        # A spoke that may hang slack may have taken up its slack with the turn, or may not have felt it at all.
        targets = side_targets_n(state.wheel)
        slack = state.tension_n < SLACK_SHARE * np.array([targets[name.side] for name in state.wheel.names])
        own = np.maximum(np.diag(influence.tension_n), 1.0)
        unfelt = np.where(slack, turns * influence.tension_n[:, place] / own, 0.0)
        unfelt[place] = min(SLACK_TURNS, abs(turns)) if slack[place] else 0.0
        count = len(unfelt)
        covariance[np.arange(count), np.arange(count)] += unfelt**2
        moved = state.with_maps(node_map, tension_map, covariance).moved(
            turns * (influence.displacement[:, place] + self.logs @ displacement[:, :, place]),
            turns * (influence.tension_n[:, place] + self.logs @ tension[:, :, place]),
        )
        return Followed(moved, self.logs)

    def zeros(self) -> dict[tuple[str, int], float]:
        """Where each dial of the state's own readings stands at a rim that is where it belongs [mm], by kind and group."""
        state = self.state
        out = float(at_holes(state.influence, state.displacement[:, None])[1].mean())
        middle = {"lateral": state.dish_mm, "radial": out}
        return {(kind, group): value - middle[kind] for (kind, group), value in state.datums_mm.items()}

    def read(self, readings: Readings, zeros: Mapping[tuple[str, int], float] | None = None) -> Followed:
        """After `readings`. Each group of a dial's has a zero of its own, anywhere, but those of `zeros` [mm], that stood.

        Raises UnknownSpoke, BadReading.
        """
        state = self.state
        check_readings(state.wheel, readings)
        if not readings.count:
            return self
        columns = Prior(
            displacement=np.column_stack([state.node_map, state.displacement]),
            tension=np.column_stack([state.maps[0], state.tension_n]),
            base_tension=np.zeros(len(state.tension_n)),
            sd=np.zeros(state.node_map.shape[1] + 1),
        )
        rows, values, sds = reading_rows(state.influence, columns, readings)
        unknowns = state.node_map.shape[1]
        groups = datum_groups(readings)
        stood = zeros or {}
        shifts = rows[:, unknowns + 1 :] * [STOOD_SD_MM if group in stood else DATUM_SD_MM for group in groups]
        values = values - rows[:, unknowns + 1 :] @ np.array([stood.get(group, 0.0) for group in groups])
        seen, off = rows[:, :unknowns], values - rows[:, unknowns]
        covariance = state.maps[2]
        across = seen @ covariance
        spread = across @ seen.T + np.diag(sds**2) + shifts @ shifts.T
        factor = cho_factor(spread)
        solved = cho_solve(factor, np.column_stack([off, across]))
        correction = across.T @ solved[:, 0]
        smaller = np.asarray(covariance - across.T @ solved[:, 1:])
        unlikeness = float(off @ solved[:, 0]) + 2 * float(np.log(np.diag(factor[0])).sum())
        told = state.with_maps(state.node_map, state.maps[0], (smaller + smaller.T) / 2)
        told = told.moved(state.node_map @ correction, state.maps[0] @ correction)
        logs = self.logs + correction[-STIFFNESSES:]
        told = _doubting(told, 0 * logs)
        if np.abs(logs).max() > ANEW_LOG:
            return Followed(_stiffened(told, logs), np.zeros(STIFFNESSES), unlikeness)
        return Followed(told, logs, unlikeness)


def _doubting(state: WheelState, logs: Array) -> WheelState:
    """The same state, its stiffnesses' logarithms `logs` (3,) further and known as well as its covariance says."""
    covariance = state.maps[2][-STIFFNESSES:, -STIFFNESSES:]
    doubt = state.doubt or Doubt(np.zeros(STIFFNESSES), 0.0, METER_SHARE_SD, covariance)
    return replace(state, doubt=replace(doubt, factor_logs=doubt.factor_logs + logs, covariance=covariance))


def _stiffened(state: WheelState, logs: Array) -> WheelState:
    """The same state with a rim that answers turns to come as one whose stiffnesses' logarithms are `logs` (3,) further."""
    displacement, tension, _ = turn_slopes(state)
    influence = state.influence.changed(np.tensordot(logs, displacement, 1), np.tensordot(logs, tension, 1))
    return _doubting(replace(state, influence=influence), logs)
