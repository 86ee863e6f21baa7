"""A small shop for API tests: staff, a bike, a wheel, a meter, a job, and clients that speak for people."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction
from django.test import TestCase

from felloe.accounts.models import Shop, User
from felloe.bench.services import readings
from felloe.core.record import table_to_dict
from felloe.core.specification import wheel_to_dict
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.demo.meters import BENCH_METER, CHARTS
from felloe.instruments.services import instruments
from felloe.queue import services as queue
from felloe.queue.models import Job
from tests.api.described import DescribedClient

REAR = "rim-brake-rear-36"
SMALL_KIND = "small-front-20"
#: Whole figures, so that a sum can be done in the head.
PRICES = {
    "labour_hour": 6000,
    "spoke": 150,
    "nipple": 50,
    "washer": 20,
    "rim": 4500,
    "rim_tape": 400,
    "hub_parts": 1800,
    "axle": 2200,
}


def specification(kind: str = REAR) -> dict[str, Any]:
    return wheel_to_dict(WHEEL_KINDS[kind].wheel)


def person(shop: Shop, username: str, role: str = "mechanic") -> User:
    user = User(username=username, first_name=username.title(), shop=shop, role=role)
    user.set_password("a long password")
    user.save()
    return user


def job_values(kind: str = REAR, **change: Any) -> dict[str, Any]:
    return {
        "customer": {"name": "Invented Customer"},
        "bike": {"label": "Invented bike", "brake": "rim"},
        "wheel": {"position": WHEEL_KINDS[kind].position, "kind": kind, "specification": specification(kind)},
        "complaint": "rubs",
        **change,
    }


def open_job(user: User, kind: str = REAR, **change: Any) -> Job:
    """A job as of the counter; a promise of any time, as if it had been given when it was still to come."""
    promised_at = change.pop("promised_at", None)
    job = queue.open_job(user, job_values(kind, **change))
    if promised_at is not None:
        Job.objects.filter(pk=job.pk).update(promised_at=promised_at)
        job.promised_at = promised_at
    return job


def bench_meter(user: User) -> str:
    tables = [table_to_dict(table) for table in CHARTS[BENCH_METER]]
    return str(instruments.add_instrument(user, {"name": BENCH_METER, "tables": tables}).pk)


class ShopCase(TestCase):
    """Two shops, so that every test can look over the fence."""

    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here", prices_minor=PRICES)
        self.elsewhere = Shop.objects.create(name="Elsewhere", prices_minor=PRICES)
        self.bram = person(self.shop, "bram")
        self.ines = person(self.shop, "ines")
        self.stranger = person(self.elsewhere, "stranger")
        self.client = self.speak_for(self.bram)  # type: ignore[assignment]

    def speak_for(self, user: User) -> DescribedClient:
        client = DescribedClient()
        client.force_login(user)
        return client

    def post(self, path: str, body: Any, key: str = "", client: DescribedClient | None = None) -> Any:
        headers = {"HTTP_IDEMPOTENCY_KEY": key} if key else {}
        return (client or self.client).post(f"/api/v1/{path}", body, format="json", **headers)

    def refuses(self, path: str, body: Any, code: str, field: str | None = None) -> None:
        """A POST that the trade's rules refuse, at its field."""
        self.assertProblem(self.post(path, body), 422, code, field)

    def put(self, path: str, body: Any, client: DescribedClient | None = None) -> Any:
        return (client or self.client).put(f"/api/v1/{path}", body, format="json")

    def patch(self, path: str, body: Any, client: DescribedClient | None = None) -> Any:
        return (client or self.client).patch(f"/api/v1/{path}", body, format="json")

    def get(self, path: str, client: DescribedClient | None = None) -> Any:
        return (client or self.client).get(f"/api/v1/{path}")

    def assertProblem(self, response: Any, status: int, code: str, field: str | None = None) -> None:
        self.assertEqual(response.status_code, status, response.content[:300])
        self.assertEqual(response["Content-Type"], "application/problem+json")
        body = response.json()
        self.assertEqual(body["type"], f"urn:felloe:problem:{code}", body)
        self.assertEqual(body["status"], status)
        self.assertTrue(body["detail"])
        if field is not None:
            self.assertIn(field, [e["field"] for e in body["errors"]])

    def agree_and_refit(self, job: Job, client: DescribedClient | None = None) -> None:
        """What else a wheel needs to leave: the customer's word, and every step back into the bike right."""
        said = {
            "outcome": "approved",
            "chosen": ["true"],
            "by_whom": "Invented Customer",
            "how": "counter",
            "warning": "Do not ride it as it is.",
        }
        made = self.post(f"jobs/{job.pk}/decisions", said, client=client)
        assert made.status_code == 201, made.content
        for step in self.get(f"jobs/{job.pk}/refit", client).json()["steps"]:
            self.post(f"jobs/{job.pk}/refit", {"step": step["key"], "result": "right"}, client=client)


class BenchCase(ShopCase):
    """With a job, a meter and an open set of readings."""

    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram)
        self.meter = bench_meter(self.bram)
        self.set = self.open_set()

    def open_set(self, stage: str = "as_found") -> str:
        return str(self.post(f"jobs/{self.job.pk}/reading-sets", {"stage": stage}).json()["id"])

    def read(self, kind: str, spoke: str, value: float, unit: str = "", **more: Any) -> Any:
        unit = unit or ("N" if kind == "tension" else "mm")
        return self.post(
            f"reading-sets/{self.set}/readings", {"kind": kind, "spoke": spoke, "value": value, "unit": unit, **more}
        )

    def read_all(self, tension_right: float = 1000, tension_left: float = 482, lump_mm: float = 0.0) -> None:
        """Every place of the set: even tensions, a lateral lump at R9, no hop, no dish.

        By the services that a reading and a record go through, all at once: a hundred requests would tell nothing more.
        """
        entered: list[dict[str, Any]] = []
        for i in range(1, 19):
            for side, tension in (("R", tension_right), ("L", tension_left)):
                # A left hole lies half a step after the right one of its number.
                near = max(0.0, 1 - abs(i + (0.5 if side == "L" else 0.0) - 9) / 3)
                spoke, lateral = f"{side}{i}", round(lump_mm * near, 2)
                entered.append({"kind": "tension", "spoke": spoke, "value": tension, "unit": "N"})
                entered.append({"kind": "lateral", "spoke": spoke, "value": lateral, "unit": "mm"})
                entered.append({"kind": "radial", "spoke": spoke, "value": 0.0, "unit": "mm"})
        reader = User.objects.get(pk=self.client.session["_auth_user_id"])
        with transaction.atomic():
            reading_set = readings.set_for_work(reader, UUID(self.set))
            wheel = readings.wheel_of(reading_set)
            kept = [(values, readings.stored_reading(reader, wheel, values)) for values in entered]
            rows = [readings.Recorded(v["kind"], k.spoke, k.value, k.sd, v) for v, k in kept]
            readings.append_recorded(reader, reading_set, rows)
        self.post(f"reading-sets/{self.set}/readings", {"kind": "dish", "method": "gauge", "gap_mm": 0, "gap_side": "R"})
