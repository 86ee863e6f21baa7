"""The shop's tiers: its own figures, jobs that keep those of their day, and what an approval was given to."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django.db import IntegrityError, transaction

from felloe.api.problems import Refused
from felloe.bench.models import Plan, ReadingSet
from felloe.bench.services.readings import current_readings
from felloe.core.letters import question
from felloe.core.money.consent import TIER_PLAIN
from felloe.core.promise.work import usual_step
from felloe.core.truing.tiers import FINE, SOUND, TIERS, Tier
from felloe.links import services as links
from felloe.links.models import CustomerLink
from felloe.links.services.letters import about_of
from felloe.promises.services.facts import facts_of
from felloe.queue.models import Job, ShopTier
from felloe.repair.models import Decision
from tests.api.shop import BenchCase, open_job, person

SET = {"lateral_mm": 0.6, "radial_mm": 0.6, "dish_mm": 0.5, "tension_percent": 22.0, "plain": "", "in_use": True}
TOURING = Tier("touring", 0.4, 0.4, 0.5, 18)


class Tiers(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = self.speak_for(person(self.shop, "odile", "owner"))

    def set_tier(self, name: str, version: int = 0, **change: Any) -> Any:
        return self.put("tiers", {"name": name, "version": version, **SET, **change}, self.owner)

    def held(self, job: Job | None = None) -> Tier:
        return Job.objects.get(pk=(job or self.job).pk).tolerance

    def change(self, **values: Any) -> Any:
        version = Job.objects.get(pk=self.job.pk).version
        return self.patch(f"jobs/{self.job.pk}", {"version": version, **values})

    def void(self) -> str:
        return str(self.get(f"jobs/{self.job.pk}/quote?chosen=true").json()["void"])

    def touring(self) -> None:
        made = self.set_tier("touring", lateral_mm=0.4, radial_mm=0.4, tension_percent=18, plain="For long ways.")
        self.assertEqual(made.status_code, 200, made.content)

    def test_a_new_shop_has_the_usual_four(self) -> None:
        found = self.get("tiers").json()
        self.assertEqual([(t["name"], t["version"], t["usual"]) for t in found], [(name, 0, True) for name in TIERS])
        self.assertEqual([t["name"] for t in self.get("trade").json()["tiers"]], list(TIERS))

    def test_only_who_may_and_only_here(self) -> None:
        self.assertProblem(self.put("tiers", {"name": "sound", "version": 0, **SET}), 403, "not_permitted")
        self.touring()
        stranger = self.speak_for(self.stranger)
        self.assertNotIn("touring", [t["name"] for t in self.get("tiers", stranger).json()])
        self.assertProblem(self.post("offers", {"tier": "touring"}, client=stranger), 422, "unknown_tier", "tier")

    def test_a_tier_of_its_own_from_taking_in_to_price_and_minutes(self) -> None:
        self.touring()
        order = [t["name"] for t in self.get("trade").json()["tiers"]]
        self.assertEqual(order, ["roadworthy", "sound", "touring", "fine", "race"])
        changed = self.change(tier="touring")
        self.assertEqual(changed.json()["tolerance"]["tension_percent"], 18)
        self.assertEqual(self.held(), TOURING)
        self.assertEqual(facts_of([self.job])[self.job.pk].tier, SOUND)
        self.assertEqual(facts_of([Job.objects.get(pk=self.job.pk)])[self.job.pk].tier, TOURING)
        quote = self.get(f"jobs/{self.job.pk}/quote?chosen=true").json()
        price = {t["tier"]: t["gross_minor"] for t in quote["tiers"]}
        self.assertTrue(price["sound"] < price["touring"] < price["fine"], price)
        self.assertEqual(quote["gross_minor"], price["touring"])
        self.assertIn("For long ways.", quote["words"])

    def test_open_jobs_keep_what_they_were_promised(self) -> None:
        self.assertEqual(self.set_tier("sound").status_code, 200)
        self.assertEqual(self.held(), SOUND)
        self.assertEqual(self.held(open_job(self.bram)), Tier("sound", 0.6, 0.6, 0.5, 22))
        # Something else is changed, by a form that sends the tier along.
        self.change(tier="sound", complaint="hops")
        self.assertEqual(self.held(), SOUND)
        body = self.change(tier="sound", tier_anew=True).json()
        self.assertEqual(body["tolerance"], {"name": "sound", "lateral_mm": 0.6, "radial_mm": 0.6, "dish_mm": 0.5,
                                             "tension_percent": 22.0})  # fmt: skip
        # Another tier and back: as the shop means it today.
        self.change(tier="fine")
        self.assertEqual(self.held(), FINE)
        self.change(tier="sound")
        self.assertEqual(self.held().lateral_mm, 0.6)

    def test_new_figures_void_what_was_agreed_and_old_ones_do_not(self) -> None:
        said = {"outcome": "approved", "chosen": ["true"], "by_whom": "Wen", "how": "counter"}
        self.assertEqual(self.post(f"jobs/{self.job.pk}/decisions", said).status_code, 201)
        self.set_tier("sound")
        self.assertEqual(self.void(), "", "a shop's new figures do not undo what was agreed")
        self.assertEqual(Decision.objects.get().tolerance, SOUND)
        self.change(tier="sound", tier_anew=True)
        self.assertIn("tier", self.void())

    def test_state_and_plan_are_held_to_the_jobs_figures(self) -> None:
        self.touring()
        self.change(tier="touring")
        for number in range(1, 19):
            for side in "RL":
                self.read("tension", f"{side}{number}", 20)
                self.read("lateral", f"{side}{number}", 0.1 * (number % 3))
                self.read("radial", f"{side}{number}", 0.0)
        limits = {c["figure"]: c["limit"] for c in self.get(f"reading-sets/{self.set}/state").json()["checks"]}
        self.assertEqual((limits["lateral"], limits["tension"]), (0.4, 18))
        made = self.post(f"reading-sets/{self.set}/plans", {})
        self.assertEqual(made.status_code, 201, made.content)
        self.set_tier("touring", 1, lateral_mm=0.45)
        self.change(tier="touring", tier_anew=True)
        self.assertEqual(self.held().lateral_mm, 0.45)
        self.assertEqual(Plan.objects.get().tolerance, TOURING, "a plan stays what it was made for")

    def test_bad_figures_and_names_at_their_place(self) -> None:
        for change, field in (
            ({"lateral_mm": 2.5}, "lateral_mm"), ({"dish_mm": 0}, "dish_mm"), ({"tension_percent": 60}, "tension_percent"),
            ({"radial_mm": "x"}, "radial_mm"),
        ):  # fmt: skip
            with self.subTest(field=field):
                found = self.set_tier("sound", **change)
                self.assertIn(found.status_code, (400, 422))
                self.assertIn(field, [e["field"] for e in found.json()["errors"]])
        for name in ("Sound", "lap", "x" * 21, "  "):
            with self.subTest(name=name):
                self.assertIn("name", [e["field"] for e in self.set_tier(name).json()["errors"]])
        self.assertFalse(ShopTier.objects.exists())

    def test_the_same_name_twice_and_two_at_once(self) -> None:
        self.touring()
        self.assertProblem(self.set_tier("Touring"), 422, "name_taken", "name")
        self.assertEqual(self.set_tier("touring", 1, lateral_mm=0.35).status_code, 200)
        stale = self.set_tier("touring", 1, lateral_mm=0.2)
        self.assertProblem(stale, 409, "stale_write")
        self.assertEqual(ShopTier.objects.get().lateral_mm, 0.35)

    def test_out_of_use_is_not_chosen_and_one_always_stays(self) -> None:
        self.touring()
        self.change(tier="touring")
        self.set_tier("touring", 1, in_use=False)
        self.assertNotIn("touring", [t["name"] for t in self.get("trade").json()["tiers"]])
        # The job that has it goes on with it, whatever else is changed of it.
        self.assertEqual(self.change(tier="touring", complaint="hops").status_code, 200)
        self.assertEqual(self.held().name, "touring")
        self.change(tier="fine")
        self.assertProblem(self.change(tier="touring"), 422, "unknown_tier", "tier")
        for name in ("roadworthy", "sound", "race"):
            self.assertEqual(self.set_tier(name, in_use=False).status_code, 200)
        self.assertProblem(self.set_tier("fine", in_use=False), 409, "last_tier")
        self.assertEqual(self.held(open_job(self.bram)), FINE, "sound is gone: what lies next to it")

    def test_no_job_without_figures_and_no_tier_beyond_what_is_signed_off(self) -> None:
        for change in ({"tier_lateral_mm": None}, {"tier_dish_mm": 0}, {"tier": ""}):
            with self.subTest(change=change), self.assertRaises(IntegrityError), transaction.atomic():
                Job.objects.filter(pk=self.job.pk).update(**change)
        with self.assertRaises(IntegrityError), transaction.atomic():
            ShopTier.objects.create(shop=self.shop, name="wide", lateral_mm=2.5, radial_mm=1, dish_mm=1, tension_percent=20)
        with self.assertRaises(IntegrityError), transaction.atomic():
            for name in ("touring", "Touring"):
                ShopTier.objects.create(shop=self.shop, name=name, **dict(zip(list(SET)[:4], TOURING.figures, strict=True)))


class Asked(BenchCase):
    """A question by link goes on saying what the tier means, also one that was asked before tiers had words of their own."""

    def asked(self) -> str:
        link = CustomerLink.objects.get()
        return "\n".join(map(str, question(about_of(self.bram, self.job, "en", link, ""))))

    def test_in_the_words_of_the_day(self) -> None:
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        links.ask_by_link(self.bram, self.job.pk, ["true"], "")
        self.assertIn(str(TIER_PLAIN["sound"]), self.asked())
        self.put("tiers", {"name": "sound", "version": 0, **SET, "plain": "Good for years."}, owner)
        self.assertIn(str(TIER_PLAIN["sound"]), self.asked(), "what was asked stays as it was asked")
        link = CustomerLink.objects.get()
        CustomerLink.objects.update(asked={k: v for k, v in link.asked.items() if k not in ("tier_plain", "tier_figures")})
        self.assertIn(str(TIER_PLAIN["sound"]), self.asked())

    def test_new_figures_close_the_question(self) -> None:
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        links.ask_by_link(self.bram, self.job.pk, ["true"], "")
        self.put("tiers", {"name": "sound", "version": 0, **SET}, owner)
        self.patch(
            f"jobs/{self.job.pk}", {"version": Job.objects.get(pk=self.job.pk).version, "tier": "sound", "tier_anew": True}
        )
        with self.assertRaises(Refused) as refused:
            links.answer(CustomerLink.objects.get().pk, True, "Wen")
        self.assertEqual(refused.exception.code, "link_changed")


class Spread(BenchCase):
    """How uneven a wheel was read is part of the estimate: on the rail, in the quote, in what is learned."""

    def read_all(self, right: float = 20, odd: float = 20) -> None:
        for number in range(1, 19):
            for side in "RL":
                self.read("tension", f"{side}{number}", odd if (side, number) == ("R", 4) else right)

    def spread(self) -> float | None:
        return ReadingSet.objects.get(pk=self.set).spread_percent

    def test_kept_with_each_reading_and_only_of_enough(self) -> None:
        for number in range(1, 6):
            for side in "RL":
                self.read("tension", f"{side}{number}", 20)
        self.assertIsNone(self.spread(), "five of eighteen say nothing of the rest")
        self.read_all()
        self.assertEqual(self.spread(), 0)
        self.read("tension", "R4", 24)
        values = [r.value for r in current_readings(ReadingSet.objects.get(pk=self.set)) if r.spoke[0] == "R"]
        mean = sum(values) / 18
        self.assertAlmostEqual(self.spread() or 0, 100 * (max(values) - mean) / mean)
        self.post(f"reading-sets/{self.set}/withdraw", {"kind": "tension", "spoke": "R4"})
        self.assertEqual(self.spread(), 0)

    def test_an_uneven_wheel_takes_longer_on_rail_and_in_quote(self) -> None:
        def minutes() -> tuple[float, int]:
            facts = facts_of([self.job])[self.job.pk]
            options = self.get(f"jobs/{self.job.pk}/options").json()["options"]
            return usual_step(facts, "true"), next(o["minutes"] for o in options if o["key"] == "true")

        before = minutes()
        self.read_all(20, 26)
        after = minutes()
        self.assertGreater(after[0], before[0] * 1.1)
        self.assertEqual(after[1], round(after[0]), "one estimate")
        anew = replace(facts_of([self.job])[self.job.pk], agreed=("rebuild",))
        self.assertEqual(usual_step(anew, "true"), before[0], "new spokes are not as uneven as the old ones were")
