"""Whole shops in another database of the same server, and questions that only read put to a standby."""

from __future__ import annotations

import io
import tempfile
from contextlib import suppress
from copy import deepcopy
from pathlib import Path
from typing import Any
from unittest import mock
from urllib.parse import urlsplit

import psycopg
from django.apps import apps
from django.core.management import CommandError, call_command
from django.db import DatabaseError, connection, connections
from django.db.models import AutoField
from django.db.transaction import TransactionManagementError
from django.test import SimpleTestCase, TransactionTestCase
from django.test.utils import CaptureQueriesContext
from procrastinate.contrib.django import app

from felloe.accounts import fence
from felloe.accounts.models import Shop, User
from felloe.accounts.services import shops as accounts
from felloe.accounts.tasks import tell_of_change
from felloe.customers.models import Customer
from felloe.links import services as links
from felloe.links.services import feeds
from felloe.live.models import LiveEvent
from felloe.places import here
from felloe.places.said import more_places
from felloe.queue.models import Job
from felloe.stock.models import Part
from felloe.upkeep.services import shops
from tests.api.described import DescribedClient
from tests.api.shop import PRICES, job_values, open_job, person

FIRST = {"ENGINE": "e", "HOST": "127.0.0.1", "PORT": "5432", "NAME": "felloe", "USER": "felloe", "PASSWORD": "first"}


class Said(SimpleTestCase):
    def test_places_are_as_the_first_but_for_where_they_are(self) -> None:
        said = "north=10.0.0.5:5433/felloe_north, north-standby=10.0.0.6:5433/felloe_north"
        made = more_places(FIRST, {"FELLOE_PLACES": said, "FELLOE_DB_PASSWORD_NORTH": "own", "FELLOE_DB_STANDBY": "copy"})
        self.assertEqual(list(made), ["north", "north-standby", "default-standby"])
        self.assertEqual(
            made["north"], {**FIRST, "HOST": "10.0.0.5", "PORT": "5433", "NAME": "felloe_north", "PASSWORD": "own"}
        )
        self.assertEqual((made["north-standby"]["HOST"], made["north-standby"]["PASSWORD"]), ("10.0.0.6", "own"))
        self.assertEqual(made["default-standby"], {**FIRST, "NAME": "copy"})
        self.assertEqual(more_places(FIRST, {}), {})

    def test_what_cannot_be_read_stops_the_server(self) -> None:
        for said in ("north", "north=x", "North=a:1/b", "default=a:1/b", "n=a:1/b,n=a:1/b", "far-standby=a:1/b", "n=a:1/b;x"):
            with self.subTest(said), self.assertRaises(ValueError):
                more_places(FIRST, {"FELLOE_PLACES": said})


class NorthCase(TransactionTestCase):
    """With a second database, “north”, which is a copy of the empty first one."""

    @classmethod
    def setUpClass(cls) -> None:
        name = connection.settings_dict["NAME"]
        cls.addClassCleanup(cls.take_away)
        connections.settings["north"] = {**deepcopy(connections.settings["default"]), "NAME": f"{name}_north"}
        connection.close()
        cls.maintain(
            f"SELECT pg_terminate_backend(pid, 5000) FROM pg_stat_activity WHERE datname = '{name}'",
            f'DROP DATABASE IF EXISTS "{name}_north"',
            f'CREATE DATABASE "{name}_north" TEMPLATE "{name}"',
        )
        # Said only now: before, there is none of that name for the runner to look at.
        cls.databases = {"default", "north"}
        super().setUpClass()

    @classmethod
    def take_away(cls) -> None:
        connections["north"].close()
        cls.maintain(f'DROP DATABASE IF EXISTS "{connection.settings_dict["NAME"]}_north" (FORCE)')
        del connections["north"]
        del connections.settings["north"]

    @staticmethod
    def maintain(*asked: str) -> None:
        given = {k: v for k, v in connection.get_connection_params().items() if k in ("host", "port", "user", "password")}
        with psycopg.connect(**given, dbname="postgres", autocommit=True) as at:
            for one in asked:
                at.execute(one)

    def setUp(self) -> None:
        self.here = Shop.objects.create(name="Here", code="here", prices_minor=PRICES)
        person(self.here, "bram")
        with here.at("north"):
            self.there = Shop.objects.create(name="There", code="there", prices_minor=PRICES)
            self.maud = person(self.there, "maud", "owner")

    def count(self, model: Any) -> tuple[int, int]:
        with here.at("north"):
            north = model.objects.count()
        return model.objects.count(), north

    def entered(self, shop: str, username: str, client: Any = None) -> Any:
        client = client or DescribedClient()
        values = {"username": username, "password": "a long password", "shop": shop}
        self.answer = client.post("/api/v1/session", values, format="json")
        return client


class Placed(NorthCase):
    def test_work_is_done_where_the_shop_is(self) -> None:
        client = self.entered("there", "maud")
        self.assertEqual(self.answer.status_code, 200, self.answer.content)
        self.assertEqual(client.cookies["felloe_place"].value, "north")
        self.assertTrue(client.cookies["felloe_place"]["httponly"])
        made = client.post("/api/v1/jobs", job_values(), format="json", HTTP_IDEMPOTENCY_KEY="once")
        self.assertEqual(made.status_code, 201, made.content)
        again = client.post("/api/v1/jobs", job_values(), format="json", HTTP_IDEMPOTENCY_KEY="once")
        self.assertEqual(again.json()["id"], made.json()["id"])
        self.assertEqual(self.count(Job), (0, 1))
        self.assertEqual(client.get("/api/v1/numbers?since=2026-03-02&until=2026-03-29").status_code, 200)
        self.assertEqual(here.place(), "default", "a request leaves its place behind it")

    def test_one_device_goes_from_a_place_to_another_and_back(self) -> None:
        client = self.entered("there", "maud")
        before = client.cookies["sessionid"].value
        self.entered("here", "bram", client)
        self.assertEqual(client.cookies["felloe_place"].value, "default")
        again = DescribedClient()
        again.cookies["sessionid"], again.cookies["felloe_place"] = before, "north"
        self.assertEqual(again.get("/api/v1/session").status_code, 403, "the session before it is over at its own place")
        self.assertEqual(client.get("/api/v1/session").json()["username"], "bram")
        self.entered("there", "maud", client)
        self.assertEqual(client.get("/api/v1/session").json()["username"], "maud")

    def test_a_session_is_somebodys_only_at_its_own_place(self) -> None:
        client = self.entered("there", "maud")
        for said in ("default", "nowhere", "north-standby", ""):
            client.cookies["felloe_place"] = said
            self.assertEqual(client.get("/api/v1/session").status_code, 403, said)

    def test_the_same_name_in_both_is_two_people_and_the_shop_is_asked_for(self) -> None:
        with here.at("north"):
            person(self.there, "bram")
        self.entered("", "bram")
        self.assertEqual(self.answer.json()["errors"][0]["code"], "shop_needed")
        client = self.entered("there", "bram")
        with here.at("north"):
            self.assertEqual(client.get("/api/v1/session").json()["id"], str(User.objects.get(username="bram").pk))

    def test_the_only_shop_of_all_places_needs_no_code(self) -> None:
        call_command("shops", "suspend", "here", stdout=io.StringIO())
        call_command("shops", "erase", "here", "--really", "here", stdout=io.StringIO())
        self.entered("", "maud")
        self.assertEqual(self.answer.status_code, 200, self.answer.content)

    def test_links_feeds_and_letters_find_their_place_and_leave_no_cookie(self) -> None:
        with here.at("north"):
            job = open_job(self.maud)
            links.ask_by_link(self.maud, job.pk, [])
            link = links.links_of(self.maud, job.pk, "http://t")[0]
            feed = feeds.renew_feed(self.maud, "http://t", True)
        for address in (link.address, feed.address):
            client = DescribedClient()
            answer = client.get(urlsplit(address).path)
            self.assertEqual(answer.status_code, 200, address)
            self.assertNotIn("felloe_place", client.cookies)
        self.assertEqual(here.place(), "default")

    def test_a_task_goes_into_the_queue_of_its_place_with_its_transaction(self) -> None:
        waiting = "SELECT count(*) FROM procrastinate_jobs WHERE task_name LIKE '%tell_of_change'"

        def queued() -> list[int]:
            found = []
            for name in ("default", "north"):
                with connections[name].cursor() as cursor:
                    cursor.execute(waiting)
                    found.append(cursor.fetchone()[0])
            return found

        before = queued()
        with here.at("north"):
            with self.assertRaises(RuntimeError), here.atomic():
                tell_of_change.defer(person_id=str(self.maud.pk), language="en")
                raise RuntimeError
            self.assertEqual(queued(), before)
            tell_of_change.defer(person_id=str(self.maud.pk), language="en")
        self.assertEqual(queued(), [before[0], before[1] + 1])
        self.assertEqual(app.connector.alias, "default")

    def test_the_fence_stands_there_too(self) -> None:
        with here.at("north"):
            other = Shop.objects.create(name="Other", code="other")
            Customer.objects.create(shop=other, name="theirs")
            Customer.objects.create(shop=self.there, name="ours")
            with fence.within(self.there.pk):
                self.assertEqual([c.name for c in Customer.objects.all()], ["ours"])

    def test_what_is_asked_for_one_shop_goes_to_no_other_place(self) -> None:
        with fence.within(self.here.pk):
            for go in (lambda: here.settle("north"), lambda: here.at("north").__enter__()):
                with self.assertRaises(RuntimeError):
                    go()
            self.assertEqual(here.place(), "default")
            with here.at("default"):
                self.assertEqual(Shop.objects.count(), 1)

    def test_in_one_piece_nothing_has_a_way_back_to_its_middle(self) -> None:
        with CaptureQueriesContext(connection) as seen, here.whole(), here.atomic():
            Shop.objects.create(name="Whole", prices_minor=PRICES)
        self.assertEqual([query["sql"].split()[0] for query in seen.captured_queries], ["BEGIN", "INSERT", "COMMIT"])
        with CaptureQueriesContext(connection) as seen, here.atomic(), here.atomic():
            pass
        self.assertTrue(any(query["sql"].startswith("SAVEPOINT") for query in seen.captured_queries))
        # Whoever goes on after a refusal keeps nothing of it.
        with self.assertRaises(TransactionManagementError), here.whole():
            Shop.objects.create(name="Before", prices_minor=PRICES)
            with suppress(LookupError), here.atomic():
                raise LookupError
            Shop.objects.create(name="After", prices_minor=PRICES)
        self.assertEqual(set(Shop.objects.values_list("name", flat=True)) & {"Whole", "Before", "After"}, {"Whole"})

    def test_a_transaction_is_opened_where_it_writes_whatever_thread_made_it(self) -> None:
        @here.atomic
        def write(fail: bool) -> None:
            Shop.objects.create(name="x", code="x")
            if fail:
                raise RuntimeError

        with here.at("north"), self.assertRaises(RuntimeError):
            write(True)
        self.assertEqual(self.count(Shop), (1, 1))
        write(False)
        self.assertEqual(self.count(Shop), (2, 1))


class Moved(NorthCase):
    def said(self, *words: str) -> str:
        out = io.StringIO()
        call_command("shops", *words, stdout=out)
        return out.getvalue()

    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(User.objects.get(username="bram"))

    def rows(self) -> dict[str, list[str]]:
        """Every row of the shop as text, by Django's models: not as the move itself compares them."""
        found: dict[str, list[str]] = {}
        for model in apps.get_models():
            fields = {field.name: field for field in model._meta.concrete_fields}
            if "shop" not in fields or not model.__module__.startswith("felloe.") or model is LiveEvent:
                continue
            named = [name for name, field in fields.items() if not isinstance(field, AutoField)]
            found[model.__name__] = sorted(str(row) for row in model._base_manager.filter(shop=self.here).values_list(*named))
        return found

    def test_all_its_rows_go_and_its_people_sign_in_there(self) -> None:
        client = self.entered("here", "bram")
        told = self.said("move", "here", "north")
        self.assertIn("equal row for row", told)
        self.assertFalse(Shop.objects.filter(code="here").exists())
        self.assertEqual(client.get("/api/v1/session").status_code, 403)
        self.entered("here", "bram", client)
        self.assertEqual(self.answer.status_code, 200, self.answer.content)
        self.assertEqual(client.get(f"/api/v1/jobs/{self.job.pk}").json()["number"], self.job.number)
        self.assertIn("here  Here: 1 people, at north", self.said("list"))
        self.said("move", "here", "default")
        self.assertTrue(Shop.objects.filter(code="here", suspended_at=None).exists())

    def test_every_row_is_as_it_was_and_what_was_suspended_stays_so(self) -> None:
        accounts.suspend("here")
        before, news = self.rows(), LiveEvent.objects.filter(shop_id=self.here.pk).count()
        self.assertGreater(news, 0)
        self.said("move", "here", "north")
        with here.at("north"):
            self.assertEqual(self.rows(), before)
            self.assertFalse(LiveEvent.objects.filter(shop_id=self.here.pk).exists(), "told again as if it were new")
            self.assertIsNotNone(Shop.objects.get(code="here").suspended_at)

    def test_broken_off_before_it_is_in_it_is_where_it_was_and_open(self) -> None:
        with mock.patch.object(shops, "import_shop", side_effect=OSError("no room")), self.assertRaises(CommandError):
            self.said("move", "here", "north")
        self.assertIsNone(Shop.objects.get(code="here").suspended_at)
        self.assertEqual(self.count(Shop), (1, 1))

    def test_broken_off_before_the_former_is_erased_it_is_ended_by_the_same_call(self) -> None:
        with mock.patch.object(shops, "erase_shop", side_effect=OSError("killed")), self.assertRaises(CommandError):
            self.said("move", "here", "north")
        self.assertEqual(self.count(Shop), (1, 2))
        self.entered("here", "bram")
        self.assertEqual(self.answer.status_code, 400, "nobody works in one of two copies")
        self.rename("Somebody else")
        with self.assertRaisesMessage(CommandError, "differs in customers_customer"):
            self.said("move", "here", "north")
        self.rename(self.job.wheel.bike.customer.name)
        self.assertIn("stays suspended", self.said("move", "here", "north"))
        self.assertEqual(self.count(Shop), (0, 2))

    def rename(self, name: str) -> None:
        """At north, without a trace in the trail."""
        with connections["north"].cursor() as cursor:
            cursor.execute("SET session_replication_role = replica")
            cursor.execute("UPDATE customers_customer SET name = %s WHERE shop_id = %s", [name, self.here.pk])
            cursor.execute("RESET session_replication_role")

    def test_it_does_not_go_where_it_is_nor_nowhere_nor_without_one_half_of_somebody(self) -> None:
        for code, to, why in (("here", "default", "already"), ("here", "south", "no place"), ("nobody", "north", "no shop")):
            with self.subTest(why), self.assertRaisesMessage(CommandError, why):
                self.said("move", code, to)
        branch = person(Shop.objects.create(name="Branch", code="branch"), "bram")
        User.objects.update(one_person=branch.pk)
        with self.assertRaisesMessage(CommandError, "bram of “here” also work"):
            self.said("move", "here", "north")
        self.assertIsNone(Shop.objects.get(code="here").suspended_at)

    def test_a_code_is_one_shops_in_all_places(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            word, out = Path(folder, "word"), Path(folder, "there.zip")
            word.write_text("a long password")
            with self.assertRaisesMessage(CommandError, "is at “north” already"):
                self.said(
                    "add", "--code=there", "--name=There", "--zone=Europe/Lisbon", "--owner=o", "--owner-name=O P",
                    f"--password-file={word}",
                )  # fmt: skip
            self.said("export", "there", str(out))
            with self.assertRaisesMessage(CommandError, "is at “north” already"):
                self.said("import", str(out))
        self.assertEqual(self.count(Shop), (1, 1))


class Standby(NorthCase):
    """The second database, by connections that only read, stands in for the standby; what it holds tells who answered."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.databases |= {"default-standby"}

    def setUp(self) -> None:
        super().setUp()
        only_reads = {"options": "-c default_transaction_read_only=on"}
        connections.settings["default-standby"] = {**connections.settings["north"], "OPTIONS": only_reads}
        self.addCleanup(self.gone)
        self.client = self.entered("here", "bram")  # type: ignore[assignment]
        self.lay("on the primary")
        with here.at("north"):
            Shop.objects.create(pk=self.here.pk, name="Here", code="here")
            self.lay("on the standby")

    def gone(self) -> None:
        connections["default-standby"].close()
        del connections["default-standby"]
        del connections.settings["default-standby"]

    def lay(self, where: str) -> None:
        for shop in Shop.objects.all():
            Part.objects.create(shop=shop, kind="tape", name=f"{shop.name} {where}", attributes={"width_mm": 21})

    def test_what_may_lag_is_asked_of_it_and_all_else_of_the_primary(self) -> None:
        lagging = self.client.get("/api/v1/stock/library.csv").content.decode()
        self.assertIn("Here on the standby", lagging)
        self.assertNotIn("primary", lagging)
        self.assertNotIn("There on the standby", lagging)
        at_once = self.client.get("/api/v1/stock").content.decode()
        self.assertIn("Here on the primary", at_once)
        self.assertNotIn("standby", at_once)

    def test_the_fence_stands_on_its_connections_whether_new_or_kept(self) -> None:
        with here.reading(), fence.within(self.here.pk):
            self.assertEqual([part.name for part in Part.objects.all()], ["Here on the standby"])
        with fence.within(self.there.pk), here.reading():
            self.assertEqual([part.name for part in Part.objects.all()], ["There on the standby"])
            connections["default-standby"].close()
            self.assertEqual([part.name for part in Part.objects.all()], ["There on the standby"])
            with fence.beyond():
                self.assertEqual(Part.objects.count(), 2)
        with here.reading():
            self.assertEqual(Part.objects.count(), 2)

    def test_whoever_only_reads_cannot_write_there_or_elsewhere(self) -> None:
        with here.reading(), self.assertRaises(RuntimeError):
            Shop.objects.create(name="x", code="x")
        with here.reading(), self.assertRaises(RuntimeError):
            Part.objects.update(minimum=3)
        with here.reading(), self.assertRaises(RuntimeError), here.atomic():
            list(Part.objects.select_for_update())
        with here.reading(), self.assertRaises(DatabaseError), here.database().cursor() as cursor:
            cursor.execute("DELETE FROM stock_part")
        self.assertEqual(self.count(Part), (1, 2))
