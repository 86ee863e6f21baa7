"""Which spokes for this job: lengths, candidates, old spokes, the kit, what the bins offer, a swap of rim or hub."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from typing import Any
from uuid import UUID

from django.http import Http404

from felloe.accounts.models import User
from felloe.building import answers
from felloe.building.models import KitSheet, OldSpoke, SpokeChoice
from felloe.condition import services as condition
from felloe.core.components import Wheel
from felloe.core.hand_back import check_reason
from felloe.core.lacing.crossings import crossings_table
from felloe.core.lacing.strip import side_places
from felloe.core.naming import Side, SpokeName
from felloe.core.said import joined, say
from felloe.core.spokes.fit import GUESS_SD_MM, ROUNDING_SCHOOLS, STEPS_MM, BadLength, Fit, candidates, fit, mixed, rounded_mm
from felloe.core.spokes.kit import STOP, WET_USES, Kit, KitSpoke, check_kit
from felloe.core.spokes.length import stretch_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.spokes.old_spokes import check_old_length, read_old_spokes
from felloe.core.spokes.suspicions import suspicions
from felloe.core.spokes.swap import swap
from felloe.core.spokes.uncertainty import KnownLength, checked_sds, known_length, with_old_spokes
from felloe.core.stock.parts import hub_of, nipple_of, pitch_of, rim_of, spoke_of
from felloe.core.stock.substitutes import Offer, Stocked, Wanted, check_stocked_length, offers
from felloe.core.tension.statics import side_targets_n
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.stock import services as stock
from felloe.stock.models import Part
from felloe.wheels import answers as wheels_answers
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel as Row

KIT_DEFAULTS: dict[str, Any] = {
    "nipple_part": None,
    "nipple_count": None,
    "right_count": None,
    "left_count": None,
    "rim_hole_mm": None,
    "key_mm": None,
    "washers": "none",
    "washer_part": None,
    "washer_count": 0,
    "rim_had_washers": False,
    "measured_one": False,
    "whole_wheel": False,
    "wet_or_salt": None,
    "despite": "",
    # The rules that stopped when that word was given: it holds for no other.
    "despite_for": [],
}


@dataclass(frozen=True)
class Bins:
    """The parts that a kit is made of, their figures and what the job took of them: asked for once, however many they are."""

    job: str
    parts: dict[UUID, stock.InBin]
    figures: dict[UUID, stock.Figures]
    taken: dict[UUID, int]

    def of_kind(self, kind: str) -> list[stock.InBin]:
        return [part for part in self.parts.values() if part.kind == kind]

    def at_hand(self, part: Part | stock.InBin) -> int:
        """What the job has of a part already, and what it may still take."""
        return self.figures[part.pk].for_job(self.job) + self.taken.get(part.pk, 0)

    def picked(self, part: Part | stock.InBin) -> int:
        """What lies on the bench of a part: as many as were taken for the job, and before any was, what it may take."""
        return self.taken.get(part.pk, 0) or self.at_hand(part)

    def said(self, key: str | None) -> stock.InBin | None:
        """A part by the id that a sheet keeps."""
        if not key:
            return None
        part = self.parts.get(UUID(key))
        if part is None:
            raise Http404
        return part


def bins_for(user: User, job: Job) -> Bins:
    parts = stock.in_bins(user, "spoke", "nipple", "washer")
    return Bins(str(job.pk), {part.pk: part for part in parts}, stock.figures(parts, coming=False), stock.taken_for(job))


def old_lengths(job: Job) -> dict[str, float]:
    """Lengths of the spokes removed in a job, by place."""
    rows = OldSpoke.objects.filter(job=job).order_by("created_at", "id").values_list("spoke", "length_mm")
    return {spoke: length for spoke, length in dict(rows).items() if length is not None}


def ruled_lengths(wheel: Row) -> dict[Side, float]:
    """What removed spokes of a wheel measured, by side, where all of a side's agree within a millimetre."""
    rows = dict(OldSpoke.objects.filter(wheel=wheel).order_by("created_at", "id").values_list("spoke", "length_mm"))
    found: dict[Side, list[float]] = {}
    for spoke, length in rows.items():
        if length is not None:
            found.setdefault(SpokeName.parse(spoke).side, []).append(length)
    return {side: sum(mine) / len(mine) for side, mine in found.items() if mixed(mine) <= 1}


def old_spread_mm(job: Job, side: Side) -> float | None:
    """How far the removed spokes of a side lie apart; None where fewer than two were measured."""
    mine = [length for name, length in old_lengths(job).items() if SpokeName.parse(name).side is side]
    return mixed(mine) if len(mine) > 1 else None


@atomic
def log_old_spoke(user: User, job_id: UUID, spoke: str, length_mm: float | None, note: str = "") -> None:
    """Keep a removed spoke's length by its place; no length takes a slip back."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    name = str(SpokeName.parse(spoke))
    if length_mm is not None:
        check_old_length(wheel, name, length_mm)
    OldSpoke.objects.create(
        shop_id=job.shop_id, wheel=job.wheel, job=job, spoke=name, length_mm=length_mm, note=note.strip(), created_by=user
    )


def choices_of(job: Job) -> dict[Side, SpokeChoice]:
    """The length chosen last for each side."""
    rows = SpokeChoice.objects.filter(job=job).select_related("part", "created_by").order_by("created_at", "id")
    return {Side(row.side): row for row in rows}


def places_of(job: Job, wheel: Wheel, sheet: dict[str, Any]) -> dict[Side, int]:
    """How many spokes are placed on each side: those that broke, or the whole wheel where none did or all are wanted."""
    broken = [spoke for spoke in condition.broken_spokes(job) if spoke in wheel.index_of]
    if sheet["whole_wheel"] or not broken:
        return {side: wheel.side(side).count for side in Side}
    return side_places(wheel, set(broken))


def sheet_of(job: Job) -> dict[str, Any]:
    """The kit as laid out last, on top of what is usual."""
    row = KitSheet.objects.filter(job=job).order_by("-created_at").first()
    return {**KIT_DEFAULTS, **(row.values if row else {})}


def _of_kind(user: User, part_id: UUID, kind: str) -> Part:
    part = stock.find_part(user, part_id)
    if part.kind != kind:
        raise BadLength(say("{part} is no {kind}", part=part.name, kind=kind), f"{kind}_part")
    return part


def wet_or_salt(job: Job, sheet: dict[str, Any]) -> bool:
    """As said, else by the bike's use."""
    return job.wheel.bike.use in WET_USES if sheet["wet_or_salt"] is None else bool(sheet["wet_or_salt"])


def nipple_part(user: User, sheet: dict[str, Any]) -> Part | None:
    return stock.find_part(user, UUID(sheet["nipple_part"])) if sheet["nipple_part"] else None


def chosen_nipple(user: User, wheel: Wheel, sheet: dict[str, Any]) -> Nipple:
    """The nipple picked from the bins, else the common one for the wheel's thread."""
    return _nipple(wheel, nipple_part(user, sheet))


def _nipple(wheel: Wheel, part: Part | stock.InBin | None) -> Nipple:
    return (
        nipple_of(part.attributes)
        if part
        else Nipple(
            for_thread_mm=wheel.right.spoke.end_diameter_mm,
            pitch_mm=wheel.right.pitch_mm,
            unknown=frozenset({"body_mm", "key_mm"}),
        )
    )


def sizing_of(user: User, job_id: UUID, step_mm: float = 1.0, school: str = "nearest") -> answers.Sizing:
    """Everything the screen of spokes and kit shows."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    sheet = sheet_of(job)
    bins = bins_for(user, job)
    nipple = _nipple(wheel, bins.said(sheet["nipple_part"]))
    places = places_of(job, wheel, sheet)
    chosen = choices_of(job)
    lengths = old_lengths(job)
    known = _known_of(job, wheel)
    stocked = [Stocked(str(p.pk), p.name, p.attributes, bins.at_hand(p)) for p in bins.of_kind("spoke")]
    return answers.Sizing(
        step_mm=step_mm,
        school=school,
        steps_mm=list(STEPS_MM),
        schools=[answers.KeyWhy(key=key, why=why) for key, why in ROUNDING_SCHOOLS.items()],
        nipple=answers.NippleDrawn(
            length_mm=nipple.length_mm, head_mm=nipple.head_mm, slot_mm=nipple.slot_mm, thread_mm=nipple.thread_mm
        ),
        sides=[
            _side(user, wheel, side, known[side], nipple, places[side], chosen.get(side), bins, stocked, step_mm, school)
            for side in Side
        ],
        suspicions=[wheels_answers.Suspicion(field=s.field, why=s.why) for s in suspicions(wheel)],
        old=[_old_values(side) for side in read_old_spokes(wheel, lengths, nipple, _guess_sds_mm(job, wheel))],
        old_lengths=[answers.OldLength(spoke=spoke, length_mm=length) for spoke, length in lengths.items()],
        kit=_kit_values(job, sheet),
        rules=[_rule_values(rule) for rule in _rules(bins, job, wheel, known, sheet, nipple, places, chosen)],
        nipple_parts=[_bin_values(part, bins) for part in bins.of_kind("nipple")],
        washer_parts=[_bin_values(part, bins) for part in bins.of_kind("washer")],
        measured=job.wheel.measured,
        can_cut=user.shop.cuts_spokes,
    )


def _kit_values(job: Job, sheet: dict[str, Any]) -> answers.Kit:
    shown = {key: value for key, value in sheet.items() if key != "despite_for"}
    return answers.Kit(**{**shown, "wet_or_salt": wet_or_salt(job, sheet)})


def _known_of(job: Job, wheel: Wheel) -> dict[Side, KnownLength]:
    """What each side needs: by the dimensions, and where these are a guess also by what old spokes measured."""
    sds = checked_sds(job.wheel.uncertainty_mm, job.wheel.measured)
    found = {side: known_length(wheel, side, sds) for side in Side}
    if all(known.sd_mm < GUESS_SD_MM for known in found.values()):
        return found
    targets, measured = side_targets_n(wheel), old_lengths(job)
    for side, known in found.items():
        if known.sd_mm >= GUESS_SD_MM:
            mine = [length for name, length in measured.items() if SpokeName.parse(name).side is side]
            found[side] = with_old_spokes(known, mine, stretch_mm(wheel, side, targets[side]))
    return found


def _guess_sds_mm(job: Job, wheel: Wheel) -> dict[Side, float]:
    """How well each side's length is known by the dimensions alone: old spokes are not judged by themselves."""
    sds = checked_sds(job.wheel.uncertainty_mm, job.wheel.measured)
    return {side: known_length(wheel, side, sds).sd_mm for side in Side}


def _side(
    user: User,
    wheel: Wheel,
    side: Side,
    known: KnownLength,
    nipple: Nipple,
    places: int,
    chosen: SpokeChoice | None,
    bins: Bins,
    stocked: Sequence[Stocked],
    step_mm: float,
    school: str,
) -> answers.SizingSide:
    stretch = stretch_mm(wheel, side, side_targets_n(wheel)[side])
    lacing = wheel.side(side)
    elbow = wheel.hub.flange(side).straight_pull_angle_deg is None
    wanted = Wanted(known.length_mm, stretch, lacing.spoke, max(1, places), lacing.pitch_mm, elbow, known.sd_mm)
    shown = candidates(known.length_mm, stretch, step_mm, known.sd_mm, nipple)
    return answers.SizingSide(
        side=side.value,
        places=places,
        count=lacing.count,
        wire=lacing.spoke.kind,
        crossings=lacing.crossings,
        needed_mm=round(known.length_mm, 2),
        sd_mm=round(known.sd_mm, 2),
        shares=[answers.Share(field=field, share=round(share, 3)) for field, share in known.shares if share >= 0.01],
        stretch_mm=round(stretch, 2),
        rounded_mm=rounded_mm(known.length_mm, stretch, step_mm, school),
        candidates=[_fit_values(f) for f in shown],
        table=[answers.Crossing(**asdict(row)) for row in crossings_table(wheel, side)],
        offers=[
            answers.Offer(**{**asdict(o), "key": UUID(o.key), "fit": _fit_values(o.fit), "cautions": list(o.cautions)})
            for o in _worth_showing(offers(wanted, stocked, user.shop.cuts_spokes, nipple), shown, chosen)
        ],
        chosen=_choice_values(chosen, bins) if chosen else None,
    )


#: So many bins are offered beside those of the lengths that can be chosen.
MOST_OFFERED = 6


def _worth_showing(found: Sequence[Offer], lengths: Sequence[Fit], chosen: SpokeChoice | None) -> list[Offer]:
    """The best bins, the best one of each length that can be chosen, and the one that was chosen, in their order."""
    best: dict[float, str] = {}
    for offer in found:
        best.setdefault(offer.fit.length_mm, offer.key)
    wanted = {best[fit.length_mm] for fit in lengths if fit.length_mm in best} | {offer.key for offer in found[:MOST_OFFERED]}
    if chosen is not None and chosen.part_id:
        wanted.add(str(chosen.part_id))
    return [offer for offer in found if offer.key in wanted]


def _fit_values(found: Any) -> answers.NippleFit:
    values = {key: value for key, value in asdict(found).items() if key != "sd_mm"}
    rounded = {"end_mm": round(found.end_mm, 2), "chance": round(found.chance, 3)}
    return answers.NippleFit(**{**values, **rounded, "usable": found.usable, "told": found.told})


def _bin_values(part: Part | stock.InBin, bins: Bins) -> answers.Bin:
    figures = bins.figures[part.pk]
    return answers.Bin(
        id=part.pk,
        name=part.name,
        bin=part.bin,
        free=figures.for_job(bins.job),
        claimed=figures.claim_of(bins.job),
        taken=bins.taken.get(part.pk, 0),
    )


def _choice_values(row: SpokeChoice, bins: Bins) -> answers.Chosen:
    return answers.Chosen(
        length_mm=row.length_mm,
        end_mm=round(row.end_mm, 2),
        verdict=row.verdict,
        needed_mm=round(row.needed_mm, 2),
        part=_bin_values(row.part, bins) if row.part else None,
        by=row.created_by.display_name if row.created_by else "",
    )


def _old_values(side: Any) -> answers.OldSide:
    return answers.OldSide(
        side=side.side.value,
        count=side.count,
        spread_mm=round(side.spread_mm, 2),
        needed_mm=round(side.needed_mm, 2),
        fits=[answers.OldNippleFit(spoke=spoke, **asdict(_fit_values(f))) for spoke, f in side.fits.items()],
        explains=list(side.explains),
        rebuild=side.rebuild,
    )


def _rule_values(rule: Any) -> answers.Rule:
    return answers.Rule(**{**asdict(rule), "side": rule.side.value if rule.side else None})


def _rules(
    bins: Bins,
    job: Job,
    wheel: Wheel,
    known: dict[Side, KnownLength],
    sheet: dict[str, Any],
    nipple: Nipple,
    places: dict[Side, int],
    chosen: dict[Side, SpokeChoice],
) -> tuple[Any, ...]:
    """The kit's rules, once a length is chosen for every side that spokes are placed on."""
    kit = _kit(bins, job, wheel, known, sheet, nipple, places, chosen)
    return () if any(places[side] and side not in chosen for side in Side) else check_kit(wheel, kit)


def _kit(
    bins: Bins,
    job: Job,
    wheel: Wheel,
    known: dict[Side, KnownLength],
    sheet: dict[str, Any],
    nipple: Nipple,
    places: dict[Side, int],
    chosen: dict[Side, SpokeChoice],
) -> Kit:
    """The core's kit of a sheet, spokes only of the sides that have a length; the core refuses figures that cannot be."""
    spokes = {side: _kit_spoke(bins, wheel, side, sheet, chosen[side]) for side in Side if side in chosen}
    part = bins.said(sheet["nipple_part"])
    count = sheet["nipple_count"]
    if count is None:
        count = bins.picked(part) if part else 0
    washer = bins.said(sheet["washer_part"])
    return Kit(
        spokes,
        nipple,
        int(count),
        sheet["rim_hole_mm"],
        sheet["key_mm"],
        sheet["washers"],
        bins.picked(washer) if washer else sheet["washer_count"],
        washer.attributes["body_mm"] if washer else None,
        sheet["rim_had_washers"],
        sheet["measured_one"],
        wet_or_salt(job, sheet),
        places,
        {side: (one.length_mm, one.sd_mm) for side, one in known.items()},
    )


def _kit_spoke(bins: Bins, wheel: Wheel, side: Side, sheet: dict[str, Any], chosen: SpokeChoice) -> KitSpoke:
    said = sheet["right_count" if side is Side.RIGHT else "left_count"]
    if chosen.part is None:
        wire = wheel.side(side).spoke.end_diameter_mm
        straight = wheel.hub.flange(side).straight_pull_angle_deg is not None
        return KitSpoke(chosen.length_mm, wire, wheel.side(side).pitch_mm, not straight, int(said or 0))
    attributes = chosen.part.attributes
    count = said if said is not None else bins.picked(chosen.part)
    wire = spoke_of(attributes).end_diameter_mm
    return KitSpoke(chosen.length_mm, wire, pitch_of(attributes), attributes.get("elbow", True), int(count))


def kit_stops(user: User, job: Job) -> list[str]:
    """Rules of the laid out kit that stop the work, in words; none before one is laid out, nor once somebody said why it is
    laced all the same."""
    sheet = sheet_of(job)
    chosen = choices_of(job)
    if not chosen or not KitSheet.objects.filter(job=job).exists():
        return []
    wheel = wheels.core_wheel(job.wheel)
    bins = bins_for(user, job)
    nipple = _nipple(wheel, bins.said(sheet["nipple_part"]))
    rules = _rules(bins, job, wheel, _known_of(job, wheel), sheet, nipple, places_of(job, wheel, sheet), chosen)
    return [
        joined(": ", [rule.found, rule.reason])
        for rule in rules
        if rule.level == STOP and not rule.holds and rule.key not in sheet["despite_for"]
    ]


@atomic
def choose_length(user: User, job_id: UUID, side: Side, length_mm: float, part_id: UUID | None = None) -> SpokeChoice:
    """Take a length for a side; one that would break nipples or run out of thread is refused with the reason."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    known = _known_of(job, wheel)[side]
    stretch = stretch_mm(wheel, side, side_targets_n(wheel)[side])
    found = fit(length_mm, known.length_mm, stretch, known.sd_mm, chosen_nipple(user, wheel, sheet_of(job)))
    if not found.usable:
        raise BadLength(found.why, "length_mm")
    part = _of_kind(user, part_id, "spoke") if part_id else None
    if part is not None:
        check_stocked_length(part.attributes, length_mm, user.shop.cuts_spokes)
    made = SpokeChoice.objects.create(
        shop_id=job.shop_id,
        job=job,
        side=side.value,
        length_mm=length_mm,
        needed_mm=known.length_mm,
        sd_mm=known.sd_mm,
        end_mm=found.end_mm,
        verdict=found.verdict,
        part=part,
        created_by=user,
    )
    queue.log(job, user, "spokes", say("{side} {length_mm:g} mm", side=side.said, length_mm=length_mm))
    return made


@atomic
def lay_out_kit(user: User, job_id: UUID, values: dict[str, Any]) -> KitSheet:
    """Keep the kit as it lies on the bench, with the rules that it breaks."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    if values.get("despite", "").strip():
        values = {**values, "despite": check_reason(values["despite"], "despite")}
    sheet = {**sheet_of(job), **values}
    for name in ("nipple_part", "washer_part"):
        if sheet[name]:
            sheet[name] = str(_of_kind(user, UUID(str(sheet[name])), name.removesuffix("_part")).pk)
    nipple = chosen_nipple(user, wheel, sheet)
    places, known = places_of(job, wheel, sheet), _known_of(job, wheel)
    rules = _rules(bins_for(user, job), job, wheel, known, sheet, nipple, places, choices_of(job))
    broken = [rule.key for rule in rules if not rule.holds]
    stops = [rule.key for rule in rules if rule.level == STOP and not rule.holds]
    if "despite" in values:
        sheet["despite_for"] = stops if sheet["despite"] else []
    elif not set(stops) <= set(sheet["despite_for"]):
        # Something else stops now: the word is asked for anew.
        sheet["despite"], sheet["despite_for"] = "", []
    return KitSheet.objects.create(shop_id=job.shop_id, job=job, values=sheet, broken=broken, created_by=user)


def swapped(user: User, job_id: UUID, rim_part: UUID | None, hub_part: UUID | None) -> answers.Swap:
    """What another rim or hub from the parts library means for the old spokes."""
    job = queue.find_job(user, job_id)
    old = wheels.core_wheel(job.wheel)
    new = with_parts(user, old, rim_part, hub_part)
    by_side: dict[Side, list[float]] = {}
    for name, length in old_lengths(job).items():
        by_side.setdefault(SpokeName.parse(name).side, []).append(length)
    found = swap(old, new, by_side, measured=job.wheel.measured)
    return answers.Swap(
        advice=found.advice,
        why=found.why,
        cautions=list(found.cautions),
        sides=[
            answers.SwapSide(
                side=row.side.value,
                needed_mm=round(row.needed_mm, 1),
                change_mm=round(row.change_mm, 1),
                own=_fit_values(row.own) if row.own else None,
                other=_fit_values(row.other) if row.other else None,
            )
            for row in found.sides
        ],
    )


def with_parts(user: User, wheel: Wheel, rim_part: UUID | None, hub_part: UUID | None) -> Wheel:
    """The wheel with a rim or a hub of the library in it; hole counts must be the wheel's. Raises BadLength."""
    if rim_part is not None:
        part = stock.find_part(user, rim_part)
        if part.kind != "rim" or part.attributes["holes"] != wheel.spoke_count:
            raise BadLength(
                say("{part} is no rim of {spoke_count} holes", part=part.name, spoke_count=wheel.spoke_count), "rim_part"
            )
        stiff = {name: getattr(wheel.rim, name) for name in ("centroid_depth_mm", "ea_n", "ei_lat_nm2", "ei_rad_nm2", "gj_nm2")}
        wheel = replace(wheel, rim=replace(rim_of(part.attributes), **stiff))
    if hub_part is not None:
        part = stock.find_part(user, hub_part)
        holes = (part.attributes.get("right_holes"), part.attributes.get("left_holes"))
        if part.kind != "hub" or holes != (wheel.right.count, wheel.left.count):
            raise BadLength(
                say(
                    "{part} is no hub of {right} right and {left} left holes",
                    part=part.name,
                    right=wheel.right.count,
                    left=wheel.left.count,
                ),
                "hub_part",
            )
        wheel = replace(wheel, hub=hub_of(part.attributes))
    return wheel


def laced_lengths_mm(job: Job, wheel: Wheel) -> dict[Side, float]:
    """The length of each side for the map and the card: chosen, else computed and rounded."""
    chosen = choices_of(job)
    targets, known = side_targets_n(wheel), _known_of(job, wheel)
    return {
        side: chosen[side].length_mm
        if side in chosen
        else rounded_mm(known[side].length_mm, stretch_mm(wheel, side, targets[side]), 1.0)
        for side in Side
    }
