"""The demo shop: whole, lived in, and measured from virtual wheels."""

from datetime import timedelta

import numpy as np
from django.test import TestCase
from django.utils import timezone
from rest_framework.test import APIClient

from felloe.accounts.models import User
from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services.states import state_of_set
from felloe.demo.loading import is_loaded, load
from felloe.queue.models import Job
from felloe.stock.models import Claimed, Movement
from felloe.stock.services.ledger import differences


class Demo(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.before = timezone.now()
        cls.count = load()

    def test_enough_of_everything(self) -> None:
        jobs = Job.objects.select_related("wheel")
        self.assertTrue(is_loaded())
        self.assertGreaterEqual(self.count, 14)
        self.assertGreaterEqual(len({job.stage for job in jobs}), 9)
        kinds = {job.wheel.kind for job in jobs}
        self.assertGreaterEqual(len(kinds), 6)
        wanted = {
            "rim-brake-rear-36",
            "disc-front-28",
            "disc-rear-32",
            "tandem-rear-40",
            "small-front-20",
            "bladed-rear-24",
            "bladed-front-20",
        }
        self.assertLessEqual(wanted, kinds)

    def test_times_lie_about_now(self) -> None:
        first, last = (Reading.objects.order_by(o).first().created_at for o in ("created_at", "-created_at"))
        self.assertGreater(first, self.before - timedelta(days=7))
        self.assertLess(last, self.before + timedelta(minutes=1))
        self.assertTrue(Job.objects.filter(promised_at__gt=self.before).exists())
        self.assertTrue(Job.objects.filter(stage="done", handed_back_at__lt=self.before).exists())

    def test_every_state_is_that_of_a_wheel(self) -> None:
        for made in ReadingSet.objects.select_related("job__wheel"):
            state = state_of_set(made)
            with self.subTest(job=made.job.number, set=made.number):
                self.assertLess(state.lateral_tir_mm, 6)
                self.assertTrue(all(-200 < s.tension_n < 2000 for s in state.spokes))
                # A rim is smooth: neighbours never differ as random numbers would.
                lateral = [s.lateral_mm for s in state.spokes]
                steps = np.diff([*lateral, lateral[0]])
                # Independent numbers would give about 2 here.
                self.assertLess(np.mean(steps**2) / np.var(lateral), 0.9)

    def test_what_is_kept_of_the_ledger_is_what_it_leaves(self) -> None:
        self.assertGreater(Movement.objects.count(), 20)
        self.assertGreater(Claimed.objects.count(), 0)
        self.assertEqual(differences(), [])

    def test_bins_orders_and_a_wheel_half_laced(self) -> None:
        client = APIClient()
        client.force_login(User.objects.get(username="bram"))
        parts = client.get("/api/v1/stock").json()["parts"]
        self.assertLessEqual({"spoke", "nipple", "washer", "rim", "hub", "tape"}, {p["kind"] for p in parts})
        orders = client.get("/api/v1/stock/orders").json()
        self.assertTrue(orders["proposed"])
        self.assertIn("sent", {o["state"] for o in orders["orders"]})
        waiting = Job.objects.get(waiting_on="parts")
        self.assertTrue(client.get(f"/api/v1/jobs/{waiting.pk}/replacing").json()["spokes"])
        self.assertTrue(client.get(f"/api/v1/jobs/{waiting.pk}/sizing").json()["rules"])
        laced = Job.objects.get(stage="strip_lace")
        found = client.get(f"/api/v1/jobs/{laced.pk}/lacing").json()
        self.assertTrue(0 < found["placed"] < len(found["places"]))
        counts = client.get(f"/api/v1/jobs/{laced.pk}/strip").json()["counts"]
        self.assertEqual({c["still_in"] for c in counts}, {found["placed"]})
        old = client.get(f"/api/v1/jobs/{laced.pk}/sizing").json()["old"]
        self.assertTrue(any(side["rebuild"] for side in old))

    def test_every_page_of_the_api_answers(self) -> None:
        client = APIClient()
        client.force_login(User.objects.get(username="bram"))
        for job in Job.objects.all():
            self.assertEqual(client.get(f"/api/v1/jobs/{job.pk}").status_code, 200)
            self.assertEqual(client.get(f"/api/v1/jobs/{job.pk}/record").status_code, 200)
        rail = client.get("/api/v1/rail").json()
        self.assertIn("late", {h["level"] for h in rail["hanging"]})
        self.assertIsNotNone(rail["next_job_id"])
