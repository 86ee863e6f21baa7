"""What one bench does is heard at the others: by a process of its own, to the right shop, with nothing missed."""

from __future__ import annotations

import asyncio
import http.client
import itertools
import json
import socket
import threading
from typing import Any

import psycopg
from django.db import connection, transaction
from django.test import TransactionTestCase
from rest_framework.test import APIClient

from felloe.accounts.models import Shop, User
from felloe.api.moments import moment_now
from felloe.live import events
from felloe.live.models import LiveEvent
from felloe.live.server import dsn
from felloe.queue.models import Job
from tests.api.shop import open_job, person
from tests.live import LiveProcess, frames

STREAMS = 200


def since(moment: str, shop: str | None = None) -> events.Since:
    async def ask() -> events.Since:
        async with await psycopg.AsyncConnection.connect(dsn(), autocommit=True) as db:
            return await events.since(db, moment, shop)

    return asyncio.run(ask())


class LiveCase(TransactionTestCase):
    def setUp(self) -> None:
        self.words = itertools.count()
        self.shop = Shop.objects.create(name="Here")
        self.bram = person(self.shop, "bram")
        self.job = open_job(self.bram)

    def touch(self, job: Job | None = None) -> None:
        Job.objects.filter(pk=(job or self.job).pk).update(complaint=f"rubs {next(self.words)}")


class Moments(LiveCase):
    """The order in which numbers are given out is not the order in which work is committed."""

    def test_a_change_that_was_under_way_is_not_missed(self) -> None:
        other = open_job(self.bram)
        with psycopg.connect(dsn()) as slow:
            slow.execute("UPDATE queue_job SET complaint = 'slow' WHERE id = %s", [other.pk])
            self.touch()
            moment = moment_now()
            self.assertEqual(since(moment).events, [])
            slow.commit()
        self.assertEqual([e["job"] for e in since(moment).events], [other.pk])

    def test_what_was_seen_is_not_told_again_and_what_is_undone_never(self) -> None:
        moment = moment_now()
        self.touch()
        found = since(moment)
        self.assertEqual([e["job"] for e in found.events], [self.job.pk])
        with psycopg.connect(dsn()) as undone:
            undone.execute("UPDATE queue_job SET complaint = 'x' WHERE id = %s", [self.job.pk])
            undone.rollback()
        self.assertEqual(since(found.moment).events, [])

    def test_a_moment_that_tells_nothing_begins_anew(self) -> None:
        written = moment_now().partition("@")[2]
        for moment in ("", "x", "1:2:@5", f"nonsense@{written}", f"9999999999:9999999999:@{written}", f"5:4:@{written}"):
            with self.subTest(moment):
                self.assertTrue(since(moment).anew)

    def test_one_deed_is_told_once_and_only_to_its_shop(self) -> None:
        there = Shop.objects.create(name="There")
        their_job = open_job(person(there, "olav"))
        moment = moment_now()
        with transaction.atomic():
            self.touch()
            self.job.refresh_from_db()
            self.job.save()
        self.touch(their_job)
        self.assertEqual([e["job"] for e in since(moment, str(self.shop.pk)).events], [self.job.pk])
        self.assertEqual({e["job"] for e in since(moment).events}, {self.job.pk, their_job.pk})

    def test_events_are_kept_an_hour(self) -> None:
        self.touch()
        kept = LiveEvent.objects.count()
        self.assertGreater(kept, 0)
        with connection.cursor() as cursor:
            cursor.execute("UPDATE live_liveevent SET at = now() - interval '61 minutes' WHERE topic = 'job'")

        async def purge() -> None:
            async with await psycopg.AsyncConnection.connect(dsn(), autocommit=True) as db:
                await events.purge(db)

        asyncio.run(purge())
        self.assertFalse(LiveEvent.objects.filter(topic="job").exists())


class Streams(LiveCase):
    """The real process, over HTTP."""

    def setUp(self) -> None:
        super().setUp()
        self.wires: list[http.client.HTTPConnection] = []
        self.live = LiveProcess()
        self.addCleanup(self.live.kill)

    def stream(self, user: User | None, since: str = "", last: str = "", origin: str = "", at: str = "") -> Any:
        client = APIClient()
        headers = {"Origin": origin} if origin else {}
        if user is not None:
            client.force_login(user)
            headers["Cookie"] = f"sessionid={client.cookies['sessionid'].value}"
        if last:
            headers["Last-Event-ID"] = last
        wire = http.client.HTTPConnection("127.0.0.1", self.live.port, timeout=60)
        self.addCleanup(wire.close)
        self.wires.append(wire)
        wire.request("GET", f"/live?since={since}{at}", headers=headers)
        return wire.getresponse()

    def test_strangers_hear_nothing(self) -> None:
        self.assertEqual(self.stream(None).status, 403)
        self.assertEqual(self.stream(self.bram, origin="http://elsewhere.example").status, 403)
        near = self.stream(self.bram, origin="http://127.0.0.1:9")
        self.assertEqual(near.status, 200)
        self.assertEqual(near.headers["Access-Control-Allow-Origin"], "http://127.0.0.1:9")

    def test_each_shop_hears_its_own(self) -> None:
        there = Shop.objects.create(name="There")
        olav = person(there, "olav")
        their_job = open_job(olav)
        moment = moment_now()
        here, across = frames(self.stream(self.bram, moment)), frames(self.stream(olav, moment))
        self.assertEqual((next(here)[2], next(across)[2]), ("[]", "[]"))
        self.touch(their_job)
        self.touch()
        self.assertEqual(json.loads(next(here)[2])[0]["job"], str(self.job.pk))
        self.assertEqual([e["job"] for e in json.loads(next(across)[2])], [str(their_job.pk)])

    def test_killed_and_begun_again_nothing_is_missed(self) -> None:
        heard = frames(self.stream(self.bram, moment_now()))
        _, last, _ = next(heard)
        self.touch()
        _, last, data = next(heard)
        self.assertEqual(json.loads(data)[0]["job"], str(self.job.pk))
        self.live.kill()
        missed = [open_job(self.bram) for _ in range(3)]
        self.live.start()
        kind, _, data = next(frames(self.stream(self.bram, last=last)))
        self.assertEqual(kind, "changed")
        self.assertEqual({e["job"] for e in json.loads(data) if e["topic"] == "job"}, {str(job.pk) for job in missed})

    def test_pages_that_leave_in_the_middle_disturb_nobody(self) -> None:
        moment = moment_now()
        heard = frames(self.stream(self.bram, moment))
        next(heard)
        for _ in range(30):
            with socket.create_connection(("127.0.0.1", self.live.port)) as wire:
                wire.sendall(self.request_of(self.bram, moment))
        self.touch()
        self.assertEqual(next(heard)[0], "changed")
        self.assertTrue(self.live.health())
        self.assertTrue(self.live.process and self.live.process.poll() is None)

    def request_of(self, user: User, moment: str) -> bytes:
        client = APIClient()
        client.force_login(user)
        cookie = client.cookies["sessionid"].value
        return f"GET /live?since={moment} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: sessionid={cookie}\r\n\r\n".encode()

    def test_who_else_is_at_the_wheel(self) -> None:
        ines = person(self.shop, "ines")
        place = f"&job={self.job.pk}&at=plan/1"
        mine = self.here(self.stream(self.bram, moment_now(), at=f"{place}&tab=one"))
        self.assertEqual(next(mine), [])
        self.stream(self.bram, moment_now(), at=f"{place}&tab=one")
        self.assertEqual(next(mine), [], "the same page, come back before its old stream was missed")
        other = self.stream(ines, moment_now(), at=f"{place}&tab=two")
        self.assertEqual(next(mine), [{"person": str(ines.pk), "name": "Ines", "at": "plan/1"}])
        other.fp.raw._sock.close()
        other.close()
        self.wires[-1].close()
        self.assertEqual(next(mine), [])

    @staticmethod
    def here(response: Any) -> Any:
        return (json.loads(data) for kind, _, data in frames(response) if kind == "here")

    def test_two_hundred_listen_in_one_small_process(self) -> None:
        moment = moment_now()
        streams = [frames(self.stream(person(self.shop, f"p{i}"), moment)) for i in range(STREAMS // 20)]
        for user in User.objects.filter(username__startswith="p"):
            streams += [frames(self.stream(user, moment)) for _ in range(19)]
        self.assertEqual(len(streams), STREAMS)
        for stream in streams:
            next(stream)
        self.touch()
        heard: list[str] = []
        threads = [threading.Thread(target=lambda s=s: heard.append(next(s)[0])) for s in streams]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(heard, ["changed"] * STREAMS)
        self.assertLess(self.live.memory_mb(), 150)
