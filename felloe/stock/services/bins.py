"""Bins: what is in them, who has a claim, taking and putting back. Every change locks its part and adds to the ledger.

Locks are taken in one order, parts by key and then jobs by key, so that two hands wait for each other and never both.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, NamedTuple
from uuid import UUID

from django.db import IntegrityError
from django.db.models import Q, QuerySet, Sum
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.pages import page
from felloe.api.problems import StaleWrite
from felloe.core.said import say
from felloe.core.stock.claims import Claim, NotEnough, check_take, covered, for_job, free
from felloe.core.stock.parts import MOST_PIECES, BadPart, checked_attributes
from felloe.core.stock.substitutes import why_not_cut
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.stock.models import Balance, Claimed, Movement, OrderLine, Part, PurchaseOrder

FIELDS = ("bin", "supplier", "supplier_code", "minimum", "pack", "lead_days", "price_minor")
MOST = MOST_PIECES


@dataclass(frozen=True)
class Figures:
    """A part's figures as its ledger leaves them; claims in the order in which they were made."""

    on_hand: int
    claims: tuple[Claim, ...]
    on_order: int

    @property
    def free(self) -> int:
        return free(self.on_hand, self.claims)

    def for_job(self, job: str) -> int:
        return for_job(self.on_hand, self.claims, job)

    def claim_of(self, job: str) -> int:
        return sum(claim.count for claim in self.claims if claim.job == job)

    def covered_of(self, job: str) -> int:
        return covered(self.on_hand, self.claims).get(job, 0)


def parts_of(user: User) -> list[Part]:
    """The shop's parts, by kind and name."""
    # Who made a part and when is asked for nowhere where all of them are.
    rows = Part.objects.filter(shop_id=user.shop_id).defer("created_at", "created_by", "changed_at", "changed_by")
    return list(rows.order_by("kind", "name"))


class InBin(NamedTuple):
    """A part as far as it matters to whoever chooses among hundreds of them."""

    pk: UUID
    shop_id: UUID
    kind: str
    name: str
    bin: str
    attributes: dict[str, Any]


def in_bins(user: User, *kinds: str) -> list[InBin]:
    """The shop's parts of some kinds, by kind and name."""
    rows = Part.objects.filter(shop_id=user.shop_id, kind__in=kinds).order_by("kind", "name")
    return [InBin(*row) for row in rows.values_list(*InBin._fields)]


def find_part(user: User, part_id: UUID, lock: bool = False) -> Part:
    found = Part.objects.filter(shop_id=user.shop_id, pk=part_id)
    part = (found.select_for_update() if lock else found).first()
    if part is None:
        raise Http404
    return part


#: Of more parts than so many the figures of their whole shop are read: naming each costs more.
MOST_NAMED = 40


def figures(parts: Iterable[Part | InBin], coming: bool = True) -> dict[UUID, Figures]:
    """Figures of many parts at once, at a cost that does not depend on how long their ledgers are; what is on order where
    `coming`, else nothing."""
    parts = list(parts)
    keys = [part.pk for part in parts]
    which = Q(part_id__in=keys) if len(keys) <= MOST_NAMED else Q(shop_id__in={part.shop_id for part in parts})
    on_hand = dict(Balance.objects.filter(which).values_list("part_id", "on_hand"))
    claims: dict[UUID, list[Claim]] = {}
    held = Claimed.objects.filter(which, count__gt=0).order_by("since", "job_id")
    for part, job, count in held.values_list("part_id", "job_id", "count"):
        claims.setdefault(part, []).append(Claim(str(job), count))
    on_order = _still_coming(which) if coming else {}
    return {key: Figures(on_hand.get(key, 0), tuple(claims.get(key, ())), on_order.get(key, 0)) for key in keys}


def _still_coming(which: Q) -> dict[UUID, int]:
    """What is ordered and has not come, by part, of some lines that are under way. Reads the arrivals of open orders only."""
    lines = OrderLine.objects.filter(which, order__state=PurchaseOrder.State.SENT)
    ordered: dict[UUID, int] = {}
    came = dict(arrivals(lines))
    for line, part, count in lines.values_list("pk", "part_id", "count"):
        ordered[part] = ordered.get(part, 0) + count - came.get(line, 0)
    return {part: max(0, count) for part, count in ordered.items()}


def arrivals(lines: QuerySet[OrderLine]) -> Iterable[tuple[UUID, int]]:
    """What has come in of each of some lines."""
    rows = Movement.objects.filter(order_line__in=lines).values_list("order_line_id").annotate(total=Sum("delta"))
    return [(line, total) for line, total in rows if line is not None]


def figures_of(part: Part) -> Figures:
    return figures([part])[part.pk]


@atomic
def add_part(user: User, values: dict[str, Any]) -> Part:
    """A new part; the core refuses attributes that cannot be, a name that is taken is refused at its field."""
    attributes = checked_attributes(values["kind"], values.get("attributes", {}))
    given = {name: values[name] for name in FIELDS if name in values}
    try:
        with atomic():
            return Part.objects.create(
                shop_id=user.shop_id,
                kind=values["kind"],
                name=values["name"].strip(),
                attributes=attributes,
                created_by=user,
                changed_by=user,
                **given,
            )
    except IntegrityError:
        raise BadPart(say("a part of this name is there already"), "name") from None


@atomic
def change_part(user: User, part_id: UUID, version: int, values: dict[str, Any]) -> Part:
    """Change a part; StaleWrite where somebody else did since `version`."""
    part = find_part(user, part_id, lock=True)
    if part.version != version:
        current = {name: getattr(part, name) for name in ("name", "attributes", *FIELDS)}
        by = part.changed_by.display_name if part.changed_by else ""
        raise StaleWrite({**values, "version": version}, {**current, "version": part.version, "changed_by": by})
    if "attributes" in values:
        values = {**values, "attributes": checked_attributes(part.kind, values["attributes"])}
    for name, value in values.items():
        setattr(part, name, value.strip() if name == "name" else value)
    try:
        with atomic():
            part.save_change(user, list(values))
    except IntegrityError:
        raise BadPart(say("a part of this name is there already"), "name") from None
    return part


def write(user: User, part: Part, kind: str, delta: int = 0, claim: int = 0, job: Job | None = None, **more: Any) -> Movement:
    """Add to the ledger; the caller holds the part's lock."""
    return Movement.objects.create(
        shop_id=part.shop_id, part=part, kind=kind, delta=delta, claim_delta=claim, job=job, created_by=user, **more
    )


def _count(count: int) -> int:
    if not 1 <= count <= MOST:
        raise NotEnough(say("a count lies between 1 and {most}", most=MOST), "count")
    return count


@atomic
def reserve(user: User, part_id: UUID, job_id: UUID, count: int) -> Figures:
    """Claim parts for a job, also ones that are not there yet: then the job waits for them."""
    part = find_part(user, part_id, lock=True)
    job = queue.open_for_work(user, job_id)
    write(user, part, Movement.Kind.RESERVE, claim=_count(count), job=job)
    found = figures_of(part)
    if found.covered_of(str(job.pk)) < found.claim_of(str(job.pk)):
        missing = found.claim_of(str(job.pk)) - found.covered_of(str(job.pk))
        queue.wait_for_parts(user, job.pk, say("{missing} of {part}", missing=missing, part=part.name))
    return found


@atomic
def release(user: User, part_id: UUID, job_id: UUID, count: int) -> Figures:
    """Let a claim go."""
    part = find_part(user, part_id, lock=True)
    job = queue.find_job(user, job_id)
    held = figures_of(part).claim_of(str(job.pk))
    if _count(count) > held:
        raise NotEnough(say("this job has {held} reserved", held=held), "count")
    write(user, part, Movement.Kind.RELEASE, claim=-count, job=job)
    release_waiting(user, [part.pk], job)
    return figures_of(part)


@atomic
def take(user: User, part_id: UUID, job_id: UUID, count: int, note: str = "") -> Figures:
    """Take parts out of the bin for a job, its claim first. Raises NotEnough where others come first."""
    part = find_part(user, part_id, lock=True)
    job = queue.open_for_work(user, job_id)
    now = figures_of(part)
    check_take(now.on_hand, now.claims, str(job.pk), count, part.name)
    of_claim = min(count, now.claim_of(str(job.pk)))
    write(user, part, Movement.Kind.TAKE, delta=-count, claim=-of_claim, job=job, note=note)
    return figures_of(part)


@atomic
def give_back(user: User, part_id: UUID, job_id: UUID, count: int) -> Figures:
    """Put unused parts back; never more than the job took."""
    job = queue.find_job(user, job_id)
    part = find_part(user, part_id, lock=True)
    taken = taken_for(job).get(part.pk, 0)
    if _count(count) > taken:
        raise NotEnough(say("this job took {taken}", taken=taken), "count")
    write(user, part, Movement.Kind.RETURN, delta=count, job=job)
    release_waiting(user, [part.pk])
    return figures_of(part)


@atomic
def count_bin(user: User, part_id: UUID, counted: int, note: str = "") -> Figures:
    """Say what is really in the bin; the difference goes to the ledger."""
    if not 0 <= counted <= MOST:
        raise NotEnough(say("a count lies between 0 and {most}", most=MOST), "count")
    part = find_part(user, part_id, lock=True)
    write(
        user,
        part,
        Movement.Kind.COUNT,
        delta=counted - figures_of(part).on_hand,
        note=note or say("counted {counted}", counted=counted),
    )
    release_waiting(user, [part.pk])
    return figures_of(part)


@atomic
def cut(user: User, part_id: UUID, job_id: UUID, count: int, to_mm: float) -> Figures:
    """Take longer spokes, cut and threaded anew, for a job."""
    part = find_part(user, part_id, lock=True)
    job = queue.open_for_work(user, job_id)
    why = why_not_cut(part.attributes, to_mm) if part.kind == "spoke" else say("only spokes can be cut")
    if why:
        raise BadPart(why, "to_mm")
    now = figures_of(part)
    check_take(now.on_hand, now.claims, str(job.pk), count, part.name)
    of_claim = min(count, now.claim_of(str(job.pk)))
    write(user, part, Movement.Kind.CUT, delta=-count, claim=-of_claim, job=job, note=say("cut to {to_mm:g} mm", to_mm=to_mm))
    return figures_of(part)


def taken_for(job: Job) -> dict[UUID, int]:
    """What a job has taken and not put back, by part."""
    kinds = (Movement.Kind.TAKE, Movement.Kind.RETURN, Movement.Kind.CUT)
    rows = Movement.objects.filter(job=job, kind__in=kinds).values_list("part_id").annotate(total=Sum("delta"))
    return {part: -total for part, total in rows if total}


def picked_for(job: Job) -> list[tuple[Part, int]]:
    """The parts that a job has taken and not put back, with how many of each."""
    taken = taken_for(job)
    return [(part, taken[part.pk]) for part in Part.objects.filter(pk__in=taken).order_by("name")]


def set_aside_for(job: Job) -> list[tuple[Part, int]]:
    """The parts that a job has taken or reserved, with how many of each."""
    counts = taken_for(job)
    for part, count in claims_for(job).items():
        counts[part] = counts.get(part, 0) + count
    return [(part, counts[part.pk]) for part in Part.objects.filter(pk__in=counts).order_by("name") if counts[part.pk] > 0]


def claims_for(job: Job) -> dict[UUID, int]:
    """What a job has reserved and not taken, by part."""
    return dict(Claimed.objects.filter(job=job, count__gt=0).values_list("part_id", "count"))


class _ClaimedMeanwhile(Exception):
    """A claim was made between reading the claims and locking the job."""


def lock_for_closing(user: User, job_id: UUID) -> None:
    """Lock what `release_claims` will touch, and the job: its claimed parts and who waits for them.

    A claim that comes in between would be of a part that is not locked, and locking it after the job would break the order of
    locks: everything is let go (a savepoint's locks end with it) and taken anew.
    """
    job = queue.find_job(user, job_id)
    while True:
        try:
            with atomic():
                claimed = Part.objects.select_for_update().filter(pk__in=claims_for(job)).order_by("pk")
                parts = set(claimed.values_list("pk", flat=True))
                waiting = Claimed.objects.filter(part_id__in=parts, job__waiting_on=Job.WaitingOn.PARTS)
                jobs = {job.pk, *waiting.values_list("job_id", flat=True)}
                list(Job.objects.select_for_update().filter(pk__in=jobs).order_by("pk").values_list("pk", flat=True))
                if not parts >= set(claims_for(job)):
                    raise _ClaimedMeanwhile
            return
        except _ClaimedMeanwhile:
            continue


def release_claims(user: User, job: Job) -> None:
    """Let go of everything that a job had reserved and not taken: it is done."""
    wanted = claims_for(job)
    for part in Part.objects.select_for_update().filter(pk__in=wanted).order_by("pk"):
        write(user, part, Movement.Kind.RELEASE, claim=-wanted[part.pk], job=job, note=say("handed back"))
    release_waiting(user, wanted)


def release_waiting(user: User, part_ids: Iterable[UUID], *let_go: Job) -> list[Job]:
    """Jobs that waited for these parts and now have all that they claimed wait no longer; also those that just let a claim
    go, who may have none left."""
    waiting = Claimed.objects.filter(part_id__in=list(part_ids), job__waiting_on=Job.WaitingOn.PARTS)
    jobs = set(waiting.values_list("job_id", flat=True))
    jobs |= {job.pk for job in let_go if job.waiting_on == Job.WaitingOn.PARTS}
    freed = []
    for job_id in sorted(jobs):
        job = queue.find_job(user, job_id)
        wanted = claims_for(job)
        known = figures(Part.objects.filter(pk__in=wanted))
        if all(known[part].covered_of(str(job.pk)) >= count for part, count in wanted.items()):
            queue.parts_are_there(user, job.pk)
            freed.append(job)
    return freed


#: So many entries of a ledger are a page.
ENTRIES_A_PAGE = 60


def movements_of(user: User, part_id: UUID, before: UUID | None = None) -> tuple[list[Movement], bool]:
    """A page of a part's ledger, newest first, and whether there is more; 404 where `before` is none of its entries."""
    rows = Movement.objects.filter(part=find_part(user, part_id)).select_related("created_by", "job")
    return page(rows, before, ENTRIES_A_PAGE)
