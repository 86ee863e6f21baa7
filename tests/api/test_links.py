"""The customer's link: unguessable, expiring, revocable, answered once, and only what was asked."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.test import Client
from django.utils import timezone

from felloe.accounts.models import User
from felloe.customers.models import Customer
from felloe.links.models import CustomerLink, LinkVisit
from felloe.links.services import links
from felloe.queue.models import Job
from felloe.repair.models import Decision
from tests.api.shop import BenchCase, person


class LinkCase(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        # Whoever has the address: no session, no cookie, no header.
        self.customer = Client(enforce_csrf_checks=True)

    def url(self, end: str) -> str:
        return f"jobs/{self.job.pk}/{end}"

    def make(self, *chosen: str, **more: Any) -> str:
        made = self.post(self.url("links"), {"chosen": list(chosen), **more})
        assert made.status_code == 200, made.content
        return str(made.json()[0]["address"]).removeprefix("http://testserver")

    def answer(self, address: str, answer: str = "agree", name: str = "Wen Loveday") -> Any:
        return self.customer.post(address, {"answer": answer, "name": name})

    def say(self, response: Any) -> str:
        return str(response.content.decode())


class Reading(LinkCase):
    def test_how_the_wheel_stands_in_plain_words_and_their_language(self) -> None:
        address = self.make()
        page = self.customer.get(address)
        self.assertEqual(page.status_code, 200)
        for part in ('lang="en"', str(self.job.number), "Invented bike", "It has come in and waits its turn."):
            self.assertIn(part, self.say(page))
        self.assertNotIn("<form", self.say(page))
        for header, value in (("Referrer-Policy", "no-referrer"), ("X-Robots-Tag", "noindex, nofollow")):
            self.assertEqual(page[header], value)
        self.assertIn("no-store", page["Cache-Control"])
        self.assertFalse(page.cookies)
        Customer.objects.update(language="pt-PT")
        portuguese = self.customer.get(self.make("true"))
        self.assertIn('lang="pt"', self.say(portuguese))
        for part in ("Centrar a roda", "Concordo", "€"):
            self.assertIn(part, self.say(portuguese))

    def test_nobody_guesses_one(self) -> None:
        address = self.make("true")
        token = address.rsplit("/", 1)[1]
        self.assertGreater(len(token), 60)
        other = CustomerLink.objects.get()
        name, _, signature = token.partition(".")
        tampered = [token[:-1] + ("a" if token[-1] != "a" else "b"), name, f"{name}.", f".{signature}", "x", "%00", "é" * 30]
        for wrong in tampered:
            with self.subTest(wrong):
                found = self.customer.get(f"/w/{wrong}")
                self.assertEqual(found.status_code, 404)
                self.assertNotIn("Invented", self.say(found))
        self.assertNotIn(signature, str([str(value) for value in vars(other).values()]), "the address stands nowhere")

    def test_who_tries_many_is_sent_away_and_others_are_not(self) -> None:
        address = self.make("true")
        for _ in range(links.MOST_STRANGE):
            self.customer.get("/w/nothing")
        self.assertEqual(self.customer.get("/w/nothing").status_code, 429)
        self.assertEqual(self.customer.get(address).status_code, 200, "a real link is not shut by who shares its network")
        self.assertEqual(Client(REMOTE_ADDR="192.0.2.7").get("/w/nothing").status_code, 404)

    def test_a_link_is_opened_only_so_often(self) -> None:
        address = self.make("true")
        link = CustomerLink.objects.get()
        now = timezone.now()
        LinkVisit.objects.bulk_create(LinkVisit(link=link, at=now) for _ in range(links.MOST_SEEN))
        self.assertEqual(self.customer.get(address).status_code, 429)
        LinkVisit.objects.update(at=now - links.WITHIN)
        self.assertEqual(self.customer.get(address).status_code, 200)
        for _ in range(links.MOST_WRITTEN):
            self.answer(address, name="")
        self.assertEqual(self.answer(address).status_code, 429)
        self.assertEqual(Decision.objects.count(), 0)

    def test_expired_and_revoked(self) -> None:
        address = self.make("true")
        link = CustomerLink.objects.get()
        CustomerLink.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
        self.assertEqual(self.customer.get(address).status_code, 410)
        self.assertEqual(self.answer(address).status_code, 410)
        CustomerLink.objects.update(expires_at=timezone.now() + timedelta(days=1))
        self.assertEqual(self.customer.get(address).status_code, 200)
        there = self.speak_for(self.stranger)
        self.assertEqual(self.post(f"links/{link.pk}/revoke", {}, client=there).status_code, 404)
        self.assertEqual(self.post(f"links/{link.pk}/revoke", {}).json()[0]["state"], "revoked")
        self.assertEqual(self.customer.get(address).status_code, 410)
        self.assertNotIn("Invented bike", self.say(self.customer.get(address)))
        self.assertEqual(Decision.objects.count(), 0)

    def test_the_shop_sees_that_it_was_seen(self) -> None:
        address = self.make("true")
        self.assertEqual(self.get(self.url("links")).json()[0]["seen"], 0)
        self.customer.get(address)
        self.assertEqual(self.get(self.url("links")).json()[0]["seen"], 1)

    def test_what_is_typed_is_shown_as_text(self) -> None:
        Job.objects.update(complaint="<script>alert(1)</script>")
        self.job.wheel.bike.label = "<b>Bike</b>"
        self.job.wheel.bike.save()
        page = self.say(self.customer.get(self.make("true", warning="<img src=x>")))
        for part in ("<b>Bike", "<script>", "<img"):
            self.assertNotIn(part, page)


class Answering(LinkCase):
    def test_agreed_once(self) -> None:
        self.job.refresh_from_db()
        address = self.make("true")
        self.job.refresh_from_db()
        self.assertEqual(self.job.waiting_on, "customer")
        done = self.answer(address)
        self.assertEqual((done.status_code, done["Location"]), (302, address))
        made = Decision.objects.get()
        self.assertEqual((made.outcome, made.how, made.by_whom, made.chosen), ("approved", "link", "Wen Loveday", ["true"]))
        self.assertIn("You agreed", self.say(self.customer.get(address)))
        self.assertNotIn("<form", self.say(self.customer.get(address)))
        self.assertEqual(self.answer(address, "decline").status_code, 409)
        self.assertEqual(Decision.objects.count(), 1)
        self.job.refresh_from_db()
        self.assertEqual(self.job.waiting_on, "", "nobody waits for a word that was given")
        self.assertIn("Wen Loveday", str(self.get(f"jobs/{self.job.pk}").json()))

    def test_declined_with_the_warning_that_stood_there(self) -> None:
        self.post(self.url("marks"), {"kind": "crack", "spoke": "R7"})
        address = self.make("new_rim")
        self.assertIn("do not ride", self.say(self.customer.get(address)))
        self.answer(address, "decline")
        made = Decision.objects.get()
        self.assertEqual((made.outcome, str(made.warning)), ("refused", "Please do not ride this wheel as it is."))
        self.assertIn("You did not agree", self.say(self.customer.get(address)))

    def test_without_a_name_or_an_answer_nothing_is_said(self) -> None:
        address = self.make("true")
        for name, answer in (("", "agree"), ("  \0 ", "agree"), ("Wen", "perhaps"), ("Wen", "")):
            found = self.answer(address, answer, name)
            self.assertEqual(found.status_code, 422)
            self.assertIn("Please write your name.", self.say(found))
        self.assertEqual(Decision.objects.count(), 0)
        self.answer(address, name="x" * 500)
        self.assertEqual(len(Decision.objects.get().by_whom), 120)

    def test_what_changed_since_is_not_agreed_to(self) -> None:
        def other_tier() -> None:
            Job.objects.filter(pk=self.job.pk).update(tier="race")

        def added() -> None:
            self.put(self.url("quote"), {"version": 0, "extras": [{"name": "Tube", "amount_minor": 700}]})

        for change in (added, other_tier):
            with self.subTest(change.__name__):
                address = self.make("true")
                self.assertEqual(self.customer.get(address).status_code, 200)
                change()
                found = self.answer(address)
                self.assertEqual(found.status_code, 409)
                self.assertIn("has changed since", self.say(found))
                self.assertEqual(Decision.objects.count(), 0)

    def test_what_was_asked_holds_though_the_price_list_has_changed(self) -> None:
        address = self.make("true")
        asked = CustomerLink.objects.get().asked["gross_minor"]
        self.shop.prices_minor = {**self.shop.prices_minor, "labour_hour": 9999}
        self.shop.save()
        self.assertEqual(self.answer(address).status_code, 302)
        made = Decision.objects.get()
        self.assertEqual((made.price_minor, made.net_minor), (asked, asked))
        self.assertEqual(sum(line["total_minor"] for line in made.lines), asked)

    def test_a_new_question_takes_the_place_of_the_old(self) -> None:
        old = self.make("true")
        status = self.make()
        new = self.make("true", "hub_overhaul")
        self.assertEqual(self.answer(old).status_code, 410)
        self.assertEqual(self.customer.get(status).status_code, 200)
        self.assertEqual(self.answer(new).status_code, 302)

    def test_what_cannot_be_asked(self) -> None:
        ask = lambda **body: self.post(self.url("links"), body)  # noqa: E731
        self.assertProblem(ask(chosen=["polish"]), 422, "unknown_option")
        self.assertProblem(ask(chosen=["true"], days=0), 400, "invalid_input", "days")
        self.post(self.url("marks"), {"kind": "crack", "spoke": "R7"})
        self.assertProblem(ask(chosen=["leave"]), 422, "warning_needed")
        self.shop.prices_minor = {}
        self.shop.save()
        self.assertProblem(ask(chosen=["new_rim"]), 422, "no_price")
        self.assertEqual(CustomerLink.objects.count(), 0)
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        self.assertEqual(ask(chosen=["true"]).status_code, 409)
        self.assertEqual(ask().status_code, 200, "how it stands can be shown for ever")

    def test_the_database_knows_no_answer_without_its_decision(self) -> None:
        self.make("true")
        with self.assertRaises(IntegrityError), transaction.atomic():
            CustomerLink.objects.update(answered_at=timezone.now())

    def test_who_works_here_does_not_answer_for_the_customer(self) -> None:
        address = self.make("true")
        staff = Client()
        staff.force_login(self.bram)
        shown = staff.get(address)
        self.assertIn("Only they answer here", self.say(shown))
        self.assertNotIn("<form", self.say(shown))
        self.assertEqual(staff.post(address, {"answer": "agree", "name": "Wen Loveday"}).status_code, 403)
        self.assertEqual((Decision.objects.count(), LinkVisit.objects.count()), (0, 0))
        apprentice = self.speak_for(person(self.shop, "wyn", User.Role.APPRENTICE))
        self.assertProblem(self.get(self.url("links"), apprentice), 403, "not_permitted")


class Letters(LinkCase):
    def letter(self, kind: str, **more: Any) -> Any:
        query = "&".join(f"{key}={value}" for key, value in more.items())
        return self.get(self.url(f"letter?kind={kind}&{query}"))

    def test_the_same_text_to_print_to_copy_and_to_send(self) -> None:
        Customer.objects.update(phone="0700 900-101", email="wen@example.org", language="de")
        self.make("true")
        link = CustomerLink.objects.get()
        found = self.letter("ask", link=link.pk).json()
        self.assertIn("Laufrad zentrieren", found["letter_text"])
        self.assertIn("/w/", found["letter_text"])
        self.assertEqual(found["tel"], "tel:0700900101")
        self.assertTrue(found["sms"].startswith("sms:0700900101?body="))
        self.assertTrue(found["mailto"].startswith("mailto:wen%40example.org?subject="))
        self.assertNotIn("\n", found["mailto"] + found["sms"])
        self.assertProblem(self.letter("ask"), 422, "link_missing")
        self.assertIn("fertig", self.letter("ready").json()["letter_text"])

    def test_a_link_that_is_over_is_sent_to_nobody(self) -> None:
        self.make("true")
        link = CustomerLink.objects.get()
        self.post(f"links/{link.pk}/revoke", {})
        self.assertProblem(self.letter("ask", link=link.pk), 409, "link_over")
