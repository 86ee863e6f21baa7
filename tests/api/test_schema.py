"""Requests drawn from the OpenAPI description by Schemathesis, as each role: no fault, and every answer as described.

Paths name real rows, so that a request gets past the door. What a request does is undone: each meets the same shop.
"""

from __future__ import annotations

import os
import warnings
from typing import Any
from urllib.parse import urlencode

import schemathesis
from django.db import transaction
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis import GenerationMode

from felloe.accounts.rights import Role
from tests.api.described import DescribedClient
from tests.api.shop import person
from tests.api.test_every_path import DESCRIPTION, OPEN_TO_ALL, MadeCase, operations

#: Requests for each operation: two in a usual run, more with FELLOE_SCRAP=all (`bin/felloe test scrap`).
EXAMPLES = 40 if os.environ.get("FELLOE_SCRAP") == "all" else 2
DRAWN = settings(
    max_examples=EXAMPLES,
    deadline=None,
    database=None,
    derandomize=True,
    phases=[Phase.generate],
    suppress_health_check=list(HealthCheck),
)


class Undone(Exception):
    """Takes back what a request did."""


class AsDescribed(MadeCase):
    def setUp(self) -> None:
        super().setUp()
        self.clients: dict[str, DescribedClient] = {}
        for role in Role:
            client = self.speak_for(person(self.shop, f"draws-{role}", role))
            client.raise_request_exception = False
            self.clients[str(role)] = client

    def test_no_request_that_the_description_allows_breaks_anything(self) -> None:
        schema = schemathesis.openapi.from_path(DESCRIPTION)
        # Pictures, recordings and bundles are sent as they are: `test_every_path` and `test_raw_requests` send scrap there.
        raw = {(op.method, op.path) for op in operations() if op.content_type != "application/json"}
        walked = 0
        for number, found in enumerate(schema.get_all_operations()):
            operation = found.ok()
            # Signing in and out would change who asks.
            if (operation.method, operation.path) in OPEN_TO_ALL | raw:
                continue
            # In the long run every role sends what is allowed and what is not; in the short one each operation meets one.
            roles, modes = list(self.clients), [GenerationMode.POSITIVE, GenerationMode.NEGATIVE]
            pairs = [(role, mode) for role in roles for mode in modes]
            for role, mode in pairs if EXAMPLES > 2 else [pairs[number % len(pairs)]]:
                with self.subTest(f"{role} {operation.method} {operation.path} {mode.value}"):
                    self.draw(operation, mode, self.clients[role])
            walked += 1
        self.assertGreater(walked, 150)

    def draw(self, operation: Any, mode: GenerationMode, client: DescribedClient) -> None:
        @DRAWN
        @given(case=operation.as_strategy(generation_mode=mode))
        def drawn(case: Any) -> None:
            self.send_drawn(client, case)

        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            drawn()

    def send_drawn(self, client: DescribedClient, case: Any) -> None:
        path = case.operation.path
        for name, value in (case.path_parameters or {}).items():
            path = path.replace(f"{{{name}}}", str(self.ids.get(name, value)).replace("/", "%2F").replace("?", "%3F"))
        query = {key: value for key, value in (case.query or {}).items() if value is not None}
        if query:
            path = f"{path}?{urlencode(query, doseq=True, errors='replace')}"
        sent = case.as_transport_kwargs(base_url="http://testserver")
        body = sent.get("data", b"")
        if "json" in sent:
            body = client._encode_json(sent["json"], "application/json")
        headers = {f"HTTP_{key.upper().replace('-', '_')}": value for key, value in (case.headers or {}).items()}
        try:
            with transaction.atomic():
                answer = client.generic(
                    case.method, path, body or b"", content_type=case.media_type or "application/json",
                    **{key: value for key, value in headers.items() if str(value).isascii()},
                )  # fmt: skip
                raise Undone
        except Undone:
            self.assertLess(answer.status_code, 500, (path, str(body)[:500]))
