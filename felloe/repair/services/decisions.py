"""Deciding: the options side by side, the customer's word on them, and whether the wheel may be ridden."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from felloe.accounts.models import Shop, User
from felloe.api.problems import Refused, refused_at
from felloe.bench import answers as bench_answers
from felloe.bench.services.plans import latest_sets, newest_estimate
from felloe.bench.services.prints import fingerprint
from felloe.bench.services.readings import spread_of
from felloe.bench.services.states import kept_estimate
from felloe.bench.services.verdicts import kept_verdict
from felloe.condition import services as condition
from felloe.condition.services import diagnosis
from felloe.core.decision.options import Case, RepairOption, repair_options, unsafe_reasons
from felloe.core.decision.prices import PRICED, PriceList
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.said import joined, say
from felloe.core.truing.curve import FEWEST_FOR_A_VERDICT, Verdict
from felloe.core.truing.sign_off import figures_of, not_measured
from felloe.core.truing.tiers import check_against
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.services.pace import paces_of
from felloe.queue.tolerances import held_fields
from felloe.repair import answers
from felloe.repair.models import Decision
from felloe.repair.services import quotes
from felloe.repair.services.conditions import breakage, judged_marks
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel


def case_of(user: User, job: Job) -> tuple[Case, bench_answers.Curve | None]:
    """All that is known of a job's wheel, and the curve of straight against even where it was measured."""
    wheel = wheels.core_wheel(job.wheel)
    tier = job.tolerance
    _, newest = latest_sets(user, job.pk)
    rests_on = fingerprint(newest) if newest is not None else None
    measured = kept_estimate(newest, rests_on) if newest is not None else None
    state = measured[0] if measured else None
    rim: Verdict | None = None
    inside: bool | None = None
    curve = None
    if newest is not None and measured is not None and measured[1].count >= FEWEST_FOR_A_VERDICT and state is not None:
        rim, curve = kept_verdict(newest, job.tolerance, rests_on)
        figures = figures_of(state)
        checks = check_against(
            tier, figures.lateral_tir_mm, figures.radial_tir_mm, figures.dish_mm, figures.worst_spread_percent
        )
        inside = None if not_measured(measured[1]) else all(check.met for check in checks)
    finding = diagnosis.current_finding(job)
    _, pattern = breakage(job, wheel, measured)
    frame = condition.frame_check_of(job)
    case = Case(
        wheel=wheel,
        tier=tier,
        rear=job.wheel.position == Wheel.Position.REAR,
        rim_verdict=rim,
        inside_tier=inside,
        marks=tuple(v for _, v in judged_marks(job, wheel, state)),
        pattern=pattern,
        cause=finding.cause if finding else "",
        frame=frame[1] if frame else None,
        paces=paces_of(job.shop_id)[0],
        spread_percent=spread_of(job),
    )
    return case, curve


def _option_values(option: RepairOption) -> answers.RepairOption:
    return answers.RepairOption(
        key=option.key,
        name=option.name,
        minutes=int(option.minutes),
        parts=[answers.Part(key=key, name=PRICED[key], count=count) for key, count in option.parts.items()],
        price_minor=option.price_minor,
        result=option.result,
        chance=None if option.chance is None else round(option.chance, 3),
        chance_why=option.chance_why,
        why=option.why,
        proposed=option.proposed,
        barred=option.barred,
    )


def options_of(user: User, job_id: UUID) -> answers.Options:
    """Everything the decision screen shows."""
    job = queue.find_job(user, job_id)
    return _options(user, job, *case_of(user, job))


def _options(user: User, job: Job, case: Case, curve: bench_answers.Curve | None) -> answers.Options:
    shop = user.shop
    return answers.Options(
        tier=job.tier,
        currency=shop.currency,
        options=[_option_values(o) for o in repair_options(case, PriceList(shop.prices_minor))],
        curve=curve,
        unsafe=unsafe_now(user, job, case),
        cause_to_mend=case.cause if case.cause and CAUSES[case.cause].unsafe else None,
        decisions=list(Decision.objects.filter(job=job).select_related("created_by").order_by("-created_at")),
    )


def unsafe_now(user: User, job: Job, case: Case | None = None) -> list[str]:
    """Why the wheel may not be handed back as ready: standing marks and a standing cause that forbid riding."""
    known = case or case_of_marks(user, job)
    reasons = list(unsafe_reasons(known))
    finding = diagnosis.current_finding(job)
    if finding is not None and CAUSES[finding.cause].unsafe:
        reasons.append(say("{cause}: found, and not yet noted as put right.", cause=CAUSES[finding.cause].name))
    return reasons


def case_of_marks(user: User, job: Job) -> Case:
    """The part of a case that safety rests on, without the verdict on the rim."""
    wheel = wheels.core_wheel(job.wheel)
    # The estimate takes long, and without a mark nobody asks for it.
    measured = newest_estimate(user, job.pk) if condition.standing_marks(job.wheel) else None
    return Case(
        wheel=wheel,
        tier=job.tolerance,
        marks=tuple(v for _, v in judged_marks(job, wheel, measured[0] if measured else None)),
    )


@atomic
def decide(user: User, job_id: UUID, values: dict[str, Any]) -> Decision:
    """Keep what was offered and what the customer said to it.

    Approving an option that is barred, or refusing while the wheel is unsafe, needs the warning that was given.
    """
    # The verdict takes long: it is worked out before the job is locked, and held against what it rests on under the lock.
    before = _rests_on(user, queue.find_job(user, job_id))
    shown_case, curve = case_of(user, queue.find_job(user, job_id))
    shown = _options(user, queue.find_job(user, job_id), shown_case, curve)
    locked = queue.open_for_work(user, job_id, at_work=False)
    if _rests_on(user, locked) != before:
        raise Refused("options_changed", say("Something changed while this was decided: look at the options again."), 409)
    by_key = {option.key: option for option in shown.options}
    chosen = list(dict.fromkeys(values["chosen"]))
    for key in chosen:
        if key not in by_key:
            raise refused_at("chosen", "unknown_option", say("This was not among the options."))
    refused = values["outcome"] == Decision.Outcome.REFUSED
    if not chosen and not refused:
        raise refused_at("chosen", "nothing_chosen", say("Choose at least one of the options."))
    warning = values.get("warning", "").strip()
    barred = [by_key[key].barred for key in chosen if by_key[key].barred]
    if (barred or (refused and shown.unsafe)) and not warning:
        raise refused_at("warning", "warning_needed", say("Write down the warning that the customer was given."))
    frozen = values.get("frozen")
    made_of = quotes.frozen_quote(frozen) if frozen else quotes.made_quote(user.shop, locked, shown_case, chosen)
    if not refused:
        quotes.require_price(made_of)
        quotes.check_agreed(user.shop, locked, made_of, values)
    amounts, by_phone = made_of.amounts, values["how"] == Decision.How.PHONE
    made = Decision.objects.create(
        shop_id=user.shop_id,
        job=locked,
        outcome=values["outcome"],
        chosen=chosen,
        offered=[asdict(option) for option in shown.options],
        **held_fields(locked.tolerance),
        price_minor=amounts.gross_minor if amounts else None,
        net_minor=amounts.net_minor if amounts else None,
        tax_minor=amounts.tax_minor if amounts else None,
        tax_basis_points=frozen["tax_basis_points"] if frozen else user.shop.tax_basis_points,
        currency=frozen["currency"] if frozen else user.shop.currency,
        lines=[asdict(line) for line in made_of.lines],
        quote_version=quotes.extras_of(locked)[0],
        words=[] if refused or amounts is None else quotes.words_of(user.shop, locked, made_of, warning, by_phone),
        minutes=sum(by_key[key].minutes for key in chosen),
        by_whom=values["by_whom"].strip(),
        how=values["how"],
        warning=warning,
        note=values.get("note", "").strip(),
        created_by=user,
    )
    names = joined(", ", [by_key[key].name.lower() for key in chosen])
    whose = {"name": made.by_whom, "what": names}
    said = say("{name} refused: {what}", **whose) if refused else say("{name} approved: {what}", **whose)
    queue.log(
        locked,
        user,
        "decided",
        said + say(". Warned: {warning}", warning=warning) if warning else said,
    )
    if locked.waiting_on == Job.WaitingOn.CUSTOMER:
        queue.change_job(user, locked.pk, locked.version, {"waiting_on": Job.WaitingOn.NOTHING})
    return made


def _rests_on(user: User, job: Job) -> tuple[object, ...]:
    """What the options rest on, as numbers and times that change whenever it does."""
    _, newest = latest_sets(user, job.pk)
    measured = (newest.pk, *fingerprint(newest)) if newest is not None else ()
    shop = Shop.objects.values_list("prices_version", "currency", "tax_basis_points", "tax_included").get(pk=job.shop_id)
    added = quotes.extras_of(job)[0]
    return (job.version, job.tolerance, added, *shop, condition.marks_count(job), job.events.count(), *measured)


def quote_now(user: User, job_id: UUID, chosen: list[str], warning: str = "") -> answers.Quote:
    """The quote of what is chosen, as the decision screen shows it before the customer is asked."""
    job = queue.find_job(user, job_id)
    case, _ = case_of(user, job)
    return quotes.quote_of(user, job, case, chosen, warning)
