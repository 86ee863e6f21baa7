"""Measuring in the browser: feel, repeats, quick look, lumps, files, by ear, a stream, instruments, a server that dies."""

from __future__ import annotations

import os
import re
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
from django.db import connection
from playwright.sync_api import Page

from felloe.accounts.models import User
from felloe.bench.models import DialTrace, Reading, ReadingSet
from felloe.bench.services import readings
from felloe.core.tension.pitch import free_length
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.instruments.models import MeterTable
from felloe.instruments.services import instruments
from tests.api.shop import person
from tests.browser import sign_in
from tests.e2e.bench import PASSWORD, SMALL, BrowserCase, expect, figure
from tests.plucking import as_wav, plucked

ROOT = Path(__file__).resolve().parents[2]


def free_port() -> int:
    with socket.socket() as link:
        link.bind(("127.0.0.1", 0))
        return int(link.getsockname()[1])


class Measuring(BrowserCase):
    def bench(self) -> tuple[Page, ReadingSet]:
        job = self.job()
        self.meter()
        made = readings.open_set(self.bram, job.pk, "as_found")
        page = self.open(at=f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        return page, made

    def way(self, page: Page, name: str) -> None:
        page.get_by_role("button", name="Other ways").click()
        page.get_by_role("menuitem", name=name).click()

    def test_by_feel_and_repeats(self) -> None:
        page, _ = self.bench()
        page.get_by_label("Instrument", exact=True).select_option(label="By feel, 1 to 4")
        figure(page, "tension of R1").focus()
        page.keyboard.type("9")
        page.keyboard.press("Enter")
        expect(page.get_by_text("By feel: 1 slack")).to_be_visible()
        page.keyboard.type("2")
        page.keyboard.press("Enter")
        self.eventually(Reading.objects.filter(spoke="R1").count, 1)
        self.assertEqual(Reading.objects.get(spoke="R1").entered["feel"], "loose")
        page.get_by_label("Instrument", exact=True).select_option(label="Force in N")
        page.get_by_label("repeat, average").check()
        figure(page, "tension of R2").focus()
        for value in ("900", "920", "910"):
            page.keyboard.type(value)
            page.keyboard.press("Enter")
        self.eventually(lambda: sorted(Reading.objects.filter(spoke="R2").values_list("revision", flat=True)), [1, 2, 3])
        expect(page.get_by_text("✓ Mean of 3 saved: 900 · 920 · 910.")).to_be_visible()
        self.assertAccessible(page, "readings")

    def test_the_quick_look_and_the_most_telling_reading(self) -> None:
        page, _ = self.bench()
        page.get_by_label("In which order").select_option(label="quick look")
        expect(page.get_by_text(re.compile("0 of 10 tension"))).to_be_visible()
        advised = page.get_by_role("button", name=re.compile("Most telling next"))
        expect(advised).to_be_visible()
        told = advised.inner_text()
        page.get_by_role("radio", name="Dish").click()
        expect(page.get_by_label("Gap at the locknut, mm")).to_be_visible()
        page.get_by_label("Gap at the locknut, mm").fill("1")
        page.get_by_role("radio", name="left").click()
        expect(page.get_by_role("img", name="From behind: rim 0.50 mm to the left")).to_be_visible()
        page.get_by_role("button", name="Record dish").click()
        self.eventually(Reading.objects.filter(kind="dish").count, 1)
        expect(advised).to_be_visible()
        self.assertIn("% of what is open", told)

    def test_a_lump_and_a_file(self) -> None:
        page, made = self.bench()
        self.way(page, "A lump, by eye")
        page.get_by_label("From spoke").fill("R3")
        page.get_by_label("To spoke").fill("r5")
        page.get_by_label("Height, mm").fill("0,8")
        self.assertAccessible(page, "lump")
        page.keyboard.press("Enter")
        self.eventually(DialTrace.objects.count, 1)
        self.way(page, "A file")
        text = "spoke;tension [N]\nR1;900\nR2;x\n"
        bad = {"name": "a.csv", "mimeType": "text/csv", "buffer": text.encode()}
        page.get_by_label("File of readings").set_input_files(files=[bad])  # type: ignore[list-item]
        expect(page.get_by_text("✗ “x” is no number")).to_be_visible()
        expect(page.get_by_role("button", name="Not as it is")).to_be_disabled()
        good = {"name": "b.csv", "mimeType": "text/csv", "buffer": text.replace("x", "910,5").encode()}
        page.get_by_label("File of readings").set_input_files(files=[good])  # type: ignore[list-item]
        self.assertAccessible(page, "file")
        page.get_by_role("button", name="Take all 2").click()
        self.eventually(lambda: Reading.objects.filter(reading_set=made).count(), 2)

    def test_a_side_by_ear(self) -> None:
        page, _ = self.bench()
        rng = np.random.default_rng(2)
        wheel = WHEEL_KINDS[SMALL].wheel
        free = free_length(wheel, "R1")
        sound = np.concatenate([plucked(free, t, rng, seconds=0.5) for t in rng.uniform(700, 1200, wheel.right.count)])
        self.way(page, "By ear")
        recording = {"name": "side.wav", "mimeType": "audio/wav", "buffer": as_wav(sound)}
        page.get_by_label("Recording of plucks").set_input_files(files=[recording])  # type: ignore[list-item]
        expect(page.get_by_role("img", name=re.compile("How even the plucked side is"))).to_be_visible()
        self.assertAccessible(page, "by ear")
        page.get_by_role("button", name=f"Keep {wheel.right.count} as readings").click()
        self.eventually(Reading.objects.count, wheel.right.count)
        self.assertEqual({r.entered["unit"] for r in Reading.objects.all()}, {"Hz"})

    def test_an_instrument_that_streams(self) -> None:
        port = free_port()
        command = [sys.executable, "-m", "felloe.cli.instrument", "--port", str(port), "--kind", SMALL]
        process = subprocess.Popen(command, cwd=ROOT, stdout=subprocess.PIPE, text=True)
        self.addCleanup(process.wait)
        self.addCleanup(process.kill)
        assert process.stdout is not None
        process.stdout.readline()
        page, _ = self.bench()
        owner = person(self.shop, "odile", User.Role.OWNER)
        meter = instruments.meters_of(self.bram)[0]
        meter.address = f"127.0.0.1:{port}"
        meter.save_change(owner, ["address"])
        page.reload()
        expect(page.get_by_text("steady: Enter takes it")).to_be_visible()
        page.keyboard.press("Enter")
        self.eventually(Reading.objects.filter(spoke="R1", entered__unit="meter").count, 1)
        page.get_by_label("take by itself").check()
        self.eventually(lambda: Reading.objects.filter(spoke="R3").count(), 1)
        page.get_by_role("button", name="Other ways").click()
        taken = Reading.objects.count()
        # Longer than two values take to stand still: an open menu stays open, and the spokes wait for it.
        page.wait_for_timeout(4000)
        self.assertLessEqual(Reading.objects.count(), taken + 1)
        page.get_by_role("menuitem", name="A whole turn").click()
        # So they do for the dialog that comes of it.
        taken = Reading.objects.count()
        page.wait_for_timeout(4000)
        self.assertLessEqual(Reading.objects.count(), taken + 1)
        page.get_by_role("button", name="Trace lateral").click()
        self.eventually(DialTrace.objects.count, 1)
        expect(page.get_by_role("list", name="Traces of this set")).to_contain_text("lateral")

    def test_the_server_is_killed_and_started_again_during_entry(self) -> None:
        """A server process of its own on the test database: killed between readings, started again, nothing lost or doubled."""
        self.expected_refusals = ("Failed to load resource", "ERR_", "net::")
        job = self.job()
        made = readings.open_set(self.bram, job.pk, "as_found")
        port = free_port()
        server = self.start_server(port)
        page = self.open()
        sign_in(page, f"http://127.0.0.1:{port}", "bram", PASSWORD)
        page.goto(f"http://127.0.0.1:{port}/jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        page.get_by_label("Instrument", exact=True).select_option(label="Force in N")
        figure(page, "tension of R1").focus()
        page.keyboard.type("900")
        page.keyboard.press("Enter")
        self.eventually(Reading.objects.count, 1)
        server.send_signal(signal.SIGKILL)
        server.wait()
        for value in ("910", "920", "930"):
            page.keyboard.type(value)
            page.keyboard.press("Enter")
        # The first one's answer may have died with the server: then it waits as well, and is not stored twice.
        expect(page.get_by_text(re.compile("^[34] entries wait on this tablet"))).to_be_visible()
        self.assertEqual(Reading.objects.count(), 1)
        self.start_server(port)
        expect(page.get_by_text("on this tablet")).to_have_count(0, timeout=40_000)
        rows = Reading.objects.order_by("created_at").values_list("spoke", "revision", "value")
        self.assertEqual(list(rows), [("R1", 1, 900.0), ("R2", 1, 910.0), ("R3", 1, 920.0), ("R4", 1, 930.0)])

    def start_server(self, port: int) -> subprocess.Popen[bytes]:
        settings = connection.settings_dict
        env = {
            **os.environ,
            "FELLOE_DB_NAME": str(settings["NAME"]),
            "FELLOE_DB_PORT": str(settings["PORT"]),
            "FELLOE_DB_PASSWORD": str(settings["PASSWORD"]),
            "DJANGO_SETTINGS_MODULE": "felloe.config.settings.test",
        }
        command = [sys.executable, "manage.py", "runserver", "--insecure", "--noreload", f"127.0.0.1:{port}"]
        server = subprocess.Popen(command, cwd=ROOT, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        self.addCleanup(server.wait)
        self.addCleanup(server.kill)
        end = time.monotonic() + 40
        while time.monotonic() < end:
            with socket.socket() as link:
                link.settimeout(0.5)
                if link.connect_ex(("127.0.0.1", port)) == 0:
                    return server
            time.sleep(0.2)
        raise AssertionError("the server did not start")


class SeventyTwo(BrowserCase):
    def test_seventy_two_readings_without_the_mouse(self) -> None:
        """Tension and lateral of every spoke of a 36-spoke wheel: one key beyond the digits each, one between the kinds."""
        job = self.job("rim-brake-rear-36")
        made = readings.open_set(self.bram, job.pk, "as_found")
        page = self.open(at=f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        keys = digits = 0
        for kind in ("tension", "lateral"):
            for i in range(36):
                text = str(880 + i) if kind == "tension" else f".{i % 9 + 1}"
                page.keyboard.type(text)
                page.keyboard.press("Enter")
                keys, digits = keys + len(text) + 1, digits + len(text)
            if kind == "tension":
                page.keyboard.press("Enter")
                keys += 1
        self.eventually(Reading.objects.count, 72, 40)
        self.assertEqual(keys - digits, 73)
        places = Reading.objects.values_list("kind", "spoke").distinct().count()
        self.assertEqual(places, 72)


class Instruments(BrowserCase):
    def test_calibrated_by_keyboard_and_signed(self) -> None:
        self.meter()
        page = self.open(at="instruments")
        page.get_by_role("button", name=re.compile("^Bench meter A")).click()
        self.assertAccessible(page, "instruments")
        page.get_by_role("button", name="Calibrate", exact=True).click()
        page.get_by_label("Spoke kind").fill("round 2.0")
        page.get_by_label("Load 1").focus()
        for load, reading in (("300", "17.5"), ("500", "22,5"), ("700", "25.5"), ("900", "28"), ("1100", "30")):
            page.keyboard.type(load)
            page.keyboard.press("Tab")
            page.keyboard.type(reading)
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.get_by_role("img", name="Force against reading: round 2.0").last).to_be_visible()
        self.assertAccessible(page, "calibration")
        before = MeterTable.objects.count()
        page.get_by_role("button", name="Sign it, and use it").click()
        self.eventually(MeterTable.objects.count, before + 1)
        expect(page.get_by_text("calibrated here").first).to_be_visible()

    def test_a_stand_by_flipping(self) -> None:
        instruments.add_instrument(self.bram, {"name": "Stand", "kind": "stand"})
        page = self.open(at="instruments")
        page.get_by_label("Right way round, mm", exact=True).fill("2,4")
        page.get_by_label("Flipped, mm", exact=True).fill("0.4")
        page.get_by_label("Flipped, mm: toward").get_by_role("radio", name="stand's right").click()
        page.get_by_role("button", name="Judge the stand").click()
        expect(page.get_by_text("The stand points 1.4 mm to the left: adjust the stand")).to_be_visible()
        expect(page.get_by_text("! failed")).to_be_visible()
