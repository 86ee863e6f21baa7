"""How often each main screen's questions ask the database: a budget each, and none that grows with the rows it shows."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from felloe.stock import services as stock
from tests.api.shop import open_job
from tests.api.test_every_path import MadeCase
from tests.api.test_stock import SPOKE

#: Question → how many queries it may take, session and person included.
BUDGETS = {
    "session": 4,
    "rail": 23,
    "find?text=rubs": 7,
    "places": 3,
    "tiers": 3,
    "trade": 3,
    "shop/hours": 6,
    "jobs/{job}/work": 15,
    "jobs/{job}": 5,
    "jobs/{job}/reading-sets": 5,
    "jobs/{job}/plans": 5,
    "jobs/{job}/photos": 5,
    "jobs/{job}/tag": 6,
    "reading-sets/{set}": 6,
    "reading-sets/{set}/state": 12,
    "reading-sets/{set}/advice": 17,
    "reading-sets/{set}/verdict": 20,
    "reading-sets/{set}/pass": 8,
    "plans/{plan}": 9,
    "jobs/{job}/diagnosis": 11,
    "jobs/{job}/condition": 16,
    "jobs/{job}/options": 24,
    "jobs/{job}/refit": 6,
    "jobs/{job}/comparison": 23,
    "jobs/{job}/sizing": 15,
    "jobs/{job}/lacing": 13,
    "jobs/{job}/strip": 18,
    "jobs/{job}/replacing": 22,
    "stock": 10,
    "stock/orders": 12,
    "instruments": 5,
    "meters": 5,
}


class Budgets(MadeCase):
    def queries_of(self, path: str) -> int:
        address = path.format(job=self.job.pk, set=self.set, plan=self.ids["plan_id"])
        self.get(address)
        with CaptureQueriesContext(
            connection,
        ) as seen:
            answer = self.get(address)
        self.assertEqual(answer.status_code, 200, (path, answer.content[:200]))
        return len(seen)

    def more_of_everything(self) -> None:
        job = f"jobs/{self.job.pk}"
        for kind, attributes in (
            ("nipple", {"length_mm": 12.0, "for_thread_mm": 2.0, "material": "brass"}),
            ("washer", {"body_mm": 6.0}),
        ):
            for i in range(3):
                made = stock.add_part(self.bram, {"kind": kind, "name": f"{kind} {i}", "attributes": attributes})
                stock.count_bin(self.bram, made.pk, 40)
            self.post(f"{job}/sizing/kit", {f"{kind}_part": str(made.pk)})
        for i in range(6):
            part = stock.add_part(self.bram, {**SPOKE, "name": f"Another spoke {i}"})
            stock.count_bin(self.bram, part.pk, 20)
            stock.reserve(self.bram, part.pk, self.job.pk, 2)
            other: Any = open_job(self.bram)
            stock.reserve(self.bram, part.pk, other.pk, 3)
            self.post(f"{job}/marks", {"kind": "dent", "spoke": f"R{i + 6}", "measure_mm": 1.0})
            self.post(f"{job}/breaks", {"spoke": f"L{i + 6}", "place": "elbow"})
            self.read("tension", f"R{i + 2}", 900 + i)
            lines = [{"part": str(part.pk), "count": 5}]
            self.post("stock/orders", {"supplier": "Quay Supply", "lines": lines})

    def test_every_question_keeps_its_budget_and_none_grows_with_its_rows(self) -> None:
        before = {path: self.queries_of(path) for path in BUDGETS}
        self.more_of_everything()
        after = {path: self.queries_of(path) for path in BUDGETS}
        for path, most in BUDGETS.items():
            with self.subTest(path):
                self.assertLessEqual(after[path], before[path] + 1, f"{before[path]} grew to {after[path]}")
                self.assertLessEqual(max(before[path], after[path]), most)

    def test_readings_are_saved_and_looked_at_in_few_questions_however_many_they_are(self) -> None:
        asked = []
        for many in (1, 1, 30):
            forces = range(900, 900 + many)
            entries = [
                {
                    "key": f"{many} {len(asked)} {i}",
                    "entry": {"kind": "tension", "spoke": f"R{1 + i % 18}", "value": n, "unit": "N"},
                }
                for i, n in enumerate(forces)
            ]
            with CaptureQueriesContext(connection) as seen:
                answer = self.post(f"reading-sets/{self.set}/entries", {"entries": entries})
            self.assertTrue(answer.json()["state"])
            asked.append(len(seen))
        self.assertLessEqual(max(asked[1:]), 17, asked)
        self.assertLessEqual(asked[2], asked[1] + 1, asked)

    def test_no_screen_reads_a_photos_pixels_but_that_which_shows_them(self) -> None:
        loud = []
        for path in BUDGETS:
            address = path.format(job=self.job.pk, set=self.set, plan=self.ids["plan_id"])
            with CaptureQueriesContext(connection) as seen:
                self.get(address)
            loud += [path for query in seen.captured_queries if '"queue_photo"."data"' in query["sql"]]
        self.assertEqual(loud, [])
