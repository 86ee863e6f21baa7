"""The service queue in a real browser: find, promise, take up and put down, the desk, a shared tablet."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone
from playwright.sync_api import Page, Route

from felloe.accounts.services.staff import set_pin
from felloe.api.squares import rows_of
from felloe.bench.services import readings
from felloe.calendar.services import shop_calendar
from felloe.core.truing.tiers import SOUND
from felloe.customers.models import Bike, Customer
from felloe.queue.models import Job, JobEvent, Place, WorkSpan
from felloe.queue.tolerances import held_fields
from felloe.wheels.models import Wheel
from tests.api.shop import open_job, person
from tests.e2e.bench import SMALL, BrowserCase, expect
from tests.e2e.test_slice import tab_to


class QueueCase(BrowserCase):
    def slot(self, days: float) -> datetime:
        return next(shop_calendar(self.shop).slots(timezone.now() + timedelta(days=days)))

    def hung(self, name: str = "Maud Penhale", phone: str = "0700 900 101", days: float = 6, **more: Any) -> Job:
        values = {"customer": {"name": name, "phone": phone}, "bike": {"label": f"Bike of {name}", "brake": "rim"}, **more}
        return open_job(self.bram, SMALL, promised_at=self.slot(days), **values)

    def rail(self, page: Page) -> None:
        self.to(page, "")
        page.get_by_role("region", name="Wheels by promise").wait_for()


class Find(QueueCase):
    def test_from_anywhere_by_a_key_and_the_answer_is_in_the_hit(self) -> None:
        maud = self.hung()
        self.hung("Jory Trask", "0700 900 102")
        page = self.open(at="stock")
        page.get_by_role("heading", name="Stock").first.wait_for()
        page.keyboard.press("/")
        box = page.get_by_role("combobox", name="Find")
        expect(box).to_be_focused()
        page.keyboard.type("900101")
        option = page.get_by_role("option")
        expect(option).to_have_count(1)
        expect(option).to_contain_text("Not yet: it stands at “Take in”.")
        expect(option).to_contain_text("promised for")
        self.assertAccessible(page, "find")
        page.keyboard.press("Enter")
        page.wait_for_url(f"**/jobs/{maud.pk}")
        page.keyboard.press("Control+k")
        expect(box).to_have_value("")
        page.keyboard.type("nobody at all")
        expect(page.get_by_text("Nothing fits “nobody at all”")).to_be_visible()
        page.keyboard.press("Escape")
        expect(box).to_have_count(0)

    def test_a_hand_scanner_opens_the_job_from_the_middle_of_a_reading(self) -> None:
        job, other = self.job(), self.hung()
        page = self.open(at=f"jobs/{job.pk}")
        page.get_by_role("heading", name=str(job.number)).wait_for()
        address = f"{self.live_server_url}/jobs/{other.pk}"
        self.assertTrue(rows_of(address))
        page.keyboard.type(address)
        page.keyboard.press("Enter")
        page.wait_for_url(f"**/jobs/{other.pk}")
        # In a field the address is taken out again.
        self.to(page, "take-in")
        field = page.get_by_role("textbox", name="Customer", exact=True)
        field.fill("Wen")
        page.keyboard.type(address)
        page.keyboard.press("Enter")
        page.wait_for_url(f"**/jobs/{other.pk}")

    def test_the_camera_reads_a_tag_where_the_browser_can(self) -> None:
        job = self.hung()
        page = self.open()
        tag = f"https://shop.example/jobs/{job.pk}"
        page.add_init_script(
            f"window.BarcodeDetector = class {{ async detect() {{ return [{{ rawValue: '{tag}' }}]; }} }};"
            "navigator.mediaDevices.getUserMedia = async () => { const c = document.createElement('canvas');"
            "const draw = () => { c.getContext('2d').fillRect(0, 0, 9, 9); requestAnimationFrame(draw); }; draw();"
            "return c.captureStream(); };"
        )
        self.to(page, "")
        page.get_by_role("button", name="Find", exact=False).first.wait_for()
        page.keyboard.press("/")
        page.get_by_role("button", name="Scan a tag").click()
        page.wait_for_url(f"**/jobs/{job.pk}")

    def test_no_camera_is_said_and_the_number_still_works(self) -> None:
        page = self.open()
        page.add_init_script(
            "window.BarcodeDetector = class { async detect() { return []; } };"
            "navigator.mediaDevices.getUserMedia = () => Promise.reject(new Error('no'));"
        )
        self.to(page, "")
        page.get_by_role("button", name="Find", exact=False).first.wait_for()
        page.keyboard.press("/")
        page.get_by_role("button", name="Scan a tag").click()
        expect(page.get_by_text("The camera is not to be had")).to_be_visible()


class Promise(QueueCase):
    def test_a_walk_in_by_keyboard_within_a_minute_of_keys(self) -> None:
        """Everything new, with a promise. 0.28 s a key is a usual typist (Card, Moran and Newell's keystroke-level model,
        from memory): 214 keys are a minute."""
        page = self.open()
        page.evaluate("() => { window.__keys = 0; window.addEventListener('keydown', () => window.__keys++, true); }")
        tab_to(page, "Take in")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", name="Take in a wheel")).to_be_visible()
        page.keyboard.type("Maud Penhale")
        tab_to(page, "Phone")
        page.keyboard.type("0700900101")
        tab_to(page, "Which bike")
        page.keyboard.type("Green ferry bike")
        tab_to(page, "Starts as")
        page.keyboard.type("Rim brake, rear, 36")
        if not page.get_by_label("Starts as").input_value():
            page.get_by_label("Starts as").select_option("rim-brake-rear-36")
        tab_to(page, "What is wrong")
        page.keyboard.type("Rubs once a turn")
        dates = page.get_by_role("group", name="Dates with their chance")
        expect(dates.get_by_role("button")).to_have_count(2)
        shop = dates.get_by_role("button").first
        words = shop.inner_text().split("\n")[0]
        tab_to(page, words)
        page.keyboard.press("Enter")
        expect(shop).to_have_attribute("aria-pressed", "true")
        tab_to(page, "Open the job")
        page.keyboard.press("Enter")
        expect(page.get_by_text("“Rubs once a turn”")).to_be_visible()
        self.assertLessEqual(page.evaluate("() => window.__keys"), 214)
        job = Job.objects.get()
        self.assertIsNotNone(job.promised_at)
        self.assertGreaterEqual(job.promise_chance or 0, 0.75)
        self.assertTrue(shop_calendar(self.shop).is_open(job.promised_at))

    def test_moved_by_key_with_its_consequence_shown_and_kept_by_nobody_else(self) -> None:
        job = self.hung()
        page = self.open()
        self.rail(page)
        wheel = page.locator(f'[data-hung="{job.pk}"]')
        wheel.focus()
        page.keyboard.press("p")
        dialog = page.get_by_role("dialog", name=f"Promise of job {job.number}")
        expect(dialog).to_be_visible()
        dialog.get_by_role("group", name="Dates with their chance").get_by_role("button").first.click()
        expect(dialog.get_by_text("No other promise is moved by it.")).to_be_visible()
        self.assertAccessible(page, "promise")
        dialog.get_by_role("button", name="Promise it", exact=True).click()
        expect(dialog).to_have_count(0)
        expect(wheel).to_be_focused()
        moved = Job.objects.get(pk=job.pk)
        self.assertLess(moved.promised_at, job.promised_at)
        self.assertEqual(JobEvent.objects.filter(job=job, kind="promised").count(), 1)

    def test_the_moved_wheel_keeps_the_keys_though_the_rail_answers_late(self) -> None:
        """On another day the wheel is another element, and the rail hangs it there only when its answer comes."""
        job = self.hung()
        page = self.open()
        self.rail(page)
        wheel = page.locator(f'[data-hung="{job.pk}"]')
        day = wheel.locator("xpath=ancestor::ul")
        before = day.get_attribute("aria-label")
        wheel.focus()
        page.keyboard.press("p")
        dialog = page.get_by_role("dialog", name=f"Promise of job {job.number}")
        dialog.get_by_role("group", name="Dates with their chance").get_by_role("button").first.click()
        expect(dialog.get_by_text("No other promise is moved by it.")).to_be_visible()
        held: list[Route] = []
        page.route("**/api/v1/rail*", lambda route: held.append(route))
        dialog.get_by_role("button", name="Promise it", exact=True).click()
        expect(dialog).to_have_count(0)
        self.eventually(lambda: bool(held), True)
        for route in held:
            route.continue_()
        page.unroute("**/api/v1/rail*")
        expect(day).not_to_have_attribute("aria-label", before or "")
        expect(wheel).to_be_focused()

    def test_closed_doors_are_refused_at_their_place_and_nothing_is_lost(self) -> None:
        job = self.hung()
        page = self.open()
        self.expected_refusals = ("422",)
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="move …").click()
        at = self.slot(3).date()
        page.get_by_label("Or another time").fill(f"{at}T03:00")
        expect(page.get_by_role("dialog").get_by_text("The shop is closed then")).to_be_visible()
        expect(page.get_by_role("button", name="Promise it", exact=True)).to_be_disabled()
        self.assertEqual(Job.objects.get(pk=job.pk).promised_at, job.promised_at)

    def test_dragged_to_another_day_asks_before_it_promises(self) -> None:
        job = self.hung(days=6)
        other = self.hung("Jory Trask", "1", days=8)
        page = self.open()
        self.rail(page)
        target = page.locator(f'[data-hung="{other.pk}"]').locator("xpath=ancestor::ul")
        page.locator(f'[data-hung="{job.pk}"]').drag_to(target)
        dialog = page.get_by_role("dialog", name=f"Promise of job {job.number}")
        expect(dialog).to_be_visible()
        zone = shop_calendar(self.shop).zone
        expect(page.get_by_label("Or another time")).to_have_value(
            f"{other.promised_at.astimezone(zone).date()}T{job.promised_at.astimezone(zone):%H:%M}"
        )
        self.assertEqual(Job.objects.get(pk=job.pk).promised_at, job.promised_at)

    def test_every_time_is_the_shops_on_a_device_of_another_zone(self) -> None:
        self.shop.time_zone = "Pacific/Auckland"
        self.shop.save()
        job = self.hung()
        there = job.promised_at.astimezone(shop_calendar(self.shop).zone)
        page = self.open(timezone_id="America/St_Johns", at=f"jobs/{job.pk}")
        expect(page.get_by_text(f"{there:%H:%M}").first).to_be_visible()
        page.get_by_role("button", name="move …").click()
        expect(page.get_by_label("Or another time")).to_have_value(f"{there:%Y-%m-%dT%H:%M}")


class Bench(QueueCase):
    def test_up_down_with_a_word_to_the_next_and_handed_over(self) -> None:
        job = self.hung()
        Place.objects.create(shop=self.shop, kind="stand", name="Window")
        Place.objects.create(shop=self.shop, kind="hook", name="A3")
        page = self.open()
        self.rail(page)
        page.get_by_role("button", name="Take it up").click()
        page.wait_for_url(f"**/jobs/{job.pk}")
        expect(page.get_by_text("In your hands, since", exact=False)).to_be_visible()
        page.get_by_role("button", name="Window").click()
        expect(page.get_by_text("In your hands, Window", exact=False)).to_be_visible()
        # A colleague sees who has it, and where.
        hers = self.open("ines")
        self.rail(hers)
        expect(hers.locator(f'[data-hung="{job.pk}"]')).to_contain_text("Bram, Window")
        page.get_by_role("button", name="Put down …").click()
        self.assertAccessible(page, "put down")
        page.get_by_label("Note to the next one").fill("R5 is seized, oiled")
        page.get_by_label("Hangs on hook").select_option(label="A3")
        page.get_by_label("Hand over to").select_option(label="Ines")
        page.get_by_role("button", name="Hand over", exact=True).click()
        expect(page.get_by_text("R5 is seized, oiled").first).to_be_visible()
        self.to(hers, f"jobs/{job.pk}")
        expect(hers.get_by_text("Bram:").first).to_be_visible()
        found = Job.objects.get(pk=job.pk)
        self.assertEqual((found.assigned_to, found.hook.name), (self.ines, "A3"))
        self.assertEqual(WorkSpan.objects.get().ended, "handed_over")

    def test_a_plan_worked_through_moves_on_and_one_tap_takes_it_back(self) -> None:
        job = self.job()
        Job.objects.filter(pk=job.pk).update(stage="settle")
        page = self.open(at=f"jobs/{job.pk}")
        readings.open_set(self.bram, job.pk, "as_left")
        page.reload()
        expect(page.get_by_text("readings as left were begun: the job stands at “Measure as left” now.")).to_be_visible()
        page.get_by_role("button", name="Take that back: “Settle”").click()
        expect(page.locator('[aria-current="step"]')).to_contain_text("Settle")
        self.assertEqual(Job.objects.get(pk=job.pk).stage, "settle")

    def test_one_tablet_from_hand_to_hand_by_digits(self) -> None:
        set_pin(self.ines, "7319")
        self.hung()
        page = self.open()
        self.expected_refusals = ("400", "403")
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Change person").click()
        page.get_by_role("button", name="Ines").click()
        page.keyboard.type("0000")
        page.keyboard.press("Enter")
        expect(page.get_by_text("These are not the digits of Ines.")).to_be_visible()
        self.assertAccessible(page, "digits")
        page.get_by_label("Digits").fill("7319")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="Ines: settings")).to_be_visible()
        expect(page.get_by_role("dialog")).to_have_count(0)


class Desk(QueueCase):
    def test_the_desks_next_is_a_call_with_its_words_and_new_dates(self) -> None:
        person(self.shop, "pip", "desk")
        job = self.hung()
        Job.objects.filter(pk=job.pk).update(promised_at=timezone.now() - timedelta(hours=3))
        page = self.open("pip")
        self.rail(page)
        expect(page.get_by_role("button", name="Take it up")).to_have_count(0)
        page.get_by_role("button", name="The words …").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("it may not be ready by then", exact=False)).to_be_visible()
        expect(dialog.get_by_role("link", name="0700 900 101")).to_have_attribute("href", "tel:0700900101")
        self.assertAccessible(page, "call")
        dialog.get_by_role("group", name="Dates with their chance").get_by_role("button").first.click()
        dialog.get_by_role("button", name="Promise it", exact=True).click()
        expect(page.get_by_text("Nobody is to be called just now")).to_be_visible()
        self.assertGreater(Job.objects.get(pk=job.pk).promised_at, timezone.now())
        self.assertEqual(JobEvent.objects.filter(job=job, kind="told_call").count(), 1)


class ManyWheels(QueueCase):
    def test_three_hundred_customers_hang_without_a_sideways_scroll(self) -> None:
        first = self.hung()
        by = {"shop": self.shop, "created_by": self.bram, "changed_by": self.bram}
        people = Customer.objects.bulk_create([Customer(name=f"Kit Marren {i}", **by) for i in range(299)])
        bikes = Bike.objects.bulk_create([Bike(customer=c, label="Bike", brake="rim", **by) for c in people])
        spec = {"position": "front", "kind": SMALL, "specification": first.wheel.specification}
        wheels = Wheel.objects.bulk_create([Wheel(bike=bike, **spec, **by) for bike in bikes])
        Job.objects.bulk_create(
            Job(number=200 + i, wheel=wheel, complaint="rubs", promised_at=self.slot(1 + i % 9), **held_fields(SOUND), **by)
            for i, wheel in enumerate(wheels)
        )
        page = self.open()
        for width, height in ((1280, 800), (1024, 768), (390, 844)):
            page.set_viewport_size({"width": width, "height": height})
            self.rail(page)
            expect(page.locator("a[data-hung]")).to_have_count(300)
            over = page.evaluate("() => document.documentElement.scrollWidth - window.innerWidth")
            self.assertLessEqual(over, 0, f"at {width}")

    def test_a_lot_of_three_hundred_is_a_few_hooks_and_arrows_walk(self) -> None:
        first = self.hung()
        rows = [
            Job(shop=self.shop, number=200 + i, wheel=first.wheel, complaint="rubs", promised_at=self.slot(1 + i % 9),
                **held_fields(SOUND),
                created_by=self.bram, changed_by=self.bram)
            for i in range(299)
        ]  # fmt: skip
        Job.objects.bulk_create(rows)
        page = self.open()
        self.rail(page)
        page.locator("[data-hung]").first.wait_for()
        # One customer's wheels of a day hang on one hook, so that ten days are ten hooks.
        self.assertLess(page.locator("[data-hung]").count(), 30)
        page.locator("[data-hung]").first.click()
        wheels = page.locator("a[data-hung]")
        expect(wheels.nth(3)).to_be_visible()
        wheels.nth(0).focus()
        for _ in range(3):
            page.keyboard.press("ArrowRight")
        expect(wheels.nth(3)).to_be_focused()


class ShopScreens(QueueCase):
    def test_the_owner_keeps_hours_people_and_places(self) -> None:
        person(self.shop, "odile", "owner")
        page = self.open("odile")
        self.expected_refusals = ("422",)
        self.to(page, "shop")
        expect(page.get_by_text("a usual week, until you say your own")).to_be_visible()
        self.assertAccessible(page, "shop")
        page.get_by_label("Monday").fill("nine to five")
        expect(page.get_by_text("Write it as 9-12:30, 13:30-18")).to_be_visible()
        expect(page.get_by_role("button", name="Save the hours")).to_be_disabled()
        page.get_by_label("Monday").fill("9-12:30, 13:30-18")
        page.get_by_label("Time zone").fill("Nowhere/Atall")
        page.get_by_role("button", name="Save the hours").click()
        expect(page.get_by_text("is no time zone")).to_be_visible()
        page.get_by_label("Time zone").fill("Europe/Lisbon")
        page.get_by_role("button", name="Save the hours").click()
        expect(page.get_by_text("a usual week, until you say your own")).to_have_count(0)
        expect(page.get_by_label("Monday")).to_have_value("9-12:30, 13:30-18")
        page.get_by_label("Another hook").fill("A1")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name="A1", exact=True)).to_be_visible()
        page.get_by_role("button", name="Another person").click()
        page.get_by_label("Name", exact=True).last.fill("Wyn Tregear")
        page.get_by_label("Signs in as").fill("wyn")
        page.get_by_label("First password").fill("short")
        page.get_by_role("button", name="Add", exact=True).last.click()
        expect(page.get_by_text("Take a password of ten characters")).to_be_visible()
        page.get_by_label("First password").fill("a ferry at seven")
        page.get_by_role("button", name="Add", exact=True).last.click()
        page.get_by_role("button", name="Wyn Tregear").click()
        expect(page.get_by_text("none said: works while the shop is open")).to_be_visible()
        self.assertAccessible(page, "person")

    def test_two_entries_of_one_customer_become_one(self) -> None:
        job = self.hung("M. Penhale", "")
        self.hung("Maud Penhale")
        page = self.open(at=f"customers/{job.wheel.bike.customer_id}")
        self.assertAccessible(page, "customer")
        page.get_by_role("button", name="Entered twice?").click()
        page.get_by_role("button", name="This one stays").click()
        expect(page.get_by_role("heading", name="Maud Penhale")).to_be_visible()
        expect(page.get_by_text("Bike of M. Penhale").first).to_be_visible()
