"""One's own sign-in in the browser: shop, code, sessions, password; and the way back when it is forgotten."""

from __future__ import annotations

import re

import pyotp
from django.core import mail
from playwright.sync_api import Page

from felloe.accounts.models import SecondFactor, Shop, SignedIn
from felloe.accounts.services import passwords, second_factor
from tests.api.shop import person
from tests.browser import context
from tests.e2e.bench import PASSWORD, BrowserCase, expect

NEW = "another long one"


class SignIn(BrowserCase):
    def door(self) -> Page:
        """A page on which nobody is signed in."""
        made = context()
        page = made.new_page()
        self.pages.append(page)
        self.addCleanup(self.leave, page)
        page.set_default_timeout(40_000)
        page.goto(self.live_server_url)
        page.get_by_label("Name").wait_for()
        return page

    def enter(self, page: Page, password: str = PASSWORD) -> None:
        page.get_by_label("Name").fill("bram")
        page.get_by_label("Password", exact=True).fill(password)
        page.keyboard.press("Enter")

    def test_where_several_shops_work_the_tablet_asks_once_and_remembers(self) -> None:
        Shop.objects.create(name="Elsewhere")
        page = self.door()
        self.enter(page)
        shop = page.get_by_label("Shop")
        expect(shop).to_be_focused()
        expect(page.get_by_role("alert")).to_have_count(0)
        shop.fill(self.shop.code)
        page.keyboard.press("Enter")
        page.get_by_role("link", name="The rail").wait_for()
        page.get_by_role("button", name=re.compile("settings")).click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_label("Shop")).to_have_value(self.shop.code)
        self.enter(page)
        page.get_by_role("link", name="The rail").wait_for()

    def test_a_second_factor_from_the_square_to_the_spare_code(self) -> None:
        page = self.open(at="account")
        page.get_by_role("button", name="Ask for a code too …").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Your password").fill(PASSWORD)
        page.keyboard.press("Enter")
        expect(dialog.get_by_role("img", name="The secret for your device")).to_be_visible()
        self.assertAccessible(page, "second factor")
        kept = SecondFactor.objects.get()
        secret = second_factor.vault(second_factor.PURPOSE).decrypt(bytes(kept.sealed_secret)).decode()
        self.assertEqual(dialog.locator("[data-typed]").inner_text().replace(" ", ""), secret)
        dialog.get_by_label("The code that it shows now").fill(pyotp.TOTP(secret).now())
        page.keyboard.press("Enter")
        spare = dialog.get_by_role("listitem").first.inner_text()
        # They stay until they are written down, though the page has heard meanwhile that the factor is there.
        expect(page.get_by_text("8 spare codes are left")).to_be_attached()
        dialog.get_by_role("button", name="I have written them down").click()
        expect(page.get_by_text("8 spare codes are left")).to_be_visible()

        door = self.door()
        self.expected_refusals = ("422",)
        self.enter(door)
        code = door.get_by_label("Code")
        expect(code).to_be_focused()
        code.fill("000000" if pyotp.TOTP(secret).now() != "000000" else "111111")
        door.keyboard.press("Enter")
        expect(door.get_by_role("alert")).to_contain_text("not the code of now")
        code.fill(spare)
        door.keyboard.press("Enter")
        door.get_by_role("link", name="The rail").wait_for()

    def test_another_device_is_seen_and_signed_out(self) -> None:
        page, lost = self.open(), self.open()
        self.to(page, "account")
        devices = page.get_by_role("region", name="Signed in on")
        expect(devices.get_by_role("listitem")).to_have_count(2)
        self.assertAccessible(page, "account")
        devices.get_by_role("button", name="Sign out there").click()
        expect(devices.get_by_role("listitem")).to_have_count(1)
        self.assertEqual(SignedIn.objects.count(), 1)
        self.expected_refusals = ("403",)
        lost.reload()
        lost.get_by_label("Password", exact=True).wait_for()

    def test_a_changed_password_goes_on_here_with_the_next_write(self) -> None:
        page = self.open(at="account")
        page.get_by_label("The present one").fill(PASSWORD)
        page.get_by_label("The new one").fill(NEW)
        page.keyboard.press("Enter")
        expect(page.get_by_text("The password is changed")).to_be_visible()
        # The session has a new key and a new token: what is written next goes through.
        page.get_by_label("E-mail").fill("bram@example.org")
        page.get_by_label("Your password").fill(NEW)
        page.keyboard.press("Enter")
        expect(page.get_by_text("Kept.")).to_be_visible()
        self.bram.refresh_from_db()
        self.assertEqual(self.bram.email, "bram@example.org")

    def test_forgotten_and_found_again_by_the_letter(self) -> None:
        self.bram.email = "bram@example.org"
        self.bram.save()
        page = self.door()
        page.get_by_role("button", name="Password forgotten").click()
        page.get_by_label("Name").fill("bram")
        page.get_by_role("button", name="Send the letter").click()
        expect(page.get_by_text("the letter is on its way")).to_be_visible()
        self.assertAccessible(page, "forgotten")
        # What the worker would do.
        with self.settings(FELLOE_ADDRESS=self.live_server_url):
            passwords.send_letter(self.shop.code, "bram", "en")
        path = re.search(r"/new-password/\S+", mail.outbox[-1].body)
        assert path is not None
        page.goto(f"{self.live_server_url}{path[0]}")
        self.expected_refusals = ("422",)
        field = page.get_by_label("New password")
        field.fill("short")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Take a password of ten characters")).to_be_visible()
        field.fill(NEW)
        page.keyboard.press("Enter")
        page.get_by_role("link", name="Sign in with it").click()
        self.enter(page, NEW)
        page.get_by_role("link", name="The rail").wait_for()
        page.goto(f"{self.live_server_url}{path[0]}")
        page.get_by_label("New password").fill("a third long one")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("used already")

    def test_joined_with_a_name_in_another_shop_and_gone_there(self) -> None:
        page = self.open()
        there = Shop.objects.create(name="Elsewhere")
        person(there, "bram.there")
        self.to(page, "account")
        page.get_by_role("button", name="Join another name …").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Shop").fill(there.code)
        dialog.get_by_label("Name there").fill("bram.there")
        dialog.get_by_label("Password there").fill("not this one")
        self.expected_refusals = ("422",)
        page.keyboard.press("Enter")
        expect(dialog.get_by_text("do not go together")).to_be_visible()
        self.assertAccessible(page, "join")
        dialog.get_by_label("Password there").fill(PASSWORD)
        page.keyboard.press("Enter")
        shops = page.get_by_role("region", name="Other shops")
        expect(shops.get_by_text("Elsewhere")).to_be_visible()
        shops.get_by_role("button", name="Go on there").click()
        expect(page.get_by_text("Elsewhere").first).to_be_visible()
        expect(page.get_by_text("The rail is empty")).to_be_visible()
