"""Letters by e-mail: retried, never doubled, and what is unsure is said to be."""

from __future__ import annotations

import threading
import time
from smtplib import SMTPDataError, SMTPServerDisconnected
from typing import Any
from unittest import mock

from django.core import mail
from django.db import connection
from django.test import TransactionTestCase, override_settings
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from felloe.accounts.models import Shop
from felloe.customers.models import Customer
from felloe.messages.models import CaughtMail, Message
from felloe.messages.services import outbox
from felloe.messages.tasks import take_up_again
from felloe.queue.models import Job, JobEvent
from tests.api.shop import PRICES, ShopCase, open_job, person

#: Where a letter is handed over: the line is opened, then it is given.
OPEN = "django.core.mail.backends.locmem.EmailBackend.open"
GIVE = "django.core.mail.backends.locmem.EmailBackend.send_messages"


def work() -> None:
    """As the worker does: whatever is due, once."""
    with app.replace_connector(app.connector.get_worker_connector()) as worker:  # type: ignore[attr-defined]
        worker.run_worker(wait=False, install_signal_handlers=False, listen_notify=False)


class MailCase(TransactionTestCase):
    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here", prices_minor=PRICES, email="shop@example.org")
        self.bram = person(self.shop, "bram")
        self.job = open_job(self.bram)
        Customer.objects.update(email="wen@example.org", language="pt")

    def write(self, kind: str = "ready") -> Message:
        return outbox.write(self.bram, self.job.pk, kind, None, "http://here")

    def state(self) -> str:
        return Message.objects.get().state

    def now(self) -> None:
        ProcrastinateJob.objects.filter(status="todo")
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET scheduled_at = NULL WHERE status = 'todo'")


class Sending(MailCase):
    def test_written_in_the_customers_language_and_sent_by_the_worker(self) -> None:
        self.write()
        self.assertEqual(mail.outbox, [], "nothing leaves in the request")
        work()
        sent = mail.outbox[0]
        self.assertEqual((sent.to, sent.reply_to), (["wen@example.org"], ["shop@example.org"]))
        self.assertIn("está pronta", sent.body)
        self.assertEqual(sent.extra_headers["Content-Language"], "pt")
        self.assertEqual((self.state(), len(mail.outbox)), ("sent", 1))
        self.assertTrue(JobEvent.objects.filter(kind="told_fetch").exists(), "the desk need not call any more")

    def test_a_deed_that_fails_writes_no_letter(self) -> None:
        with mock.patch.object(outbox.queue, "log", side_effect=RuntimeError), self.assertRaises(RuntimeError):
            self.write()
        work()
        self.assertEqual((Message.objects.count(), len(mail.outbox)), (0, 0))

    def test_tried_again_until_it_goes_and_then_no_more(self) -> None:
        self.write()
        with mock.patch(OPEN, side_effect=ConnectionRefusedError("away")) as opened:
            work()
            self.now()
            work()
        self.assertEqual(opened.call_count, 2)
        self.assertEqual((self.state(), Message.objects.get().tries), ("queued", 2))
        self.assertIn("away", Message.objects.get().problem)
        self.now()
        work()
        self.now()
        work()
        self.assertEqual((self.state(), len(mail.outbox)), ("sent", 1))

    def test_patience_ends_and_a_person_sends_it_again(self) -> None:
        made = self.write()
        Message.objects.update(tries=outbox.MOST_TRIES - 1)
        with mock.patch(GIVE, side_effect=SMTPDataError(452, b"full")):
            work()
        self.assertEqual(self.state(), "failed")
        outbox.again(self.bram, made.pk)
        work()
        self.assertEqual((self.state(), len(mail.outbox)), ("sent", 1))

    def test_killed_while_it_was_handed_over_it_is_unsure_and_not_sent_twice(self) -> None:
        made = self.write()
        with mock.patch(GIVE, side_effect=KeyboardInterrupt):
            with self.assertRaises(KeyboardInterrupt):
                outbox.deliver(made.pk)
        self.assertEqual(self.state(), "going")
        work()
        self.assertEqual((self.state(), len(mail.outbox)), ("unsure", 0))
        outbox.again(self.bram, made.pk)
        work()
        self.assertEqual((self.state(), len(mail.outbox)), ("sent", 1))

    def test_a_line_that_broke_while_it_was_given_is_unsure(self) -> None:
        """The server may have taken it, and its word got lost: a second letter is worse than a question."""
        for broken in (SMTPServerDisconnected("gone"), TimeoutError("no answer")):
            with self.subTest(type(broken).__name__):
                Message.objects.all().delete()
                self.write()
                with mock.patch(GIVE, side_effect=broken):
                    work()
                self.now()
                work()
                self.assertEqual((self.state(), len(mail.outbox)), ("unsure", 0))

    def test_what_a_killed_worker_had_in_hand_is_taken_up(self) -> None:
        made = self.write()
        with connection.cursor() as cursor:
            # As a worker leaves it that is killed before it begins to send.
            cursor.execute("INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - interval '1 hour') RETURNING id")
            worker = cursor.fetchone()[0]
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing', worker_id = %s", [worker])
        work()
        self.assertEqual((self.state(), mail.outbox), ("queued", []))
        take_up_again.defer(timestamp=0)
        work()
        self.now()
        work()
        made.refresh_from_db()
        self.assertEqual((made.state, len(mail.outbox)), ("sent", 1))

    def test_two_workers_at_once_send_one(self) -> None:
        made = self.write()
        begun = threading.Barrier(3)

        def slow(*_: Any) -> int:
            time.sleep(0.2)
            return 1

        def deliver() -> None:
            begun.wait()
            try:
                outbox.deliver(made.pk)
            finally:
                connection.close()

        with mock.patch(GIVE, autospec=True, side_effect=slow) as send:
            threads = [threading.Thread(target=deliver) for _ in range(3)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
        self.assertEqual(send.call_count, 1)

    @override_settings(EMAIL_BACKEND="felloe.messages.caught.EmailBackend")
    def test_the_demo_catches_them(self) -> None:
        self.write()
        work()
        caught = CaughtMail.objects.get()
        self.assertEqual((caught.to, caught.shop_id), ("wen@example.org", self.shop.pk))
        found = outbox.outbox(self.bram)
        self.assertTrue(found.catches)
        self.assertEqual(len(found.caught), 1)
        self.assertEqual(outbox.outbox(person(Shop.objects.create(name="There"), "olav")).caught, [])


class Asking(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.job: Job = open_job(self.bram)

    def test_refusals(self) -> None:
        path = f"jobs/{self.job.pk}/letter"
        self.assertProblem(self.post(path, {"kind": "ready"}), 422, "no_email")
        Customer.objects.update(email="wen@example.org")
        self.assertProblem(self.post(path, {"kind": "poem"}), 400, "invalid_input", "kind")
        self.assertProblem(self.post(path, {"kind": "ask"}), 422, "link_missing")
        made = self.post(path, {"kind": "ready"})
        self.assertEqual((made.status_code, made.json()["state"]), (200, "queued"))
        self.assertProblem(self.post(path, {"kind": "ready"}), 409, "written_already")
        self.assertProblem(self.post(f"letters/{made.json()['id']}/again", {}), 409, "on_its_way")
        there = self.speak_for(self.stranger)
        self.assertEqual(self.post(path, {"kind": "ready"}, client=there).status_code, 404)
        self.assertEqual(self.post(f"letters/{made.json()['id']}/again", {}, client=there).status_code, 404)
        self.assertEqual(self.get("letters", there).json()["letters"], [])
        self.assertEqual(len(self.get("letters").json()["letters"]), 1)
