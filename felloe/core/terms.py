"""Words of the trade that stand for a key of a table when they are put into a sentence."""

from __future__ import annotations

from felloe.core.said import say

TERMS: dict[str, str] = {
    "aluminium": say("aluminium"),
    "alloy": say("alloy"),
    "brass": say("brass"),
    "carbon": say("carbon"),
    "composite": say("composite"),
    "steel": say("steel"),
    "titanium": say("titanium"),
    "stainless": say("stainless"),
    "stainless_steel": say("stainless steel"),
    "as_left": say("readings as left"),
    "sureness": say("sureness"),
    "highest_tension": say("highest tension"),
    "mean_tension": say("mean tension"),
    "lateral": say("lateral"),
    "dish": say("dish"),
    "tension": say("tension"),
    "leading": say("leading"),
    "trailing": say("trailing"),
    "radial": say("radial"),
    "inward": say("inward"),
    "outward": say("outward"),
    "in": say("in"),
    "out": say("out"),
    "inside": say("inside"),
    "outside": say("outside"),
    "left": say("left"),
    "right": say("right"),
    "front": say("front"),
    "rear": say("rear"),
    "plain": say("plain"),
    "double_butted": say("double-butted"),
    "bladed": say("bladed"),
    "spoke": say("spoke"),
    "nipple": say("nipple"),
    "washer": say("washer"),
    "rim": say("rim"),
    "hub": say("hub"),
}


def term(key: str) -> str:
    """The word for a key; a key without one as plain text, since it may be the shop's own."""
    return TERMS.get(key) or key.replace("_", " ")
