"""The diagnosis over HTTP: answers in any order, mended, overruled with a word why."""

from django.db import DatabaseError, connection, transaction

from felloe.condition.models import CheckAnswer, Finding
from tests.api.shop import ShopCase, open_job


class Diagnosis(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram, complaint_tags=["rubs"])
        self.path = f"jobs/{self.job.pk}/diagnosis"

    def give(self, check: str, answer: str, **more):
        return self.post(f"{self.path}/answers", {"check_key": check, "answer": answer}, **more)

    def test_asks_and_concludes(self) -> None:
        start = self.get(self.path).json()
        self.assertEqual(start["complaints"], ["rubs"])
        self.assertIsNotNone(start["next_check"])
        self.assertFalse(start["clear"])
        self.give("drops_in", "yes")
        self.give("clamp_firm", "firm")
        found = self.give("where_rubs", "round").json()
        self.assertEqual(found["causes"][0]["key"], "axle_not_home")
        self.assertTrue(found["clear"])
        self.assertFalse(found["causes"][0]["wheel_fault"])
        self.assertIn("drop further", found["causes"][0]["speaks_for"][0])
        noted = self.post(f"{self.path}/findings", {"cause": "axle_not_home"}).json()["finding"]
        self.assertEqual((noted["name"], noted["overruled"], noted["by"]), ("Axle not home in the dropouts", False, "Bram"))

    def test_an_answer_is_mended_and_the_old_one_kept(self) -> None:
        self.give("where_rubs", "once")
        found = self.give("where_rubs", "round").json()
        self.assertEqual([(a["key"], a["answer"]) for a in found["answers"]], [("where_rubs", "round")])
        self.assertEqual(CheckAnswer.objects.count(), 2)
        with self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("UPDATE bench_checkanswer SET answer = 'x'")

    def test_dont_know_is_not_asked_again(self) -> None:
        first = self.get(self.path).json()["next_check"]["key"]
        after = self.give(first, "unknown").json()
        self.assertNotIn(first, [c["key"] for c in after["other_checks"]])
        self.assertEqual(after["answers"][0]["answer_text"], "don't know")

    def test_overruling_needs_a_word(self) -> None:
        self.give("where_rubs", "once")
        self.assertProblem(self.post(f"{self.path}/findings", {"cause": "rim_bent"}), 422, "reason_needed", "reason")
        self.assertEqual(Finding.objects.count(), 0)
        made = self.post(f"{self.path}/findings", {"cause": "rim_bent", "reason": "seen on the stand"}).json()["finding"]
        self.assertTrue(made["overruled"])
        self.assertLess(made["share"], 0.5)

    def test_unsafe_is_said(self) -> None:
        found = self.give("spokes_by_hand", "broken").json()
        self.assertEqual(found["unsafe"], ["Broken spoke"])

    def test_bad_input(self) -> None:
        self.assertProblem(self.give("nose", "red"), 422, "unknown_answer", "nose")
        self.assertProblem(self.give("play", "red"), 422, "unknown_answer", "play")
        self.assertProblem(self.post(f"{self.path}/findings", {"cause": "ghost"}), 422, "unknown_answer", "cause")
        self.assertProblem(self.post("jobs", {"complaint_tags": ["sings"]}), 400, "invalid_input", "complaint_tags.0")
        self.assertEqual(CheckAnswer.objects.count(), 0)
        self.assertProblem(self.get(self.path, client=self.speak_for(self.stranger)), 404, "not_found")

    def test_the_same_key_answers_once(self) -> None:
        self.give("play", "knocks", key="k")
        self.give("play", "knocks", key="k")
        self.assertEqual(CheckAnswer.objects.count(), 1)
