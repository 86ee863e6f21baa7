"""What can be done about a wheel, side by side: minutes, parts, price, what it will reach, and how sure that is.

Minutes are those of `core.promise.work`, at the shop's own pace: what is quoted is what is promised with.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from felloe.core.components import Wheel
from felloe.core.decision.prices import PriceList
from felloe.core.diagnosis.breakage import NEW_RIM, ONE_SPOKE, SIDE, WHEEL, Pattern
from felloe.core.diagnosis.condition import HUB, NOT_TO_RIDE, REPLACED_FOR, RIM, STUCK
from felloe.core.diagnosis.rim_damage import Verdict as MarkVerdict
from felloe.core.naming import Side
from felloe.core.promise.work import HUB_MIN, SPROCKETS_OFF_MIN, Paces, lacing_min, spokes_min, truing_min
from felloe.core.runout.frame_gauge import LEAVE, FrameError
from felloe.core.said import joined, say
from felloe.core.truing.curve import Verdict as RimVerdict
from felloe.core.truing.tiers import Tier

USUAL_PACES = Paces()
#: New parts laced and tensioned by the book come out inside the tier about so often; common practice, no source.
NEW_BUILD_CHANCE = 0.95
HUB_CHANCE = 0.9

NAMES: dict[str, str] = {
    "leave": say("Leave it as it is"),
    "true": say("True the wheel"),
    "replace": say("Replace spokes, then true"),
    "rebuild_side": say("Rebuild one side with new spokes"),
    "rebuild": say("Rebuild with new spokes"),
    "new_rim": say("New rim and spokes on this hub"),
    "hub_overhaul": say("Overhaul the hub"),
    "frame": say("Frame or fork: leave or refer"),
}


#: Choices after which a wheel's spokes are new, on both sides; a rebuilt side leaves the other's breaks standing.
NEW_SPOKES = ("rebuild", "new_rim")


@dataclass(frozen=True)
class Case:
    """All that is known when it comes to deciding. None or empty where it was not looked at.

    `spread_percent`: tension of the worse side as it was read last.
    """

    wheel: Wheel
    tier: Tier
    rear: bool = False
    rim_verdict: RimVerdict | None = None
    inside_tier: bool | None = None
    marks: tuple[MarkVerdict, ...] = ()
    pattern: Pattern | None = None
    cause: str = ""
    frame: FrameError | None = None
    paces: Paces = USUAL_PACES
    spread_percent: float | None = None


@dataclass(frozen=True)
class RepairOption:
    """One way. `chance` that the result is reached, 0 to 1, None where nothing is known of it; `price_minor` None where a
    price is missing; `barred` says why it must not or cannot be done."""

    key: str
    name: str
    minutes: float
    parts: Mapping[str, int]
    price_minor: int | None
    result: str
    chance: float | None
    chance_why: str
    why: str
    proposed: bool = False
    barred: str = ""


@dataclass
class _Draft:
    """An option while it is put together."""

    key: str
    minutes: float = 0.0
    parts: dict[str, int] = field(default_factory=dict)
    result: str = ""
    chance: float | None = None
    chance_why: str = ""
    why: str = ""
    barred: str = ""


def repair_options(case: Case, prices: PriceList) -> tuple[RepairOption, ...]:
    """Every way that makes sense for the case, the proposed ones marked; more than one may be proposed together."""
    drafts = [
        _leave(case),
        _true(case),
        _replace(case),
        _rebuild_side(case),
        _rebuild(case),
        _new_rim(case),
        _hub(case),
        _frame(case),
    ]
    proposed = _proposed(case)
    return tuple(
        RepairOption(
            key=d.key,
            name=NAMES[d.key],
            minutes=round(d.minutes),
            parts={key: count for key, count in d.parts.items() if count},
            price_minor=prices.total(round(d.minutes), d.parts),
            result=d.result,
            chance=d.chance,
            chance_why=d.chance_why,
            why=proposed.get(d.key, "") or d.why,
            proposed=d.key in proposed,
            barred=d.barred,
        )
        for d in drafts
        if d is not None
    )


def unsafe_reasons(case: Case) -> tuple[str, ...]:
    """Why the wheel must not be ridden as it stands, one line each; empty when nothing says so."""
    lines = [
        joined(
            ": ",
            [
                say("{mark} at {spoke}", mark=v.mark.about.name, spoke=v.mark.spoke) if v.mark.spoke else v.mark.about.name,
                v.why,
            ],
        )
        for v in case.marks
        if v.level == NOT_TO_RIDE
    ]
    return tuple(dict.fromkeys(lines))


def _bad_rim(case: Case) -> str:
    for v in case.marks:
        if v.mark.about.part == RIM and v.level == NOT_TO_RIDE:
            return say("{about} at {spoke}: not to be ridden.", about=v.mark.about.name, spoke=v.mark.spoke)
    if case.pattern is not None and case.pattern.advice == NEW_RIM:
        return case.pattern.reasons[0]
    return ""


def _proposed(case: Case) -> dict[str, str]:
    """Keys of the proposed options with one line of why."""
    found: dict[str, str] = {}
    rim = _bad_rim(case)
    best = case.rim_verdict
    if rim:
        found["new_rim"] = rim
    elif best is not None and not best.can:
        found["new_rim"] = best.why
    elif case.pattern is not None and case.pattern.advice == WHEEL:
        found["rebuild"] = joined(" ", case.pattern.reasons)
    elif case.pattern is not None and case.pattern.advice == SIDE:
        found["rebuild_side"] = joined(" ", case.pattern.reasons)
    elif _to_replace(case):
        found["replace"] = say("{to_replace} to be replaced.", to_replace=joined(", ", _to_replace(case)))
    elif case.inside_tier is False:
        found["true"] = best.why if best is not None else say("Outside the tier that was agreed.")
    hub = [v.mark.about.name.lower() for v in case.marks if v.mark.about.part == HUB and v.mark.kind != "face_marks"]
    if hub or case.cause in ("bearing_play", "bearing_rough", "axle_bent", "axle_broken"):
        found["hub_overhaul"] = (say("On record: ") + joined(", ", hub) + ".") if hub else say("That is what the checks found.")
    if case.frame is not None and case.frame.advice != LEAVE:
        found["frame"] = case.frame.why
    if not found and case.inside_tier:
        found["leave"] = say("Everything measured lies inside the tier that was agreed.")
    return found


def _to_replace(case: Case) -> tuple[str, ...]:
    marked = [v.mark.spoke for v in case.marks if v.mark.kind in REPLACED_FOR]
    return tuple(dict.fromkeys(marked))


def _truing(case: Case, anew: bool = False) -> float:
    """Of the wheel as it was read, or laced `anew`, when its old spokes and nipples count no more."""
    stuck = 0 if anew else sum(verdict.mark.kind in STUCK for verdict in case.marks)
    spread = None if anew else case.spread_percent
    return truing_min(case.tier, case.wheel.spoke_count, spread, stuck) * case.paces.factor("true", case.tier.name)


def _parts_work(case: Case, minutes: float) -> float:
    return minutes * case.paces.factor("strip_lace", case.tier.name)


def _reach(case: Case) -> tuple[str, float | None, str]:
    best = case.rim_verdict
    if best is None:
        return (
            say("inside {tier}, not yet known", tier=case.tier.said),
            None,
            say("Measure first: nothing is known of what this rim can reach."),
        )
    if best.at_tier is None:
        return say("not to be had"), best.chance, best.why
    tier = best.best_tier
    if best.can:
        result = say(
            "inside {tier}: {lateral_mm} mm, ±{tension_percent:.0f} %",
            tier=case.tier.said,
            lateral_mm=case.tier.lateral_mm,
            tension_percent=case.tier.tension_percent,
        )
    elif tier:
        result = say(
            "only {tier}: {lateral_mm} mm, ±{tension_percent:.0f} %",
            tier=tier.said,
            lateral_mm=tier.lateral_mm,
            tension_percent=tier.tension_percent,
        )
    else:
        result = say("{lateral_tir_mm:.1f} mm lateral stays, not roadworthy", lateral_tir_mm=best.at_tier.lateral_tir_mm)
    return (
        result,
        best.chance,
        say("{chance:.0f} % of the wheels that fit the readings reach {tier}.", chance=best.chance * 100, tier=case.tier.said),
    )


def _leave(case: Case) -> _Draft:
    barred = joined("; ", unsafe_reasons(case))
    return _Draft(
        "leave",
        result=say("as it is"),
        why=say("Nothing is done."),
        barred=say("Not to be ridden. {barred}", barred=barred) if barred else "",
    )


def _true(case: Case) -> _Draft:
    result, chance, chance_why = _reach(case)
    barred = _bad_rim(case)
    if not barred and _to_replace(case):
        barred = say("{to_replace} must be replaced first.", to_replace=joined(", ", _to_replace(case)))
    return _Draft("true", _truing(case), {}, result, chance, chance_why, say("Turns of nipples only; no parts."), barred)


def _replace(case: Case) -> _Draft | None:
    spokes = _to_replace(case)
    if not spokes:
        return None
    result, chance, chance_why = _reach(case)
    behind = case.rear and any(name.startswith("R") for name in spokes)
    minutes = _parts_work(case, spokes_min(len(spokes), behind)) + _truing(case)
    parts = {"spoke": len(spokes), "nipple": len(spokes), "rim_tape": 1}
    advice = case.pattern.advice if case.pattern is not None else ONE_SPOKE
    why = say("Each new spoke is brought to its neighbours, then the wheel is trued.")
    if advice in (SIDE, WHEEL):
        why = say("Cheaper today, but the next one breaks soon: the others are as tired.")
    return _Draft("replace", minutes, parts, result, chance, chance_why, why, _bad_rim(case))


def _rebuild_side(case: Case) -> _Draft | None:
    pattern = case.pattern
    if pattern is None or pattern.side is None or pattern.advice == ONE_SPOKE:
        return None
    count = case.wheel.side(pattern.side).count
    off = SPROCKETS_OFF_MIN if case.rear and pattern.side is Side.RIGHT else 0.0
    minutes = _parts_work(case, lacing_min(count) + off) + _truing(case)
    parts = {"spoke": count, "nipple": count, "rim_tape": 1}
    result, _, _ = _reach(case)
    why = say("New spokes and nipples on the {side}: its old ones are as tired as those that broke.", side=pattern.side.said)
    return _Draft("rebuild_side", minutes, parts, result, *_as_new(case), why, _bad_rim(case))


def _rebuild(case: Case) -> _Draft:
    count = case.wheel.spoke_count
    minutes = _parts_work(case, lacing_min(count)) + _truing(case, anew=True)
    parts = {"spoke": count, "nipple": count, "rim_tape": 1}
    result, _, _ = _reach(case)
    return _Draft(
        "rebuild", minutes, parts, result, *_as_new(case), say("New spokes and nipples all round on this rim."), _bad_rim(case)
    )


def _as_new(case: Case) -> tuple[float | None, str]:
    """New spokes on the old rim reach no more than the rim allows."""
    best = case.rim_verdict
    if best is None:
        return None, say("Measure first: the rim stays, and nothing is known of it.")
    return min(NEW_BUILD_CHANCE, best.chance), say("The rim stays: new spokes reach no more than it allows.")


def _new_rim(case: Case) -> _Draft:
    count = case.wheel.spoke_count
    minutes = _parts_work(case, lacing_min(count)) + _truing(case, anew=True)
    parts = {"rim": 1, "spoke": count, "nipple": count, "rim_tape": 1}
    result = say("inside {tier}, as new", tier=case.tier.said)
    return _Draft(
        "new_rim",
        minutes,
        parts,
        result,
        NEW_BUILD_CHANCE,
        say("Common practice, no source."),
        say("Everything but the hub is new."),
    )


def _hub(case: Case) -> _Draft:
    axle = any(v.mark.kind in ("axle_bent", "axle_broken") for v in case.marks) or case.cause in ("axle_bent", "axle_broken")
    flange = any(v.mark.kind == "flange_cracked" for v in case.marks)
    return _Draft(
        "hub_overhaul",
        _parts_work(case, HUB_MIN),
        {"hub_parts": 1, "axle": int(axle)},
        say("turns smooth, no play"),
        HUB_CHANCE,
        say("Common practice, no source."),
        say("Apart, cleaned, greased, adjusted; spacers go back as they were."),
        say("The flange is cracked: a new hub.") if flange else "",
    )


def _frame(case: Case) -> _Draft | None:
    if case.frame is None:
        return None
    return _Draft(
        "frame",
        0,
        {},
        say("the wheel is dished to its hub, not to the frame"),
        None,
        say("Not the wheel's matter."),
        case.frame.why,
    )
