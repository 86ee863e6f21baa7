"""The pseudo-language: the same words in letters of nowhere, placeholders untouched."""

from __future__ import annotations

import re

PSEUDO = "en-xa"
_FROM = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
_INTO = "ȧƀƈḓḗƒɠħīĵķŀḿƞǿƥɋřşŧŭṽẇẋẏẑȦƁƇḒḖƑƓĦĪĴĶĿḾȠǾƤɊŘŞŦŬṼẆẊẎẐ"
_LETTERS = str.maketrans(_FROM, _INTO)


def foreign(template: str) -> str:
    """Every letter of a template outside its placeholders made foreign."""
    return "".join(part if part.startswith("{") else part.translate(_LETTERS) for part in re.split(r"(\{[^{}]*\})", template))
