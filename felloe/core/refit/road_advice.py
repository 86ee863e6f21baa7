"""Advice for the road: the temporary repair card for a customer on the phone.

Steps, distances and speeds are common practice, no source. When in doubt: walk.
"""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import TradeError


class UnknownTrouble(TradeError):
    """A trouble that the card does not know."""

    code = "unknown_trouble"


TROUBLES: dict[str, str] = {
    "broken_spoke": "a spoke is broken",
    "several_broken": "several spokes are broken",
    "loose_spokes": "spokes are loose",
    "wobbles": "it wobbles or rubs",
    "hit": "hit something, rim dented",
    "axle_loose": "the axle is loose or the wheel knocks",
    "rim_cracked": "the rim is cracked or the tyre lifts off",
}


@dataclass(frozen=True)
class RoadCard:
    """What to tell: steps in order; whether to ride on at all, and then how far [km] and how fast [km/h] at most."""

    ride: bool
    steps: tuple[str, ...]
    km: int
    km_h: int
    label: str


_STOP = "Get off the road and stop riding."
_GAUGE = "Tie a zip tie, or band a pencil, to the stay so that its end just clears the rim: that is your pointer."
_OUT = "Get the broken spoke out, or tape it to its neighbour, so that it cannot catch."
_OPEN_BRAKE = "Rubs on the pads? Open that brake's release and brake with the other wheel only."
_TURNS = "Turn nipples by quarter turns only, rather too loose than too tight; from the tyre's side tighten is clockwise."
_CLEAR = "Spin it: tyre and rim must clear the frame all round, or walk."
_WALK = "Do not ride it. Walk it, or wait to be fetched."


def road_card(trouble: str, rim_brake: bool, loaded: bool, carbon: bool, spokes: int) -> RoadCard:
    """The card for a trouble. `loaded`: cargo, tandem, electric or luggage. `spokes`: in this wheel; few forgive nothing.

    Raises UnknownTrouble.
    """
    steps: tuple[str, ...]
    if trouble not in TROUBLES:
        raise UnknownTrouble(f"“{trouble[:40]}” is no trouble of the card", "trouble")
    brake = (_OPEN_BRAKE,) if rim_brake else ()
    if trouble in ("several_broken", "rim_cracked") or (trouble == "hit" and carbon):
        return _walk()
    if trouble == "axle_loose":
        steps = (_STOP, "Bike upright on the ground, axle home in both dropouts, clamp or nuts tight.",
                 "Push the rim sideways: if it still knocks, walk.", _CLEAR)  # fmt: skip
        return _ride(steps, 10, 15, loaded)
    if trouble == "broken_spoke":
        if carbon or spokes < 24:
            return _walk()
        steps = (
            _STOP,
            _OUT,
            _GAUGE,
            "Ease the two neighbours on the other side by a quarter to a half turn.",
            _TURNS,
            _CLEAR,
            *brake,
        )
        return _ride(steps, 15, 15, loaded)
    if trouble == "loose_spokes":
        steps = (_STOP, "Make every loose nipple finger-tight.", _GAUGE,
                 "Then bring each near to its neighbours, by how they sound and feel.", _TURNS, _CLEAR)  # fmt: skip
        return _ride(steps, 20, 20, loaded)
    look = ("Look along the rim: a crack, a bulge or a lifted tyre means walk.",) if trouble == "hit" else ()
    steps = (_STOP, *look, "Check that the axle is home and no spoke is broken.", _GAUGE, *brake, _CLEAR)
    return _ride(steps, 10 if trouble == "hit" else 20, 15, loaded)


def _ride(steps: tuple[str, ...], km: int, km_h: int, loaded: bool) -> RoadCard:
    km = km // 2 if loaded else km
    first = ("Take the load and the passenger off first.",) if loaded else ()
    last = f"To a workshop, at most {km} km, not faster than {km_h} km/h; no hills down, no kerbs."
    return RoadCard(True, (steps[0], *first, *steps[1:], last), km, km_h, "Temporary repair")


def _walk() -> RoadCard:
    return RoadCard(
        False, (_STOP, _WALK, "Tell us where you are, and what you see at the rim and the spokes."), 0, 0, "Not to be ridden"
    )
