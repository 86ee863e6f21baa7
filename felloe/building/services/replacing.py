"""Replacing a job's broken spokes one by one, and the card of spares for the road."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench.services.plans import newest_state
from felloe.building import answers
from felloe.building.models import SpokeChoice
from felloe.building.services.lacing import crossed, map_of
from felloe.building.services.sizing import choices_of, laced_lengths_mm, old_lengths, ruled_lengths
from felloe.building.services.strip import all_steps_done, facts_of, mark_step, step_values
from felloe.condition import services as condition
from felloe.condition.models import SpokeBreak
from felloe.core.lacing.map import BadLacing
from felloe.core.lacing.replace import ReplaceFacts, neighbours, replace_steps
from felloe.core.naming import Side, SpokeName
from felloe.core.refit.spare_card import spare_card
from felloe.core.said import say
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel


def replacing_of(user: User, job_id: UUID) -> answers.Replacing:
    """Everything the replace screen shows: per spoke where it broke, steps, length, map and neighbours' tension."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    state = newest_state(user, job.pk)
    broken = {spoke: row for spoke, row in condition.broken_spokes(job).items() if spoke in wheel.index_of}
    places = dict(
        SpokeBreak.objects.filter(wheel=job.wheel, ending__isnull=True).order_by("created_at").values_list("spoke", "place")
    )
    plan = map_of(job, wheel)
    lengths = old_lengths(job)
    bike = job.wheel.bike
    closed = bool(facts_of(job, "strip").get("closed_rim"))
    laced, chosen = laced_lengths_mm(job, wheel), choices_of(job)
    done = all_steps_done(job)
    found = []
    for spoke in sorted(broken, key=lambda s: wheel.index_of[s]):
        name = SpokeName.parse(spoke)
        facts = ReplaceFacts(job.wheel.position == "rear", bike.brake == "disc", bike.tyre, places.get(spoke, ""), closed)
        beside = neighbours(wheel, spoke, state.tension_n.tolist() if state is not None else None, broken.keys())
        place = plan.by_spoke[spoke]
        found.append(
            answers.ReplacedSpoke(
                spoke=spoke,
                standing=broken[spoke][1],
                broke_at=places.get(spoke, ""),
                old_length_mm=lengths.get(spoke),
                length_mm=laced[name.side],
                length_is_chosen=name.side in chosen,
                neighbours=list(beside.spokes),
                neighbours_n=round(beside.tension_n) if beside.tension_n is not None else None,
                head=place.head,
                lean=place.lean,
                crosses=crossed(place.crosses),
                steps=step_values(replace_steps(wheel, spoke, facts), done.get(f"replace:{spoke}", set())),
            )
        )
    return answers.Replacing(spokes=found, measured=state is not None, derived=wheels.derived(wheel))


@atomic
def replace_step(user: User, job_id: UUID, spoke: str, step: str, done: bool) -> None:
    """Tick a step; the last one but truing puts the new spoke into the wheel's record."""
    job = queue.open_for_work(user, job_id)
    known = condition.broken_spokes(job)
    if spoke not in known:
        raise BadLacing(say("{spoke} is not noted as broken", spoke=spoke[:8]), "spoke")
    wheel = wheels.core_wheel(job.wheel)
    steps = replace_steps(wheel, spoke, ReplaceFacts(True, True, broke_at="middle"))
    mark_step(user, job_id, f"replace:{spoke}", steps, step, done)
    if step == "tension" and done and known[spoke][1]:
        length = laced_lengths_mm(job, wheel)[SpokeName.parse(spoke).side]
        condition.end_mark(
            user, job_id, known[spoke][0], "mended", say("New spoke, {length:g} mm, brought to its neighbours.", length=length)
        )


def spares_of(user: User, bike_id: UUID) -> answers.SpareCard:
    """The touring card of a bike; lengths that were laced in its last job come before computed ones."""
    rows = wheels.wheels_of_bike(user, bike_id)
    newest: dict[str, Wheel] = {row.position: row for row in rows}
    chosen: dict[tuple[str, Side], float] = {}
    for position, row in newest.items():
        chosen.update({(position, side): length for side, length in ruled_lengths(row).items()})
        for choice in SpokeChoice.objects.filter(job__wheel=row).order_by("created_at", "id"):
            chosen[(position, Side(choice.side))] = choice.length_mm
    card = spare_card([(p, wheels.core_wheel(row), row.measured) for p, row in newest.items()], chosen)
    bike = rows[0].bike if rows else None
    return answers.SpareCard(
        bike=bike.label if bike else "",
        customer=bike.customer.name if bike else "",
        spokes=[answers.SpareLine(**{**asdict(line), "side": line.side.value}) for line in card.spokes],
        carry=list(card.carry),
        mind=list(card.mind),
    )
