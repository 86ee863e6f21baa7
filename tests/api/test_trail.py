"""Who changed what: written by the database, field by field, only what differs; nobody edits it, no other shop reads it."""

from __future__ import annotations

from datetime import date, time, timedelta
from typing import Any

from django.db import DatabaseError, connection, transaction
from django.test import TransactionTestCase

from felloe.accounts.models import Shop
from felloe.calendar import services as calendar
from felloe.core.leaves import leaf_changes
from felloe.queue.models import Place
from felloe.trail.models import Change
from felloe.trail.services import changes_of
from felloe.wheels.models import Wheel
from tests.api.shop import BenchCase, person
from tests.api.test_stock import SPOKE


class Trail(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = person(self.shop, "odile", "owner")
        self.boss = self.speak_for(self.owner)

    def changes(self, of: str, row: object = "", client: Any = None) -> list[Any]:
        found: list[Any] = self.get(f"changes?of={of}" + (f"&row={row}" if row else ""), client=client).json()
        return found

    def settings(self, **change: Any) -> None:
        now = self.get("shop/settings", client=self.boss).json()
        answer = self.put("shop/settings", {**now, **change}, client=self.boss)
        self.assertEqual(answer.status_code, 200, answer.content)

    def test_only_what_differs_with_who_and_both_values(self) -> None:
        self.settings(phone="0700 1", address="1 Quay")
        self.settings(phone="0700 2", address="1 Quay")
        newest = self.changes("settings")[0]
        self.assertEqual((newest["topic"], newest["deed"], newest["by"]), ("shop", "changed", "Odile"))
        self.assertEqual(newest["fields"], [{"what": "telephone", "before": "“0700 1”", "after": "“0700 2”"}])

    def test_saving_without_a_change_leaves_no_trace(self) -> None:
        self.settings(phone="0700 1")
        before = Change.objects.count()
        self.settings(phone="0700 1")
        self.assertEqual(Change.objects.count(), before)

    def test_a_dimension_deep_in_a_wheel(self) -> None:
        wheel = Wheel.objects.get(pk=self.job.wheel_id)
        changed = {
            **wheel.specification,
            "rim": {**wheel.specification["rim"], "erd_mm": wheel.specification["rim"]["erd_mm"] + 2},
        }
        body = {"version": wheel.version, "specification": changed}
        answer = self.patch(f"wheels/{wheel.pk}", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        found = self.changes("wheel", wheel.pk)[0]
        erd = [field for field in found["fields"] if "erd mm" in field["what"]]
        self.assertEqual([field["after"] for field in erd], [f"{changed['rim']['erd_mm']:g}"])
        self.assertEqual(found["by"], "Bram")

    def test_a_part_and_who_added_it(self) -> None:
        part = self.post("stock/parts", SPOKE).json()
        self.patch(f"stock/parts/{part['id']}", {"version": part["version"], "minimum": 33})
        changed, made = self.changes("part", part["id"])
        self.assertEqual([field["after"] for field in changed["fields"]], ["33"])
        self.assertEqual((made["deed"], made["by"]), ("made", "Bram"))

    def test_a_password_is_noted_and_never_shown(self) -> None:
        self.owner.set_password("another long password")
        self.owner.save()
        row = Change.objects.filter(topic="person", row=self.owner.pk).latest("pk")
        self.assertEqual(row.fields, {"password": ["•", "•"]})
        self.assertNotIn(self.owner.password, str(list(Change.objects.values())))

    def test_signing_in_is_no_change(self) -> None:
        before = Change.objects.count()
        self.post("session", {"username": "bram", "password": "a long password"})
        self.assertEqual(Change.objects.count(), before)

    def test_no_way_past_it(self) -> None:
        place = Place.objects.create(shop=self.shop, kind="hook", name="A1", created_by=self.owner)
        with connection.cursor() as at:
            at.execute("UPDATE queue_place SET name='A2' WHERE id=%s", [place.pk])
        found = Change.objects.filter(topic="place", row=place.pk).latest("pk")
        self.assertEqual(found.fields, {"name": ["A1", "A2"]})
        for deed in ("DELETE FROM trail_change", "UPDATE trail_change SET by_id=NULL"):
            with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as at:
                at.execute(deed)

    def test_another_shop_reads_nothing(self) -> None:
        away = self.speak_for(self.stranger)
        self.assertEqual(self.changes("wheel", self.job.wheel_id, client=away), [])
        Shop.objects.filter(pk=self.shop.pk).update(phone="secret")
        self.assertNotIn("secret", str(self.changes("settings", client=away)))

    def test_what_is_asked_for_wrongly(self) -> None:
        for query in ("", "?of=secrets", "?of=wheel", "?of=wheel&row=7"):
            self.assertEqual(self.get(f"changes{query}").status_code, 400, query)

    def test_leaves(self) -> None:
        was = {"a": 1, "b": {"c": [1, 2], "d": None}, "gone": True}
        now = {"a": 1, "b": {"c": [2, 1], "d": {"e": 0}}, "new": ""}
        self.assertEqual(
            list(leaf_changes(was, now)), [("b.c", [1, 2], [2, 1]), ("b.d.e", None, 0), ("new", None, ""), ("gone", True, None)]
        )


class Hours(TransactionTestCase):
    """Each saving is a transaction of its own here, as it is in a shop."""

    def test_saved_as_a_whole_they_show_only_the_day_that_changed(self) -> None:
        shop = Shop.objects.create(name="Here")
        owner = person(shop, "odile", "owner")

        def save(ends: str) -> int:
            owner.refresh_from_db()
            week = [{"weekday": day, "starts": time(9), "ends": time(18)} for day in range(4)]
            week.append({"weekday": 4, "starts": time(9), "ends": time.fromisoformat(ends)})
            closed = [{"day": date.today() + timedelta(days=300), "name": "Fair"}]
            version = Shop.objects.get(pk=shop.pk).version
            calendar.set_hours(owner, version, {"time_zone": "UTC", "week": week, "closed_days": closed})
            return len(changes_of(owner, "settings"))

        first = save("18:00")
        self.assertEqual(save("18:00"), first, "the same hours are no change")
        self.assertEqual(save("17:00"), first + 2)
        newest = changes_of(owner, "settings")[:2]
        self.assertEqual({change.deed for change in newest}, {"made", "gone"})
        for change in newest:
            self.assertIn("Friday", [field.before or field.after for field in change.fields])
