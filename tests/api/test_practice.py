"""Practice through the API: a wheel taken, worked, judged; kept apart from the shop's records, and one's own."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import numpy as np
from django.db import IntegrityError, connection, transaction
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.core.practice.exercises import LADDER
from felloe.core.practice.lacing_task import questions
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.practice.models import PracticeRun, PracticeTask
from felloe.practice.services.subjects import subject_of
from felloe.queue.models import Job, JobEvent
from tests.api.described import DescribedClient
from tests.api.shop import person


class PracticeCase(TestCase):
    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Wheelworks")
        self.wyn, self.ines = person(self.shop, "wyn", "apprentice"), person(self.shop, "ines")
        self.desk = person(self.shop, "odile", "desk")
        self.client = self.as_(self.wyn)

    def as_(self, user: User) -> Any:
        client = DescribedClient()
        client.force_login(user)
        return client

    def post(self, path: str, body: Any, client: Any = None, key: str | None = None) -> Any:
        return (client or self.client).post(
            f"/api/v1/{path}", body, format="json", headers={"Idempotency-Key": key or str(uuid.uuid4())}
        )

    def begin(self, exercise: str, **values: Any) -> dict[str, Any]:
        made = self.post("practice/runs", {"exercise": exercise, **values})
        assert made.status_code == 201, made.content
        self.run_id = made.json()["id"]
        found: dict[str, Any] = made.json()
        return found

    def act(self, what: str, **values: Any) -> Any:
        return self.post(f"practice/runs/{self.run_id}/deeds", {"what": what, **values})

    def good(self, what: str, **values: Any) -> dict[str, Any]:
        done = self.act(what, **values)
        assert done.status_code == 200, done.content
        found: dict[str, Any] = done.json()
        return found

    @property
    def row(self) -> PracticeRun:
        return PracticeRun.objects.get(pk=self.run_id)


class Worked(PracticeCase):
    def test_by_the_plan_from_reading_to_marks(self) -> None:
        run = self.begin("by-the-plan")
        self.assertEqual((run["mode"], run["now"]["read_version"], run["now"]["truth"]), ("plan", 0, []))
        self.assertEqual(self.act("plan").status_code, 422)
        for _ in range(3):
            self.good("look")
            self.good("dish")
            for name in [str(n) for n in WHEEL_KINDS[run["kind"]].wheel.names]:
                self.good("squeeze", spoke=name)
            moves = self.good("plan")["moves"]
            if not moves:
                break
            for move in moves:
                self.good("turn", spoke=move["spoke"], turns=move["turns"])
            self.good("settle")
            now = self.good("pass")
            self.assertEqual((now["read_spokes"], now["looked"], now["moves"]), ([], False, []))
        self.good("look")
        strip = self.client.get(f"/api/v1/practice/runs/{self.run_id}/state").json()
        self.assertGreaterEqual(strip["reading_count"], 2 * WHEEL_KINDS[run["kind"]].wheel.spoke_count)
        ended = self.good("end")
        self.assertTrue(ended["marks"]["inside"], ended["marks"])
        self.assertGreaterEqual(ended["marks"]["mark"], 2)
        self.assertEqual({row["fault"] for row in ended["truth"]}, {"a lump sideways", "a hop", "off-dish"})
        # The rim that is drawn is the rim that was judged.
        subject = subject_of(self.row)
        self.assertAlmostEqual(
            max(ended["lateral_mm"]), float(subject.virtual.lateral_mm(np.array(ended["angle_deg"])).max()), 2
        )
        self.assertEqual(self.act("look").status_code, 409)

    def test_a_pass_is_told_against_the_best_plan(self) -> None:
        self.begin("one-lump")
        self.assertEqual(self.act("pass").status_code, 422)
        (fault,) = self.row.made["faults"].values()
        for _ in range(2):
            self.good("turn", spoke=fault[0], turns=0.25)
        now = self.good("turn", spoke=fault[1], turns=-0.25)
        self.assertEqual((now["touches"], [row["turns"] for row in now["this_pass"]]), (2, [0.5, -0.25]))
        told = self.good("pass")["passes"][0]
        self.assertEqual((told["touches"], told["turned"], len(told["yours"])), (2, 0.75, 2))
        self.assertTrue(told["sentence"])
        self.assertLess(told["best"]["lateral_mm"], told["before"]["lateral_mm"])

    def test_by_eye_nothing_is_measured_and_no_figure_is_told(self) -> None:
        run = self.begin("one-hop")
        for what in ("look", "dish", "plan"):
            self.assertEqual(self.act(what).status_code, 422)
        self.assertEqual(self.act("squeeze", spoke="R1").status_code, 422)
        self.assertNotIn("tension", str(run["now"]).replace("'tension_n': None", ""))

    def test_a_fault_is_found_by_name_and_place(self) -> None:
        self.begin("own", kind="rim-brake-rear-36", faults=["seized"], mode="find")
        (spoke,) = self.row.made["faults"]["seized"]
        other = "R1" if spoke != "R1" else "R2"
        self.assertEqual(self.act("guess", fault="seized", spoke="X9").status_code, 422)
        self.assertEqual(self.act("guess", fault="gremlins", spoke=spoke).status_code, 422)
        self.assertEqual(self.act("pass").status_code, 422)
        wrong = self.good("guess", fault="bent", spoke=spoke)
        self.assertIn("alike", wrong["answers"][0]["says"])
        near = self.good("guess", fault="seized", spoke=other)
        self.assertIn("not at", near["answers"][1]["says"])
        turned = self.good("turn", spoke=spoke, turns=0.25)
        self.assertEqual(turned["happened"]["along_deg"], 90)
        right = self.good("guess", fault="seized", spoke=spoke)
        self.assertEqual((right["marks"]["wrong"], right["marks"]["mark"]), (2, 1))
        self.assertEqual(right["truth"], [{"fault": "a seized nipple", "spokes": [spoke]}])

    def test_laced_right_answer_by_answer(self) -> None:
        run = self.begin("lace-it-right")
        wheel = WHEEL_KINDS[run["kind"]].wheel
        asked = questions(wheel)
        self.assertEqual(self.act("turn", spoke="R1", turns=0.25).status_code, 422)
        self.assertEqual(self.act("cross", over=True).status_code, 422)
        self.assertEqual(self.act("hole", hole=99).status_code, 422)
        self.assertIn("flange", self.good("hole", hole=2)["answers"][0]["says"])
        for question in asked:
            if question.what == "hole":
                now = self.good("hole", hole=question.place.rim_hole)
            else:
                now = self.good("cross", over=dict(question.place.crosses)[question.other] == "over")
        self.assertEqual((now["question"], now["marks"]["wrong"], now["marks"]["mark"]), (None, 1, 2))

    def test_seized_oiled_changed_and_snapped(self) -> None:
        self.begin("seized-and-wrong")
        (stuck,) = self.row.made["faults"]["seized"]
        (wrong,) = self.row.made["faults"]["wrong_nipple"]
        self.good("oil", spoke=stuck)
        self.good("nipple", spoke=wrong)
        self.assertLess(self.good("turn", spoke=stuck, turns=0.5)["happened"]["along_deg"], 120)
        self.begin("seized-and-wrong", anew=True)
        (stuck,) = self.row.made["faults"]["seized"]
        self.good("turn", spoke=stuck, turns=0.75)
        now = self.good("turn", spoke=stuck, turns=0.5)
        self.assertEqual((now["snapped"], now["happened"]["what"]), ([stuck], "snapped"))
        self.assertEqual(self.act("turn", spoke=stuck, turns=0.25).status_code, 422)
        self.assertEqual(self.act("nipple", spoke=stuck).status_code, 422)
        self.assertEqual(self.good("end")["marks"]["mark"], 0)

    def test_blades_are_seen_and_straightened(self) -> None:
        self.begin("blades")
        spokes = self.row.made["faults"]["twisted_blade"]
        seen = {
            row["spoke"]: row["degrees"]
            for row in self.client.get(f"/api/v1/practice/runs/{self.run_id}").json()["now"]["blades"]
        }
        self.assertTrue(all(abs(seen[spoke]) > 15 for spoke in spokes))
        for spoke in spokes:
            now = self.good("straighten", spoke=spoke)
        self.assertTrue(all(abs(row["degrees"]) <= 15 for row in now["blades"]))
        self.begin("one-lump")
        self.assertEqual(self.act("straighten", spoke="R1").status_code, 422)

    def test_a_spoke_sounds(self) -> None:
        self.begin("one-lump")
        sound = self.client.get(f"/api/v1/practice/runs/{self.run_id}/sound/R3")
        self.assertEqual((sound["Content-Type"], sound.content[:4]), ("audio/wav", b"RIFF"))
        self.assertEqual(self.client.get(f"/api/v1/practice/runs/{self.run_id}/sound/R99").status_code, 422)


class Kept(PracticeCase):
    def test_begun_once_taken_up_and_put_away(self) -> None:
        first = self.begin("one-lump")["id"]
        self.assertEqual(self.begin("one-lump")["id"], first)
        self.assertNotEqual(self.begin("one-lump", anew=True)["id"], first)
        # What was put away counts for nothing.
        self.assertEqual(self.client.get("/api/v1/practice").json()["rungs"][0]["runs"], 0)
        with self.assertRaises(IntegrityError), transaction.atomic():
            PracticeRun.objects.create(
                shop=self.shop, created_by=self.wyn, exercise="one-lump", kind="x", mode="eye", tier="sound", made={}, now={}
            )
        for scrap in ({"mark": 4, "ended_at": timezone.now()}, {"mark": 1, "ended_at": None}):
            with self.assertRaises(IntegrityError), transaction.atomic():
                PracticeRun.objects.filter(pk=self.run_id).update(**scrap)

    def test_the_same_turn_sent_twice_is_one_turn(self) -> None:
        self.begin("one-lump")
        body = {"what": "turn", "spoke": "R1", "turns": 0.25}
        path, key = f"practice/runs/{self.run_id}/deeds", str(uuid.uuid4())
        first, second = self.post(path, body, key=key), self.post(path, body, key=key)
        self.assertEqual(first.json(), second.json())
        self.assertEqual((self.row.touches, self.row.turned), (1, 0.25))

    def test_nobody_works_or_looks_at_anothers(self) -> None:
        self.begin("one-lump")
        for who in (self.ines, person(Shop.objects.create(name="Other"), "ada", "apprentice")):
            client = self.as_(who)
            self.assertEqual(client.get(f"/api/v1/practice/runs/{self.run_id}").status_code, 404)
            turned = self.post(f"practice/runs/{self.run_id}/deeds", {"what": "look"}, client)
            self.assertEqual(turned.status_code, 404)
        self.assertEqual(self.as_(self.desk).get("/api/v1/practice").status_code, 403)

    def test_the_shop_knows_nothing_of_it(self) -> None:
        self.begin("one-lump")
        self.good("turn", spoke="R1", turns=0.25)
        self.good("end")
        self.assertEqual((Job.objects.count(), JobEvent.objects.count()), (0, 0))

    def test_what_was_wrong_is_not_told_before_the_end(self) -> None:
        self.begin("find-the-fault")
        told = self.client.get(f"/api/v1/practice/runs/{self.run_id}").content.decode()
        (spokes,) = self.row.made["faults"].values()
        self.assertNotIn("friction", told)
        self.assertEqual(self.client.get(f"/api/v1/practice/runs/{self.run_id}").json()["now"]["truth"], [])
        self.assertNotIn(f'"faults":{spokes}', told.replace(" ", ""))

    def test_a_turn_asks_few_questions(self) -> None:
        self.begin("race-from-bent")
        self.good("turn", spoke="R1", turns=0.25)
        with CaptureQueriesContext(
            connection,
        ) as asked:
            self.good("turn", spoke="R2", turns=0.25)
        self.assertLessEqual(len(asked), 14, [q["sql"][:80] for q in asked.captured_queries])


class Ladder(PracticeCase):
    def ended(self, who: User, exercise: str, mark: int, days: float = 0) -> None:
        run = PracticeRun.objects.create(
            shop=self.shop, created_by=who, exercise=exercise, kind="x", mode="eye", tier="sound", made={}, now={},
            mark=mark, ended_at=timezone.now() + timedelta(days=days),
        )  # fmt: skip
        run.refresh_from_db()

    def test_set_done_and_set_anew(self) -> None:
        ines = self.as_(self.ines)
        body = {"person": str(self.wyn.pk), "exercise": "one-hop"}
        self.assertEqual(self.post("practice/tasks", body).status_code, 403)
        self.assertEqual(self.post("practice/tasks", body, ines).status_code, 200)
        self.assertEqual(self.post("practice/tasks", body, ines).status_code, 409)
        self.assertEqual(self.post("practice/tasks", {**body, "exercise": "own"}, ines).status_code, 422)
        self.assertEqual(self.post("practice/tasks", {**body, "person": str(self.desk.pk)}, ines).status_code, 422)
        self.assertEqual(self.client.get("/api/v1/practice").json()["rungs"][1]["set_by"], "Ines")
        self.ended(self.wyn, "one-hop", 1)
        self.assertEqual(self.client.get("/api/v1/practice").json()["rungs"][1]["set_by"], "Ines")
        self.ended(self.wyn, "one-hop", 2)
        self.assertEqual(self.client.get("/api/v1/practice").json()["rungs"][1]["set_by"], "")
        self.assertEqual(self.post("practice/tasks", body, ines).status_code, 200)
        task = PracticeTask.objects.get(taken_back_at=None)
        self.assertEqual(self.post(f"practice/tasks/{task.pk}/taken-back", None, ines).status_code, 200)
        self.assertEqual(self.post(f"practice/tasks/{task.pk}/taken-back", None, ines).status_code, 404)

    def test_the_mechanic_sees_who_has_mastered_what(self) -> None:
        for mark in (0, 2, 3):
            self.ended(self.wyn, "one-lump", mark)
        learners = {row["name"]: row for row in self.as_(self.ines).get("/api/v1/practice/learners").json()}
        self.assertEqual(set(learners), {"Wyn", "Ines"})
        first = learners["Wyn"]["standings"][0]
        self.assertEqual((first["runs"], first["best"], first["mastered"]), (3, 3, True))
        self.assertEqual(len(learners["Ines"]["standings"]), len(LADDER))
        self.assertEqual(self.client.get("/api/v1/practice/learners").status_code, 403)

    def test_every_lesson_is_there(self) -> None:
        for rung in self.client.get("/api/v1/practice").json()["rungs"]:
            found = self.client.get(f"/api/v1/practice/lesson?of={rung['lesson']}")
            self.assertEqual(found.status_code, 200)
            self.assertEqual(len(found.json()["lateral_mm"]), len(found.json()["angle_deg"]))
        self.assertEqual(self.client.get("/api/v1/practice/lesson?of=none").status_code, 422)
