"""From the row of a run to its practice wheel and back."""

from __future__ import annotations

from collections import OrderedDict
from dataclasses import replace
from typing import TypedDict
from uuid import UUID

import numpy as np

from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.practice.exercises import LADDER, Exercise, own_exercise
from felloe.core.practice.spoilt import Spoilt, Subject, harmonics_for, rim_of
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.practice.models import PracticeRun

#: So many wheels keep what does not change with a turn, for the next turn.
_MOST = 32
_still: OrderedDict[UUID, VirtualWheel] = OrderedDict()


class Standing(TypedDict):
    """What of a practice wheel changes with the hand; the balance too, so that the next turn begins at it."""

    turns: list[float]
    twist: list[float]
    friction: list[float]
    grip: list[float]
    snapped: list[int]
    near: list[float]


class Made(TypedDict):
    """What of a spoilt wheel never changes, and how it stood first."""

    rim: list[float]
    free_shape: list[float]
    swapped: list[str] | None
    first: Standing
    faults: dict[str, list[str]]


def exercise_of(run: PracticeRun) -> Exercise:
    """The exercise of a run, on the kind that was chosen for it."""
    if run.exercise == "own":
        return own_exercise(run.kind, run.asked_faults, run.mode, run.tier)
    return replace(LADDER[run.exercise], kind=run.kind)


def made_of(spoilt: Spoilt) -> Made:
    """What is kept of a spoilt wheel."""
    subject = spoilt.subject
    rim = subject.wheel.rim
    return {
        "rim": [rim.ei_lat_nm2, rim.ei_rad_nm2, rim.gj_nm2, rim.ea_n],
        "free_shape": [float(v) for v in subject.virtual.free_shape],
        "swapped": list(subject.swapped) if subject.swapped else None,
        "first": now_of(subject),
        "faults": {fault: list(spokes) for fault, spokes in spoilt.faults.items()},
    }


def now_of(subject: Subject) -> Standing:
    """What is kept of a practice wheel as it stands."""
    virtual = subject.virtual
    return {
        "turns": [float(v) for v in virtual.turns],
        "twist": [float(v) for v in virtual.twist_turns],
        "friction": [float(v) for v in subject.friction],
        "grip": [float(v) for v in subject.grip],
        "snapped": sorted(subject.snapped),
        "near": [float(v) for v in virtual.balance.unknowns],
    }


def subject_of(run: PracticeRun, now: Standing | None = None) -> Subject:
    """The practice wheel of a run, as it is or as `now` says."""
    at = run.now if now is None else now
    still = _still.get(run.pk)
    if still is None:
        wheel = WHEEL_KINDS[run.kind].wheel
        still = VirtualWheel(
            replace(wheel, rim=rim_of(run.kind, run.made["rim"])),
            np.array(at["turns"]),
            np.array(run.made["free_shape"]),
            harmonics_for(wheel.spoke_count),
            np.zeros(wheel.spoke_count),
            np.array(at["near"]),
        )
        # Worked out once, and handed on with every turn.
        still.prepare()
        _still[run.pk] = still
        if len(_still) > _MOST:
            _still.popitem(last=False)
    return Subject(
        still.at(np.array(at["turns"]), np.array(at["twist"]), np.array(at["near"])),
        np.array(at["friction"]),
        np.array(at["grip"]),
        tuple(run.made["swapped"]) if run.made["swapped"] else None,
        frozenset(at["snapped"]),
    )


def readings_of(run: PracticeRun) -> Readings:
    """What was read of a run's wheel since it was last begun to be read anew."""
    read = run.readings
    return Readings(
        tension=[TensionReading(spoke, value, sd) for spoke, (value, sd) in read.get("tension", {}).items()],
        lateral=[RunoutReading(a, v, sd, g) for a, v, sd, g in read.get("lateral", [])],
        radial=[RunoutReading(a, v, sd, g) for a, v, sd, g in read.get("radial", [])],
        dish=[DishReading(v, sd) for v, sd in read.get("dish", [])],
    )
