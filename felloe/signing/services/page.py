"""The page that checks a report: one file that ships with Felloe, here with a shop's keys in it."""

from __future__ import annotations

import json
from pathlib import Path

from django.contrib.staticfiles import finders

from felloe.accounts.models import User
from felloe.signing.services.keys import keys_of

#: What the built page holds where the keys go.
SLOT = "<!--keys-->"
NAME = "check-report.html"


def checking_page(user: User) -> str:
    """The page as one file, with the shop's name, its keys, and how those ended that are not in use any more."""
    found = keys_of(user)
    known = {
        "shop": found.shop,
        "keys": [
            {
                "key": key.key,
                "since": key.since.isoformat(timespec="seconds"),
                "ended_at": key.ended_at.isoformat(timespec="seconds") if key.ended_at else None,
                "ended_as": key.ended_as,
            }
            for key in found.keys
        ],
    }
    # Inside a script element only "<" can end it early.
    data = json.dumps(known, ensure_ascii=False).replace("<", "\\u003c")
    text = Path(str(finders.find(NAME))).read_text(encoding="utf-8")
    return text.replace(SLOT, f'<script type="application/json" id="keys">{data}</script>')
