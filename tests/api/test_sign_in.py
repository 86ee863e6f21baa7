"""One's own sign-in: shops side by side, passwords changed and set anew, sessions seen and ended, a second factor."""

from __future__ import annotations

import re
import time
from datetime import timedelta
from typing import Any
from unittest.mock import patch
from uuid import UUID

import pyotp
from axes.models import AccessAttempt
from django.core import mail
from django.core.cache import cache
from django.test import TestCase, override_settings
from django.utils import timezone

from felloe.accounts.models import PasswordLetter, SecondFactor, Shop, SignedIn, User
from felloe.accounts.services import passwords, second_factor, sessions
from tests.api.described import DescribedClient
from tests.api.shop import ShopCase, person

PASSWORD, OTHER = "a long password", "another long one"


class SignInCase(ShopCase):
    def enter(self, password: str = PASSWORD, username: str = "bram", **more: Any) -> tuple[Any, DescribedClient]:
        client = DescribedClient()
        body = {"username": username, "password": password, "shop": self.shop.code, **more}
        return self.post("session", body, client=client), client

    def entered(self, **more: Any) -> DescribedClient:
        answer, client = self.enter(**more)
        self.assertEqual(answer.status_code, 200, answer.content)
        return client

    def is_in(self, client: DescribedClient) -> bool:
        return bool(self.get("session", client=client).status_code == 200)


class Shops(SignInCase):
    def test_a_name_is_somebodys_in_one_shop(self) -> None:
        other = person(self.elsewhere, "bram")
        other.set_password(OTHER)
        other.save()
        self.assertEqual(self.enter()[0].json()["id"], str(self.bram.pk))
        there = self.enter(OTHER, shop=self.elsewhere.code.upper())[0].json()
        self.assertEqual((there["id"], there["shop_code"]), (str(other.pk), self.elsewhere.code))
        self.assertProblem(self.enter(PASSWORD, shop=self.elsewhere.code)[0], 400, "sign_in_failed")
        self.assertProblem(self.enter(shop="no-such-shop")[0], 400, "sign_in_failed")

    def test_where_several_work_it_has_to_be_said(self) -> None:
        self.assertProblem(self.enter(shop="")[0], 422, "shop_needed", "shop")

    def test_wrong_tries_in_one_shop_shut_nobody_out_in_another(self) -> None:
        person(self.elsewhere, "bram")
        for n in range(6):
            self.assertProblem(self.enter(f"guess {n}")[0], 400, "sign_in_failed")
        self.assertProblem(self.enter()[0], 429, "too_many_tries")
        self.assertEqual(self.enter(shop=self.elsewhere.code)[0].status_code, 200)


class OneShop(TestCase):
    def test_where_one_works_it_need_not_be_said(self) -> None:
        person(Shop.objects.create(name="Here"), "bram")
        body = {"username": "bram", "password": PASSWORD}
        self.assertEqual(DescribedClient().post("/api/v1/session", body, format="json").status_code, 200)


class Passwords(SignInCase):
    def change(self, client: DescribedClient, old: str = PASSWORD, new: str = OTHER) -> Any:
        return self.post("account/password", {"old": old, "new": new}, client=client)

    def test_a_new_one_ends_every_other_session(self) -> None:
        here, there = self.entered(), self.entered()
        User.objects.filter(pk=self.bram.pk).update(email="bram@example.org")
        self.assertProblem(self.change(here, old="not this"), 422, "password_wrong", "old")
        self.assertProblem(self.change(here, new="short"), 422, "weak_password", "new")
        self.assertTrue(self.is_in(there))
        with patch("felloe.accounts.tasks.tell_of_change.defer") as told:
            answer = self.change(here).json()
        passwords.tell_of_change(UUID(told.call_args.kwargs["person_id"]), told.call_args.kwargs["language"])
        self.assertEqual([row["here"] for row in answer["sessions"]], [True])
        self.assertEqual((self.is_in(here), self.is_in(there)), (True, False))
        self.assertProblem(self.enter()[0], 400, "sign_in_failed")
        self.assertEqual(self.enter(OTHER)[0].status_code, 200)
        (letter,) = mail.outbox
        self.assertEqual((letter.to, OTHER in letter.body), (["bram@example.org"], False))

    def test_trying_the_old_one_out_is_stopped_as_at_the_sign_in(self) -> None:
        here = self.entered()
        for n in range(6):
            self.assertProblem(self.change(here, old=f"guess {n}"), 422, "password_wrong", "old")
        self.assertProblem(self.change(here), 429, "too_many_tries")

    def letter(self, ask: str = "bram") -> str:
        """The link that came by mail, or nothing."""
        mail.outbox.clear()
        passwords.send_letter(self.shop.code, ask, "en")
        return next(iter(re.findall(r"\S+/new-password/\S+", mail.outbox[0].body)), "") if mail.outbox else ""

    def by_link(self, link: str, password: str = OTHER) -> Any:
        found, token = link.rsplit("/", 2)[1:]
        body = {"person": found, "token": token, "password": password}
        return self.client.put("/api/v1/session/new-password", body, format="json")

    def test_asked_for_by_anybody_the_answer_is_the_same(self) -> None:
        cache.clear()
        client = DescribedClient()
        for name, shop in (("bram", self.shop.code), ("nobody", self.shop.code), ("bram", "nowhere")):
            with patch("felloe.accounts.tasks.send_letter.defer") as sent:
                answer = self.post("session/new-password", {"username": name, "shop": shop}, client=client)
            self.assertEqual((answer.status_code, sent.call_count), (204, 1))
        with patch("felloe.accounts.tasks.send_letter.defer"):
            ask = {"username": "bram", "shop": self.shop.code}
            found = [self.post("session/new-password", ask, client=client).status_code for _ in range(18)]
        self.assertEqual((found[:17], found[17]), ([204] * 17, 429))
        cache.clear()

    @override_settings(FELLOE_ADDRESS="https://shop.example")
    def test_the_link_sets_it_anew_once_and_ends_all_sessions(self) -> None:
        self.assertEqual(self.letter(), "")  # has said no address
        User.objects.filter(pk=self.bram.pk).update(email="bram@example.org")
        self.assertEqual(self.letter("nobody"), "")
        with override_settings(FELLOE_ADDRESS=""):
            self.assertEqual(self.letter(), "", "the server does not know where it is")
        there = self.entered()
        link = self.letter()
        self.assertTrue(link.startswith("https://shop.example/new-password/"), link)
        self.assertEqual(self.letter(), "", "a second one within ten minutes")
        self.assertProblem(self.by_link(link, "short"), 422, "weak_password", "password")
        self.assertProblem(self.by_link(link[:-1] + "x"), 422, "link_over")
        self.assertEqual(self.by_link(link).status_code, 204)
        self.assertFalse(self.is_in(there))
        self.assertEqual(self.enter(OTHER)[0].status_code, 200)
        self.assertProblem(self.by_link(link, "a third long one"), 422, "link_over")
        PasswordLetter.objects.update(at=timezone.now() - passwords.BETWEEN_LETTERS)
        late = self.letter()
        with patch("django.contrib.auth.tokens.PasswordResetTokenGenerator._now") as now:
            now.return_value = timezone.localtime().replace(tzinfo=None) + timedelta(hours=1, minutes=1)
            self.assertProblem(self.by_link(late), 422, "link_over")
        User.objects.filter(pk=self.bram.pk).update(is_active=False)
        self.assertProblem(self.by_link(late), 422, "link_over")
        PasswordLetter.objects.all().delete()
        self.assertEqual(self.letter(), "", "has left the shop")

    def test_the_address_of_the_letters_is_changed_with_the_password_only(self) -> None:
        here = self.entered()
        body = {"password": "not this", "email": "other@example.org"}
        self.assertProblem(self.patch("account", body, here), 422, "password_wrong", "password")
        self.assertEqual(self.patch("account", body | {"password": PASSWORD}, here).json()["email"], "other@example.org")


class Sessions(SignInCase):
    def test_seen_and_ended_one_by_one_or_all_but_this(self) -> None:
        here, phone, third = self.entered(), self.entered(), self.entered()
        listed = self.get("account", client=here).json()["sessions"]
        self.assertEqual(sorted(row["here"] for row in listed), [False, False, True])
        mine = self.get("account", client=phone).json()["sessions"]
        key = next(row["id"] for row in mine if row["here"])
        self.assertEqual(here.delete(f"/api/v1/account/sessions/{key}").status_code, 200)
        self.assertEqual((self.is_in(here), self.is_in(phone), self.is_in(third)), (True, False, True))
        self.assertEqual(len(here.delete("/api/v1/account/sessions").json()["sessions"]), 1)
        self.assertEqual((self.is_in(here), self.is_in(third)), (True, False))

    def test_nobody_ends_anothers(self) -> None:
        theirs = self.entered(username="ines")
        key = SignedIn.objects.get(person=self.ines).pk
        self.assertProblem(self.client.delete(f"/api/v1/account/sessions/{key}"), 404, "not_found")
        self.assertTrue(self.is_in(theirs))

    def test_the_owner_signs_somebody_out_of_a_lost_tablet(self) -> None:
        lost = self.entered()
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        self.patch(f"shop/staff/{self.bram.pk}", {"version": self.bram.version, "sign_out": True}, owner)
        self.assertFalse(self.is_in(lost))

    def test_one_that_is_over_or_signed_out_is_shown_no_more(self) -> None:
        here, there = self.entered(), self.entered()
        there.delete("/api/v1/session")
        self.assertEqual(len(self.get("account", client=here).json()["sessions"]), 1)
        here.session.flush()
        sessions.forget_over(timezone.now())
        self.assertEqual(SignedIn.objects.count(), 0)

    def test_yesterdays_password_is_not_enough_for_the_shops_keys(self) -> None:
        here = self.entered()
        self.assertEqual(self.get("account", client=here).status_code, 200)
        with patch.object(sessions.timezone, "now", return_value=timezone.now() + timedelta(hours=12, minutes=1)):
            self.assertProblem(self.get("account", client=here), 403, "full_sign_in")
            self.assertEqual(self.get("rail", client=here).status_code, 200)

    def test_digits_do_not_open_the_account(self) -> None:
        self.put("session/pin", {"pin": "2718"}, self.speak_for(self.ines))
        tablet = self.entered()
        self.assertEqual(self.post("session/pin", {"person": str(self.ines.pk), "pin": "2718"}, client=tablet).status_code, 200)
        self.assertProblem(self.get("account", client=tablet), 403, "full_sign_in")
        self.assertEqual(SignedIn.objects.filter(person=self.bram).count(), 0, "his session went with the change")
        self.assertTrue(SignedIn.objects.get(person=self.ines).by_digits)


class Second(SignInCase):
    def setUp(self) -> None:
        super().setUp()
        self.here = self.entered()
        self.assertProblem(self.begun("not this"), 422, "password_wrong", "password")
        made = self.begun()
        self.assertEqual(made.status_code, 201)
        self.secret = made.json()["secret"]
        self.assertIn(f"secret={self.secret}", made.json()["address"])
        self.assertEqual({len(row) for row in made.json()["rows"]}, {len(made.json()["rows"])})
        self.now = time.time()

    def begun(self, password: str = PASSWORD) -> Any:
        return self.post("account/second-factor", {"password": password}, client=self.here)

    def code(self, steps: int = 0) -> str:
        return pyotp.TOTP(self.secret).at(int(self.now) + 30 * steps)

    def at(self, steps: int) -> Any:
        return patch.object(second_factor.time, "time", return_value=self.now + 30 * steps)

    def confirm(self) -> list[str]:
        answer = self.put("account/second-factor", {"code": self.code()}, self.here)
        self.assertEqual(answer.status_code, 200, answer.content)
        return list(answer.json()["codes"])

    def test_the_codes_are_those_of_the_standard(self) -> None:
        """RFC 6238, appendix B, SHA-1, from memory: at 59 s 94287082, at 1111111109 s 07081804; the last six digits of each."""
        secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ"  # the ASCII text "12345678901234567890" in base32
        SecondFactor.objects.update(sealed_secret=second_factor.vault(second_factor.PURPOSE).encrypt(secret.encode()))
        found = SecondFactor.objects.get()
        for seconds, code in ((59, "287082"), (1111111109, "081804")):
            with patch.object(second_factor.time, "time", return_value=seconds):
                self.assertTrue(second_factor._by_device(found, code))
                self.assertFalse(second_factor._by_device(found, code), "none counts twice")

    def test_until_it_is_confirmed_nothing_is_asked_for(self) -> None:
        self.assertEqual(self.enter()[0].status_code, 200)
        self.assertProblem(self.put("account/second-factor", {"code": "000000"}, self.here), 422, "code_wrong", "code")
        self.assertEqual(self.enter()[0].status_code, 200)
        self.confirm()
        self.assertProblem(self.enter()[0], 422, "code_needed", "code")
        self.assertProblem(self.begun(), 422, "factor_on", "code")

    def test_the_password_alone_opens_nothing_and_a_code_only_once(self) -> None:
        self.confirm()
        self.assertProblem(self.enter()[0], 422, "code_needed", "code")
        self.assertProblem(self.enter("wrong password", code=self.code(1))[0], 400, "sign_in_failed")
        with self.at(0):
            self.assertProblem(self.enter(code=self.code())[0], 422, "code_wrong", "code")
        with self.at(1):
            spaced = f"{self.code(1)[:3]} {self.code(1)[3:]}"
            self.assertEqual(self.enter(code=spaced)[0].status_code, 200)
            self.assertProblem(self.enter(code=self.code(1))[0], 422, "code_wrong", "code")
        with self.at(9):
            self.assertProblem(self.enter(code=self.code(7))[0], 422, "code_wrong", "code")
            self.assertEqual(self.enter(code=self.code(8))[0].status_code, 200)

    def test_guessing_codes_is_stopped(self) -> None:
        self.confirm()
        AccessAttempt.objects.all().delete()
        with self.at(5):
            right = self.code(5)
            wrong = [f"{n:06}" for n in range(8) if f"{n:06}" not in {self.code(k) for k in (4, 5, 6)}][:6]
            for code in wrong:
                self.assertProblem(self.enter(code=code)[0], 422, "code_wrong", "code")
            self.assertProblem(self.enter(code=right)[0], 429, "too_many_tries")

    def test_each_spare_code_opens_once(self) -> None:
        spare = self.confirm()
        self.assertEqual(len(set(spare)), second_factor.SPARE_CODES)
        self.assertEqual(self.enter(code=f" {spare[0].upper()} ")[0].status_code, 200)
        self.assertProblem(self.enter(code=spare[0])[0], 422, "code_wrong", "code")
        self.assertEqual(self.get("account", client=self.here).json()["spare_codes"], second_factor.SPARE_CODES - 1)
        self.assertNotIn(spare[1], str(SecondFactor.objects.values_list()))

    def test_it_ends_with_the_password_or_by_the_owner(self) -> None:
        self.confirm()
        self.assertProblem(
            self.patch("account/second-factor", {"password": "no"}, self.here), 422, "password_wrong", "password"
        )
        self.assertFalse(self.patch("account/second-factor", {"password": PASSWORD}, self.here).json()["second_factor"])
        self.assertEqual(self.enter()[0].status_code, 200)
        self.secret = self.begun().json()["secret"]
        self.confirm()
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        self.patch(f"shop/staff/{self.bram.pk}", {"version": self.bram.version, "drop_second_factor": True}, owner)
        self.assertEqual(self.enter()[0].status_code, 200)

    def test_a_copied_database_shows_no_secret(self) -> None:
        self.assertNotIn(self.secret.encode(), bytes(SecondFactor.objects.get().sealed_secret))
        self.confirm()
        with override_settings(SECRET_KEY="another"), self.at(3):
            self.assertProblem(self.enter(code=self.code(3))[0], 422, "code_wrong", "code")
