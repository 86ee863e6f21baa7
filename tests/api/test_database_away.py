"""A database that does not answer is said as that, with when to come again: never a fault, nor a refusal of what was sent."""

from __future__ import annotations

from unittest import mock

import psycopg
from django.db import OperationalError
from django.db.backends.postgresql.base import DatabaseWrapper
from django.test import TransactionTestCase
from rest_framework.test import APIClient

from felloe.accounts.models import Shop
from felloe.queue.models import Job
from tests.api.shop import open_job, person


class DatabaseAway(TransactionTestCase):
    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here")
        self.bram = person(self.shop, "bram")
        self.job = open_job(self.bram)
        self.client = APIClient(raise_request_exception=False)
        self.client.force_login(self.bram, "felloe.accounts.backend.ShopBackend")

    def write(self):
        at = f"/api/v1/jobs/{self.job.pk}/reading-sets"
        return self.client.post(at, {"stage": "as_found"}, format="json", HTTP_IDEMPOTENCY_KEY="k")

    def assertAway(self, answer) -> None:
        self.assertEqual(answer.status_code, 503, answer.content)
        self.assertEqual(answer.json()["type"], "urn:felloe:problem:database_away")
        self.assertEqual((answer["Retry-After"], answer["X-Felloe"]), ("2", "1"))

    def test_no_connection_can_be_made(self) -> None:
        refused = OperationalError("connection refused")
        refused.__cause__ = psycopg.OperationalError("connection refused")
        with mock.patch.object(DatabaseWrapper, "ensure_connection", side_effect=refused):
            self.assertAway(self.write())
            self.assertAway(self.client.get("/api/v1/rail"))
        self.assertEqual(self.write().status_code, 201)

    def test_the_server_ends_the_connection_in_the_middle_and_the_same_key_does_it_once(self) -> None:
        """As when the primary is killed: the write's own connection is ended by the server before it commits."""
        commit = DatabaseWrapper._commit

        def killed(this) -> None:
            given = {name: value for name, value in this.get_connection_params().items() if name in DSN}
            with psycopg.connect(**given, autocommit=True) as other:
                other.execute("SELECT pg_terminate_backend(%s, 5000)", [this.connection.info.backend_pid])
            commit(this)

        with mock.patch.object(DatabaseWrapper, "_commit", killed):
            self.assertAway(self.write())
        self.assertEqual(Job.objects.get(pk=self.job.pk).reading_sets.count(), 0)
        self.assertEqual(self.write().status_code, 201)
        self.assertEqual(self.write().headers["Idempotent-Replay"], "true")
        self.assertEqual(Job.objects.get(pk=self.job.pk).reading_sets.count(), 1)

    def test_a_primary_that_has_become_a_standby(self) -> None:
        def read_only(this) -> None:
            this.connection.execute("SET TRANSACTION READ ONLY")

        begin = DatabaseWrapper._set_autocommit

        def set_autocommit(this, autocommit) -> None:
            begin(this, autocommit)
            if not autocommit:
                read_only(this)

        with mock.patch.object(DatabaseWrapper, "_set_autocommit", set_autocommit):
            self.assertAway(self.write())

    def test_a_statement_that_is_simply_wrong_stays_a_fault(self) -> None:
        wrong = OperationalError("deadlock")
        wrong.__cause__ = psycopg.errors.DeadlockDetected("deadlock detected")
        with mock.patch("felloe.bench.services.readings.open_set", side_effect=wrong):
            self.assertEqual(self.write().status_code, 500)


DSN = ("host", "port", "user", "password", "dbname")
