"""Wheels as they come in, told by their symptoms: what the customer says, what the wheel is, and what each check would find.

Written from the trade's side, cause by cause, each with the side findings that such a wheel shows (common practice, no source);
no figure of the table of chances was looked at while a case was written or afterwards to fit one. `facts` are what is known of
the bike. Answers that are not named are those of a sound wheel.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from felloe.core.diagnosis.history import WheelFacts

RIM, DISC, HUB = WheelFacts(brake="rim"), WheelFacts(brake="disc"), WheelFacts(brake="hub")
RIM_FRONT = WheelFacts(brake="rim", front=True)
THROUGH = WheelFacts(brake="disc", axle="through")
THROUGH_FRONT = WheelFacts(brake="disc", axle="through", front=True)
NUTS = WheelFacts(brake="hub", axle="nuts")


@dataclass(frozen=True)
class Told:
    """One wheel: complaints, its true cause, what differs from a sound wheel, and what is known of the bike."""

    complaints: tuple[str, ...]
    cause: str
    finds: dict[str, str] = field(default_factory=dict)
    facts: WheelFacts = RIM


MORE: tuple[Told, ...] = (
    # Not seated, or held wrongly.
    Told(("rubs",), "axle_not_home", {"drops_in": "yes", "where_rubs": "round", "pads_alike": "middle"}),
    Told(("off_side", "rubs"), "axle_not_home", {"drops_in": "yes", "where_rubs": "round", "flip": "stays"}, NUTS),
    Told(("check",), "axle_not_home", {"drops_in": "yes", "where_rubs": "round"}, RIM_FRONT),
    Told(("off_side",), "stop_screws", {"stop_screws": "unequal", "where_rubs": "round"}),
    Told(("off_side",), "hanger_overlap", {"slot_hidden": "yes", "where_rubs": "round", "flip": "stays"}, DISC),
    Told(("creaks", "off_side"), "axle_ends_proud", {"ends_proud": "yes", "clamp_firm": "loose"}),
    Told(("rubs", "off_side"), "axle_ends_proud", {"ends_proud": "yes", "where_rubs": "round"}),
    Told(("creaks",), "clamp_loose", {"clamp_firm": "loose", "play": "knocks"}, NUTS),
    Told(("off_side",), "clamp_loose", {"clamp_firm": "loose", "drops_in": "yes", "where_rubs": "round"}, NUTS),
    Told(("creaks",), "clamp_loose", {"clamp_firm": "loose"}, THROUGH),
    # The hub.
    Told(("rubs", "creaks"), "bearing_play", {"play": "knocks", "where_rubs": "once"}),
    Told(("check",), "bearing_play", {"play": "knocks", "bearing_feel": "rough"}, THROUGH_FRONT),
    Told(("hit",), "bearing_play", {"play": "knocks"}, DISC),
    Told(("creaks",), "bearing_play", {"play": "knocks", "rotor": "wobbles"}, DISC),
    Told(("creaks",), "bearing_rough", {"bearing_feel": "rough"}, NUTS),
    Told(("check",), "bearing_rough", {"bearing_feel": "rough"}, THROUGH),
    Told(("hit", "rubs"), "axle_bent", {"axle_turns": "circle", "where_rubs": "round", "bearing_feel": "rough"}, RIM),
    Told(("hit", "hops"), "axle_bent", {"axle_turns": "circle", "hop": "wave", "bearing_feel": "rough"}),
    Told(("off_side",), "axle_bent", {"axle_turns": "circle", "where_rubs": "round", "flip": "changes"}),
    Told(("off_side", "rubs"), "axle_bent", {"axle_turns": "circle", "where_rubs": "round", "flip": "changes",
                                                   "bearing_feel": "rough"}),
    Told(("creaks", "rubs"), "axle_broken", {"play": "knocks", "axle_turns": "pulls", "where_rubs": "round"}),
    Told(("off_side",), "axle_broken", {"play": "knocks", "axle_turns": "pulls", "where_rubs": "round", "flip": "changes"}),
    # Dish, spacers, frame.
    Told(("off_side",), "off_dish", {"flip": "changes", "where_rubs": "round", "pads_alike": "disc"}, DISC),
    Told(("rubs",), "off_dish", {"flip": "changes", "where_rubs": "round", "pads_alike": "middle"}, RIM_FRONT),
    Told(("check", "off_side"), "off_dish", {"flip": "changes", "where_rubs": "round"}),
    Told(("off_side", "rubs"), "spacers", {"flip": "changes", "where_rubs": "round", "hub_was_apart": "yes"}, NUTS),
    Told(("off_side",), "spacers", {"flip": "changes", "where_rubs": "round", "hub_was_apart": "yes"}, DISC),
    Told(("off_side",), "frame", {"flip": "stays", "where_rubs": "round"}, DISC),
    Told(("hit", "off_side"), "frame", {"flip": "stays", "where_rubs": "round", "pads_alike": "middle"}, RIM_FRONT),
    # The rim and its truth.
    Told(("rubs",), "lateral_untrue", {"where_rubs": "once", "pads_alike": "middle"}, RIM_FRONT),
    Told(("rubs",), "lateral_untrue", {"where_rubs": "once", "pads_alike": "disc"}, DISC),
    Told(("check",), "lateral_untrue", {"where_rubs": "once"}, HUB),
    Told(("loose_spokes", "rubs"), "lateral_untrue", {"where_rubs": "once"}),
    Told(("hops",), "radial_untrue", {"hop": "wave"}, DISC),
    Told(("hops", "check"), "radial_untrue", {"hop": "wave"}, RIM_FRONT),
    Told(("hit", "hops"), "rim_bent", {"where_rubs": "once", "hop": "wave", "tension_there": "yes", "spokes_by_hand": "one"}),
    Told(("rubs",), "rim_bent", {"where_rubs": "once", "tension_there": "yes", "hop": "wave"}, DISC),
    Told(("hit", "hops"), "rim_dent", {"hop": "one", "rim_surface": "dent"}, RIM_FRONT),
    Told(("hit", "rubs"), "rim_dent", {"hop": "one", "rim_surface": "dent", "where_rubs": "once"}),
    Told(("hops", "rubs"), "rim_dent", {"hop": "one", "rim_surface": "dent", "where_rubs": "once"}, DISC),
    Told(("creaks", "check"), "rim_crack", {"rim_surface": "crack"}),
    Told(("broken_spoke",), "rim_crack", {"rim_surface": "crack"}, DISC),
    Told(("hit",), "rim_crack", {"rim_surface": "crack", "hop": "one"}, WheelFacts(brake="disc", marks=("bulge",))),
    Told(("check", "rubs"), "rim_worn", {"brake_track": "worn"}),
    Told(("hops",), "rim_worn", {"brake_track": "worn"}, WheelFacts(brake="rim", marks=("wear",))),
    # Spokes.
    Told(("broken_spoke", "rubs"), "broken_spoke", {"spokes_by_hand": "broken", "where_rubs": "once"}, DISC),
    Told(("creaks",), "broken_spoke", {"spokes_by_hand": "broken", "where_rubs": "once"}, NUTS),
    Told(("loose_spokes",), "broken_spoke", {"spokes_by_hand": "broken", "where_rubs": "once"},
         WheelFacts(brake="rim", breaks=2)),
    Told(("loose_spokes", "creaks"), "low_tension", {"spokes_by_hand": "all"}),
    Told(("creaks",), "low_tension", {"spokes_by_hand": "all", "squeeze": "creaks"}, NUTS),
    Told(("loose_spokes", "rubs"), "one_loose", {"spokes_by_hand": "one", "where_rubs": "once"}, DISC),
    Told(("rubs",), "one_loose", {"spokes_by_hand": "one", "where_rubs": "once"}, RIM_FRONT),
    Told(("creaks",), "settling", {"squeeze": "pings"}, THROUGH),
    Told(("creaks", "check"), "settling", {"squeeze": "pings"}, HUB),
    Told(("creaks",), "dry_crossings", {"squeeze": "creaks"}, DISC),
    Told(("check", "creaks"), "dry_crossings", {"squeeze": "creaks"}, RIM_FRONT),
    Told(("creaks",), "loose_part_in_rim", {"rattle": "yes"}, DISC),
    Told(("loose_spokes",), "loose_part_in_rim", {"rattle": "yes"}),
    # Not the wheel.
    Told(("hops",), "tyre_seat", {"tyre_line": "wanders"}, DISC),
    Told(("hops", "rubs"), "tyre_seat", {"tyre_line": "wanders"}, RIM_FRONT),
    Told(("rubs",), "brake_off_centre", {"pads_alike": "off", "where_rubs": "round"}, RIM_FRONT),
    Told(("check", "rubs"), "brake_off_centre", {"pads_alike": "off", "where_rubs": "round"}),
    Told(("rubs",), "rotor_bent", {"rotor": "wobbles"}, THROUGH_FRONT),
    Told(("rubs", "hit"), "rotor_bent", {"rotor": "wobbles"}, DISC),
    Told(("check", "rubs"), "rotor_bent", {"rotor": "wobbles", "pads_alike": "disc"}, THROUGH),
)  # fmt: skip
