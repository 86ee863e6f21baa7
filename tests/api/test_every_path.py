"""Every operation of the API, walked from its own description: who may ask, over which fence, and with what scrap.

A new operation is walked as soon as it stands in docs/formats/openapi.yaml; where its path names something that `setUp`
does not make, the walk stops and says so.
"""

from __future__ import annotations

import io
import os
import random
import uuid
from collections.abc import Iterator
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

import yaml
from django.apps import apps
from django.db import connection
from django.utils import timezone
from PIL import Image
from rest_framework.test import APIClient

from felloe.accounts.models import PinTry, SignedIn
from felloe.api.models import WriteKey
from felloe.calendar import services as calendar
from felloe.customers.models import Customer
from felloe.fleet.models import Lot, LotItem
from felloe.links import services as links
from felloe.messages.services import outbox
from felloe.practice import services as practice
from felloe.practice.models import PracticeTask
from felloe.promises.models import ShopPlay
from felloe.queue.services import places
from felloe.wheels.services.patterns import keep_pattern
from tests.api.shop import BenchCase, person
from tests.api.test_stock import SPOKE

DESCRIPTION = Path(__file__).resolve().parents[2] / "docs" / "formats" / "openapi.yaml"
WRITES = ("post", "put", "patch", "delete")
OURS = {
    "accounts",
    "customers",
    "wheels",
    "queue",
    "condition",
    "instruments",
    "bench",
    "stock",
    "building",
    "repair",
    "records",
    "calendar",
    "promises",
    "links",
    "messages",
    "fleet",
    "practice",
    "signing",
    "upkeep",
    "trail",
    "privacy",
    "portable",
}
# What an address asks for besides its ids.
QUERY = {
    "/api/v1/reading-sets/{set_id}/history": "?kind=tension&spoke=R1",
    "/api/v1/jobs/{job_id}/letter": "?kind=status",
    "/api/v1/changes": "?of=settings",
    "/api/v1/practice/lesson": "?of=lump",
    "/api/v1/bundles/underway": "?underway=00000000-0000-4000-8000-000000000001",
}
# Asked before anybody is signed in.
OPEN_TO_ALL = {
    *((method, "/api/v1/session") for method in ("get", "post", "delete")),
    *((method, "/api/v1/session/new-password") for method in ("post", "put")),
}
SCRAP: list[Any] = [
    None, True, -1, 1e308, 10**30, "", "x" * 5000, "nul\x00", "nan", [[]], {"a": [1]}, [None], ["R1", "R1"], str(uuid.uuid4()),
]  # fmt: skip


#: So many scraps a field gets in a usual run.
FEW = 3


class Operation(NamedTuple):
    method: str
    path: str
    fields: tuple[str, ...]
    required: tuple[str, ...]
    # "application/json", or what is sent as it is: a picture, a recording, a file.
    content_type: str


@cache
def description() -> Any:
    return yaml.load(DESCRIPTION.read_text(), Loader=getattr(yaml, "CSafeLoader", yaml.SafeLoader))


def _type(content: dict[str, Any]) -> str:
    return "application/json" if not content or "application/json" in content else next(iter(content))


def operations() -> Iterator[Operation]:
    for path, methods in description()["paths"].items():
        for method, said in methods.items():
            if method not in ("get", *WRITES):
                continue
            content = said.get("requestBody", {}).get("content", {})
            schema: Any = next((c["schema"] for c in content.values()), {})
            if "$ref" in schema:
                schema = description()["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
            fields, needed = tuple(schema.get("properties", ())), tuple(schema.get("required", ()))
            yield Operation(method, path, fields, needed, _type(content))


def rows() -> dict[str, int]:
    """How many rows each table holds, but for sessions, write keys and what looking leaves: nothing is half-saved."""
    models = [
        m
        for m in apps.get_models()
        if m not in (WriteKey, PinTry, SignedIn, ShopPlay) and m._meta.app_label.split(".")[0] in OURS
    ]
    with connection.cursor() as cursor:
        cursor.execute(" UNION ALL ".join(f"SELECT '{m._meta.label}', count(*) FROM {m._meta.db_table}" for m in models))
        return dict(cursor.fetchall())


class MadeCase(BenchCase):
    """With one of everything that an address may name."""

    def setUp(self) -> None:
        super().setUp()
        for i in range(1, 19, 3):
            for side, tension in (("R", 1000), ("L", 482)):
                self.read("tension", f"{side}{i}", tension + 20 * i)
                self.read("lateral", f"{side}{i}", 0.1 * (i % 4))
        self.counted: dict[str, int] = {}
        job, made = f"jobs/{self.job.pk}", f"reading-sets/{self.set}"
        plan = self.post(f"{made}/plans", {}).json()
        part = self.post("stock/parts", SPOKE).json()["id"]
        lines = [{"part": part, "count": 5}]
        order = self.post("stock/orders", {"supplier": "Quay Supply", "lines": lines}).json()["orders"][0]
        lump = {"kind": "lateral", "first": "R3", "last": "R5", "height_mm": 0.5, "toward": "R"}
        trace = self.post(f"{made}/lumps", lump).json()
        marks = self.post(f"{job}/marks", {"kind": "dent", "spoke": "R4", "measure_mm": 1.0}).json()
        breaks = self.post(f"{job}/breaks", {"spoke": "R5", "place": "elbow"}).json()
        absence = calendar.add_absence(self.bram, self.ines.pk, {"first_day": date(2099, 1, 1), "last_day": date(2099, 1, 2)})
        self.ids = {
            "absence_id": absence.absences[0].id,
            "place_id": places.add_place(self.bram, "hook", "Nail by the door").pk,
            "pattern_id": uuid.UUID(keep_pattern(self.bram, self.job.wheel_id, {"name": "One"}).key.removeprefix("own-")),
            "person_id": self.ines.pk,
            "session_id": SignedIn.objects.create(person=self.ines, session_key="x" * 40, seen_at=timezone.now()).pk,
            "job_id": self.job.pk,
            "wheel_id": self.job.wheel_id,
            "bike_id": self.job.wheel.bike_id,
            "customer_id": self.job.wheel.bike.customer_id,
            "set_id": self.set,
            "plan_id": plan["id"],
            "spoke": plan["moves"][0]["spoke"],
            "instrument_id": self.meter,
            "part_id": part,
            "order_id": order["id"],
            "photo_id": self.photo(job),
            "mark_id": marks["marks"][0]["id"],
            "break_id": breaks["breaks"][0]["id"],
            "trace_id": trace["id"],
            "link_id": links.ask_by_link(self.bram, self.job.pk, []).pk,
            "message_id": self.letter(),
            "lot_id": self.lot(),
            "run_id": practice.begin(self.bram, {"exercise": "one-lump", "kind": "", "anew": False}).pk,
            "task_id": self.task(),
        }

    def letter(self) -> Any:
        Customer.objects.filter(pk=self.job.wheel.bike.customer_id).update(email="wen@example.org")
        return outbox.write(self.bram, self.job.pk, "status", None, "http://here").pk

    def lot(self) -> Any:
        lot = Lot.objects.create(shop=self.shop, name="Ferry bikes", customer_id=self.job.wheel.bike.customer_id)
        LotItem.objects.create(shop=self.shop, lot=lot, job=self.job, place=1, asset_number="F1")
        return lot.pk

    def task(self) -> Any:
        return PracticeTask.objects.create(shop=self.shop, created_by=self.bram, person=self.ines, exercise="one-hop").pk

    def photo(self, job: str) -> str:
        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "grey").save(picture, "JPEG")
        sent = self.client.post(f"/api/v1/{job}/photos", picture.getvalue(), content_type="image/jpeg")
        return str(sent.json()["id"])

    def address(self, operation: Operation, ids: dict[str, Any] | None = None) -> str:
        return operation.path.format(**(ids or self.ids)) + QUERY.get(operation.path, "")

    def send(self, client: APIClient, operation: Operation, address: str, body: Any = None) -> Any:
        if operation.method == "get":
            return client.get(address)
        call = getattr(client, operation.method)
        if operation.content_type != "application/json":
            return call(address, repr(body).encode(), content_type=operation.content_type)
        return call(address, body, format="json")


class Everything(MadeCase):
    def test_nobody_is_told_or_may_write_anything_before_signing_in(self) -> None:
        before = rows()
        for operation in operations():
            if (operation.method, operation.path) in OPEN_TO_ALL:
                continue
            with self.subTest(f"{operation.method} {operation.path}"):
                response = self.send(APIClient(), operation, self.address(operation), {})
                self.assertProblem(response, 403, "not_signed_in")
        self.assertEqual(rows(), before)

    def test_another_shop_finds_nothing_behind_any_id(self) -> None:
        stranger = self.speak_for(person(self.elsewhere, "their-owner", "owner"))
        before = rows()
        walked = 0
        for operation in operations():
            if "{" not in operation.path:
                continue
            with self.subTest(f"{operation.method} {operation.path}"):
                response = self.send(stranger, operation, self.address(operation), {})
                # A write may first be told that its body is wrong; that tells nothing of what stands behind the id.
                allowed = (404,) if operation.method == "get" else (400, 404, 422)
                self.assertIn(response.status_code, allowed, response.content[:200])
                unknown = {name: uuid.uuid4() for name in self.ids}
                nothing = self.send(stranger, operation, self.address(operation, unknown), {})
                self.assertEqual(nothing.status_code, response.status_code)
                walked += 1
        self.assertGreater(walked, 80)
        self.assertEqual(rows(), before)

    def test_an_id_that_stands_nowhere_is_not_found(self) -> None:
        unknown = {name: uuid.uuid4() for name in self.ids}
        for operation in operations():
            if operation.method != "get" or "{" not in operation.path:
                continue
            with self.subTest(operation.path):
                self.assertEqual(self.client.get(self.address(operation, unknown)).status_code, 404)

    def test_no_body_of_scrap_breaks_anything_or_saves_a_part_of_itself(self) -> None:
        self.client.raise_request_exception = False
        self.counted = rows()
        for operation in operations():
            if operation.method not in WRITES:
                continue
            for body in ([], "scrap", 7, {}, {"unknown": 1}):
                self.scrap(operation, body, repr(body))

    def test_no_field_of_scrap_breaks_anything_or_saves_a_part_of_itself(self) -> None:
        self.client.raise_request_exception = False
        self.counted = rows()
        for operation in operations():
            if operation.method not in WRITES:
                continue
            for field in operation.fields:
                for scrap in self.scraps_for(f"{operation.method} {operation.path} {field}"):
                    self.scrap(operation, {**dict.fromkeys(operation.required, 1), field: scrap}, f"{field}={scrap!r:.40}")

    def scraps_for(self, place: str) -> list[Any]:
        """All scraps with FELLOE_SCRAP=all (`bin/felloe test scrap`), else the same few every time for a place."""
        if os.environ.get("FELLOE_SCRAP") == "all":
            return SCRAP
        return random.Random(place).sample(SCRAP, FEW)

    def scrap(self, operation: Operation, body: Any, told: str) -> None:
        if (operation.method, operation.path) in OPEN_TO_ALL:
            return
        response = self.send(self.client, operation, self.address(operation), body)
        before, self.counted = self.counted, rows()
        if response.status_code < 400:
            return
        with self.subTest(f"{operation.method} {operation.path} {told}"):
            self.assertLess(response.status_code, 500)
            self.assertEqual(response["Content-Type"], "application/problem+json")
            self.assertTrue(response.json()["detail"])
            self.assertEqual(self.counted, before)
