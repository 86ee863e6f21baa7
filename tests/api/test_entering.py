"""Readings that a tablet sends together: saved in order, once each, refused one by one, answered with what the set says."""

from __future__ import annotations

import threading
from typing import Any
from unittest.mock import patch

from django.db import connection
from django.test import TransactionTestCase

from felloe.accounts.models import Shop
from felloe.api.models import WriteKey
from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services import entering, readings
from felloe.bench.services.looked import Look
from felloe.bench.services.states import estimated, state_of_look, state_of_set
from felloe.condition import services as condition
from felloe.queue.models import Job
from tests.api.shop import PRICES, BenchCase, open_job, person


def tension(spoke: str, value: float, **more: Any) -> dict[str, Any]:
    return {"kind": "tension", "spoke": spoke, "value": value, "unit": "N", **more}


class Together(BenchCase):
    def enter(self, *entries: tuple[str, dict[str, Any]]) -> Any:
        body = {"entries": [{"key": key, "entry": entry} for key, entry in entries]}
        return self.post(f"reading-sets/{self.set}/entries", body)

    def values(self) -> list[tuple[str, float, int]]:
        return list(Reading.objects.order_by("created_at").values_list("spoke", "value", "revision"))

    def test_in_their_order_each_place_with_its_revisions(self) -> None:
        answer = self.enter(("a", tension("R1", 900)), ("b", tension("R2", 910)), ("c", tension("R1", 905)))
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.values(), [("R1", 900, 1), ("R2", 910, 1), ("R1", 905, 2)])
        self.assertEqual([one["key"] for one in answer.json()["results"]], ["a", "b", "c"])
        self.assertEqual(answer.json()["results"][2]["reading"]["by"], "Bram")

    def test_once_however_often_they_are_sent_and_with_whom(self) -> None:
        first = self.enter(("a", tension("R1", 900)), ("b", tension("R2", 910))).json()
        again = self.enter(("b", tension("R2", 910)), ("c", tension("R3", 920)), ("a", tension("R1", 900))).json()
        self.assertEqual(self.values(), [("R1", 900, 1), ("R2", 910, 1), ("R3", 920, 1)])
        ids = {one["key"]: one["reading"]["id"] for one in first["results"]}
        self.assertEqual({k: v for k, v in ((o["key"], o["reading"]["id"]) for o in again["results"]) if k in ids}, ids)
        twice = self.enter(("d", tension("L1", 400)), ("d", tension("L1", 400))).json()
        self.assertEqual(len({one["reading"]["id"] for one in twice["results"]}), 1)
        self.assertEqual(Reading.objects.filter(spoke="L1").count(), 1)

    def test_a_key_that_carried_something_else_is_refused_and_changes_nothing(self) -> None:
        self.enter(("a", tension("R1", 900)))
        other = self.enter(("a", tension("R1", 950)), ("b", tension("R2", 910))).json()["results"]
        self.assertEqual([one["refusal"] and one["refusal"]["code"] for one in other], ["write_key_reused", None])
        self.assertEqual(self.values(), [("R1", 900, 1), ("R2", 910, 1)])
        # Nor does another set answer for it.
        self.set = self.open_set("after_pass")
        self.assertEqual(self.enter(("a", tension("R1", 900))).json()["results"][0]["refusal"]["code"], "write_key_reused")

    def test_one_that_is_refused_keeps_none_back_and_may_be_sent_mended(self) -> None:
        sent = [
            ("a", tension("R1", 900)),
            ("b", tension("Q9", 910)),
            ("c", tension("R3", 99_999)),
            ("d", {"kind": "tension", "spoke": "R4", "value": "much", "unit": "N"}),
            ("e", tension("R5", 28, unit="meter", meter="6d2f4b0e-0000-4000-8000-000000000000")),
            ("f", tension("R6", 960)),
        ]
        results = {one["key"]: one for one in self.enter(*sent).json()["results"]}
        codes = {key: one["refusal"] and one["refusal"]["code"] for key, one in results.items()}
        self.assertEqual(codes, {"a": None, "b": "unknown_spoke", "c": "bad_reading", "d": "invalid_input",
                                 "e": "not_found", "f": None})  # fmt: skip
        self.assertEqual([spoke for spoke, *_ in self.values()], ["R1", "R6"])
        # Nothing was kept under a refused key: mended it goes through.
        self.assertIsNone(self.enter(("b", tension("R2", 910))).json()["results"][0]["refusal"])

    def test_a_reading_that_repeats_joins_with_the_one_before_it_in_the_same_request(self) -> None:
        results = self.enter(("a", tension("R1", 900)), ("b", tension("R1", 910, repeat=True))).json()["results"]
        self.assertAlmostEqual(results[1]["reading"]["value"], 905)
        self.assertEqual(results[1]["reading"]["entered"]["repeats"], [900, 910])

    def test_its_answer_is_what_state_and_advice_would_say(self) -> None:
        self.read_all(1000, 482, 1.2)
        answer = self.enter(("a", tension("R9", 1180)), ("b", tension("L4", 430))).json()
        self.assertEqual(answer["state"], self.get(f"reading-sets/{self.set}/state").json())
        self.assertEqual(answer["advice"], self.get(f"reading-sets/{self.set}/advice").json())

    def test_a_broken_spoke_and_one_that_broke_since_show_in_it_as_in_the_state(self) -> None:
        self.read_all()
        condition.add_mark(self.bram, self.job.pk, {"kind": "spoke_broken", "spoke": "R4"})
        self.assertIn("R4", self.get(f"reading-sets/{self.set}/state").json()["headline"])
        answer = self.enter(("a", tension("R9", 1010))).json()
        self.assertEqual(answer["state"], self.get(f"reading-sets/{self.set}/state").json())
        self.set = self.open_set("after_pass")
        state = self.enter(("b", tension("R9", 1010))).json()["state"]
        self.assertEqual([spoke["name"] for spoke in state["spokes"] if spoke["broken"]], ["R4"])

    def test_a_reading_taken_back_after_a_break_counts_in_both_alike(self) -> None:
        self.read_all()
        condition.add_mark(self.bram, self.job.pk, {"kind": "spoke_broken", "spoke": "R4"})
        self.post(f"reading-sets/{self.set}/withdraw", {"kind": "tension", "spoke": "R9"})
        found = ReadingSet.objects.select_related("job__wheel", "job", "created_by").get(pk=self.set)
        self.assertEqual(state_of_look(Look(found)), state_of_set(found))

    def test_a_look_that_fails_takes_no_reading_back(self) -> None:
        with (
            patch("felloe.bench.api.entering.state_of_look", side_effect=ZeroDivisionError),
            self.assertLogs("felloe", "ERROR"),
        ):
            answer = self.enter(("a", tension("R1", 900)))
        self.assertEqual((answer.status_code, answer.json()["state"], answer.json()["advice"]), (200, None, None))
        self.assertEqual(self.values(), [("R1", 900, 1)])

    def test_a_closed_job_and_another_shops_set_take_none(self) -> None:
        other = Shop.objects.create(name="There", code="there", prices_minor=PRICES)
        stranger = self.speak_for(person(other, "stranger"))
        body = {"entries": [{"key": "a", "entry": tension("R1", 900)}]}
        path = f"/api/v1/reading-sets/{self.set}/entries"
        self.assertEqual(stranger.post(path, body, format="json").status_code, 404)
        job = Job.objects.get(pk=self.job.pk)
        gone = {"version": job.version, "end": "cancelled", "reason": "Customer telephoned."}
        self.assertLess(self.post(f"jobs/{job.pk}/ends", gone).status_code, 300)
        self.assertProblem(self.enter(("a", tension("R1", 900))), 409, "job_done")
        self.assertFalse(Reading.objects.exists())
        self.assertFalse(WriteKey.objects.filter(key="a").exists())

    def test_what_arrived_before_the_job_closed_is_answered_for_after_it(self) -> None:
        """The answer was lost, the wheel went: the tablet's next try must not call a saved reading refused."""
        self.enter(("a", tension("R1", 900)))
        job = Job.objects.get(pk=self.job.pk)
        gone = {"version": job.version, "end": "cancelled", "reason": "Customer telephoned."}
        self.assertLess(self.post(f"jobs/{job.pk}/ends", gone).status_code, 300)
        alone = self.enter(("a", tension("R1", 900))).json()["results"]
        self.assertEqual(alone[0]["reading"]["value"], 900)
        mixed = self.enter(("a", tension("R1", 900)), ("b", tension("R2", 910))).json()["results"]
        self.assertEqual([one["refusal"] and one["refusal"]["code"] for one in mixed], [None, "job_done"])
        self.assertEqual(self.values(), [("R1", 900, 1)])

    def test_what_is_no_list_of_keyed_readings_is_said_at_its_place(self) -> None:
        path = f"reading-sets/{self.set}/entries"
        for body, field in (
            ({}, "entries"),
            ({"entries": []}, "entries"),
            ({"entries": "R1"}, "entries"),
            ({"entries": [{"key": "a", "entry": tension("R1", 900)}] * 81}, "entries"),
            ({"entries": [{"key": "", "entry": tension("R1", 900)}]}, "entries.0"),
            ({"entries": [{"key": "a" * 81, "entry": tension("R1", 900)}]}, "entries.0"),
            ({"entries": [{"key": "a", "entry": tension("R1", 900)}, {"key": "b"}]}, "entries.1"),
        ):
            with self.subTest(body=str(body)[:60]):
                self.assertProblem(self.post(path, body), 422, "invalid", field)
        self.assertFalse(Reading.objects.exists())

    def test_the_answer_is_short_on_the_wire(self) -> None:
        self.read_all()
        body = {"entries": [{"key": "a", "entry": tension("R9", 1180)}]}
        path = f"/api/v1/reading-sets/{self.set}/entries"
        answer = self.client.post(path, body, format="json", headers={"Accept-Encoding": "gzip"})
        self.assertEqual(answer.headers["Content-Encoding"], "gzip")
        self.assertLess(len(answer.content), 6_000)


class OneLook(BenchCase):
    def test_a_look_says_what_the_set_says_with_earlier_sets_too(self) -> None:
        self.read_all(1000, 482, 1.2)
        self.set = self.open_set("after_pass")
        self.read_all(1010, 490, 0.6)
        found = ReadingSet.objects.select_related("job__wheel", "job", "created_by").get(pk=self.set)
        self.assertEqual(state_of_look(Look(found)), state_of_set(found))
        state, own = estimated(found)
        self.assertEqual(Look(found).own, own)
        self.assertEqual(Look(found).state.tension_n.tolist(), state.tension_n.tolist())


class TwoTries(TransactionTestCase):
    def test_the_same_presses_from_two_tries_at_once_are_saved_once(self) -> None:
        shop = Shop.objects.create(name="Here", prices_minor=PRICES)
        bram = person(shop, "bram")
        made = readings.open_set(bram, open_job(bram).pk, "as_found")
        sent = [entering.Sent(f"press {i}", tension(f"R{i}", 900 + i), "print") for i in range(1, 9)]
        start = threading.Barrier(3)
        failed: list[BaseException] = []

        def once() -> None:
            try:
                start.wait()
                entering.enter(bram, made.pk, [entering.Sent(one.key, dict(one.values), one.print) for one in sent])
            except BaseException as error:
                failed.append(error)
            finally:
                connection.close()

        tries = [threading.Thread(target=once) for _ in range(3)]
        for one in tries:
            one.start()
        for one in tries:
            one.join()
        self.assertEqual(failed, [])
        self.assertEqual(Reading.objects.count(), 8)
        self.assertEqual(set(Reading.objects.values_list("revision", flat=True)), {1})
