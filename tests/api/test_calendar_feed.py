"""Promises for any calendar: read back line by line, by RFC 5545's own rules."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from django.utils import timezone

from felloe.customers.models import Bike
from felloe.queue.models import Job
from tests.api.shop import ShopCase, open_job, person


def lines_of(data: bytes) -> list[str]:
    """Content lines, unfolded (RFC 5545, section 3.1): CR LF ends each, and none is longer than 75 octets."""
    assert data.endswith(b"\r\n")
    raw = data[:-2].split(b"\r\n")
    assert all(len(line) <= 75 and b"\n" not in line for line in raw), max(raw, key=len)
    found: list[bytes] = []
    for line in raw:
        if line[:1] in (b" ", b"\t"):
            found[-1] += line[1:]
        else:
            found.append(line)
    return [line.decode() for line in found]


def events_of(data: bytes) -> list[dict[str, str]]:
    found: list[dict[str, str]] = []
    inside = False
    for line in lines_of(data):
        name, _, value = line.partition(":")
        if line == "BEGIN:VEVENT":
            found.append({})
            inside = True
        elif line == "END:VEVENT":
            inside = False
        elif inside:
            found[-1][name.partition(";")[0]] = value
    return found


class CalendarFeed(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.boss = self.speak_for(person(self.shop, "odile", "owner"))

    def renew(self, keep: bool = True) -> Any:
        answer = self.post("calendar-feed", {"keep": keep}, client=self.boss)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def read(self, address: str) -> Any:
        return self.client_class().get(address.removeprefix("http://testserver"))

    def test_each_promise_is_one_event_that_follows_its_changes(self) -> None:
        at = (timezone.now() + timedelta(days=2)).replace(microsecond=0)
        job = open_job(self.bram, promised_at=at)
        Bike.objects.filter(pk=job.wheel.bike_id).update(
            label="Grå bike; with, a \\ very long name indeed, so that it folds over"
        )
        open_job(self.bram)
        address = self.renew()["address"]
        answer = self.read(address)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/calendar; charset=utf-8"))
        [event] = events_of(answer.content)
        self.assertEqual(datetime.strptime(event["DTSTART"], "%Y%m%dT%H%M%SZ").replace(tzinfo=UTC), at)
        self.assertEqual(event["DURATION"], "PT15M")
        self.assertIn(str(job.number), event["SUMMARY"])
        self.assertIn("Grå bike\\; with\\, a \\\\ very", event["SUMMARY"])
        self.assertNotIn(job.wheel.bike.customer.name, answer.content.decode())
        before = int(event["SEQUENCE"])
        Job.objects.filter(pk=job.pk).update(promised_at=at + timedelta(hours=3), version=job.version + 1)
        [later] = events_of(self.read(address).content)
        self.assertEqual(later["UID"], event["UID"])
        self.assertGreater(int(later["SEQUENCE"]), before)
        Job.objects.filter(pk=job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        self.assertEqual(events_of(self.read(address).content), [])

    def test_a_new_address_closes_the_one_before(self) -> None:
        first, second = self.renew()["address"], self.renew()["address"]
        self.assertEqual(self.read(first).status_code, 404)
        self.assertEqual(self.read(second).status_code, 200)
        self.assertEqual(self.renew(keep=False)["address"], "")
        self.assertEqual(self.read(second).status_code, 404)

    def test_nobody_guesses_one(self) -> None:
        address = self.renew()["address"]
        for wrong in (
            address.replace("/calendar/", "/calendar/A"),
            address[:-6] + "x.ics",
            "http://testserver/calendar/%00.ics",
        ):
            self.assertEqual(self.read(wrong).status_code, 404, wrong)

    def test_another_shops_promises_stand_elsewhere(self) -> None:
        open_job(self.stranger, promised_at=timezone.now() + timedelta(days=1))
        self.assertEqual(events_of(self.read(self.renew()["address"]).content), [])
        self.assertEqual(self.post("calendar-feed", {"keep": True}).status_code, 403)
