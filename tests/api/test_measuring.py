"""Readings of every kind through HTTP: units, feel, pitch, repeats, lumps, files, recordings, streams."""

from __future__ import annotations

import socket
import time
from collections.abc import Callable
from typing import Any

import numpy as np

from felloe.bench.models import DialTrace, Reading
from felloe.cli.instrument import stand_in
from felloe.core.naming import Side
from felloe.core.tension.pitch import free_length, pitch_of_tension
from felloe.instruments.services import listening
from tests.api.shop import BenchCase
from tests.core.wheels import REAR
from tests.plucking import as_wav, plucked
from tests.stand import ServedStandIn


class Entering(BenchCase):
    def test_any_unit_a_person_thinks_in(self) -> None:
        self.assertAlmostEqual(self.read("tension", "R1", 200, "lbf").json()["value"], 889.6443230521)
        self.assertAlmostEqual(self.read("lateral", "R1", 0.01, "in").json()["value"], 0.254)
        hz = pitch_of_tension(900, free_length(REAR, "R1"))
        heard = self.read("tension", "R2", round(hz, 1), "Hz").json()
        self.assertAlmostEqual(heard["value"], 900, delta=3)
        self.assertGreater(heard["sd"], 50)
        self.assertProblem(self.read("tension", "R2", 5, "Hz"), 422, "bad_reading", "value")
        self.assertProblem(self.read("lateral", "R2", 5, "N"), 400, "invalid_input", "unit")

    def test_by_feel(self) -> None:
        body = {"kind": "tension", "spoke": "R3", "feel": "loose"}
        made = self.post(f"reading-sets/{self.set}/readings", body).json()
        self.assertAlmostEqual(made["value"], 550)
        self.assertEqual(made["entered"]["feel"], "loose")
        wrong = {**body, "feel": "mushy"}
        self.assertProblem(self.post(f"reading-sets/{self.set}/readings", wrong), 400, "invalid_input", "feel")

    def test_repeats_are_averaged_and_outliers_shown(self) -> None:
        for value in (900, 910, 890, 905):
            last = self.read("tension", "R1", value, repeat=True).json()
        self.assertAlmostEqual(last["value"], 901.25)
        self.assertLess(last["sd"], 25)
        far = self.read("tension", "R1", 90, repeat=True).json()
        self.assertEqual((far["entered"]["outliers"], round(far["value"], 2)), ([4], 901.25))
        self.assertEqual(len(far["entered"]["repeats"]), 5)
        anew = self.read("tension", "R1", 700).json()
        self.assertAlmostEqual(anew["value"], 700)

    def test_what_to_read_next(self) -> None:
        advice = self.get(f"reading-sets/{self.set}/advice").json()
        self.assertTrue(advice["next"])
        self.assertEqual(len(advice["quick_look"]), 10)
        self.read_all()
        after = self.get(f"reading-sets/{self.set}/advice").json()
        self.assertEqual((after["next"], after["enough"]), ([], True))


class Lumps(BenchCase):
    def lump(self, **change: Any) -> Any:
        body = {"kind": "lateral", "first": "r7", "last": "R9", "height_mm": 0.6, "toward": "R", **change}
        return self.post(f"reading-sets/{self.set}/lumps", body)

    def test_told_seen_and_taken_back(self) -> None:
        made = self.lump().json()
        self.assertEqual(made["said"], "0.6 mm to the right from R7 to R9, by eye")
        state = self.get(f"reading-sets/{self.set}/state").json()
        self.assertGreater(state["lateral_tir_mm"], 0.4)
        back = self.post(f"reading-sets/{self.set}/traces/{made['id']}/withdraw", {})
        self.assertEqual(back.status_code, 204)
        self.assertEqual(self.get(f"reading-sets/{self.set}/advice").json()["traces"], [])
        self.assertEqual(DialTrace.objects.count(), 1)
        self.assertEqual(self.post(f"reading-sets/{self.set}/traces/{made['id']}/withdraw", {}).status_code, 404)

    def test_refusals(self) -> None:
        self.assertProblem(self.lump(first="R40"), 422, "bad_reading", "first")
        self.assertProblem(self.lump(height_mm=-1), 422, "bad_reading", "height_mm")
        no_side = {"kind": "lateral", "first": "R1", "last": "R3", "height_mm": 1}
        self.assertProblem(self.post(f"reading-sets/{self.set}/lumps", no_side), 422, "bad_reading", "toward")
        self.assertProblem(self.lump(first="R9", last="R7"), 422, "bad_reading", "last")


class Files(BenchCase):
    def send(self, text: str, query: str = "") -> Any:
        return self.client.post(f"/api/v1/reading-sets/{self.set}/csv{query}", text.encode(), content_type="text/csv")

    def test_looked_at_first_then_all_or_nothing(self) -> None:
        self.read("tension", "R1", 800)
        text = "spoke,tension_n,lateral_mm\nR1,900,0.1\nL1,450,-0.1\n"
        looked = self.send(text).json()
        self.assertEqual((looked["sound"], looked["kept"], Reading.objects.count()), (True, False, 1))
        self.assertEqual(looked["rows"][0]["doubt"], "replaces 800.00")
        kept = self.send(text, "?keep=1").json()
        self.assertTrue(kept["kept"])
        self.assertEqual(Reading.objects.count(), 5)
        bad = self.send("spoke,tension_n\nR2,900\nR99,800\n", "?keep=1")
        self.assertProblem(bad, 422, "bad_csv", "line 3")
        self.assertEqual(Reading.objects.count(), 5)

    def test_a_meters_units_need_the_meter(self) -> None:
        text = "spoke,tension [meter]\nR1,28\nR2,99\n"
        self.assertIn("say which meter", self.send(text).json()["rows"][0]["wrong"])
        rows = self.send(text, f"?meter={self.meter}").json()["rows"]
        self.assertEqual(rows[0]["wrong"], "")
        self.assertIn("lies outside it", rows[1]["wrong"])

    def test_out_as_csv_and_in_again(self) -> None:
        self.read("tension", "R1", 800)
        self.read("lateral", "L2", -0.25)
        out = self.get(f"reading-sets/{self.set}/csv")
        self.assertEqual(out["Content-Type"], "text/csv; charset=utf-8; header=present")
        looked = self.send(out.content.decode()).json()
        values = [(r["kind"], r["spoke"], r["value"]) for r in looked["rows"]]
        self.assertEqual(values, [("tension", "R1", 800.0), ("lateral", "L2", -0.25)])

    def test_a_dense_trace(self) -> None:
        text = "angle_deg,lateral_mm\n" + "".join(f"{a},{0.4 * np.cos(np.radians(2 * a)):.3f}\n" for a in range(0, 360, 2))
        self.assertTrue(self.send(text, "?keep=1").json()["dense"])
        state = self.get(f"reading-sets/{self.set}/state").json()
        self.assertAlmostEqual(state["lateral_tir_mm"], 0.8, delta=0.05)

    def test_no_table(self) -> None:
        self.assertProblem(self.send("hello"), 422, "bad_csv")


class Recordings(BenchCase):
    def send(self, data: bytes, spokes: str = "") -> Any:
        path = f"/api/v1/reading-sets/{self.set}/recordings?spokes={spokes}"
        return self.client.post(path, data, content_type="audio/wav")

    def test_a_side_by_ear_and_absolute_by_one_meter_reading(self) -> None:
        rng = np.random.default_rng(5)
        free = free_length(REAR, "R1")
        tensions = [900.0, 1000.0, 800.0, 1100.0]
        sound = np.concatenate([plucked(free, t, rng, seconds=0.6) for t in tensions])
        heard = self.send(as_wav(sound), "R1,R2,R3,R4").json()
        self.assertEqual((heard["heard"], heard["expected"]), (4, 4))
        found = [t["tension_n"] for t in heard["tones"]]
        np.testing.assert_allclose(found, tensions, rtol=0.06)
        self.assertEqual([t["percent"] > 0 for t in heard["tones"]], [False, True, False, True])
        self.assertEqual(Reading.objects.count(), 0)
        tone = heard["tones"][1]
        made = self.read("tension", "R2", tone["hz"], "Hz", pitch_factor=1.1, ends_at="crossing").json()
        self.assertAlmostEqual(made["value"] / tone["tension_n"], 1.1, delta=0.001)

    def test_what_is_no_recording(self) -> None:
        quiet = as_wav(np.random.default_rng(0).normal(0, 1, 44_100))
        for data, words in ((b"RIFF", "no uncompressed WAV"), (b"", "no uncompressed WAV"), (quiet, "no clear tone")):
            answer = self.send(data, "R1")
            self.assertProblem(answer, 422, "bad_reading", "recording")
            self.assertIn(words, answer.json()["detail"])
        rng = np.random.default_rng(5)
        sound = as_wav(plucked(free_length(REAR, "R1"), 900, rng))
        self.assertProblem(self.send(sound, "R77"), 422, "bad_reading", "spokes")


class Streaming(BenchCase):
    """Against the stand-in that ships, on a port of its own."""

    def setUp(self) -> None:
        super().setUp()
        self.instrument = stand_in("rim-brake-rear-36", 3)
        served = ServedStandIn(self.instrument)
        self.addCleanup(served.stop)
        made = self.post("instruments", {"name": "Stream", "address": served.address})
        self.stream = made.json()["id"]

    def test_the_last_value_steady_on_the_spoke_asked_for(self) -> None:
        found = self.until(lambda f: f["steady"] and f["sample"]["spoke"] == "L5", f"instruments/{self.stream}/live?spoke=L5")
        self.assertTrue(found["connected"])
        self.assertEqual(found["sample"]["spoke"], "L5")
        virtual = self.instrument.virtual
        tension = float(virtual.tension_n[virtual.wheel.index_of["L5"]])
        wheel = virtual.wheel
        shown = self.instrument.tables[wheel.side(Side.LEFT).spoke.kind].reading(tension)
        self.assertAlmostEqual(found["sample"]["value"], shown or 0, delta=1.0)
        self.assertTrue(found["steady"])

    def test_a_whole_turn_is_kept_as_a_trace(self) -> None:
        body = {"instrument": self.stream, "kind": "lateral"}
        made = self.post(f"reading-sets/{self.set}/turns", body, key="turn")
        self.assertEqual((made.status_code, made.json()["places"]), (202, 0))
        self.assertEqual(DialTrace.objects.count(), 0)
        end = time.monotonic() + 60
        while made.status_code == 202 and time.monotonic() < end:
            time.sleep(0.1)
            made = self.post(f"reading-sets/{self.set}/turns", body, key="turn")
        self.assertEqual(made.status_code, 201, made.content)
        again = self.post(f"reading-sets/{self.set}/turns", body, key="turn")
        self.assertEqual((again.status_code, DialTrace.objects.count()), (201, 1))
        self.assertGreater(made.json()["places"], 100)
        state = self.get(f"reading-sets/{self.set}/state").json()
        true = float(np.ptp(self.instrument.shapes["lateral"]))
        self.assertAlmostEqual(state["lateral_tir_mm"], true, delta=0.15)

    def test_one_that_is_not_there_says_so(self) -> None:
        gone = self.post("instruments", {"name": "Gone", "address": "127.0.0.1:9"}).json()["id"]
        found = self.until(lambda f: "Looking" not in f["message"], f"instruments/{gone}/live")
        self.assertFalse(found["connected"])
        self.assertIn("Not reached", found["message"])
        turn = {"instrument": gone, "kind": "radial"}
        end = time.monotonic() + 30
        answer = self.post(f"reading-sets/{self.set}/turns", turn)
        while answer.status_code == 202 and time.monotonic() < end:
            time.sleep(0.05)
            answer = self.post(f"reading-sets/{self.set}/turns", turn)
        self.assertProblem(answer, 409, "not_reached")

    def test_an_ear_answers_at_once_and_closes_when_nobody_asks(self) -> None:
        deaf = socket.socket()
        self.addCleanup(deaf.close)
        deaf.bind(("127.0.0.1", 0))
        deaf.listen()
        ear = listening.Ear(deaf.getsockname(), {})
        ear.start()
        self.assertEqual(ear.want({"spoke": "R1"}).samples, ())
        ear._wanted_until = 0.0
        ear.join(30)
        self.assertFalse(ear.is_alive())

    def until(self, wanted: Callable[[Any], bool], path: str) -> Any:
        """Ask until the answer is as wanted, as the bench does."""
        end = time.monotonic() + 60
        found = self.get(path).json()
        while not (found["sample"] or not found["connected"]) or not self.fits(wanted, found):
            self.assertLess(time.monotonic(), end, found)
            time.sleep(0.05)
            found = self.get(path).json()
        return found

    def fits(self, wanted: Callable[[Any], bool], found: Any) -> bool:
        try:
            return wanted(found)
        except TypeError:
            return False
