"""The second lock: where a filter by shop was forgotten, the database itself gives nothing of another shop."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest.mock import patch
from uuid import UUID

from django.db import DatabaseError, connection, transaction
from django.test import Client, TransactionTestCase
from django.utils import timezone

from felloe.accounts import fence
from felloe.accounts.models import Shop, SignedIn, User
from felloe.customers.models import Customer
from felloe.links import services as links
from felloe.links.models import CustomerLink
from felloe.links.services.links import token_of
from felloe.queue import services as queue
from felloe.queue.models import Job, JobEvent, JobFind
from felloe.queue.services import find
from felloe.stock.models import Part
from tests.api.shop import ShopCase, open_job, person


def role() -> str:
    with connection.cursor() as cursor:
        cursor.execute("SELECT current_user")
        return str(cursor.fetchone()[0])


class Tables(ShopCase):
    def test_every_table_of_a_shop_is_fenced(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT DISTINCT table_name FROM information_schema.columns WHERE table_schema = 'public'"
                " AND column_name IN ('shop_id', 'shop_pk') AND table_name IN (SELECT tablename FROM pg_tables)"
            )
            owned = {row[0] for row in cursor.fetchall()} | {"accounts_shop"}
            cursor.execute(
                "SELECT tablename FROM pg_policies JOIN pg_class ON relname = tablename"
                " WHERE relrowsecurity AND roles = '{felloe_fenced}' AND cmd = 'ALL'"
            )
            fenced = {row[0] for row in cursor.fetchall()}
        self.assertGreater(len(owned), 50)
        self.assertEqual(owned - fenced, set())

    def test_every_model_of_ours_is_fenced_or_holds_nothing_of_a_shop(self) -> None:
        from django.apps import apps

        with connection.cursor() as cursor:
            cursor.execute("SELECT tablename FROM pg_policies")
            fenced = {row[0] for row in cursor.fetchall()}
        ours = {m._meta.db_table for m in apps.get_models() if m.__module__.startswith("felloe.")}
        # Runs of the backup are the installation's; visits that found no link are nobody's.
        self.assertEqual(ours - fenced, {"upkeep_backuprun", "links_strangevisit"})


class Forgotten(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.mine, self.theirs = open_job(self.bram), open_job(self.stranger)

    def test_a_question_without_a_filter_finds_only_ones_own(self) -> None:
        self.assertEqual(Job.objects.count(), 2)
        for shop, job in ((self.shop, self.mine), (self.elsewhere, self.theirs)):
            with fence.within(shop.pk):
                self.assertEqual(list(Job.objects.all()), [job])
                self.assertEqual({e.job_id for e in JobEvent.objects.all()}, {job.pk})
                self.assertEqual({u.shop_id for u in User.objects.all()}, {shop.pk})
                self.assertEqual(list(Shop.objects.all()), [shop])
                with connection.cursor() as cursor:
                    cursor.execute("SELECT count(*) FROM queue_job")
                    self.assertEqual(cursor.fetchone()[0], 1)

    def test_a_change_without_a_filter_changes_only_ones_own(self) -> None:
        with fence.within(self.shop.pk):
            self.assertEqual(Job.objects.update(complaint="squeaks"), 1)
            self.assertEqual(Customer.objects.filter(pk=self.theirs.wheel.bike.customer_id).update(name="Taken over"), 0)
        self.theirs.refresh_from_db()
        self.assertEqual(self.theirs.complaint, "rubs")

    def test_a_row_cannot_be_put_into_another_shop_nor_moved_there(self) -> None:
        with fence.within(self.shop.pk):
            with self.assertRaises(DatabaseError), transaction.atomic():
                Part.objects.create(shop=self.elsewhere, kind="tape", name="Tape", attributes={"width_mm": 21})
            with self.assertRaises(DatabaseError), transaction.atomic():
                Customer.objects.update(shop=self.elsewhere)

    def test_in_the_role_with_no_shop_said_there_is_nothing(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"SET ROLE {fence.ROLE}")
            try:
                self.assertEqual((Job.objects.count(), User.objects.count(), Shop.objects.count()), (0, 0, 0))
            finally:
                cursor.execute("RESET ROLE")

    def test_rows_of_a_person_go_with_the_persons_shop(self) -> None:
        for who in (self.bram, self.stranger):
            SignedIn.objects.create(person=who, session_key=who.username, seen_at=self.mine.created_at)
        with fence.within(self.shop.pk):
            self.assertEqual([row.person_id for row in SignedIn.objects.all()], [self.bram.pk])

    def test_an_operation_that_forgot_its_filter_finds_nothing(self) -> None:
        def forgetful(user: User, job_id: UUID, lock: bool = False) -> Job:
            found = Job.objects.filter(pk=job_id).select_related("wheel__bike__customer", "assigned_to", "hook").first()
            if found is None:
                from django.http import Http404

                raise Http404
            return found

        self.assertEqual(self.get(f"jobs/{self.mine.pk}").status_code, 200)
        for name in ("felloe.queue.services.find_job", "felloe.queue.services.jobs.find_job"):
            patched = patch(name, forgetful)
            patched.start()
            self.addCleanup(patched.stop)
        self.assertEqual(queue.find_job(self.bram, self.theirs.pk), self.theirs, "forgetful indeed")
        self.assertProblem(self.get(f"jobs/{self.theirs.pk}"), 404, "not_found")

    def test_the_search_looks_outside_for_its_index_and_fetches_within(self) -> None:
        """Within the fence a trigram's index would lie idle. What a search without its filter found is not shown."""
        seen: list[str] = []
        ordered = find._ordered

        def looked(rows: Any, text: str) -> Any:
            seen.append(role())
            return ordered(JobFind.objects.all(), text)

        with patch.object(find, "_ordered", looked), fence.within(self.shop.pk):
            self.assertEqual(find.find(self.bram, "invented"), [self.mine])
            self.assertEqual(role(), fence.ROLE)
        self.assertEqual(seen, ["felloe"])
        with patch.object(find, "_ordered", looked):
            self.assertEqual(len(find._fitting(self.bram, ["invented"], "invented")), 2, "forgetful indeed")

    def test_a_customers_page_stands_within_the_shop_of_its_link(self) -> None:
        link = CustomerLink.objects.create(
            shop=self.shop, job=self.mine, language="en", created_by=self.bram, expires_at=timezone.now() + timedelta(days=1)
        )
        seen: list[Any] = []

        def look(link: CustomerLink, wrote: bool) -> None:
            seen.append((fence.shop_in_force(), role(), Job.objects.count()))

        with patch.object(links, "visit", look):
            self.assertEqual(Client().get(f"/w/{token_of(link)}").status_code, 200)
        self.assertEqual(seen, [(self.shop.pk, fence.ROLE, 1)])


class Ways(ShopCase):
    def test_nested_and_broken_the_outer_one_comes_back(self) -> None:
        self.assertEqual(role(), "felloe")
        with fence.within(self.shop.pk):
            with self.assertRaises(ZeroDivisionError), fence.within(self.elsewhere.pk):
                self.assertEqual(Shop.objects.get(), self.elsewhere)
                raise ZeroDivisionError
            self.assertEqual(Shop.objects.get(), self.shop)
        self.assertEqual((role(), fence.shop_in_force()), ("felloe", None))

    def test_a_failed_statement_within_ends_as_itself(self) -> None:
        with self.assertRaises(DatabaseError) as failed, transaction.atomic(), fence.within(self.shop.pk):
            with connection.cursor() as cursor:
                cursor.execute("SELECT 1 / 0")
        self.assertIn("division by zero", str(failed.exception))
        self.assertEqual(role(), "felloe")

    def test_after_a_request_the_connection_is_as_it_was(self) -> None:
        for path in ("rail", "jobs/00000000-0000-4000-8000-000000000000", "nowhere"):
            self.get(path)
            self.assertEqual(role(), "felloe", path)
        self.refuses("stock/parts", {"kind": "spoke", "name": "S", "attributes": {"length_mm": 2}}, "bad_part")
        self.assertEqual(role(), "felloe")


class Lost(TransactionTestCase):
    def test_a_connection_that_is_made_anew_within_begins_within(self) -> None:
        here, there = Shop.objects.create(name="Here"), Shop.objects.create(name="There")
        person(here, "bram")
        person(there, "ines")
        with fence.within(here.pk):
            connection.close()
            self.assertEqual([u.username for u in User.objects.all()], ["bram"])
            self.assertEqual(role(), fence.ROLE)
            connection.close()
        self.assertEqual((role(), User.objects.count()), ("felloe", 2))
