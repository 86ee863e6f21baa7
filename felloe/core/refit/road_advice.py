"""Advice for the road: the temporary repair card for a customer on the phone.

Steps, distances and speeds are common practice, no source. When in doubt: walk.
"""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import say


class UnknownTrouble(TradeError):
    """A trouble that the card does not know."""

    code = "unknown_trouble"


TROUBLES: dict[str, str] = {
    "broken_spoke": say("a spoke is broken"),
    "several_broken": say("several spokes are broken"),
    "loose_spokes": say("spokes are loose"),
    "wobbles": say("it wobbles or rubs"),
    "hit": say("hit something, rim dented"),
    "axle_loose": say("the axle is loose or the wheel knocks"),
    "rim_cracked": say("the rim is cracked or the tyre lifts off"),
}


@dataclass(frozen=True)
class RoadCard:
    """What to tell: steps in order; whether to ride on at all, and then how far [km] and how fast [km/h] at most."""

    ride: bool
    steps: tuple[str, ...]
    km: int
    km_h: int
    label: str


_STOP = say("Get off the road and stop riding.")
_GAUGE = say("Tie a zip tie, or band a pencil, to the stay so that its end just clears the rim: that is your pointer.")
_OUT = say("Get the broken spoke out, or tape it to its neighbour, so that it cannot catch.")
_OPEN_BRAKE = say("Rubs on the pads? Open that brake's release and brake with the other wheel only.")
_TURNS = say("Turn nipples by quarter turns only, rather too loose than too tight; from the tyre's side tighten is clockwise.")
_CLEAR = say("Spin it: tyre and rim must clear the frame all round, or walk.")
_WALK = say("Do not ride it. Walk it, or wait to be fetched.")


def road_card(trouble: str, rim_brake: bool, loaded: bool, carbon: bool, spokes: int) -> RoadCard:
    """The card for a trouble. `loaded`: cargo, tandem, electric or luggage. `spokes`: in this wheel; few forgive nothing.

    Raises UnknownTrouble.
    """
    steps: tuple[str, ...]
    if trouble not in TROUBLES:
        raise UnknownTrouble(say("“{trouble}” is no trouble of the card", trouble=trouble[:40]), "trouble")
    brake = (_OPEN_BRAKE,) if rim_brake else ()
    if trouble in ("several_broken", "rim_cracked") or (trouble == "hit" and carbon):
        return _walk()
    if trouble == "axle_loose":
        steps = (_STOP, say("Bike upright on the ground, axle home in both dropouts, clamp or nuts tight."),
                 say("Push the rim sideways: if it still knocks, walk."), _CLEAR)  # fmt: skip
        return _ride(steps, 10, 15, loaded)
    if trouble == "broken_spoke":
        if carbon or spokes < 24:
            return _walk()
        steps = (
            _STOP,
            _OUT,
            _GAUGE,
            say("Ease the two neighbours on the other side by a quarter to a half turn."),
            _TURNS,
            _CLEAR,
            *brake,
        )
        return _ride(steps, 15, 15, loaded)
    if trouble == "loose_spokes":
        steps = (_STOP, say("Make every loose nipple finger-tight."), _GAUGE,
                 say("Then bring each near to its neighbours, by how they sound and feel."), _TURNS, _CLEAR)  # fmt: skip
        return _ride(steps, 20, 20, loaded)
    look = (say("Look along the rim: a crack, a bulge or a lifted tyre means walk."),) if trouble == "hit" else ()
    steps = (_STOP, *look, say("Check that the axle is home and no spoke is broken."), _GAUGE, *brake, _CLEAR)
    return _ride(steps, 10 if trouble == "hit" else 20, 15, loaded)


def _ride(steps: tuple[str, ...], km: int, km_h: int, loaded: bool) -> RoadCard:
    km = km // 2 if loaded else km
    first = (say("Take the load and the passenger off first."),) if loaded else ()
    last = say("To a workshop, at most {km} km, not faster than {km_h} km/h; no hills down, no kerbs.", km=km, km_h=km_h)
    return RoadCard(True, (steps[0], *first, *steps[1:], last), km, km_h, say("Temporary repair"))


def _walk() -> RoadCard:
    return RoadCard(
        False,
        (_STOP, _WALK, say("Tell us where you are, and what you see at the rim and the spokes.")),
        0,
        0,
        say("Not to be ridden"),
    )
