"""One search over everything a caller may say, kept by the database itself."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext

from felloe.customers import services as customers
from felloe.customers.models import Bike, Customer
from felloe.queue.models import Job, JobFind
from felloe.records.services import ending
from tests.api.shop import ShopCase, job_values, open_job


class Find(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.maud = self.opened(
            "Maud Penhâle", "+44 (0)700 900 101", "Green ferry commuter", "Rubs the left pad since the ramp"
        )
        self.jory = self.opened("Jory Trask", "0700 900102", "Black mail bike N11", "Spoke gone behind the rotor")
        self.club = self.opened("Skerry Tandem Club", "", "Club tandem no. 3", "Pings under load", asset_number="TN-0042")

    def opened(self, name: str, phone: str, bike: str, complaint: str, asset_number: str = "") -> Job:
        return open_job(
            self.bram,
            customer={"name": name, "phone": phone},
            bike={"label": bike, "brake": "rim", "asset_number": asset_number},
            complaint=complaint,
        )

    def found(self, text: str, client: Any = None) -> list[int]:
        answer = self.get(f"find?text={text}".replace("+", "%2B").replace(" ", "%20"), client=client)
        self.assertEqual(answer.status_code, 200)
        return [hit["job"]["number"] for hit in answer.json()]

    def test_by_whatever_the_caller_says(self) -> None:
        for text, job in (
            (str(self.maud.number), self.maud), ("penhale", self.maud), ("PENHÂLE", self.maud), ("maud p", self.maud),
            ("ferry", self.maud), ("left pad", self.maud), ("pad maud", self.maud), ("N11", self.jory), ("n11 tra", self.jory),
            ("rotor", self.jory), ("TN-0042", self.club), ("tn-00", self.club), ("no. 3", self.club),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(self.found(text)[:1], [job.number])

    def test_a_telephone_in_any_spelling(self) -> None:
        for said in (
            "0700 900 101",
            "0700900101",
            "+44 700 900101",
            "0044700900101",
            "700-900-101",
            "(0700) 900.101",
            "900 101",
        ):
            with self.subTest(said):
                self.assertEqual(self.found(said), [self.maud.number])

    def test_a_slip_of_the_pen_is_forgiven_but_an_exact_hit_comes_first(self) -> None:
        self.assertEqual(self.found("penhalle")[:1], [self.maud.number])
        self.assertEqual(self.found("skery tandm")[:1], [self.club.number])
        self.assertEqual(self.found("zzzzqq"), [])

    def test_letters_that_are_no_letter_with_an_accent(self) -> None:
        job = self.opened("Bjørn Łukasz Weiß", "", "Bike Æ", "hops")
        for text in ("bjørn", "bjorn", "łukasz", "lukasz", "weiß", "weiss", "æ"):
            with self.subTest(text):
                self.assertEqual(self.found(text)[:1], [job.number])

    def test_scrap_finds_nothing_and_breaks_nothing(self) -> None:
        for text in ("", "   ", "'", "':*", "& | !", "%", "\\", "a" * 500, "((((", "0", "--"):
            with self.subTest(text):
                self.assertLessEqual(len(self.found(text.replace("%", "%25").replace("&", "%26"))), 3)
        # What no text holds is no word to look for.
        self.assertProblem(self.get("find?text=%00x"), 400, "invalid_input")

    def test_every_word_has_to_fit(self) -> None:
        self.assertEqual(self.found("maud rotor"), [])

    def test_what_changes_is_found_under_its_new_words_at_once(self) -> None:
        customer = self.maud.wheel.bike.customer
        customers.change_customer(self.bram, customer.pk, customer.version, {"name": "Maud Rowse", "phone": "0700 555 666"})
        self.assertEqual(self.found("rowse"), [self.maud.number])
        self.assertEqual(self.found("555666"), [self.maud.number])
        self.assertNotIn("penhale", JobFind.objects.get(job=self.maud).words)
        # Not by a service alone: whatever writes the row.
        Bike.objects.filter(pk=self.maud.wheel.bike_id).update(label="Yellow hauler")
        self.assertEqual(self.found("hauler"), [self.maud.number])
        Job.objects.filter(pk=self.maud.pk).update(complaint="Creaks uphill")
        self.assertEqual(self.found("uphill"), [self.maud.number])

    def test_merged_customers_are_found_by_the_name_that_stays(self) -> None:
        twin = customers.add_customer(self.bram, {"name": "M. Penhale", "phone": ""})
        gone = self.maud.wheel.bike.customer
        customers.merge_customers(self.bram, gone.pk, twin.pk, gone.version)
        self.assertEqual(self.found("m. penhale")[:1], [self.maud.number])
        self.assertEqual(self.found("0700900101"), [self.maud.number])  # what the twin lacked was filled
        self.assertEqual(Customer.objects.get(pk=gone.pk).merged_into_id, twin.pk)

    def test_another_shop_finds_nothing_here(self) -> None:
        over = self.speak_for(self.stranger)
        for text in ("maud", str(self.maud.number), "0700900101"):
            self.assertEqual(self.found(text, over), [])

    def test_the_hit_answers_the_callers_question(self) -> None:
        hit = self.get("find?text=maud").json()[0]
        self.assertEqual((hit["key"], hit["phone"]), ("not_yet", "+44 (0)700 900 101"))
        self.assertIn("Take in", hit["said"])
        self.patch(f"jobs/{self.maud.pk}", {"version": 1, "waiting_on": "parts"})
        self.assertEqual(self.get("find?text=maud").json()[0]["key"], "waits")
        ending.end_job(self.speak_owner(), self.maud.pk, 2, "cancelled", "The customer took it home again.")
        self.assertEqual(self.get("find?text=maud").json()[0]["key"], "gone")

    def speak_owner(self) -> Any:
        self.bram.role = "owner"
        self.bram.save()
        return self.bram

    def test_open_before_closed_and_the_number_before_all(self) -> None:
        again = open_job(self.bram, wheel_id=self.maud.wheel_id, complaint=f"Job {self.jory.number} again", second=True)
        self.assertEqual(self.found(str(self.jory.number))[0], self.jory.number)
        self.assertIn(again.number, self.found(str(self.jory.number)))

    def test_as_many_questions_for_many_hits_as_for_one(self) -> None:
        def asked(text: str) -> int:
            with CaptureQueriesContext(connection) as seen:
                self.found(text)
            return len(seen)

        one = asked("maud")
        for _ in range(5):
            open_job(self.bram, **{k: v for k, v in job_values().items() if k == "complaint"})
        self.assertLessEqual(asked("rubs"), one)
