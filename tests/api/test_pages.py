"""Long lists in pages: whole, in order, each row once, whatever is added meanwhile."""

from __future__ import annotations

from unittest import mock
from uuid import uuid4

from django.utils import timezone

from felloe.queue import services as queue
from felloe.queue.services.jobs import EVENTS_A_PAGE
from felloe.stock import services as stock
from felloe.stock.models import Movement
from felloe.stock.services.bins import ENTRIES_A_PAGE
from tests.api.shop import ShopCase, open_job, person
from tests.api.test_stock import SPOKE


class Events(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram)

    def _log(self, count: int) -> None:
        for i in range(count):
            queue.log(self.job, self.bram, "changed", f"note {i}")

    def _page(self, before: str = "") -> tuple[list[str], bool]:
        found = self.get(f"jobs/{self.job.pk}/events{f'?before={before}' if before else ''}").json()
        return [event["id"] for event in found["events"]], found["earlier"]

    def test_a_job_comes_with_its_newest_and_says_whether_there_are_earlier_ones(self) -> None:
        job = self.get(f"jobs/{self.job.pk}").json()
        self.assertEqual([event["kind"] for event in job["events"]], ["opened"])
        self.assertFalse(job["earlier_events"])
        self._log(EVENTS_A_PAGE - 1)
        self.assertFalse(self.get(f"jobs/{self.job.pk}").json()["earlier_events"])
        self._log(1)
        job = self.get(f"jobs/{self.job.pk}").json()
        self.assertEqual((len(job["events"]), job["events"][-1]["note"]), (EVENTS_A_PAGE, "note 0"))
        self.assertNotIn("opened", [event["kind"] for event in job["events"]])
        self.assertTrue(job["earlier_events"])

    def test_page_behind_page_each_is_there_once_though_more_are_added(self) -> None:
        self._log(2 * EVENTS_A_PAGE + 5)
        wanted = [str(pk) for pk in self.job.events.order_by("-created_at", "-id").values_list("pk", flat=True)]
        found, more = self._page()
        while more:
            self._log(1)
            page, more = self._page(found[-1])
            found += page
        self.assertEqual(found, wanted)

    def test_what_is_no_event_of_this_job_is_not_found(self) -> None:
        other = open_job(self.ines)
        for before in (uuid4(), other.events.get().pk):
            self.assertEqual(self.get(f"jobs/{self.job.pk}/events?before={before}").status_code, 404)
        self.assertProblem(self.get(f"jobs/{self.job.pk}/events?before=last"), 400, "invalid_input", "before")
        self.assertEqual(self.get(f"jobs/{self.job.pk}/events", client=self.speak_for(self.stranger)).status_code, 404)


class Entries(ShopCase):
    def test_a_ledger_of_one_moment_is_whole_in_pages(self) -> None:
        part = stock.add_part(self.bram, SPOKE)
        now = timezone.now()
        # Many of one moment: the order does not hang on the clock alone.
        with mock.patch("django.utils.timezone.now", return_value=now):
            made = Movement.objects.bulk_create(
                Movement(shop=self.shop, part=part, kind="count", delta=1, created_by=self.bram)
                for _ in range(ENTRIES_A_PAGE + 7)
            )
        self.assertEqual({row.created_at for row in made}, {now})
        path = f"stock/parts/{part.pk}/movements"
        first = self.get(path).json()
        second = self.get(f"{path}?before={first['movements'][-1]['id']}").json()
        self.assertEqual((first["earlier"], second["earlier"]), (True, False))
        ids = [entry["id"] for page in (first, second) for entry in page["movements"]]
        self.assertEqual(set(ids), {str(row.pk) for row in made})
        self.assertEqual(len(ids), len(made))
        apprentice = self.speak_for(person(self.shop, "wyn", "apprentice"))
        self.assertEqual(self.get(path, client=apprentice).json(), first)
