"""The refit checklist, fitted to the bike. Steps are common practice, no source; torques are the maker's or are left open."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import say


class BadBike(TradeError):
    """Something about the bike that cannot be."""

    code = "bad_bike"


DROPOUTS = {
    "": say("not noted"),
    "vertical": say("vertical slots"),
    "horizontal": say("horizontal slots"),
    "through": say("through-axle holes"),
}
AXLES = {"": say("not noted"), "quick": "quick-release", "nuts": "nuts", "through": "through-axle"}
TYRES = {"": say("not noted"), "tubed": say("with tube"), "tubeless": "tubeless", "glued": "glued"}


@dataclass(frozen=True)
class BikeFacts:
    """What decides the list. `axle_torque_nm` is the maker's figure, None where it is not known."""

    brake: str
    rear: bool
    dropout: str = ""
    axle: str = ""
    axle_torque_nm: float | None = None
    tyre: str = ""
    directional: bool = False
    hub_gear: bool = False
    with_bike: bool = True

    def __post_init__(self) -> None:
        for field, value, known in (
            ("dropout", self.dropout, DROPOUTS),
            ("axle", self.axle, AXLES),
            ("tyre", self.tyre, TYRES),
        ):
            if value not in known:
                raise BadBike(say("“{value}” is not on the list", value=value[:40]), field)
        if self.axle_torque_nm is not None and not 1 <= self.axle_torque_nm <= 80:
            raise BadBike(
                say("a torque of {axle_torque_nm:g} N·m cannot be; expected 1 to 80", axle_torque_nm=self.axle_torque_nm),
                "axle_torque_nm",
            )


@dataclass(frozen=True)
class Step:
    """One step: key, what to do, and whether the wheel must not leave with it undone or not right."""

    key: str
    text: str
    must: bool = True


def refit_steps(bike: BikeFacts) -> tuple[Step, ...]:
    """The steps in the order of work. A wheel that came alone gets only what can be done on the stand."""
    if not bike.with_bike:
        return (
            *_wheel_alone(bike),
            Step("tell_fitter", say("Tell who fits it: axle home, clamp or torque by the maker, spin, brake test.")),
        )
    steps = [*_wheel_alone(bike)]
    if bike.directional:
        steps.append(Step("direction", say("The tyre's arrow points the way it runs, seen from the right.")))
    if bike.brake == "disc":
        steps.append(Step("rotor_clean", say("No oil and no finger on the rotor; pads clean.")))
    steps.append(Step("axle_home", _axle_home(bike)))
    steps.append(Step("clamped", _clamped(bike)))
    if bike.rear and bike.hub_gear:
        steps.append(Step("reaction_arm", say("Reaction arm or keyed washers in place, gear cable set.")))
    elif bike.rear:
        steps.append(Step("chain", say("Chain on, runs through all gears, clear of the spokes.")))
    steps.append(Step("brake", _brake(bike)))
    steps.append(Step("spin", say("Spin it: no rub, no tick, tyre line even, rim clear of frame and pads.")))
    steps.append(Step("play", say("Push the rim sideways: no knock.")))
    steps.append(
        Step("test_ride", say("Short ride: brake hard twice, listen, look again; spokes and axle still firm."), must=False)
    )
    return tuple(steps)


def _wheel_alone(bike: BikeFacts) -> list[Step]:
    steps = [Step("spoke_ends", say("No spoke end stands proud of its nipple; tape lies flat over every hole."))]
    if bike.tyre == "tubeless":
        steps.append(Step("tyre", say("Tape tight, beads seated all round, holds pressure for ten minutes.")))
    elif bike.tyre == "glued":
        steps.append(Step("tyre", say("Glued by its own procedure and left to set: cannot be rolled off by hand.")))
    else:
        steps.append(Step("tyre", say("Tube not nipped, valve straight, moulded line even, to pressure.")))
    return steps


def _axle_home(bike: BikeFacts) -> str:
    if bike.dropout == "through" or bike.axle == "through":
        return say("Hub faces home in both dropouts, axle greased and threaded by hand first.")
    if bike.dropout == "horizontal":
        return say("Axle even in both slots, rim midway between the stays, chain tension right; stop screws alike.")
    return say("Bike on the ground, axle home at the top of both slots, ends not proud of the dropouts.")


def _clamped(bike: BikeFacts) -> str:
    figure = (
        say("{axle_torque_nm:g} N·m (maker's figure)", axle_torque_nm=bike.axle_torque_nm)
        if bike.axle_torque_nm is not None
        else say("the maker's torque: look it up")
    )
    if bike.axle == "through":
        return say("Axle to {figure}.", figure=figure)
    if bike.axle == "nuts":
        return say("Washers as found, both nuts by turns to {figure}.", figure=figure)
    return say("Lever closes firmly from halfway and leaves its mark on the palm; it lies where nothing catches it.")


def _brake(bike: BikeFacts) -> str:
    if bike.brake == "disc":
        return say("Rotor runs free in the caliper, bites at once; pump the lever before the ride.")
    if bike.brake == "hub":
        return say("Brake arm fixed, cable on, bites at half the lever's way.")
    return say("Pads meet the rim squarely and together, clear of the tyre; release closed again.")


@dataclass(frozen=True)
class Recheck:
    """When to look again: days from handing back, and why."""

    days: int
    why: str


def recheck_after(use: str, new_spokes: bool, temporary: bool) -> Recheck:
    """The first re-check. Common practice, no source: new spokes settle, heavy loads ask for an early look."""
    if temporary:
        return Recheck(2, say("A temporary repair is temporary: into a workshop at once."))
    heavy = use in ("cargo", "tandem")
    if new_spokes:
        return Recheck(
            14 if heavy else 30, say("New spokes settle") + (say("; heavily loaded wheels sooner.") if heavy else ".")
        )
    if heavy:
        return Recheck(60, say("Electric, cargo and tandem wheels are loaded more: check again early."))
    return Recheck(180, say("As with any wheel in daily use."))
