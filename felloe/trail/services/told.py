from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.core.leaves import leaf_changes
from felloe.core.said import say
from felloe.trail import answers
from felloe.trail.models import Change
from felloe.trail.services.words import TOPIC_WORDS, called, shown

#: What can be asked for: a thing by its row, or all of the shop's settings.
SETTINGS = ("shop", "person", "place", "tier", "open", "closed", "shift", "absence", "instrument")
TOPICS = ("settings", "wheel", "part", "customer", "bike")
MOST = 60
#: Of what was made new, these columns say what it is.
_NAMES = ("name", "username", "label", "day", "weekday", "first_day", "starts", "ends", "kind", "position")


def changes_of(user: User, topic: str, row: UUID | None = None) -> list[answers.Changed]:
    """The newest changes of a thing of this shop, or of its settings; nothing where the thing is another shop's."""
    rows = Change.objects.filter(shop_id=user.shop_id, topic__in=SETTINGS if topic == "settings" else [topic])
    if row is not None:
        rows = rows.filter(row=row)
    elif topic != "settings":
        return []
    newest = list(rows.select_related("by").order_by("-at", "-id")[: 4 * MOST])
    told = [_told(change) for change in _without_replaced(newest)]
    return [change for change in told if change.fields][:MOST]


def _without_replaced(changes: Sequence[Change]) -> list[Change]:
    """Hours are saved by taking all spans away and making all anew: what is the same before and after did not change."""
    gone: dict[tuple[object, ...], Counter[str]] = defaultdict(Counter)
    for change in changes:
        if change.deed == Change.Deed.GONE:
            gone[change.at, change.topic][_content(change, 0)] += 1
    made: dict[tuple[object, ...], Counter[str]] = defaultdict(Counter)
    kept: list[Change] = []
    for change in changes:
        if change.deed == Change.Deed.MADE and gone[change.at, change.topic][_content(change, 1)] > 0:
            gone[change.at, change.topic][_content(change, 1)] -= 1
            made[change.at, change.topic][_content(change, 1)] += 1
        else:
            kept.append(change)
    found = []
    for change in kept:
        here = made[change.at, change.topic]
        if change.deed == Change.Deed.GONE and here[_content(change, 0)] > 0:
            here[_content(change, 0)] -= 1
        else:
            found.append(change)
    return found


def _content(change: Change, side: int) -> str:
    return repr(sorted((name, repr(pair[side])) for name, pair in change.fields.items()))


def _told(change: Change) -> answers.Changed:
    fields: list[answers.ChangedField] = []
    for column, (before, after) in change.fields.items():
        if change.deed != Change.Deed.CHANGED and column not in _NAMES:
            continue
        for path, was, now in leaf_changes(before, after):
            fields.append(_field(change.deed, column, path, was, now))
    return answers.Changed(
        id=change.pk,
        topic=change.topic,
        what=TOPIC_WORDS.get(change.topic, say("{what}", what=change.topic)),
        deed=change.deed,
        at=change.at,
        by=change.by.display_name if change.by else "",
        fields=fields,
    )


def _field(deed: str, column: str, path: str, was: Any, now: Any) -> answers.ChangedField:
    return answers.ChangedField(
        what=called(column, path),
        before=shown(column, was) if deed != Change.Deed.MADE else "",
        after=shown(column, now) if deed != Change.Deed.GONE else "",
    )
