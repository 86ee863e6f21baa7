"""What is read to a customer on the telephone before they agree: price, tier, day, warning, and three digits to repeat."""

from __future__ import annotations

import hashlib
import hmac
from dataclasses import dataclass

from felloe.core.said import say
from felloe.core.truing.tiers import Tier

#: What a tier means, to somebody who does not true wheels.
TIER_PLAIN = {
    "roadworthy": say("It will run safely; you may still see it move a little."),
    "sound": say("It will run straight and hold its tension."),
    "fine": say("It will run very straight, with even spokes."),
    "race": say("It will be as straight and even as can be made."),
}


def plain_words(tier: Tier, own: str = "") -> str:
    """What a tier means to its customer: the shop's own words, else those of the usual tier that it keeps inside."""
    return say("{words}", words=own.strip()) if own.strip() else TIER_PLAIN[tier.kin]


@dataclass(frozen=True)
class Asked:
    """What is asked of the customer; all as it is said, `ready`, `warning` and `digits` empty where there is none."""

    shop: str
    number: int
    bike: str
    what: str
    price: str
    tier_plain: str
    ready: str
    warning: str
    digits: str


def consent_words(asked: Asked) -> list[str]:
    """The script, sentence by sentence. What was agreed to is printed in the same words."""
    lines: list[str] = [
        say(
            "This is {shop}, about the wheel of your {bike}, tag {number}.",
            shop=asked.shop,
            bike=asked.bike,
            number=asked.number,
        ),
        say("We propose: {what}.", what=asked.what),
        say("That costs {price}, with all taxes.", price=asked.price),
        asked.tier_plain,
        say("It will be ready by {ready}.", ready=asked.ready) if asked.ready else say("We will tell you the day."),
    ]
    if asked.warning:
        lines.append(say("Please note: {warning}", warning=asked.warning))
    if asked.digits:
        lines.append(say("If you agree, please repeat these three digits: {digits}.", digits=" ".join(asked.digits)))
    return lines


def consent_digits(secret: bytes, *about: object) -> str:
    """Three digits for exactly this question: another price, tier or job has others, so that they cannot be kept."""
    said = "\x1f".join(map(str, about)).encode()
    return f"{int.from_bytes(hmac.new(secret, said, hashlib.sha256).digest()[:8]) % 1000:03}"
