"""Finds English prose in an answer of the API that is no message, and so could never be said in another language."""

from __future__ import annotations

import re
from typing import Any

from felloe.core.said import Said

#: Where an answer holds what people typed, or names of things that are theirs.
TYPED = {
    "fingerprint",
    "bike", "by_whom", "caption", "changed_by", "complaint", "customer", "how", "instrument", "label", "name", "note", "reason",
    "despite", "shop",
    "supplier", "by", "yours", "current", "display_name", "meter", "sources", "warning", "letter_subject", "letter_text",
    "plain", "own_text", "tag_text", "device",
}  # fmt: skip
PROSE = re.compile(r"[A-Za-z]{2,}[,;:.]? [a-zA-Z]{2,}")
#: What goes into a message as it was typed, or is a name.
GIVEN_AS_TYPED = {"instrument", "meter", "name", "part", "label", "by_whom", "warning", "what", "message", "customer", "words"}


def unsaid(answer: Any, key: str = "") -> list[str]:
    """Prose outside of messages, and prose put into one as plain text."""
    if isinstance(answer, Said):
        parts = [(name, value) for name, value in answer.given.items() if isinstance(value, str) and name not in GIVEN_AS_TYPED]
        return [found for name, value in parts for found in unsaid(value, name)]
    if isinstance(answer, str):
        return [f"{key}: {answer}"] if key not in TYPED and PROSE.search(answer) and not key.startswith("part") else []
    if isinstance(answer, dict) and key == "letter_texts":
        return []
    if isinstance(answer, dict):
        return [found for name, value in answer.items() for found in unsaid(value, str(name))]
    if isinstance(answer, list | tuple):
        return [found for value in answer for found in unsaid(value, key)]
    return []
