"""Answers of the API are frozen dataclasses; their serializers, and with them OpenAPI and the page's types, are derived."""

from __future__ import annotations

from dataclasses import fields, is_dataclass
from functools import cache
from typing import Any, ClassVar

from rest_framework.serializers import ChoiceField
from rest_framework_dataclasses.serializers import DataclassSerializer

_FIGURES = (str, int, float)
_PLAIN = (*_FIGURES, type(None))
_KNOWN: dict[type, type[AnswerSerializer]] = {}


# Derives its fields from the dataclass named in Meta; a field declared by hand (a list of keys that grows, a row of the
# database) goes before. A dataclass inside another is shown by the serializer that was declared for it, where there is one.
# No docstring: OpenAPI would say it of every answer.
class AnswerSerializer(DataclassSerializer[Any]):
    answer: ClassVar[type]

    def __init_subclass__(cls, **kwargs: Any) -> None:
        super().__init_subclass__(**kwargs)
        meta = getattr(cls, "Meta", None)
        if meta is not None:
            cls.answer = meta.dataclass
            _KNOWN[cls.answer] = cls
            # The answer's own words describe it in OpenAPI; one that a dataclass writes for itself says nothing.
            said = cls.answer.__doc__ or ""
            cls.__doc__ = None if said.startswith(f"{cls.answer.__name__}(") else said

    def build_dataclass_field(self, field_name: str, type_info: Any) -> Any:
        found = _KNOWN.get(type_info.base_type)
        if found is None:
            return super().build_dataclass_field(field_name, type_info)
        return found, {"many": True} if type_info.is_many else {}

    def to_representation(self, instance: Any) -> dict[str, Any]:
        # The types were checked before it ran, so an answer goes out as it is: a field object for each of a wheel's
        # hundreds of figures took twice as long as working them out. Rows of the database, and what was kept as JSON, are read
        # by the fields.
        if isinstance(instance, dict) or _shows_rows(type(self)):
            shown: dict[str, Any] = super().to_representation(instance)
            return shown
        return {name: _plain(getattr(instance, name)) for name in _names(self.answer)}


@cache
def _names(answer: type) -> tuple[str, ...]:
    return tuple(field.name for field in fields(answer))


@cache
def _shows_rows(kind: type[AnswerSerializer]) -> bool:
    return any(not isinstance(field, ChoiceField) for field in kind._declared_fields.values())


@cache
def _shower(kind: type[AnswerSerializer]) -> AnswerSerializer:
    # Its fields are made once: they only read, and know nothing of who asks.
    return kind()


def shown(answer: Any) -> Any:
    """An answer, or a list of them, as it goes out."""
    return _plain(answer)


def _plain(value: Any) -> Any:
    if isinstance(value, _PLAIN):
        return value
    if isinstance(value, list | tuple):
        # What begins with a figure is figures; what begins with nothing may hold anything.
        return list(value) if value and isinstance(value[0], _FIGURES) else [_plain(item) for item in value]
    if isinstance(value, dict):
        return {key: _plain(item) for key, item in value.items()}
    if is_dataclass(value) and not isinstance(value, type):
        known = _KNOWN.get(type(value))
        if known is not None and _shows_rows(known):
            return _shower(known).to_representation(value)
        shown = {}
        for name in _names(type(value)):
            item = getattr(value, name)
            shown[name] = item if isinstance(item, _PLAIN) else _plain(item)
        return shown
    return value
