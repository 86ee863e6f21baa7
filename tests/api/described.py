"""A client that holds every answer of the API against its description in docs/formats/openapi.yaml."""

from __future__ import annotations

import gzip
import json
import re
from functools import cache
from pathlib import Path
from typing import Any

import brotli
import yaml
from jsonschema import Draft202012Validator
from rest_framework.test import APIClient

from tests.api.unsaid import unsaid

DESCRIPTION = Path(__file__).resolve().parents[2] / "docs" / "formats" / "openapi.yaml"
PROBLEM = {
    "type": "object",
    "required": ["type", "title", "status", "detail"],
    "properties": {"type": {"type": "string", "pattern": "^urn:felloe:problem:"}, "status": {"type": "integer"}},
}


def as_json_schema(said: Any) -> Any:
    """OpenAPI 3.0's own words in those of JSON Schema: what may be null, and where the components stand."""
    if isinstance(said, list):
        return [as_json_schema(item) for item in said]
    if not isinstance(said, dict):
        return said
    # "One of": an empty text fits an e-mail address as well once formats are left out.
    renamed = {"oneOf": "anyOf"}
    schema = {
        renamed.get(key, key): as_json_schema(value)
        for key, value in said.items()
        if key not in ("nullable", "readOnly", "format")
    }
    return {"anyOf": [schema, {"type": "null"}]} if said.get("nullable") else schema


@cache
def description() -> Any:
    return yaml.load(DESCRIPTION.read_text(), Loader=getattr(yaml, "CSafeLoader", yaml.SafeLoader))


@cache
def components() -> Any:
    return as_json_schema(description()["components"])


@cache
def operations() -> list[tuple[re.Pattern[str], Any]]:
    """Addresses as patterns, each with its methods; one with fewer blanks comes first."""
    paths = sorted(description()["paths"].items(), key=lambda item: item[0].count("{"))
    return [(re.compile("^" + re.sub(r"\{\w+\}", "[^/]+", path) + "$"), methods) for path, methods in paths]


@cache
def validator(pattern: str, method: str, status: str) -> Draft202012Validator | None:
    """For the JSON of one answer; None where it has none. AssertionError for an answer that is not described."""
    methods = next(said for known, said in operations() if known.pattern == pattern)
    answers = methods[method]["responses"]
    assert status in answers, f"{method} {pattern} answers {status}, which is not described: {sorted(answers)}"
    content = answers[status].get("content", {}).get("application/json")
    if content is None:
        return None
    return Draft202012Validator({**as_json_schema(content["schema"]), "components": components()})


def check(method: str, path: str, response: Any) -> None:
    found = next(((known, said) for known, said in operations() if known.match(path)), None)
    if found is None or response.streaming or "json" not in response.get("Content-Type", ""):
        return
    if response.status_code >= 400:
        Draft202012Validator(PROBLEM).validate(json.loads(response.content))
        return
    known = validator(found[0].pattern, method, str(response.status_code))
    if known is not None:
        unpacked = {"gzip": gzip.decompress, "br": brotli.decompress}.get(response.get("Content-Encoding", ""), bytes)
        content = unpacked(response.content)
        error = next(iter(known.iter_errors(json.loads(content))), None)
        assert error is None, f"{method} {path}: {error.json_path if error else ''}: {error.message[:300] if error else ''}"


def check_said(path: str, response: Any) -> None:
    """What Django and the REST framework say of a wrong shape comes from their catalogues; a record is data."""
    answer = getattr(response, "data", None)
    if isinstance(answer, dict) and answer.get("title"):
        answer = {key: value for key, value in answer.items() if key != "title"}
        if answer["type"] in ("urn:felloe:problem:invalid_input", "urn:felloe:problem:parse_error"):
            return
    if path.endswith("/entries") and isinstance(answer, dict):
        shapes = [one for one in answer.get("results", []) if (one["refusal"] or {}).get("code") != "invalid_input"]
        answer = {**answer, "results": shapes}
    found = [] if path.endswith("/record") else unsaid(answer)
    assert not found, f"{path} says in plain English, not with say(): {found}"


class DescribedClient(APIClient):
    def generic(self, method: str, path: str, *args: Any, **kwargs: Any) -> Any:
        response = super().generic(method, path, *args, **kwargs)
        check(method.lower(), path.split("?")[0], response)
        check_said(path, response)
        return response
