"""How the core speaks to people: an English sentence that remembers its template and what was put into it.

`say` is the only way in. What it returns is a `str`, so that whoever only wants English has it; whoever wants another
language calls `spoken` with a function that translates templates (a gettext catalogue, on the server). The template is the
message's code. Figures are named with their unit: say("{tension_n:.0f} N, above the limit", tension_n=1312.0).
"""

from __future__ import annotations

import numbers
import re
from collections.abc import Callable, Iterable, Mapping
from typing import Any, SupportsIndex

from felloe.core.units import KGF_N

#: From a template (and for counted ones its plural and the count) to the same in another language.
Translate = Callable[[str, str | None, float], str]


class Said(str):
    """A sentence as a value: `template` with `given`, the plural of it where it counts, and the changes made to the whole."""

    __slots__ = ("given", "plural", "shaped", "template")

    template: str
    given: Mapping[str, Any]
    plural: str | None
    shaped: tuple[str, ...]

    def __new__(
        cls, template: str, given: Mapping[str, Any] | None = None, plural: str | None = None, shaped: tuple[str, ...] = ()
    ) -> Said:
        given = given or {}
        said = super().__new__(cls, _shape(_fill(_english(template, plural, given), given), shaped))
        said.template, said.given, said.plural, said.shaped = template, given, plural, shaped
        return said

    def __str__(self) -> str:
        return self

    def __reduce__(self) -> tuple[Any, ...]:
        return Said, (self.template, dict(self.given), self.plural, self.shaped)

    def __deepcopy__(self, memo: object) -> Said:
        return self

    def __add__(self, other: str) -> Said:
        return joined("", [self, other])

    def __radd__(self, other: str) -> Said:
        return joined("", [other, self])

    def _as(self, shape: str) -> Said:
        return Said(self.template, self.given, self.plural, (*self.shaped, shape))

    def lower(self) -> Said:
        return self._as("lower")

    def rstrip(self, chars: str | None = None, /) -> Said:
        return self._as("bare")

    def replace(self, old: str, new: str, count: SupportsIndex = -1, /) -> str:
        raise TypeError("a message is not changed by searching in it: say another one")

    def sentence(self) -> Said:
        """As a sentence of its own: capital first, full stop last."""
        return self._as("capital")._as("stop")

    def capital(self) -> Said:
        return self._as("capital")

    @property
    def is_list(self) -> bool:
        """Whether the template is only a row of other messages, with nothing of its own to translate."""
        return not any(c.isalpha() for c in _literal(self.template))


def say(template: str, /, **given: Any) -> Said:
    """An English sentence with named parameters in the syntax of str.format. Without parameters braces mean themselves."""
    return Said(template, given)


def say_count(one: str, many: str, /, count: float, **given: Any) -> Said:
    """As `say`, in two forms by `count`, which both may name."""
    return Said(one, {"count": count, **given}, many)


def joined(between: str, parts: Iterable[str]) -> Said:
    """Messages in a row, each kept as what it is; `between` is punctuation or a word such as " and "."""
    items = list(parts)
    given: dict[str, Any] = {f"part{i}": item for i, item in enumerate(items)}
    if any(c.isalpha() for c in between):
        given["between"] = Said(between)
        return Said("{between}".join(f"{{part{i}}}" for i in range(len(items))), given)
    between = between.replace("{", "{{").replace("}", "}}")
    return Said(between.join(f"{{part{i}}}" for i in range(len(items))), given)


def sentence(text: str) -> Said:
    """A message or plain text as a sentence of its own: capital first, full stop last."""
    return joined("", [text]).sentence()


class _Figure(float):
    """A figure with another decimal mark than the point."""

    mark = ","

    def __format__(self, spec: str) -> str:
        return super().__format__(spec).replace(".", self.mark)


def spoken(
    said: str, translate: Translate, decimal: str | None = None, *, nouns_tall: bool = False, in_kgf: bool = False
) -> str:
    """A message in another language, its parts included; a plain str is data and comes back as it is.

    `decimal`: the language's decimal mark where it is not the point. `nouns_tall`: the language writes its nouns with a
    capital, so that a name put into a sentence keeps its own. `in_kgf`: forces are said in kilogram-force instead of newton.
    """
    if not isinstance(said, Said):
        return said

    def part(value: Any) -> Any:
        if isinstance(value, str):
            return spoken(value, translate, decimal, nouns_tall=nouns_tall, in_kgf=in_kgf)
        if decimal and isinstance(value, float):
            figure = _Figure(value)
            figure.mark = decimal
            return figure
        return value

    given = dict(said.given)
    template = said.template if said.is_list else translate(said.template, said.plural, float(said.given.get("count", 1)))
    if in_kgf:
        template, given = _in_kgf(template, given)
    given = {name: part(value) for name, value in given.items()}
    shaped = tuple(shape for shape in said.shaped if shape != "lower") if nouns_tall else said.shaped
    return _shape(_fill(template, given), shaped)


#: A force is named with its unit, or its unit follows it; N·m is none.
_FORCE = re.compile(r"\{(?P<name>\w+)(?P<how>:[^{}]*)?\}(?P<unit>\u00a0?\s?N\b(?!·))?")


def _in_kgf(template: str, given: Mapping[str, Any]) -> tuple[str, dict[str, Any]]:
    """The template with kgf for N and its forces in kgf, by 1 kgf = 9.80665 N (ISO 80000-4); all of a sentence or none."""
    found = dict(given)

    def force(match: re.Match[str]) -> str:
        name, how, unit = match["name"], match["how"] or "", match["unit"]
        value = given.get(name)
        if not (unit or name.endswith("_n")) or isinstance(value, str | bool) or not isinstance(value, numbers.Real):
            return match[0]
        found[name] = float(value) / KGF_N
        return "{" + name + (":.3g" if how in ("", ":g") else how) + "}" + (" kgf" if unit else "")

    return _FORCE.sub(force, template), found


def kept(value: Any) -> Any:
    """Plain values (lists, dicts, text, numbers) for storing as JSON, messages as objects; `told` is the way back."""
    if isinstance(value, Said):
        # What is nothing is left out: a plan keeps thousands of these.
        made = {
            "given": {name: _shown(v) for name, v in value.given.items()},
            "plural": value.plural,
            "shaped": list(value.shaped),
        }
        return {"say": value.template, **{name: part for name, part in made.items() if part}}
    if isinstance(value, Mapping):
        return {key: kept(v) for key, v in value.items()}
    if isinstance(value, list | tuple):
        return [kept(v) for v in value]
    if isinstance(value, numbers.Integral):
        return value if isinstance(value, bool) else int(value)
    if isinstance(value, numbers.Real):
        return float(value)
    return value


def _shown(given: Any) -> Any:
    """What is put into a sentence: none shows more digits than these."""
    found = kept(given)
    return float(f"{found:.7g}") if isinstance(found, float) else found


def told(value: Any) -> Any:
    """What `kept` stored, with its messages again."""
    if isinstance(value, dict):
        if "say" in value and value.keys() <= {"say", "given", "plural", "shaped"}:
            return Said(value["say"], told(value.get("given")), value.get("plural"), tuple(value.get("shaped", ())))
        return {key: told(v) for key, v in value.items()}
    if isinstance(value, list):
        return [told(v) for v in value]
    return value


def _english(template: str, plural: str | None, given: Mapping[str, Any]) -> str:
    return template if plural is None or given["count"] == 1 else plural


def _fill(template: str, given: Mapping[str, Any]) -> str:
    return template.format_map(given) if given else template


def _literal(template: str) -> str:
    return re.sub(r"\{[^{}]*\}", "", template)


def _shape(text: str, shaped: tuple[str, ...]) -> str:
    for shape in shaped:
        if shape == "capital":
            text = text[:1].upper() + text[1:]
        elif shape == "lower":
            text = text[:1].lower() + text[1:]
        elif shape == "bare":
            text = str.rstrip(text, "?.")
        elif shape == "stop":
            text = text if text.endswith((".", "!", "?")) else text + "."
    return text
