"""What a change of a job changed: each field that differs, as it was and as it is, in the words of its history."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date, datetime
from typing import Any

from felloe.accounts.models import User
from felloe.calendar.services import shop_calendar
from felloe.core.diagnosis.causes import COMPLAINTS
from felloe.core.said import joined, say
from felloe.core.truing.tiers import Tier
from felloe.queue.models import Job, Place

NOBODY, NOTHING, NONE = say("nobody"), say("nothing"), say("none")


def _name(person: User | None) -> str:
    return say("{name}", name=person.display_name) if person is not None else NOBODY


def _tier(tier: Tier) -> str:
    return say(
        "{tier} ({lateral_mm:g} / {radial_mm:g} / {dish_mm:g} mm, ±{tension_percent:g} %)",
        tier=tier.said,
        lateral_mm=tier.lateral_mm,
        radial_mm=tier.radial_mm,
        dish_mm=tier.dish_mm,
        tension_percent=tier.tension_percent,
    )


def _day(day: date | None) -> str:
    return say("{day}", day=day.isoformat()) if day is not None else NONE


def _typed(text: str) -> str:
    return say("“{words}”", words=text)


def _place(place: Place | None) -> str:
    return say("{name}", name=place.name) if place is not None else NONE


#: Field by field: what it is called, what of a job it is, and how that is said.
_FIELDS: dict[str, tuple[str, Callable[[Job], Any], Callable[[Any], str]]] = {
    "complaint": (say("complaint"), lambda job: job.complaint, _typed),
    "complaint_tags": (
        say("kinds of complaint"),
        lambda job: tuple(job.complaint_tags),
        lambda tags: joined(", ", [COMPLAINTS[tag] for tag in tags if tag in COMPLAINTS]) if tags else NONE,
    ),
    "tier": (say("tier"), lambda job: job.tolerance, _tier),
    "assigned_to": (say("who does it"), lambda job: job.assigned_to, _name),
    "waiting_on": (
        say("what it waits for"),
        lambda job: job.waiting_on,
        lambda on: say("{what}", what=Job.WaitingOn(on).label) if on else NOTHING,
    ),
    "expected_on": (say("when it is to come"), lambda job: job.expected_on, _day),
    "hook": (say("where it hangs"), lambda job: job.hook, _place),
    "load_kg": (say("load"), lambda job: job.load_kg, lambda kg: say("{kg} kg", kg=kg) if kg is not None else NONE),
    "with_bike": (
        say("with or without the bike"),
        lambda job: job.with_bike,
        lambda whole: say("the whole bike") if whole else say("the wheel alone"),
    ),
}


def picture(job: Job) -> Mapping[str, Any]:
    """A job's fields that people change, as values; to be taken before and after."""
    return {name: value(job) for name, (_, value, _) in _FIELDS.items()} | {"wanted_at": job.wanted_at}


def said_of(job: Job, before: Mapping[str, Any]) -> str:
    """What differs from `before`; empty where nothing does."""
    now = picture(job)
    zone = shop_calendar(job.shop).zone

    def moment(at: datetime | None) -> str:
        return say("{day}", day=at.astimezone(zone).strftime("%Y-%m-%d %H:%M")) if at is not None else NONE

    parts = []
    for name, value in now.items():
        if value == before[name]:
            continue
        called, show = (_FIELDS[name][0], _FIELDS[name][2]) if name in _FIELDS else (say("by when it is wanted"), moment)
        parts.append(say("{what}: {before} → {after}", what=called, before=show(before[name]), after=show(value)))
    return joined("; ", parts) if parts else ""
