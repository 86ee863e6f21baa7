"""The shop's own kinds of wheels: kept from a wheel, started from, changed, out and in as a file."""

from __future__ import annotations

import copy
import json
from typing import Any

from felloe.wheels.models import Pattern, Wheel
from tests.api.shop import BenchCase, job_values


class Patterns(BenchCase):
    def keep(self, name: str = "Ferry commuter rear", **more: Any) -> Any:
        body = {"wheel": str(self.job.wheel_id), "name": name, "note": "Nipples of brass", "tier": "fine", **more}
        return self.post("patterns", body)

    def test_a_wheel_becomes_a_pattern_and_the_next_one_starts_from_it(self) -> None:
        made = self.keep()
        self.assertEqual(made.status_code, 201, made.content)
        kinds = self.get("wheel-kinds").json()
        own = kinds[0]
        self.assertEqual(
            (own["name"], own["note"], own["tier"], own["own"]), ("Ferry commuter rear", "Nipples of brass", "fine", True)
        )
        values = job_values()
        values["wheel"] = {"position": "rear", "kind": own["key"], "specification": own["specification"]}
        values["customer"] = {"name": "Another"}
        job = self.post("jobs", values).json()
        self.assertEqual(job["tier"], "fine", "what the pattern is held to")
        self.assertEqual(Wheel.objects.get(pk=job["wheel"]["id"]).specification, self.job.wheel.specification)
        values["customer"] = {"name": "A third"}
        self.assertEqual(self.post("jobs", {**values, "tier": "race"}).json()["tier"], "race", "what is asked for comes first")

    def test_a_tier_that_the_shop_gave_up_keeps_no_wheel_out(self) -> None:
        own = self.keep(tier="fine").json()
        Pattern.objects.update(tier="gone")
        values = job_values(customer={"name": "Another"})
        values["wheel"]["kind"] = own["key"]
        self.assertEqual(self.post("jobs", values).status_code, 201)

    def test_what_is_refused(self) -> None:
        self.keep()
        self.assertProblem(self.keep("ferry  COMMUTER rear"), 422, "name_taken", "name")
        self.assertEqual(self.keep("Other", tier="ghost").status_code, 422)
        self.assertEqual(self.keep(" ").status_code, 400)
        away = self.speak_for(self.stranger)
        self.assertEqual(
            self.post("patterns", {"wheel": str(self.job.wheel_id), "name": "Theirs"}, client=away).status_code, 404
        )
        self.assertEqual([kind for kind in self.get("wheel-kinds", client=away).json() if kind["own"]], [])

    def test_changed_and_offered_no_longer(self) -> None:
        own = self.keep().json()
        path = f"patterns/{Pattern.objects.get().pk}"
        changed = self.patch(path, {"version": 1, "note": "Steel axle", "in_use": False})
        self.assertEqual((changed.json()["note"], changed.json()["version"]), ("Steel axle", 2))
        self.assertProblem(self.patch(path, {"version": 1, "note": "late"}), 409, "stale_write")
        self.assertNotIn(own["key"], [kind["key"] for kind in self.get("wheel-kinds").json()])
        self.assertIn(own["key"], [kind["key"] for kind in self.get("patterns").json()])
        self.assertEqual(self.patch(path, {"version": 2, "note": "x"}, client=self.speak_for(self.stranger)).status_code, 404)

    def test_out_and_into_another_shop(self) -> None:
        self.keep()
        out = self.get("patterns/file").json()
        away = self.speak_for(self.stranger)
        found = self.post("patterns/take", out, client=away).json()
        self.assertEqual(found, {"taken": 1, "known": []})
        [theirs] = Pattern.objects.filter(shop=self.elsewhere)
        self.assertEqual(
            (theirs.name, theirs.tier, theirs.specification), ("Ferry commuter rear", "fine", self.job.wheel.specification)
        )
        self.assertEqual(self.post("patterns/take", out, client=away).json(), {"taken": 0, "known": ["Ferry commuter rear"]})

    def test_a_file_with_one_wrong_pattern_brings_none(self) -> None:
        self.keep()
        out = self.get("patterns/file").json()
        Pattern.objects.all().delete()
        wrong = copy.deepcopy(out["patterns"][0])
        wrong["specification"]["rim"]["erd_mm"] = 20
        for file in (
            {**out, "patterns": [*out["patterns"], {**wrong, "name": "Second"}]},
            {**out, "version": 2},
            {**out, "format": "other"},
            {**out, "patterns": [{**out["patterns"][0], "brakes": ["drum?"]}]},
            {**out, "patterns": [{**out["patterns"][0], "colour": "red"}]},
            [],
        ):
            answer = self.client.post("/api/v1/patterns/take", json.dumps(file), content_type="application/json")
            self.assertEqual(answer.status_code, 422, answer.content)
        scrap = self.client.post("/api/v1/patterns/take", b"{", content_type="application/json")
        self.assertEqual(scrap.status_code, 422)
        self.assertEqual(Pattern.objects.count(), 0)
