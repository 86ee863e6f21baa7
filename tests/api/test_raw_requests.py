"""Bytes that no page of Felloe's would send: each ends as a problem document, none as a fault, and nothing of it is kept."""

from __future__ import annotations

from typing import Any
from urllib.parse import quote

from rest_framework.test import APIClient

from tests.api.test_every_path import WRITES, MadeCase, Operation, description, operations, rows

DEEP = 100_000
#: Whole bodies, whatever is asked for.
BODIES = {
    "lists within lists": b"[" * DEEP,
    "objects within objects": b'{"a":' * DEEP,
    "lists that close": b"[" * DEEP + b"]" * DEEP,
    "no number": b"NaN",
    "no text": b"\xff\xfe{}",
    "half a character": b'"\\ud800"',
}
#: A value for every field at once, as it stands in the body.
VALUES = {
    "10^400": b"1" + b"0" * 400,
    "1e400": b"1e400",
    "-1e308": b"-1e308",
    "half a character": b'"\\ud800"',
    "nul": b'"a\\u0000b"',
    "a raised two": '"²"'.encode(),
    "deep": b"[" * 500 + b"]" * 500,
}
ASKED = {
    "nul": "%00",
    "half a character": "%ED%A0%80",
    "no text": "%FF",
    "word": "abc",
    "long": "9" * 400,
    "nothing": "",
    "raised": quote("²"),
}


class Raw(MadeCase):
    maxDiff = None

    def setUp(self) -> None:
        super().setUp()
        self.client.raise_request_exception = False
        self.amiss: list[str] = []

    def look(self, what: str, response: Any) -> None:
        kind = response.headers.get("Content-Type", "")
        if response.status_code >= 500:
            self.amiss.append(f"{what}: {response.status_code}")
        elif response.status_code >= 400 and not kind.startswith("application/problem+json"):
            self.amiss.append(f"{what}: {response.status_code} as {kind}")

    def raw(self, operation: Operation, body: bytes, content_type: str) -> Any:
        return self.client.generic(operation.method.upper(), self.address(operation), body, content_type=content_type)

    def writes(self) -> list[Operation]:
        return [o for o in operations() if o.method in WRITES and (o.path, o.method) != ("/api/v1/session", "delete")]

    def test_bodies(self) -> None:
        before = rows()
        for operation in self.writes():
            # What takes no body is done whatever stands there.
            for name, body in BODIES.items() if operation.fields else ():
                self.look(f"{operation.method} {operation.path}, {name}", self.raw(operation, body, "application/json"))
        grown = {table: (before[table], count) for table, count in rows().items() if count != before[table]}
        self.assertEqual((self.amiss, grown), ([], {}))
        # No body at all: enough for some, so only that it ends well.
        for operation in self.writes():
            self.look(f"{operation.method} {operation.path}, nothing", self.raw(operation, b"", "application/json"))
        self.assertEqual(self.amiss, [])

    def test_values(self) -> None:
        for operation in self.writes():
            if operation.content_type != "application/json":
                continue
            for name, value in VALUES.items():
                body = b"{" + b",".join(b'"%s":%s' % (field.encode(), value) for field in operation.fields) + b"}"
                self.look(f"{operation.method} {operation.path}, {name}", self.raw(operation, body, "application/json"))
        self.assertEqual(self.amiss, [])

    def test_other_kinds_of_body(self) -> None:
        for operation in self.writes():
            for kind in ("multipart/form-data", "text/plain", "application/xml", "", "application/json; charset=klingon"):
                self.look(f"{operation.method} {operation.path} as “{kind}”", self.raw(operation, b"a=1", kind))
        self.assertEqual(self.amiss, [])

    def test_what_is_asked_behind_the_question_mark(self) -> None:
        for operation in operations():
            said = description()["paths"][operation.path][operation.method].get("parameters", [])
            names = [parameter["name"] for parameter in said if parameter["in"] == "query"]
            for name, value in ASKED.items():
                if not names or operation.method not in ("get", *WRITES):
                    continue
                path = operation.path.format(**self.ids) + "?" + "&".join(f"{each}={value}" for each in names)
                self.look(f"{operation.method} {operation.path}, {name}", self.client.generic(operation.method.upper(), path))
        self.assertEqual(self.amiss, [])

    def test_before_anybody_is_signed_in(self) -> None:
        for name, body in BODIES.items():
            answer = APIClient(raise_request_exception=False).post("/api/v1/session", body, content_type="application/json")
            self.look(f"signing in, {name}", answer)
            self.assertIn(answer.status_code, (400, 422), name)
        self.assertEqual(self.amiss, [])

    def test_addresses(self) -> None:
        for path in ("/api/v1/jobs/%00", "/api/v1/%ED%A0%80", "/w/%00", "/w/%FF/report.pdf", "/api/v1/jobs/" + "9" * 5000):
            self.look(path, self.client.get(path)) if path.startswith("/api/") else self.assertLess(
                self.client.get(path).status_code, 500, path
            )
        self.assertEqual(self.amiss, [])
