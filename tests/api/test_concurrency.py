"""Many hands at once on a real PostgreSQL: nothing doubled, nothing lost."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from django.db import connection
from django.test import TransactionTestCase
from django.utils import timezone
from rest_framework.test import APIClient

from felloe.accounts.models import Shop
from felloe.bench.models import Reading
from felloe.queue.models import Job, WorkSpan
from tests.api.shop import job_values, open_job, person


def at_once(calls: list[Callable[[], Any]]) -> list[Any]:
    """Run the calls in threads that start together; each closes its own connection."""
    gate = threading.Barrier(len(calls))
    found: list[Any] = [None] * len(calls)

    def run(i: int) -> None:
        gate.wait()
        try:
            found[i] = calls[i]()
        finally:
            connection.close()

    threads = [threading.Thread(target=run, args=(i,)) for i in range(len(calls))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return found


class AtOnce(TransactionTestCase):
    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here")
        self.bram = person(self.shop, "bram")

    def client_of(self) -> APIClient:
        client = APIClient()
        client.force_login(self.bram)
        return client

    def test_job_numbers_are_given_once(self) -> None:
        clients = [self.client_of() for _ in range(6)]
        answers = at_once([lambda c=c: c.post("/api/v1/jobs", job_values(), format="json").status_code for c in clients])
        self.assertEqual(answers, [201] * 6)
        self.assertEqual(sorted(Job.objects.values_list("number", flat=True)), list(range(101, 107)))

    def test_one_place_read_by_many_gets_a_revision_each(self) -> None:
        job = open_job(self.bram)
        made = self.client_of().post(f"/api/v1/jobs/{job.pk}/reading-sets", {"stage": "as_found"}, format="json").json()["id"]
        clients = [self.client_of() for _ in range(8)]

        def save(client: APIClient, value: int) -> int:
            body = {"kind": "tension", "spoke": "R1", "value": value, "unit": "N"}
            return client.post(f"/api/v1/reading-sets/{made}/readings", body, format="json").status_code

        self.assertEqual(at_once([lambda c=c, i=i: save(c, 900 + i) for i, c in enumerate(clients)]), [201] * 8)
        self.assertEqual(sorted(Reading.objects.values_list("revision", flat=True)), list(range(1, 9)))

    def test_one_person_at_two_tablets_has_one_wheel_in_hand(self) -> None:
        """Two wheels taken up, or worked on, in one moment: one after the other, and nobody is answered with a fault."""
        jobs = [open_job(self.bram) for _ in range(6)]
        clients = [self.client_of() for _ in jobs]
        answers = at_once(
            [
                lambda c=c, j=j: c.post(f"/api/v1/jobs/{j.pk}/take-up", {}, format="json").status_code
                for c, j in zip(clients, jobs, strict=True)
            ]
        )
        self.assertEqual(answers, [200] * len(jobs))
        self.assertEqual(WorkSpan.objects.filter(ended_at=None).count(), 1)
        WorkSpan.objects.update(ended_at=timezone.now(), ended="put_down")
        mark = {"kind": "dent", "spoke": "R4", "measure_mm": 1.0}
        answers = at_once(
            [
                lambda c=c, j=j: c.post(f"/api/v1/jobs/{j.pk}/marks", mark, format="json").status_code
                for c, j in zip(clients, jobs, strict=True)
            ]
        )
        self.assertEqual(answers, [200] * len(jobs))
        self.assertEqual(WorkSpan.objects.filter(ended_at=None).count(), 1)

    def test_the_same_key_sent_by_many_writes_once(self) -> None:
        clients = [self.client_of() for _ in range(5)]

        def open_one(client: APIClient) -> str:
            return client.post("/api/v1/jobs", job_values(), format="json", HTTP_IDEMPOTENCY_KEY="one").json()["id"]

        self.assertEqual(len(set(at_once([lambda c=c: open_one(c) for c in clients]))), 1)
        self.assertEqual(Job.objects.count(), 1)

    def test_of_two_changes_one_is_told(self) -> None:
        job = open_job(self.bram)
        clients = [self.client_of() for _ in range(2)]

        def change(client: APIClient, tier: str) -> int:
            return client.patch(f"/api/v1/jobs/{job.pk}", {"version": 1, "tier": tier}, format="json").status_code

        answers = at_once([lambda: change(clients[0], "fine"), lambda: change(clients[1], "race")])
        self.assertEqual(sorted(answers), [200, 409])
