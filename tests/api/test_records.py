"""The open wheel record over HTTP, and the command that plans from a file."""

import contextlib
import io
import json
import tempfile
from pathlib import Path

from django.test import SimpleTestCase
from jsonschema import Draft202012Validator

from felloe.bench.models import Reading, ReadingSet
from felloe.cli.plan import main
from tests.api.shop import BenchCase, open_job

FORMATS = Path(__file__).resolve().parents[2] / "docs" / "formats"
EXAMPLE = FORMATS / "examples" / "rear-32-full.json"
QUICK = FORMATS / "examples" / "disc-front-28-quick.json"


class Exchange(BenchCase):
    def send(self, job, data: bytes):
        return self.client.post(f"/api/v1/jobs/{job.pk}/record", data, content_type="application/json")

    def test_out_fits_the_schema_and_comes_in_again(self) -> None:
        self.read_all(lump_mm=0.8)
        for i in range(1, 5):
            self.read("tension", f"R{i}", 26.5, "meter", meter=self.meter)
        self.post(f"reading-sets/{self.set}/plans", {})
        out = self.get(f"jobs/{self.job.pk}/record")
        schema = json.loads((FORMATS / "wheel-record.schema.json").read_text())
        self.assertEqual(list(Draft202012Validator(schema).iter_errors(out.json())), [])
        other = open_job(self.bram, "disc-front-28")
        self.assertEqual(self.send(other, out.content).status_code, 200)
        made = ReadingSet.objects.get(job=other)
        self.assertEqual(Reading.objects.filter(reading_set=made).count(), 109)
        one, two = (self.get(f"reading-sets/{s}/state").json() for s in (self.set, made.pk))
        self.assertAlmostEqual(one["lateral_tir_mm"], two["lateral_tir_mm"], places=2)
        self.assertAlmostEqual(one["dish_mm"], two["dish_mm"], places=2)

    def test_traces_go_out_and_come_in(self) -> None:
        self.read_all(lump_mm=0.8)
        self.post(f"reading-sets/{self.set}/lumps", {"kind": "radial", "first": "R3", "last": "R5", "height_mm": 0.6})
        out = self.get(f"jobs/{self.job.pk}/record").json()
        [trace] = out["reading_sets"][0]["traces"]
        self.assertEqual((trace["kind"], trace["source"]), ("radial", "lump"))
        other = open_job(self.bram)
        self.assertEqual(self.send(other, json.dumps(out).encode()).status_code, 200)
        again = self.get(f"jobs/{other.pk}/record").json()
        self.assertEqual(again["reading_sets"][0]["traces"], [trace])
        one, two = (self.get(f"reading-sets/{s}/state").json() for s in (self.set, again["reading_sets"][0]["id"]))
        self.assertAlmostEqual(one["radial_tir_mm"], two["radial_tir_mm"], places=2)
        old = out | {"version": 1}
        self.assertEqual(self.send(open_job(self.bram), json.dumps(old).encode()).status_code, 422)

    def test_the_example_comes_in(self) -> None:
        job = open_job(self.bram)
        body = self.send(job, EXAMPLE.read_bytes()).json()
        self.assertEqual(len(body["wheel"]["derived"]["spokes"]), 32)

    def test_the_tier_comes_along(self) -> None:
        value = json.loads(EXAMPLE.read_text())
        value["targets"]["tier"] = "fine"
        job = open_job(self.bram)
        body = self.send(job, json.dumps(value).encode()).json()
        self.assertEqual((body["tier"], body["version"]), ("fine", 2))

    def test_refused_whole(self) -> None:
        job = open_job(self.bram)
        broken = json.loads(EXAMPLE.read_text())
        broken["reading_sets"][0]["radial"][5]["spoke"] = "R77"
        impossible = json.loads(EXAMPLE.read_text())
        impossible["wheel"]["rim"]["erd_mm"] = 20
        cases = [
            (b"{ not json", 422, "bad_record", ""),
            (b" " * 2_000_001, 422, "bad_record", ""),
            (json.dumps(broken).encode(), 422, "bad_reading", "reading_sets.0.radial.5.spoke"),
            (json.dumps(impossible).encode(), 422, "impossible_geometry", "wheel.rim.erd_mm"),
        ]
        for data, status, code, field in cases:
            with self.subTest(code=code, field=field):
                self.assertProblem(self.send(job, data), status, code, field)
        job.wheel.refresh_from_db()
        self.assertEqual(job.wheel.version, 1)
        self.assertEqual(ReadingSet.objects.filter(job=job).count(), 0)

    def test_a_job_with_readings_keeps_them(self) -> None:
        self.read("tension", "R1", 900)
        self.assertProblem(self.send(self.job, EXAMPLE.read_bytes()), 409, "job_has_readings")


class Command(SimpleTestCase):
    def run_plan(self, *arguments: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main(list(arguments))
        return status, out.getvalue(), err.getvalue()

    def with_change(self, **change) -> str:
        value = json.loads(EXAMPLE.read_text())
        for path, new in change.items():
            node = value
            *keys, last = path.split("__")
            for key in keys:
                node = node[key]
            node[last] = new
        with tempfile.NamedTemporaryFile("w", suffix=".json", delete=False) as file:
            json.dump(value, file)
        self.addCleanup(Path(file.name).unlink)
        return file.name

    def test_plans_with_no_database(self) -> None:
        status, out, err = self.run_plan(str(EXAMPLE))
        self.assertEqual((status, err), (0, ""))
        plan = json.loads(out)
        self.assertEqual(len(plan["turns"]), 32)
        self.assertLess(plan["predicted"]["lateral_tir_mm"], plan["before"]["lateral_tir_mm"])
        self.assertEqual(sum(abs(t) > 0 for t in plan["turns"].values()), len(plan["moves"]))

    def test_options(self) -> None:
        status, out, _ = self.run_plan(
            str(QUICK), "--tier", "fine", "--step", "0.0625", "--limit", "0.25", "--leave", "R1", "L2"
        )
        plan = json.loads(out)
        self.assertEqual((status, plan["tier"]), (0, "fine"))
        self.assertLessEqual(max(abs(t) for t in plan["turns"].values()), 0.25)
        self.assertEqual((plan["turns"]["R1"], plan["turns"]["L2"]), (0, 0))

    def test_bad_input_and_impossible_wheels_are_told_apart(self) -> None:
        cases = [
            (2, "No such file", "/nowhere/at-all.json"),
            (2, "version", self.with_change(version=9)),
            (2, "wheel.rim.erd_mm", self.with_change(wheel__rim__erd_mm="x")),
            (2, "no reading set", self.with_change(reading_sets=[])),
            (3, "wheel.rim.erd_mm", self.with_change(wheel__rim__erd_mm=30)),
            (
                3,
                "stable balance",
                self.with_change(
                    wheel__rim={"erd_mm": 605, "ei_lat_nm2": 5, "ei_rad_nm2": 5, "gj_nm2": 1, "target_n": 2400, "cap_n": 2900}
                ),
            ),
        ]
        for status, words, path in cases:
            with self.subTest(words):
                found, out, err = self.run_plan(path)
                self.assertEqual((found, out), (status, ""))
                self.assertIn(words, err)
        self.assertEqual(self.run_plan(str(EXAMPLE), "--set", "other")[0], 2)
        self.assertEqual(self.run_plan(str(EXAMPLE), "--step", "0.3")[0], 2)
