"""Wheels: making, changing, and what follows from their dimensions."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any
from uuid import UUID

import numpy as np
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused, StaleWrite
from felloe.core.components import Wheel as CoreWheel
from felloe.core.lacing.pattern import lace
from felloe.core.mechanics.influence import Influence, influence_of
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.suspicions import suspicions
from felloe.core.spokes.uncertainty import checked_sds, known_length
from felloe.core.tension.statics import expected_left_over_right, side_targets_n, tight_side
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.customers import services as customers
from felloe.customers.models import Bike
from felloe.places.here import atomic
from felloe.wheels import answers
from felloe.wheels.models import Wheel
from felloe.wheels.services.patterns import patterns_of


@lru_cache(maxsize=64)
def influence_for(wheel: CoreWheel) -> Influence:
    """The influence of a wheel, kept per specification since it takes longer than the plan made from it."""
    return influence_of(wheel)


def spokes_of(specification: dict[str, Any]) -> int:
    """How many spokes a wheel has, without working out the wheel."""
    return int(specification["right"]["count"]) + int(specification["left"]["count"])


def core_wheel(wheel: Wheel) -> CoreWheel:
    """The core's wheel of a row, the same one for as long as nothing of it is changed: it knows more each time it is asked."""
    return _core_wheel(json.dumps(wheel.specification, sort_keys=True))


@lru_cache(maxsize=256)
def _core_wheel(specification: str) -> CoreWheel:
    return wheel_from_dict(json.loads(specification))


def derived(wheel: CoreWheel, uncertainty_mm: dict[str, float] | None = None, measured: bool = True) -> answers.Derived:
    """What follows from the dimensions, by side: length and how well it is known, lean, targets; what to doubt.

    Raises UnsolvableWheel where the wheel has no stable balance.
    """
    influence_for(wheel)
    targets = side_targets_n(wheel)
    sds = checked_sds(uncertainty_mm or {}, measured)
    sides = {
        side: answers.SideDerived(
            spoke_length_mm=round(spoke_length_mm(wheel, side), 1),
            length_sd_mm=round(known_length(wheel, side, sds).sd_mm, 2),
            bracing_mm=round(wheel.bracing_mm(side), 2),
            target_n=round(targets[side], 1),
            stretch_mm=round(stretch_mm(wheel, side, targets[side]), 2),
            spoke_kind=wheel.side(side).spoke.kind,
        )
        for side in Side
    }
    return answers.Derived(
        sides=answers.SidesDerived(R=sides[Side.RIGHT], L=sides[Side.LEFT]),
        left_over_right=round(expected_left_over_right(wheel), 3),
        tight_side=tight_side(wheel).value,
        target_n=wheel.rim.tension_target_n,
        cap_n=wheel.rim.tension_cap_n,
        tension_is_default=wheel.rim.tension_is_default,
        rim_radius_mm=round(wheel.rim.erd_mm / 2, 1),
        suspicions=[answers.Suspicion(field=s.field, why=s.why) for s in suspicions(wheel)],
        uncertainty_mm=sds,
        spokes=_drawn_spokes(wheel),
    )


def _drawn_spokes(wheel: CoreWheel) -> list[answers.SpokePlace]:
    """Every spoke with its place on rim and flange, for drawing the wheel to scale from its right side."""
    laced = lace(wheel)
    return [
        answers.SpokePlace(
            name=str(name),
            side=name.side.value,
            angle_deg=wheel.angles_deg[i],
            hub_angle_deg=round(float(np.degrees(laced.hub_angle_rad[i])), 3),
            hub_radius_mm=wheel.hub.flange(name.side).pitch_circle_mm / 2,
        )
        for i, name in enumerate(wheel.names)
    ]


def kinds(user: User) -> list[answers.WheelKind]:
    """What a wheel starts as: the shop's own patterns in use first, then the generic kinds."""
    return [kind for kind in patterns_of(user) if kind.in_use] + [
        answers.WheelKind(
            key=kind.key,
            name=kind.name,
            note=kind.note,
            position=kind.position,
            brakes=list(kind.brakes),
            specification=wheel_to_dict(kind.wheel),
        )
        for kind in WHEEL_KINDS.values()
    ]


@atomic
def add_wheel(user: User, bike: Bike, position: str, specification: object, kind: str, measured: bool) -> Wheel:
    """Make a wheel; the core refuses a specification that cannot be, and nothing is saved."""
    known = WHEEL_KINDS.get(kind)
    if known is not None and known.position != position:
        message = say("{kind} is for the other end of the bike", kind=known.name)
        raise Refused("wrong_kind", message, 422, errors=[{"field": "wheel.kind", "message": message, "code": "wrong_kind"}])
    wheel = wheel_from_dict(specification, "specification")
    derived(wheel)
    return Wheel.objects.create(
        shop_id=user.shop_id,
        bike=bike,
        position=position,
        kind=kind,
        measured=measured,
        specification=wheel_to_dict(wheel),
        created_by=user,
        changed_by=user,
    )


@atomic
def change_specification(
    user: User,
    wheel_id: UUID,
    version: int,
    specification: object,
    kind: str,
    uncertainty_mm: dict[str, float] | None = None,
) -> Wheel:
    """Replace a wheel's specification and what its dimensions are known to; StaleWrite where it changed since `version`."""
    core = wheel_from_dict(specification, "specification")
    if uncertainty_mm is not None:
        checked_sds(uncertainty_mm, True)
    derived(core)
    wheel = find_wheel(user, wheel_id, lock=True)
    if wheel.version != version:
        yours = {"version": version, "specification": wheel_to_dict(core), "kind": kind}
        current = {"version": wheel.version, "specification": wheel.specification, "kind": wheel.kind}
        raise StaleWrite(yours, {**current, "changed_by": wheel.changed_by.display_name if wheel.changed_by else ""})
    wheel.specification = wheel_to_dict(core)
    wheel.kind = kind
    wheel.measured = True
    if uncertainty_mm is not None:
        wheel.uncertainty_mm = uncertainty_mm
    wheel.save_change(user, ["specification", "kind", "measured", "uncertainty_mm"])
    return wheel


def find_wheel(user: User, wheel_id: UUID, lock: bool = False) -> Wheel:
    found = Wheel.objects.filter(shop_id=user.shop_id, pk=wheel_id)
    if lock:
        found = found.select_for_update()
    wheel = found.first()
    if wheel is None:
        raise Http404
    return wheel


def wheels_of_bike(user: User, bike_id: UUID) -> list[Wheel]:
    """The wheels of a bike of this shop, front before rear."""
    bike = customers.find_bike(user, bike_id)
    return list(Wheel.objects.filter(shop_id=user.shop_id, bike=bike).order_by("position", "created_at"))
