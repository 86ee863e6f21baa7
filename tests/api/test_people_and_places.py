"""The shop as its owner keeps it: hours, staff, digits, stands and hooks, customers."""

from __future__ import annotations

from typing import Any

from django.utils import timezone

from felloe.accounts.models import PinTry, Shop, User
from felloe.customers.models import Bike, Customer
from felloe.queue.models import Job, Place
from tests.api.described import DescribedClient
from tests.api.shop import ShopCase, open_job, person

WEEK = [{"weekday": 0, "starts": "09:00", "ends": "12:30"}, {"weekday": 0, "starts": "13:30", "ends": "18:00"}]


class OwnerCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.odile = person(self.shop, "odile", "owner")
        self.client = self.speak_for(self.odile)  # type: ignore[assignment]


class Hours(OwnerCase):
    def set(self, **change: Any) -> Any:
        body = {"version": 1, "time_zone": "Atlantic/Azores", "week": WEEK, "closed_days": [], **change}
        return self.put("shop/hours", body)

    def test_the_usual_week_is_said_to_be_a_default_until_the_shop_says_its_own(self) -> None:
        self.assertTrue(self.get("shop/hours").json()["usual"])
        found = self.set(closed_days=[{"day": "2099-05-01", "name": "May day"}, {"day": "2099-05-01", "name": "Twice"}]).json()
        self.assertEqual((found["usual"], found["time_zone"], len(found["week"])), (False, "Atlantic/Azores", 2))
        self.assertEqual(len(found["closed_days"]), 1)
        self.assertEqual(self.get("session").json()["time_zone"], "Atlantic/Azores")

    def test_what_cannot_be_is_refused_and_nothing_changes(self) -> None:
        overlap = [*WEEK, {"weekday": 0, "starts": "12:00", "ends": "14:00"}]
        for change, field in (
            ({"time_zone": "Nowhere/Atall"}, "time_zone"),
            ({"week": overlap}, "starts"),
            ({"week": [{"weekday": 0, "starts": "18:00", "ends": "09:00"}]}, "ends"),
        ):
            self.assertProblem(self.set(**change), 422, "bad_hours", field)
        self.assertTrue(self.get("shop/hours").json()["usual"])
        self.set()
        self.assertProblem(self.set(), 409, "stale_write")

    def test_settings_in_range(self) -> None:
        whole = {"name": "Here", "address": "", "phone": "", "email": "", "promise_line_percent": 90, "interrupted_percent": 20}
        self.assertEqual(self.put("shop/settings", {**whole, "version": 1}).json()["promise_line_percent"], 90)
        self.assertProblem(self.put("shop/settings", {**whole, "version": 1}), 409, "stale_write")
        bad = {**whole, "version": 2, "promise_line_percent": 100}
        self.assertProblem(self.put("shop/settings", bad), 400, "invalid_input", "promise_line_percent")


class Staff(OwnerCase):
    NEW = {"username": "wyn", "name": "Wyn Tregear", "role": "apprentice", "password": "a ferry at seven"}

    def test_a_new_one_signs_in_and_one_who_has_left_does_not(self) -> None:
        made = self.post("shop/staff", self.NEW).json()
        self.assertEqual((made["name"], made["role"], made["has_pin"]), ("Wyn Tregear", "apprentice", False))
        sign_in = {"username": "wyn", "password": "a ferry at seven", "shop": self.shop.code}
        fresh = DescribedClient()
        self.assertEqual(fresh.post("/api/v1/session", sign_in, format="json").status_code, 200)
        left = {"version": made["version"], "is_active": False}
        self.assertFalse(self.patch(f"shop/staff/{made['id']}", left).json()["is_active"])
        self.assertEqual(DescribedClient().post("/api/v1/session", sign_in, format="json").status_code, 400)
        # Who is signed in already is out with the next question.
        self.assertEqual(fresh.get("/api/v1/rail").status_code, 403)

    def test_refusals_at_their_field(self) -> None:
        self.post("shop/staff", self.NEW)
        for change, code, field in (
            ({"username": "WYN"}, "name_taken", "username"),
            ({"username": "kit", "password": "short"}, "weak_password", "password"),
            ({"username": "kit", "skills": ["juggling"]}, "unknown_skill", "skills"),
        ):
            self.assertProblem(self.post("shop/staff", {**self.NEW, **change}), 422, code, field)
        self.assertEqual(User.objects.filter(shop=self.shop).count(), 4)

    def test_the_last_owner_stays_one(self) -> None:
        for change in ({"role": "mechanic"}, {"is_active": False}):
            self.assertProblem(self.patch(f"shop/staff/{self.odile.pk}", {"version": 1, **change}), 409, "last_owner")
        self.patch(f"shop/staff/{self.bram.pk}", {"version": 1, "role": "owner"})
        self.assertEqual(self.patch(f"shop/staff/{self.odile.pk}", {"version": 1, "role": "mechanic"}).status_code, 200)

    def test_a_stranger_is_nobody_here(self) -> None:
        self.assertProblem(self.patch(f"shop/staff/{self.stranger.pk}", {"version": 1, "role": "owner"}), 404, "not_found")
        self.assertProblem(self.get(f"staff/{self.stranger.pk}/times"), 404, "not_found")

    def test_shifts_replace_the_opening_hours_and_skills_are_kept(self) -> None:
        path = f"staff/{self.bram.pk}"
        self.assertTrue(self.get(f"{path}/times").json()["as_open"])
        found = self.put(f"{path}/times", {"version": 1, "week": WEEK})
        self.assertEqual((found.json()["as_open"], len(found.json()["week"])), (False, 2))
        self.assertProblem(self.put(f"{path}/times", {"version": 1, "week": WEEK}), 409, "stale_write")
        back = {"first_day": "2099-03-05", "last_day": "2099-03-01"}
        self.assertProblem(self.post(f"{path}/absences", back), 422, "bad_absence", "last_day")


class Digits(OwnerCase):
    def setUp(self) -> None:
        super().setUp()
        self.client = self.speak_for(self.bram)  # type: ignore[assignment]
        self.assertEqual(self.put("session/pin", {"pin": "2604"}).status_code, 204)
        self.tablet = self.speak_for(self.ines)

    def change(self, pin: str, who: User | None = None) -> Any:
        return self.post("session/pin", {"person": str((who or self.bram).pk), "pin": pin}, client=self.tablet)

    def test_one_after_the_other_at_one_tablet(self) -> None:
        self.assertEqual(self.change("2604").json()["name"], "Bram")
        self.assertEqual(self.tablet.get("/api/v1/session").json()["username"], "bram")

    def test_only_behind_a_full_sign_in_of_this_shop(self) -> None:
        body = {"person": str(self.bram.pk), "pin": "2604"}
        self.assertEqual(DescribedClient().post("/api/v1/session/pin", body, format="json").status_code, 403)
        self.tablet = self.speak_for(self.stranger)
        self.assertEqual(self.change("2604").status_code, 404)

    def test_wrong_digits_are_counted_and_the_way_is_shut(self) -> None:
        for _ in range(5):
            self.assertProblem(self.change("0000"), 400, "pin_wrong")
        self.assertProblem(self.change("2604"), 403, "pin_shut")
        PinTry.objects.update(at=timezone.now() - timezone.timedelta(hours=1))
        self.assertEqual(self.change("2604").status_code, 200)

    def test_who_has_no_digits_is_not_changed_to(self) -> None:
        self.assertProblem(self.change("", self.odile), 400, "invalid_input", "pin")
        self.assertProblem(self.change("1234", self.odile), 400, "pin_wrong")

    def test_digits_do_not_open_the_shops_keys(self) -> None:
        self.put("session/pin", {"pin": "8305"}, client=self.speak_for(self.odile))
        self.assertEqual(self.change("8305", self.odile).status_code, 200)
        self.assertEqual(self.tablet.get("/api/v1/shop/staff").status_code, 200)
        hours = {"version": 1, "time_zone": "UTC", "week": WEEK, "closed_days": []}
        self.assertProblem(self.put("shop/hours", hours, client=self.tablet), 403, "full_sign_in")
        self.assertProblem(self.put("session/pin", {"pin": "9462"}, client=self.tablet), 403, "full_sign_in")

    def test_the_full_sign_in_of_the_same_person_opens_them_again(self) -> None:
        self.put("session/pin", {"pin": "8305"}, client=self.speak_for(self.odile))
        self.change("8305", self.odile)
        whole = {"username": "odile", "password": "a long password", "shop": self.shop.code}
        self.assertEqual(self.tablet.post("/api/v1/session", whole, format="json").status_code, 200)
        hours = {"version": 1, "time_zone": "UTC", "week": WEEK, "closed_days": []}
        self.assertEqual(self.put("shop/hours", hours, client=self.tablet).status_code, 200)

    def test_digits_that_anybody_would_try(self) -> None:
        for pin in ("1111", "1234", "4321", "12", "12a4", "١٢٣٤"):
            self.assertProblem(self.put("session/pin", {"pin": pin}), 422, "bad_pin", "pin")
        self.assertEqual(self.put("session/pin", {"pin": ""}).status_code, 204)
        self.assertProblem(self.change("2604"), 400, "pin_wrong")


class Places(OwnerCase):
    def test_named_once_renamed_and_taken_out_of_use(self) -> None:
        made = self.post("places", {"kind": "hook", "name": " A1 "}).json()
        self.assertEqual(made["name"], "A1")
        self.assertProblem(self.post("places", {"kind": "hook", "name": "a1"}), 422, "name_taken", "name")
        self.assertEqual(self.post("places", {"kind": "stand", "name": "A1"}).status_code, 201)
        job = open_job(self.bram)
        self.assertEqual(self.patch(f"jobs/{job.pk}", {"version": 1, "hook": made["id"]}).json()["hook"]["name"], "A1")
        self.assertProblem(self.patch(f"places/{made['id']}", {"version": 1, "in_use": False}), 409, "in_use")
        self.patch(f"jobs/{job.pk}", {"version": 2, "hook": None})
        self.assertFalse(self.patch(f"places/{made['id']}", {"version": 1, "in_use": False}).json()["in_use"])
        self.assertEqual(self.patch(f"jobs/{job.pk}", {"version": 3, "hook": made["id"]}).status_code, 404)

    def test_a_stand_is_no_hook_and_another_shops_is_none(self) -> None:
        stand = Place.objects.create(shop=self.shop, kind="stand", name="Window")
        theirs = Place.objects.create(shop=self.elsewhere, kind="hook", name="B1")
        job = open_job(self.bram)
        for place in (stand, theirs):
            self.assertEqual(self.patch(f"jobs/{job.pk}", {"version": 1, "hook": str(place.pk)}).status_code, 404)
        self.assertIsNone(Job.objects.get(pk=job.pk).hook)


class Customers(OwnerCase):
    def add(self, name: str, **more: Any) -> Any:
        return self.post("customers", {"name": name, **more}).json()

    def test_change_with_both_versions_on_a_clash(self) -> None:
        maud = self.add("Maud")
        path = f"customers/{maud['id']}"
        self.assertEqual(self.patch(path, {"version": 1, "phone": "0700", "language": "pt"}).json()["language"], "pt")
        clash = self.patch(path, {"version": 1, "phone": "0800"})
        self.assertProblem(clash, 409, "stale_write")
        self.assertEqual(clash.json()["current"]["phone"], "0700")
        self.assertProblem(self.patch(path, {"version": 2, "name": ""}), 400, "invalid_input", "name")
        self.assertProblem(self.patch(path, {"version": 2, "prefers": "pigeon"}), 400, "invalid_input", "prefers")

    def test_two_entries_become_one_and_nothing_is_lost(self) -> None:
        job = open_job(self.bram, customer={"name": "M. Penhale", "phone": "0700 1", "note": "Rings twice"})
        gone = job.wheel.bike.customer
        kept = self.add("Maud Penhale", note="Likes it stiff")
        found = self.post(f"customers/{gone.pk}/merge", {"into": kept["id"], "version": 1}).json()
        self.assertEqual((found["phone"], found["note"], len(found["bikes"])), ("0700 1", "Likes it stiff Rings twice", 1))
        self.assertEqual([c["name"] for c in self.get("customers").json()], ["Maud Penhale"])
        self.assertEqual(self.get(f"jobs/{job.pk}").json()["customer"]["name"], "Maud Penhale")
        self.assertEqual(Customer.objects.count(), 2)
        self.assertProblem(self.post(f"customers/{gone.pk}/merge", {"into": kept["id"], "version": 2}), 409, "merged_already")

    def test_merges_that_cannot_be(self) -> None:
        maud, twin = self.add("Maud"), self.add("Maud P.")
        path = f"customers/{maud['id']}/merge"
        self.assertProblem(self.post(path, {"into": maud["id"], "version": 1}), 422, "same_customer")
        self.assertProblem(self.post(path, {"into": twin["id"], "version": 9}), 409, "stale_write")
        theirs = Customer.objects.create(shop=self.elsewhere, name="Stranger")
        self.assertProblem(self.post(path, {"into": str(theirs.pk), "version": 1}), 404, "not_found")
        self.assertEqual(Bike.objects.count(), 0)


class EmptyShop(ShopCase):
    def test_a_brand_new_shop_answers_everything_it_is_asked_first(self) -> None:
        """Nobody but an owner, no hours, no stands, no customers."""
        shop = Shop.objects.create(name="Brand new")
        client = self.speak_for(person(shop, "first", "owner"))
        for path in ("rail", "find?text=anything", "places", "shop/hours", "shop/settings", "shop/staff", "customers", "stock"):
            with self.subTest(path):
                self.assertEqual(self.get(path, client=client).status_code, 200)
        self.assertEqual(self.post("offers", {"tier": "sound"}, client=client).json()["offers"], [])
