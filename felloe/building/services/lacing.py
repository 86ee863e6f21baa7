"""Lacing a job's wheel: its map, how far it is, and what is wrong with what was laced."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.building import answers
from felloe.building.models import LacingLook, LacingProgress
from felloe.building.services.sizing import kit_stops, laced_lengths_mm
from felloe.building.services.strip import facts_of, say_facts
from felloe.building.services.work import spokes_in
from felloe.condition import services as condition
from felloe.core.components import Wheel as CoreWheel
from felloe.core.diagnosis.rim_damage import Verdict, in_vain, judge
from felloe.core.hand_back import check_reason
from felloe.core.lacing.check import Seen, check_lacing
from felloe.core.lacing.map import INSIDE_CHOICES, RADIAL_CHOICES, BadLacing, LacingMap, lacing_map
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels import services as wheels


def map_of(job: Job, wheel: CoreWheel) -> LacingMap:
    """The job's map, with the spokes inside that were chosen for it."""
    said = facts_of(job, "lacing").get("inside", {})
    chosen = {}
    for side in Side:
        known = INSIDE_CHOICES if wheel.side(side).crossings else RADIAL_CHOICES
        # A wheel whose crossings were changed since may have lost its choice.
        if said.get(side.value) in known:
            chosen[side] = said[side.value]
    return lacing_map(wheel, chosen)


def crossed(crosses: Iterable[tuple[str, str]]) -> list[answers.Crossed]:
    """The spokes that one crosses, each with whether it passes over or under."""
    return [answers.Crossed(spoke=spoke, way=way) for spoke, way in crosses]


def _choices(wheel: CoreWheel, side: Side) -> list[answers.KeyWhy]:
    known = INSIDE_CHOICES if wheel.side(side).crossings else RADIAL_CHOICES
    return [answers.KeyWhy(key=key, why=why) for key, why in known.items()]


def lacing_of(user: User, job_id: UUID) -> answers.Lacing:
    """Everything the lacing bench shows."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    plan = map_of(job, wheel)
    newest = LacingProgress.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()
    lengths_mm = laced_lengths_mm(job, wheel)
    return answers.Lacing(
        inside={side.value: plan.inside[side] for side in Side},
        choices=answers.ChoicesBySide(R=_choices(wheel, Side.RIGHT), L=_choices(wheel, Side.LEFT)),
        rotor_left=job.wheel.bike.brake == "disc",
        sets=[answers.LacingSet(**{**asdict(s), "side": s.side.value}) for s in plan.sets],
        places=[answers.LacingPlace(**{**asdict(p), "side": p.side.value, "crosses": crossed(p.crosses)}) for p in plan.places],
        lengths_mm=answers.LengthsBySide(R=lengths_mm[Side.RIGHT], L=lengths_mm[Side.LEFT]),
        placed=min(newest.placed, wheel.spoke_count) if newest else 0,
        placed_by=newest.created_by.display_name if newest and newest.created_by else "",
        looked=looked_at(job, wheel),
        stops=kit_stops(user, job),
        in_vain=vain_of(job, wheel),
        derived=wheels.derived(wheel),
    )


def looked_at(job: Job, wheel: CoreWheel) -> list[Seen]:
    """What was looked at last, of spokes that the wheel still has."""
    newest = LacingLook.objects.filter(job=job).order_by("-created_at").first()
    return [Seen(**values) for values in (newest.seen if newest else []) if values["spoke"] in wheel.index_of]


def _lasting(job: Job, wheel: CoreWheel) -> dict[str, Verdict]:
    """Damage that no spoke mends, by the mark's id; judged without what was measured before the wheel was taken apart."""
    rim_brake = job.wheel.bike.brake == "rim"
    judged = {
        str(row.pk): judge(condition.core_mark(row), wheel, None, rim_brake) for row in condition.standing_marks(job.wheel)
    }
    return {mark: found for mark, found in judged.items() if in_vain([found])}


def vain_of(job: Job, wheel: CoreWheel) -> list[str]:
    """Why lacing these parts makes no sense, in words; nothing once somebody said of each why it is laced all the same."""
    given = facts_of(job, "lacing").get("despite_for", [])
    return list(in_vain([found for mark, found in _lasting(job, wheel).items() if mark not in given]))


@atomic
def lace_despite(user: User, job_id: UUID, despite: str) -> None:
    """Why it is laced on a rim or hub that is not to be ridden: a new one in hand, a rim for the display. Kept with who."""
    job = queue.open_for_work(user, job_id)
    said = check_reason(despite, "despite")
    marks = list(_lasting(job, wheels.core_wheel(job.wheel)))
    say_facts(user, job_id, "lacing", {"despite": said, "despite_for": marks})
    queue.log(job, user, "lacing", said)


@atomic
def choose_inside(user: User, job_id: UUID, inside: dict[str, str]) -> None:
    """Which spokes run inside; once spokes are in, the map stays as it was begun."""
    job = queue.open_for_work(user, job_id)
    if LacingProgress.objects.filter(job=job).order_by("-created_at").values_list("placed", flat=True).first():
        raise BadLacing(say("spokes are in already: take them out first, or finish as begun"), "inside")
    lacing_map(wheels.core_wheel(job.wheel), {Side(side): which for side, which in inside.items()})
    say_facts(user, job_id, "lacing", {"inside": inside})


@atomic
def place(user: User, job_id: UUID, placed: int) -> None:
    """So many spokes of the map are in."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    count = wheel.spoke_count
    if not 0 <= placed <= count:
        raise BadLacing(say("between 0 and {count} spokes are in; found {placed}", count=count, placed=placed), "placed")
    more = placed > spokes_in(job)
    vain = vain_of(job, wheel) if more else []
    if vain:
        message = say("Lacing makes no sense on it. {vain} Say why it is laced all the same.", vain=joined(" ", vain))
        raise Refused("in_vain", message, 409)
    stops = kit_stops(user, job) if more else []
    if stops:
        raise Refused(
            "kit_stops",
            say("The kit does not fit. {stops} Mend it at “Spokes and kit”, or say there why it is laced all the same.",
                stops=joined(" ", stops)),
            409,
        )  # fmt: skip
    LacingProgress.objects.create(shop_id=job.shop_id, job=job, placed=placed, created_by=user)


@atomic
def look(user: User, job_id: UUID, seen: list[dict[str, Any]]) -> answers.LacingVerdict:
    """Explain what was looked at, and keep both."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    verdict = check_lacing(map_of(job, wheel), [Seen(**values) for values in seen])
    errors = [answers.LacingError(**{**asdict(e), "side": e.side.value if e.side else None}) for e in verdict.errors]
    LacingLook.objects.create(shop_id=job.shop_id, job=job, seen=seen, errors=[asdict(e) for e in errors], created_by=user)
    needs = zip(verdict.spokes, verdict.needed_mm, verdict.surplus_mm, strict=True)
    return answers.LacingVerdict(
        faults=errors,
        sure=verdict.sure,
        also=list(verdict.also),
        needs=[answers.SpokeNeed(spoke=s, needed_mm=round(n, 1), surplus_mm=round(x, 1)) for s, n, x in needs],
    )
