"""A comeback in the words of the bench: what happened, by its figures, whose it would be, and what to look at before saying so."""

from __future__ import annotations

from collections.abc import Callable

from felloe.core.diagnosis.comeback import (
    CANNOT_TELL,
    HIT,
    LEAN,
    MIXED,
    OURS,
    SAME,
    SETTLED,
    TURNED,
    UNWOUND,
    YOURS,
    Comeback,
)
from felloe.core.said import joined, say, say_count

ACCOUNTS: dict[str, str] = {
    SAME: say("nothing happened to the wheel"),
    SETTLED: say("nipples and spoke heads settled"),
    UNWOUND: say("a nipple unwound"),
    HIT: say("the rim was hit"),
    LEAN: say("the whole rim leans, the spokes do not"),
    MIXED: say("a hit and settling both"),
    TURNED: say("nipples were turned, each its own way"),
}
WHOSE: dict[str, str] = {
    OURS: say("Proposed: ours."),
    YOURS: say("Proposed: yours, the customer's."),
    CANNOT_TELL: say("Whose it is, the readings cannot tell."),
}
#: What to look at before anybody is told.
LOOK: dict[str, str] = {
    SAME: say("Look beyond the spokes: brake, tyre, bearings, how the wheel sits in the bike."),
    SETTLED: say("A tyre under pressure takes tension too: compare like with like, both times without it."),
    UNWOUND: say("Look for a dry or damaged thread, and for marks of a key that is not yours."),
    HIT: say("Look for the mark on the rim and the tyre, and mark it as damage with a photo."),
    LEAN: say("Check locknuts, bearings, axle and how the wheel sits before any nipple is turned."),
    MIXED: say("Look for the mark of the hit; what settled besides would have been ours."),
    TURNED: say("Ask who worked on it; look for marks of a key."),
}


def happened(found: Comeback) -> str:
    """One sentence with the figures of the likeliest account."""
    by_kind: dict[str, Callable[[], str]] = {
        SAME: lambda: say("Nothing changed since it left that these readings would show."),
        SETTLED: lambda: joined(" ", [_tension(found), say("Evenly, as nipples and spoke heads settle.")]),
        UNWOUND: lambda: _unwound(found),
        HIT: lambda: _hit(found),
        LEAN: lambda: _lean(found),
        MIXED: lambda: joined(" ", [_hit(found), _tension(found)]),
        TURNED: lambda: joined(" ", [say("Many nipples changed, each its own way."), _tension(found)]),
    }
    return by_kind[found.kind]()


def sureness(found: Comeback) -> str:
    """How sure that is, and what else it could be."""
    likely = found.accounts[0]
    if found.sure:
        return say("Sure, as far as readings go: {percent:.0f} %.", percent=100 * likely.share)
    others = [
        say("{what} {percent:.0f} %", what=ACCOUNTS[account.kind], percent=100 * account.share)
        for account in found.accounts[:3]
        if account.share >= 0.02
    ]
    return say("Not sure: {what}.", what=joined(", ", others))


def _tension(found: Comeback) -> str:
    names = {"R": say("right"), "L": say("left")}
    sides = [
        say("{side} {percent:+.0f} %", side=names[side], percent=100 * share)
        for side, share in sorted(found.tension_share.items())
    ]
    return say("Mean tension: {sides}.", sides=joined(", ", sides[::-1])) if sides else say("No tension was read.")


def _unwound(found: Comeback) -> str:
    parts = [
        say("{spoke} by {turns:.2f} turn", spoke=spoke, turns=abs(turns))
        for spoke, turns in zip(found.spokes, found.turns, strict=True)
    ]
    looser = all(turns < 0 for turns in found.turns)
    what = (
        say_count("{count} nipple is looser", "{count} nipples are looser", len(parts))
        if looser
        else say_count("{count} nipple was turned", "{count} nipples were turned", len(parts))
    )
    return say("{what}: {which}; the others stayed.", what=what, which=joined(", ", parts))


def _hit(found: Comeback) -> str:
    aside = say("to the right") if found.lateral_mm > 0 else say("to the left")
    inout = say("outwards") if found.radial_mm > 0 else say("inwards")
    return say(
        "Around {first} to {last} the rim itself stands {lateral_mm:.1f} mm {aside} and {radial_mm:.1f} mm {inout}.",
        first=found.spokes[0],
        last=found.spokes[-1],
        lateral_mm=abs(found.lateral_mm),
        aside=aside,
        radial_mm=abs(found.radial_mm),
        inout=inout,
    )


def _lean(found: Comeback) -> str:
    aside = say("to the right") if found.lean_mm > 0 else say("to the left")
    return say(
        "The whole rim reads {mm:.1f} mm further {aside} while no tension changed with it.", mm=abs(found.lean_mm), aside=aside
    )
