"""Gathering a report: what was wrong, agreed, done and measured, from what the rooms hold."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID
from zoneinfo import ZoneInfo

import numpy as np
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api import writing
from felloe.api.language import ENGLISH
from felloe.bench.models import PlanMove
from felloe.bench.services.plans import is_as_left, latest_sets, turned_since
from felloe.bench.services.states import kept_estimate, trace_values
from felloe.calendar.services import shop_calendar
from felloe.condition import services as condition
from felloe.condition.models import ConditionMark, SpokeBreak
from felloe.condition.services.diagnosis import newest_finding
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.diagnosis.condition import CONDITIONS
from felloe.core.endings import ENDS, REPAIRED
from felloe.core.mechanics.estimate import WheelState
from felloe.core.money.consent import plain_words
from felloe.core.naming import Side
from felloe.core.said import joined, say, say_count, told
from felloe.core.stages import STAGES, stage_index
from felloe.core.terms import term
from felloe.core.truing.bounds import upper_bounds
from felloe.core.truing.sign_off import SignOffCheck, check_sign_off
from felloe.queue import services as queue
from felloe.queue.models import Job, Signature
from felloe.records.models import SignOff
from felloe.repair.models import Decision
from felloe.repair.services import refit
from felloe.repair.services.agreed import standing_decision
from felloe.repair.services.unsafe import reasons_of
from felloe.report.answers import FigureLine, Lane, Report
from felloe.report.drawing import tension_svg, trace_svg
from felloe.wheels.services import spokes_of

#: The bounds are drawn with a fixed seed: the same readings give the same report.
SEED = 41


@dataclass(frozen=True)
class Pen:
    """Writes days and money in the reader's language, on the shop's clock."""

    zone: ZoneInfo
    language: str

    def moment(self, at: datetime) -> str:
        return writing.dated(at, self.zone, self.language)

    def day(self, at: date) -> str:
        return writing.plain_day(at, self.language)

    def money(self, minor: int, currency: str) -> str:
        return writing.money(minor, currency, self.language)


def _mm(value: float) -> str:
    return say("{value:.2f} mm", value=value)


def _percent(value: float) -> str:
    return say("{value:.0f} %", value=value)


def report_of(user: User, job_id: UUID, language: str = ENGLISH) -> Report:
    """The report of a job as it stands, its days and money as they are written in `language`; 404 for another shop's."""
    job = queue.find_job(user, job_id)
    pen = Pen(shop_calendar(user.shop).zone, language)
    bike = job.wheel.bike
    decision = Decision.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()
    figures, lanes, tier = _measured(user, job)
    return Report(
        shop=user.shop.name,
        address=user.shop.address,
        phone=user.shop.phone,
        email=user.shop.email,
        number=job.number,
        customer=bike.customer.name,
        bike=bike.label,
        wheel=say(
            "{position} wheel, {spokes} spokes", position=term(job.wheel.position), spokes=spokes_of(job.wheel.specification)
        ),
        printed=say("printed {day}", day=pen.moment(timezone.now())),
        verdict=_verdict(pen, job),
        warnings=_warnings(user, job, decision),
        wrong=_wrong(job),
        agreed=_agreed(user, pen, decision),
        done=_done(job),
        tier=tier,
        figures=figures,
        lanes=lanes,
        once=bool(figures) and not figures[0].found,
        watch=_watch(pen, job),
        signed=_signed(pen, job),
    )


def _verdict(pen: Pen, job: Job) -> str:
    if job.handed_back_at is None:
        return say("Not handed back yet. It stands at: {stage}.", stage=STAGES[stage_index(job.stage)].name)
    day = pen.moment(job.handed_back_at)
    if job.ended_as == REPAIRED:
        return say("Handed back repaired, {day}.", day=day)
    return say("Handed back without a repair, {day}: {why}.", day=day, why=ENDS[job.ended_as].lower())


def _warnings(user: User, job: Job, decision: Decision | None) -> list[str]:
    """Above all else: why not to ride it, what it left without, and what the customer was told that speaks against it."""
    found: list[str] = [joined("", [say("Not to be ridden as it is: "), why]) for why in reasons_of(user, job)]
    if job.left_with == Job.LeftWith.UNSAFE and not found:
        found.append(say("It left although it is not to be ridden as it is."))
    if job.left_with == Job.LeftWith.SHORT:
        found.append(say("It left with something missing: the reason stands below."))
    if decision is not None and decision.warning:
        found.append(say("The customer was told: {warning}", warning=told(decision.warning)))
    return found


def _wrong(job: Job) -> list[str]:
    lines: list[str] = [say("“{words}”", words=job.complaint)]
    finding = newest_finding(job)
    if finding is not None:
        cause = CAUSES[finding.cause]
        lines.append(say("Found: {cause}.", cause=cause.name))
    for mark in ConditionMark.objects.filter(job=job).exclude(ending__how="mistake").order_by("created_at"):
        kind = CONDITIONS[mark.kind]
        at = say(" at {name}", name=mark.spoke) if mark.spoke else ""
        deep = say(", {mm:.1f} mm", mm=mark.measure_mm) if mark.measure_mm is not None else ""
        mended = say(" (mended)") if hasattr(mark, "ending") else ""
        lines.append(joined("", [kind.name, at, deep, mended, "."]))
    for gone in SpokeBreak.objects.filter(job=job, ending=None).order_by("spoke"):
        lines.append(say("Spoke {name} broken: {place}.", name=gone.spoke, place=PLACES[gone.place]))
    return lines


def _agreed(user: User, pen: Pen, decision: Decision | None) -> list[str]:
    if decision is None:
        return [say("Nothing was agreed.")]
    what = joined(", ", [say("{what}", what=told(line["what"])) for line in decision.lines if line["kind"] != "parts"])
    given = {"name": decision.by_whom, "day": pen.moment(decision.created_at), "how": Decision.How(decision.how).label.lower()}
    if decision.outcome == Decision.Outcome.REFUSED:
        return [say("{name} declined, {day}, {how}.", **given)]
    lines: list[str] = [say("{name} agreed, {day}, {how}:", **given), joined("", [what, "."])]
    if decision.price_minor is not None:
        price = pen.money(decision.price_minor, decision.currency or user.shop.currency)
        lines.append(say("{price}, with all taxes.", price=price))
    lines.append(plain_words(decision.tolerance, queue.plain_of(decision.shop_id, decision.tier)))
    return lines


def _done(job: Job) -> list[str]:
    moves = PlanMove.objects.filter(plan__reading_set__job=job, state__in=["done", "changed"])
    turned, passes = moves.count(), moves.values("plan").distinct().count()
    lines: list[str] = []
    if turned:
        nipples = say_count("{count} nipple turned", "{count} nipples turned", turned)
        times = say_count("in {count} pass", "in {count} passes", passes)
        lines.append(joined(" ", [nipples, joined("", [times, "."])]))
    newest = Decision.objects.filter(job=job, outcome=Decision.Outcome.APPROVED).order_by("-created_at").first()
    parts = [line for line in newest.lines if line["kind"] == "parts"] if newest else []
    if parts and job.handed_back_at:
        lines.append(say("Parts: {what}.", what=joined(", ", [say("{what}", what=told(line["what"])) for line in parts])))
    if not refit.steps_open(job) and not refit.steps_not_right(job):
        lines.append(say("Back in the bike, every step checked."))
    return lines or [say("Nothing was done to the wheel.")]


def _measured(user: User, job: Job) -> tuple[list[FigureLine], list[Lane], str]:
    found, left = latest_sets(user, job.pk)
    if left is None:
        return [], [], ""
    state, readings = kept_estimate(left)
    before = kept_estimate(found)[0] if found is not None and found.pk != left.pk else None
    check = check_sign_off(job.tolerance, before, state, readings, job.wheel.bike.brake == "rim", is_as_left(job, left))
    agreed = standing_decision(job)
    tier = job.tolerance.said
    said = [say("Against {tier}, as it was agreed.", tier=tier) if agreed else say("Against {tier}.", tier=tier)]
    last = left.readings.order_by("-created_at").first()
    if last is not None and turned_since(job, last.created_at):
        said.append(say("Nipples were turned after this was measured: the wheel is another now."))
    if last is not None and condition.broken_since(job, last.created_at):
        said.append(say("A spoke broke after this was measured: the wheel is another now."))
    return _lines(check, state), _lanes(job, check, before, state), joined(" ", said)


def _lines(check: SignOffCheck, state: WheelState) -> list[FigureLine]:
    bounds = upper_bounds(state, np.random.default_rng(SEED))
    earlier = check.as_found.by_name if check.as_found else {}
    found = []
    for one in check.checks:
        shown = _percent if one.figure == "tension" else _mm
        found.append(
            FigureLine(
                name=term(one.figure),
                found=shown(earlier[one.figure]) if earlier else "",
                left=shown(one.value),
                bound=joined(" ", ["≤", shown(bounds[one.figure])]),
                limit=say("{limit:g} %", limit=one.limit) if shown is _percent else say("{limit:g} mm", limit=one.limit),
                met=one.met,
                measured=one.figure not in check.not_measured,
            )
        )
    return found


def _lanes(job: Job, check: SignOffCheck, before: WheelState | None, state: WheelState) -> list[Lane]:
    now, was = trace_values(state.figures), trace_values(before.figures) if before is not None else None
    tier, names = job.tolerance, [str(name) for name in state.wheel.names]
    means = {Side.RIGHT.value: check.as_left.right_mean_n, Side.LEFT.value: check.as_left.left_mean_n}
    return [
        Lane(
            say("Sideways, from the valve round to the valve"),
            say("Grey as found, black as left; the band is the tolerance of {mm:g} mm.", mm=tier.lateral_mm)
            if was
            else say("The band is the tolerance of {mm:g} mm.", mm=tier.lateral_mm),
            trace_svg(now.angle_deg, was.lateral_mm if was else None, now.lateral_mm, tier.lateral_mm),
        ),
        Lane(
            say("Up and down"),
            say("The band is the tolerance of {mm:g} mm.", mm=tier.radial_mm),
            trace_svg(now.angle_deg, was.radial_mm if was else None, now.radial_mm, tier.radial_mm),
        ),
        Lane(
            say("Tension, spoke by spoke"),
            say(
                "Right dark, mean {right:.0f} N; left light, mean {left:.0f} N; each side's band is ±{percent:g} %.",
                right=means["R"],
                left=means["L"],
                percent=tier.tension_percent,
            ),
            tension_svg(names, state.tension_n.tolist(), means, tier.tension_percent),
        ),
    ]


def _watch(pen: Pen, job: Job) -> list[str]:
    lines: list[str] = []
    if job.recheck_on:
        lines.append(say("Have it checked again by {day}.", day=pen.day(job.recheck_on)))
    lines.append(say("Stop and have it looked at if it rubs, pings or feels loose, or if a spoke breaks."))
    lines.append(say("What the makers of rim, spokes, bike and tyre say comes first."))
    return lines


def _signed(pen: Pen, job: Job) -> list[str]:
    lines: list[str] = []
    newest = SignOff.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()
    if newest is not None and newest.created_by is not None:
        by = newest.created_by.display_name
        lines.append(say("Signed off by {name}, {day}.", name=by, day=pen.moment(newest.created_at)))
        if newest.reason:
            lines.append(say("“{words}”", words=newest.reason))
    last = job.events.filter(kind__in=["handed_back", "ended"]).order_by("-created_at").first()
    if last is not None and last.note:
        lines.append(last.note)
    for signature in Signature.objects.filter(job=job).order_by("created_at"):
        lines.append(say("{what}: {name}.", what=Signature.Purpose(signature.purpose).label, name=signature.name))
    return lines
