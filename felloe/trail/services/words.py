"""What columns and leaves are called, and how values read."""

from __future__ import annotations

from typing import Any

from felloe.core.said import joined, say
from felloe.core.terms import TERMS

FIELDS: dict[str, str] = {
    "name": say("name"),
    "address": say("address"),
    "phone": say("telephone"),
    "email": say("e-mail"),
    "currency": say("currency"),
    "prices_minor": say("price"),
    "cuts_spokes": say("spoke machine"),
    "unfetched_days": say("days until a wheel counts as not fetched"),
    "reopen_days": say("days in which a job is taken up again"),
    "tax_basis_points": say("tax, hundredths of a per cent"),
    "tax_included": say("prices hold the tax"),
    "time_zone": say("time zone"),
    "promise_line_percent": say("promise from a chance of, %"),
    "interrupted_percent": say("share of other work, %"),
    "letter_texts": say("own words under letters"),
    "tag_text": say("own words on tags"),
    "keep_photos_months": say("months that photos are kept"),
    "keep_letters_months": say("months that letters are kept"),
    "keep_customers_months": say("months that names are kept"),
    "username": say("name to sign in with"),
    "code": say("short name at the sign-in"),
    "suspended_at": say("suspended"),
    "most_staff": say("people at most"),
    "most_open_jobs": say("open jobs at most"),
    "most_photo_mb": say("MB of photos at most"),
    "one_person": say("the same person in several shops"),
    "first_name": say("first name"),
    "last_name": say("last name"),
    "is_active": say("works here"),
    "role": say("role"),
    "force_unit": say("unit of force"),
    "skills": say("skills"),
    "password": say("password"),
    "pin": say("digits"),
    "kind": say("kind"),
    "in_use": say("in use"),
    "lateral_mm": say("lateral, mm"),
    "radial_mm": say("radial, mm"),
    "dish_mm": say("dish, mm"),
    "tension_percent": say("tension, ± %"),
    "plain": say("in plain words"),
    "weekday": say("weekday"),
    "starts": say("from"),
    "ends": say("to"),
    "day": say("day"),
    "first_day": say("first day"),
    "last_day": say("last day"),
    "why": say("why"),
    "withdrawn_at": say("taken back"),
    "position": say("position"),
    "asset_number": say("owner's number"),
    "measured": say("measured itself"),
    "specification": say("dimensions"),
    "uncertainty_mm": say("uncertainty, mm"),
    "bin": say("bin"),
    "supplier": say("supplier"),
    "supplier_code": say("supplier's code"),
    "minimum": say("minimum"),
    "pack": say("pack"),
    "lead_days": say("days of delivery"),
    "price_minor": say("price"),
    "attributes": say("what it is"),
    "owner": say("whose"),
    "serial": say("serial number"),
    "use": say("use"),
    "check_every_days": say("days between checks"),
    "prefers": say("prefers"),
    "language": say("language"),
    "note": say("note"),
    "label": say("called"),
    "brake": say("brake"),
    "dropout": say("dropout"),
    "axle": say("axle"),
    "axle_torque_nm": say("axle torque, N·m"),
    "tyre": say("tyre"),
    "directional": say("tyre with a direction"),
}
TOPIC_WORDS: dict[str, str] = {
    "wheel": say("wheel"),
    "part": say("part"),
    "shop": say("shop"),
    "person": say("person"),
    "place": say("stand or hook"),
    "tier": say("tier"),
    "open": say("opening hours"),
    "closed": say("closed day"),
    "shift": say("shift"),
    "absence": say("absence"),
    "instrument": say("instrument"),
    "customer": say("customer"),
    "bike": say("bike"),
}
_DAYS = (
    say("Monday"),
    say("Tuesday"),
    say("Wednesday"),
    say("Thursday"),
    say("Friday"),
    say("Saturday"),
    say("Sunday"),
)
#: What the trigger writes for what nobody may read.
HIDDEN = "•"
#: Whole hundredths of a currency.
_MONEY = ("prices_minor", "price_minor")


def called(column: str, path: str) -> str:
    """A leaf's name: its column, and where it lies within it."""
    name = FIELDS.get(column, column.replace("_", " "))
    return say("{what} {name}", what=name, name=path.replace("_", " ").replace(".", " ")) if path else name


def shown(column: str, value: Any) -> str:
    """A value as people read it."""
    if value is None or value == "":
        return say("none")
    if value == HIDDEN:
        return say("not shown")
    if isinstance(value, bool):
        return say("yes") if value else say("no")
    if column == "weekday" and isinstance(value, int) and 0 <= value < len(_DAYS):
        return _DAYS[value]
    if column in _MONEY and isinstance(value, int):
        return say("{amount:.2f}", amount=value / 100)
    if isinstance(value, int | float):
        return say("{number:g}", number=value)
    if isinstance(value, list):
        return joined(", ", [shown(column, item) for item in value]) if value else say("none")
    if isinstance(value, dict):
        return say("{count} entries", count=len(value)) if value else say("none")
    return TERMS.get(str(value)) or say("“{words}”", words=str(value).replace("_", " "))
