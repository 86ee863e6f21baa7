"""Sizing, kit, old spokes, strip, lacing, replacing over HTTP."""

from __future__ import annotations

from typing import Any

from django.db import DatabaseError, transaction

from felloe.building.models import KitSheet, LacingLook, OldSpoke, SpokeChoice, StepDone
from felloe.queue.models import JobEvent
from felloe.stock import services as stock
from felloe.wheels.models import Wheel
from tests.api.shop import BenchCase, ShopCase, open_job, specification


class Measuring(ShopCase):
    def test_rods_and_caliper(self) -> None:
        """The worked examples of common practice: 185 + 185 + 21.3 mm, and 11.05 against 8.75 mm."""
        rods = {"first_mm": 185, "second_mm": 185, "gap_mm": 21.3}
        found = self.post("measure/erd-by-rods", {"diameters": [rods], "hole_count": 20}).json()
        self.assertAlmostEqual(found["value_mm"], 391.3)
        self.assertTrue(found["doubts"])
        bed = self.post("measure/bed", {"to_left_edge_mm": 11.05, "to_right_edge_mm": 8.75}).json()
        self.assertAlmostEqual(bed["value_mm"], 1.15)
        self.assertAlmostEqual(self.post("measure/flange", {"inner_edges_mm": 42.4, "hole_mm": 2.6}).json()["value_mm"], 45)
        self.assertAlmostEqual(
            self.post("measure/locknut", {"to_outer_face_mm": 27, "flange_thickness_mm": 3}).json()["value_mm"], 28.5
        )
        inside = {"inside_diameter_mm": 590, "bed_mm": 2.5, "seat_mm": 2}
        self.assertAlmostEqual(self.post("measure/erd-inside", inside).json()["value_mm"], 599)
        self.assertProblem(
            self.post("measure/erd-by-rods", {"diameters": [{**rods, "gap_mm": 5000}], "hole_count": 20}),
            422,
            "impossible_geometry",
            "gap_mm",
        )
        self.assertAlmostEqual(self.get("thread-in-nipple?depth_mm=4.2").json()["missing_mm"], 3.2)

    def test_where_the_rim_belongs_as_a_drawing_says(self) -> None:
        asked = {"old_mm": 135, "side": "L", "edge_inside_mm": 15.3, "distance_mm": 41.2, "rim_width_mm": 24}
        self.assertAlmostEqual(self.post("measure/rim-place", asked).json()["dish_target_mm"], 1.0)
        refused = self.post("measure/rim-place", {**asked, "rim_width_mm": -1})
        self.assertEqual((refused.status_code, refused.json()["errors"][0]["field"]), (422, "rim_width_mm"))

    def test_each_dimension_keeps_its_own_uncertainty(self) -> None:
        job = open_job(self.bram)
        wheel = job.wheel
        rough = self.get(f"wheels/{wheel.pk}").json()["derived"]["sides"]["R"]["length_sd_mm"]
        body = {"version": 1, "kind": "", "specification": specification(), "uncertainty_mm": {"rim.erd_mm": 0.2}}
        saved = self.patch(f"wheels/{wheel.pk}", body).json()
        self.assertEqual(saved["uncertainty_mm"], {"rim.erd_mm": 0.2})
        self.assertLess(saved["derived"]["sides"]["R"]["length_sd_mm"], rough / 5)
        body = {**body, "version": 2, "uncertainty_mm": {"rim.erd_mm": -1}}
        self.assertProblem(self.patch(f"wheels/{wheel.pk}", body), 422, "bad_measure", "rim.erd_mm")

    def test_suspicious_dimensions_come_back_with_their_place(self) -> None:
        odd = specification()
        odd["hub"]["old_mm"] = 138.0
        found = self.post("geometry", {"specification": odd}).json()["suspicions"]
        self.assertEqual([s["field"] for s in found], ["hub.old_mm"])

    def test_a_straight_pull_hub_is_kept(self) -> None:
        given = specification()
        for side in ("right", "left"):
            given["hub"][side]["straight_pull_angle_deg"] = 60.0
        job = open_job(self.bram)
        saved = self.patch(f"wheels/{job.wheel.pk}", {"version": 1, "kind": "", "specification": given}).json()
        self.assertEqual(saved["specification"]["hub"]["right"]["straight_pull_angle_deg"], 60.0)


class Building(BenchCase):
    def url(self, tail: str) -> str:
        return f"jobs/{self.job.pk}/{tail}"

    def part(self, kind: str, name: str, count: int, **attributes: Any) -> str:
        made = stock.add_part(self.bram, {"kind": kind, "name": name, "attributes": attributes})
        stock.count_bin(self.bram, made.pk, count)
        return str(made.pk)

    def measured(self) -> None:
        """The wheel of the job was measured with rods and a caliper, instead of taken for one of its kind."""
        Wheel.objects.filter(pk=self.job.wheel_id).update(measured=True)

    def side(self, answer: Any, side: str) -> Any:
        return next(s for s in answer["sides"] if s["side"] == side)


class Sizing(Building):
    def test_candidates_crossings_and_offers(self) -> None:
        part = self.part("spoke", "Plain 290", 20, length_mm=290, end_diameter_mm=2.0)
        found = self.get(self.url("sizing")).json()
        right = self.side(found, "R")
        self.assertEqual(right["rounded_mm"], 290)
        self.assertEqual([c["verdict"] for c in right["candidates"]].count("fits"), 1)
        self.assertEqual(len(right["table"]), 5)
        self.assertEqual([(o["key"], o["enough"]) for o in right["offers"]], [(part, True)])
        self.assertEqual(self.side(self.get(self.url("sizing?step_mm=2&school=down")).json(), "R")["rounded_mm"], 290)
        self.assertProblem(self.get(self.url("sizing?step_mm=3")), 422, "bad_length", "step_mm")

    def test_of_a_full_shelf_the_best_are_offered_and_one_for_each_length_and_the_chosen(self) -> None:
        for i in range(30):
            self.part("spoke", f"Plain 290, box {i}", 40, length_mm=290, end_diameter_mm=2.0)
        bins = {
            length: self.part("spoke", f"Plain {length}", 2, length_mm=length, end_diameter_mm=2.0) for length in (288, 291)
        }
        worst = self.part("spoke", "Butted 289", 1, length_mm=289, end_diameter_mm=2.0, middle_diameter_mm=1.8)
        other = self.part("spoke", "Butted 289, another", 1, length_mm=289, end_diameter_mm=2.0, middle_diameter_mm=1.8)
        self.assertEqual(self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 289, "part": other}).status_code, 200)
        side = self.side(self.get(self.url("sizing")).json(), "R")
        offered = [offer["key"] for offer in side["offers"]]
        self.assertLessEqual(len(offered), 6 + len(side["candidates"]) + 1)
        self.assertLessEqual({*bins.values(), worst, other}, set(offered))
        self.assertTrue(all(offer["enough"] for offer in side["offers"][:6]))

    def test_a_guess_takes_the_spoke_that_the_ruler_measured(self) -> None:
        """By its kind alone the wheel needs 290 ± 2: 286, held to the ruler, is not refused, and becomes the figure."""
        before = self.side(self.get(self.url("sizing")).json(), "R")
        self.assertGreater(before["sd_mm"], 1.0)
        self.assertEqual({c["told"] for c in before["candidates"]} - {"cannot_tell", "does_not_fit"}, set())
        for spoke in ("R1", "R2"):
            found = self.post(self.url("sizing/old-spokes"), {"spoke": spoke, "length_mm": 286}).json()
        after = self.side(found, "R")
        self.assertLess(after["needed_mm"], before["needed_mm"] - 1.5)
        self.assertLess(after["sd_mm"], before["sd_mm"])
        self.assertEqual(after["shares"][0]["field"], "old_spokes")
        self.assertEqual(found["old"][0]["explains"], [])
        chosen = self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 286})
        self.assertEqual(chosen.status_code, 200, chosen.content)
        self.assertProblem(
            self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 270}), 422, "bad_length", "length_mm"
        )
        card = {
            (line["position"], line["side"]): line
            for line in self.get(f"bikes/{self.job.wheel.bike_id}/spare-card").json()["spokes"]
        }
        self.assertTrue(card["rear", "R"]["measured"])
        self.assertEqual(card["rear", "R"]["length_mm"], 286)
        self.assertFalse(card["rear", "L"]["measured"])

    def test_lacing_stops_while_the_kit_does_not_fit(self) -> None:
        self.measured()
        for side, length in (("R", 290), ("L", 293)):
            self.post(self.url("sizing/choice"), {"side": side, "length_mm": length})
        self.post(self.url("sizing/kit"), {"rim_hole_mm": 3.5, "left_count": 40, "right_count": 40, "nipple_count": 80})
        thin = self.part("nipple", "Brass 12", 100, for_thread_mm=2.0, body_mm=4.0, key_mm=3.25)
        self.post(self.url("sizing/kit"), {"nipple_part": thin})
        lacing = self.get(self.url("lacing")).json()
        self.assertTrue(any("does not go through" in stop for stop in lacing["stops"]), lacing["stops"])
        self.assertProblem(self.post(self.url("lacing"), {"placed": 1}), 409, "kit_stops")
        self.refuses(self.url("sizing/kit"), {"despite": "x"}, "says_nothing", "despite")
        self.post(self.url("sizing/kit"), {"despite": "holes are drilled by the maker tomorrow"})
        self.assertEqual(self.get(self.url("lacing")).json()["stops"], [])
        # The word was given for what stopped then: what comes to it stops again.
        self.post(self.url("sizing/kit"), {"key_mm": 4.0})
        stops = self.get(self.url("lacing")).json()["stops"]
        self.assertTrue(any("loose key" in stop for stop in stops), stops)
        self.assertProblem(self.post(self.url("lacing"), {"placed": 1}), 409, "kit_stops")
        self.post(self.url("sizing/kit"), {"key_mm": 3.3, "despite": "holes are drilled by the maker tomorrow"})
        self.assertEqual(self.get(self.url("lacing")).json()["stops"], [])

    def test_lacing_on_a_cracked_rim_asks_first(self) -> None:
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "crack", "spoke": "R3"})
        lacing = self.get(self.url("lacing")).json()
        self.assertEqual(len(lacing["in_vain"]), 1)
        self.assertIn("R3", lacing["in_vain"][0])
        self.assertProblem(self.post(self.url("lacing"), {"placed": 1}), 409, "in_vain")
        self.assertProblem(self.put(self.url("lacing/despite"), {"despite": "."}), 422, "says_nothing")
        self.put(self.url("lacing/despite"), {"despite": "the new rim is in hand"})
        self.assertEqual(self.get(self.url("lacing")).json()["in_vain"], [])
        self.assertEqual(self.post(self.url("lacing"), {"placed": 1}).status_code, 200)
        # The word was given for that crack; another one asks again, and taking spokes out never does.
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "crack", "spoke": "L7"})
        self.assertProblem(self.post(self.url("lacing"), {"placed": 2}), 409, "in_vain")
        # So does a second one at the same place: the word was not given for that.
        self.put(self.url("lacing/despite"), {"despite": "the new rim is in hand"})
        self.assertEqual(self.get(self.url("lacing")).json()["in_vain"], [])
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "crack", "spoke": "R3"})
        self.assertEqual(len(self.get(self.url("lacing")).json()["in_vain"]), 1)
        self.assertEqual(self.post(self.url("lacing"), {"placed": 0}).status_code, 200)

    def test_a_length_that_breaks_nipples_is_refused(self) -> None:
        self.measured()
        self.assertProblem(
            self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 287}), 422, "bad_length", "length_mm"
        )
        self.assertEqual(SpokeChoice.objects.count(), 0)
        found = self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 290}).json()
        self.assertEqual(self.side(found, "R")["chosen"]["length_mm"], 290)
        self.assertTrue(JobEvent.objects.filter(job=self.job, kind="spokes").exists())

    def test_the_kit_is_judged_against_the_bins(self) -> None:
        self.measured()
        right = self.part("spoke", "Plain 290", 20, length_mm=290, end_diameter_mm=2.0)
        left = self.part("spoke", "Plain 293", 12, length_mm=293, end_diameter_mm=2.0)
        nipples = self.part("nipple", "Brass 12", 100, for_thread_mm=2.0)
        self.assertEqual(self.get(self.url("sizing")).json()["rules"], [])
        self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 290, "part": right})
        self.post(self.url("sizing/choice"), {"side": "L", "length_mm": 293, "part": left})
        rules = self.post(self.url("sizing/kit"), {"nipple_part": nipples, "measured_one": True}).json()["rules"]
        # Nobody has measured the rim's holes or tried the key.
        self.assertEqual({r["key"] for r in rules if not r["holds"]}, {"enough", "rim_hole", "key"})
        rules = self.post(self.url("sizing/kit"), {"rim_hole_mm": 4.4, "key_mm": 3.3}).json()["rules"]
        self.assertEqual([(r["key"], r["side"]) for r in rules if not r["holds"]], [("enough", "L")])
        stock.count_bin(self.bram, stock.find_part(self.bram, left).pk, 30)
        rules = self.get(self.url("sizing")).json()["rules"]
        self.assertEqual([r["key"] for r in rules if not r["holds"]], [])
        rules = self.post(self.url("sizing/kit"), {"key_mm": 3.5, "rim_had_washers": True}).json()["rules"]
        self.assertEqual({r["key"] for r in rules if not r["holds"]}, {"key", "washers"})

    def test_figures_that_cannot_be_are_not_kept(self) -> None:
        """Also before any length is chosen, when no rule is judged yet."""
        self.refuses(self.url("sizing/kit"), {"key_mm": 30}, "impossible_geometry", "key_mm")
        self.assertEqual(KitSheet.objects.count(), 0)
        self.assertEqual(self.get(self.url("sizing")).status_code, 200)

    def test_a_bin_of_another_length_is_refused(self) -> None:
        part = self.part("spoke", "Plain 260", 20, length_mm=260, end_diameter_mm=2.0)
        self.refuses(self.url("sizing/choice"), {"side": "R", "length_mm": 290, "part": part}, "bad_part", "part")
        longer = self.part("spoke", "Plain 296", 20, length_mm=296, end_diameter_mm=2.0)
        self.refuses(self.url("sizing/choice"), {"side": "R", "length_mm": 290, "part": longer}, "bad_part", "part")
        self.assertEqual(SpokeChoice.objects.count(), 0)

    def test_a_wheel_measured_anew_keeps_its_screens(self) -> None:
        self.post(self.url("sizing/old-spokes"), {"spoke": "R18", "length_mm": 290})
        self.post(self.url("strip/counts"), {"kind": "nipple", "way": "out", "count": 36})
        smaller = specification("small-rear-28")
        saved = self.patch(f"wheels/{self.job.wheel.pk}", {"version": 1, "kind": "", "specification": smaller})
        self.assertEqual(saved.status_code, 200, saved.content)
        for tail in ("sizing", "strip", "lacing", "replacing"):
            self.assertEqual(self.get(self.url(tail)).status_code, 200, tail)

    def test_old_spokes_explain_and_reach_the_diagnosis(self) -> None:
        for spoke, length in (("R1", 290), ("R2", 286.5), ("R3", 290)):
            found = self.post(self.url("sizing/old-spokes"), {"spoke": spoke, "length_mm": length}).json()
        self.assertIn("Rebuild the right side", found["old"][0]["explains"][0])
        self.assertProblem(
            self.post(self.url("sizing/old-spokes"), {"spoke": "R4", "length_mm": 150}), 422, "bad_length", "length_mm"
        )
        self.post(self.url("breaks"), {"spoke": "R2", "place": "nipple_head"})
        pattern = self.get(self.url("condition")).json()["pattern"]
        self.assertEqual((pattern["advice"], pattern["side"]), ("side", "R"))
        self.assertEqual(pattern["suspects"][0]["key"], "too_short")
        self.post(self.url("sizing/old-spokes"), {"spoke": "R2", "length_mm": None})
        self.assertEqual(self.get(self.url("sizing")).json()["old"][0]["count"], 2)
        with self.assertRaises(DatabaseError), transaction.atomic():
            OldSpoke.objects.update(length_mm=1)

    def test_swap_with_parts_of_the_library(self) -> None:
        self.measured()
        same = self.part("rim", "Box 605", 1, erd_mm=605.2, holes=36, bead_seat_mm=622)
        other = self.part("rim", "Deep 566", 1, erd_mm=566, holes=36, bead_seat_mm=622)
        few = self.part("rim", "Box 28", 1, erd_mm=605, holes=28)
        self.assertEqual(self.get(self.url(f"sizing/swap?rim_part={same}")).json()["advice"], "as_they_are")
        found = self.get(self.url(f"sizing/swap?rim_part={other}")).json()
        self.assertEqual(found["advice"], "new")
        self.assertLess(found["sides"][0]["change_mm"], -15)
        self.assertProblem(self.get(self.url(f"sizing/swap?rim_part={few}")), 422, "bad_length", "rim_part")


class Stripping(Building):
    def test_steps_laps_and_counts(self) -> None:
        found = self.get(self.url("strip")).json()
        self.assertFalse(found["measured"])
        self.assertGreaterEqual(len(found["laps"]), 3)
        self.assertEqual([c["kind"] for c in found["counts"]], ["nipple", "spoke"])
        found = self.client.put(f"/api/v1/{self.url('strip')}", {"washers": True, "cut": True}, format="json").json()
        self.assertIn("eyes", [s["key"] for s in found["steps"]])
        found = self.post(self.url("strip/counts"), {"kind": "nipple", "way": "out", "count": 30}).json()
        self.assertIn("6 nipples still in", found["counts"][0]["word"])
        self.assertProblem(
            self.post(self.url("strip/counts"), {"kind": "nipple", "way": "out", "count": 7}), 422, "bad_count", "count"
        )
        self.post(self.url("strip/counts"), {"kind": "nipple", "way": "out", "count": -1})
        found = self.post(self.url("strip/counts"), {"kind": "nipple", "way": "out", "count": 7}).json()
        self.assertIn("All nipples are out", found["counts"][0]["word"])
        self.refuses(self.url("strip/counts"), {"kind": "washer", "way": "in", "count": -1}, "bad_count")
        found = self.post(self.url("strip/steps"), {"step": "oil", "done": True}).json()
        self.assertEqual([s["key"] for s in found["steps"] if s["done"]], ["oil"])
        self.refuses(self.url("strip/steps"), {"step": "dance", "done": True}, "bad_lacing", "step")
        self.assertEqual(StepDone.objects.count(), 1)


class Lacing(Building):
    def test_resume_where_left(self) -> None:
        found = self.get(self.url("lacing")).json()
        self.assertEqual((found["placed"], len(found["places"]), len(found["sets"])), (0, 36, 4))
        self.assertEqual(self.post(self.url("lacing"), {"placed": 7}).json()["placed"], 7)
        self.assertEqual(self.get(self.url("lacing"), self.speak_for(self.ines)).json()["placed_by"], "Bram")
        self.refuses(self.url("lacing"), {"placed": 37}, "bad_lacing", "placed")
        inside = {"R": "trailing", "L": "leading"}
        self.assertProblem(
            self.client.put(f"/api/v1/{self.url('lacing/inside')}", inside, format="json"), 422, "bad_lacing", "inside"
        )
        self.post(self.url("lacing"), {"placed": 0})
        changed = self.client.put(f"/api/v1/{self.url('lacing/inside')}", inside, format="json").json()
        self.assertEqual([s["side"] for s in changed["sets"]], ["R", "R", "L", "L"])

    def test_what_was_looked_at_is_explained_and_kept(self) -> None:
        seen = [{"spoke": "R1", "lean": "leading"}, {"spoke": "L1", "lean": "leading"}]
        found = self.post(self.url("lacing/look"), {"seen": seen}).json()
        self.assertEqual([f["key"] for f in found["faults"]], ["valve"])
        self.assertEqual(len(found["needs"]), 36)
        self.assertEqual(LacingLook.objects.get().errors[0]["key"], "valve")
        self.refuses(self.url("lacing/look"), {"seen": []}, "bad_lacing", "seen")


class Replacing(Building):
    def test_from_broken_to_done(self) -> None:
        self.read_all()
        self.post(self.url("breaks"), {"spoke": "R4", "place": "elbow"})
        found = self.get(self.url("replacing")).json()["spokes"][0]
        self.assertEqual(found["neighbours"], ["R3", "R5"])
        self.assertAlmostEqual(found["neighbours_n"], 1000, delta=120)
        self.assertIn("sprockets", [s["key"] for s in found["steps"]])
        for step in [s["key"] for s in found["steps"]]:
            done = self.post(self.url("replacing"), {"spoke": "R4", "step": step, "done": True})
            self.assertEqual(done.status_code, 200, done.content)
        after = done.json()["spokes"][0]
        sides = self.get(self.url("sizing")).json()["sides"]
        self.assertEqual({s["side"]: s["places"] for s in sides}, {"R": 1, "L": 0}, "still a job of one spoke")
        self.assertFalse(after["standing"])
        self.assertTrue(all(s["done"] for s in after["steps"]))
        marks = self.get(self.url("condition")).json()["marks"]
        self.assertEqual(marks, [])
        self.assertProblem(
            self.post(self.url("replacing"), {"spoke": "R9", "step": "off", "done": True}), 422, "bad_lacing", "spoke"
        )
        self.assertProblem(
            self.post(self.url("replacing"), {"spoke": "R4", "step": "dance", "done": True}), 422, "bad_lacing", "step"
        )

    def test_spare_card_takes_what_was_laced(self) -> None:
        self.post(self.url("sizing/choice"), {"side": "R", "length_mm": 291})
        card = self.get(f"bikes/{self.job.wheel.bike_id}/spare-card").json()
        said = {line["side"]: (line["length_mm"], line["measured"]) for line in card["spokes"]}
        self.assertEqual(said["R"], (291, True))
        self.assertFalse(said["L"][1])
        self.assertEqual(self.get(f"bikes/{self.job.wheel.bike_id}/spare-card", self.speak_for(self.stranger)).status_code, 404)
