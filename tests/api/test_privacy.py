"""A customer's data: what they allow, their own copy, erasure proven by a search over every column, times that run out."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from datetime import timedelta
from typing import Any

from django.db import DatabaseError, connection, transaction
from django.utils import timezone
from PIL import Image

from felloe.accounts.models import Shop
from felloe.customers.models import Customer
from felloe.links import services as links
from felloe.messages.services import outbox
from felloe.privacy.models import Consent, Erasure
from felloe.privacy.services import retain, set_consent
from felloe.queue.models import Job, JobEvent, Photo
from felloe.queue.services import photos
from tests.api.shop import BenchCase, job_values, open_job, person

NAME = 'Zebulon "Zeb" Quixotte-O\'Hara'
PHONE, EMAIL = "0700 918 273", "zq@quixotte.example"
#: However it is written: parts of the name, digits with and without gaps, the address.
TOKENS = ("zebulon", "quixotte", "918.?273", "zq@")


def everywhere(pattern: str) -> dict[str, int]:
    """In how many rows of which table a pattern stands, over every column of every table of the database."""
    found = {}
    with connection.cursor() as at:
        at.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        for (table,) in at.fetchall():
            at.execute(f'SELECT count(*) FROM "{table}" t WHERE t::text ~* %s', [pattern])
            (count,) = at.fetchone() or (0,)
            if count:
                found[table] = count
    return found


def jpeg() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (40, 30), "grey").save(out, "JPEG")
    return out.getvalue()


class Privacy(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = person(self.shop, "odile", "owner")
        self.boss = self.speak_for(self.owner)
        self.customer = self.planted()

    def planted(self) -> Customer:
        """A customer whose name stands wherever somebody could write it."""
        values = job_values(complaint=f"{NAME} says it rubs; call {PHONE.replace(' ', '-')}")
        values["customer"] = {"name": NAME, "phone": PHONE, "email": EMAIL}
        values["bike"]["label"] = "Zebulon's bike"
        opened = self.post("jobs", values, key="press-1")
        self.assertEqual(opened.status_code, 201, opened.content)
        self.job = Job.objects.get(pk=opened.json()["id"])
        customer = self.job.wheel.bike.customer
        self.set = self.open_set()
        self.read_all()
        self.patch(f"customers/{customer.pk}", {"version": 1, "note": "Quixotte calls often", "phone": PHONE})
        photo = photos.add_photo(self.bram, self.job.pk, jpeg(), "Zebulon's dent")
        self.post(
            f"jobs/{self.job.pk}/marks", {"kind": "dent", "spoke": "R4", "note": "Zebulon hit a kerb", "photo": str(photo.pk)}
        )
        self.post(f"jobs/{self.job.pk}/signatures", {"purpose": "brought", "name": NAME, "strokes": [[[0.1, 0.1], [0.4, 0.5]]]})
        link = links.ask_by_link(self.bram, self.job.pk, [], "")
        outbox.write(self.bram, self.job.pk, "status", link.pk, "http://test")
        self.agree_and_refit(self.job)
        JobEvent.objects.create(
            shop=self.shop, job=self.job, kind="changed", note="told Zebulon QUIXOTTE", created_by=self.bram
        )
        twin = Customer.objects.create(shop=self.shop, name="Zebulon Quixotte", phone="0700918273", created_by=self.bram)
        merged = self.post(f"customers/{twin.pk}/merge", {"into": str(customer.pk), "version": twin.version})
        self.assertEqual(merged.status_code, 200, merged.content)
        return Customer.objects.get(pk=customer.pk)

    def leave(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")

    def erase(self, name: str = NAME, client: Any = None) -> Any:
        return self.post(f"customers/{self.customer.pk}/erasure", {"name": name}, client=client or self.boss)

    def test_no_column_of_the_database_holds_the_name_afterwards(self) -> None:
        before = everywhere(TOKENS[0])
        # The test is worth something only if the name stood in many places.
        for table in (
            "customers_customer", "customers_bike", "queue_job", "queue_jobfind", "queue_jobevent", "queue_photo",
            "queue_signature", "condition_conditionmark", "messages_message", "trail_change", "api_writekey",
        ):  # fmt: skip
            self.assertIn(table, before)
        self.leave()
        answer = self.erase()
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertTrue(answer.json()["erased"])
        for token in TOKENS:
            with self.subTest(token):
                self.assertEqual(everywhere(token), {})
        done = Erasure.objects.get()
        self.assertGreater(len(done.counts), 8)

    def test_the_wheel_keeps_what_is_known_of_it(self) -> None:
        comparison = self.get(f"reading-sets/{self.set}/state").json()
        record = self.get(f"jobs/{self.job.pk}/record").json()
        self.leave()
        self.erase()
        self.assertEqual(self.get(f"reading-sets/{self.set}/state").json()["sides"], comparison["sides"])
        again = self.get(f"jobs/{self.job.pk}/record").json()
        self.assertEqual(again["reading_sets"], record["reading_sets"])
        self.assertEqual(again["wheel"], record["wheel"])
        job = Job.objects.get(pk=self.job.pk)
        self.assertIn("says it rubs", job.complaint)
        self.assertEqual(Photo.objects.filter(job=job).count(), 0)
        for path in (
            f"jobs/{job.pk}",
            f"jobs/{job.pk}/report",
            f"customers/{self.customer.pk}",
            f"wheels/{job.wheel_id}/history",
        ):
            self.assertEqual(self.get(path).status_code, 200, path)

    def test_others_keep_theirs(self) -> None:
        other = open_job(self.bram, complaint="Quixotte next door told me of you")
        self.leave()
        self.erase()
        self.assertIn("Quixotte", Job.objects.get(pk=other.pk).complaint)
        elsewhere = Customer.objects.create(shop=self.elsewhere, name=NAME)
        self.assertEqual(Customer.objects.get(pk=elsewhere.pk).name, NAME)

    def test_what_stands_against_it(self) -> None:
        self.assertProblem(self.erase(), 409, "wheel_here")
        self.assertIn(
            str(self.job.number), self.get(f"customers/{self.customer.pk}/erasure", client=self.boss).json()["barred"]
        )
        self.leave()
        self.assertProblem(self.erase("Zebulon"), 422, "another_name", "name")
        self.assertEqual(self.erase(client=self.client).status_code, 403)
        stranger = self.speak_for(person(self.elsewhere, "boss2", "owner"))
        self.assertEqual(self.erase(client=stranger).status_code, 404)
        self.assertEqual(Customer.objects.get(pk=self.customer.pk).name, NAME)
        self.erase()
        self.assertProblem(self.erase(), 409, "erased_already")

    def test_append_only_stays_so_outside_of_it(self) -> None:
        self.leave()
        self.erase()
        for deed in (JobEvent.objects.all().delete, Erasure.objects.all().delete, lambda: JobEvent.objects.update(kind="x")):
            with self.assertRaises(DatabaseError), transaction.atomic():
                deed()

    def test_a_name_within_a_word_takes_no_word_with_it(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(complaint="The zebulonic wobble, says Zebulon")
        self.leave()
        self.erase()
        self.assertEqual(Job.objects.get(pk=self.job.pk).complaint, "The zebulonic wobble, says –")

    def test_their_own_copy(self) -> None:
        answer = self.client.get(f"/api/v1/customers/{self.customer.pk}/copy")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        with zipfile.ZipFile(io.BytesIO(answer.content)) as packed:
            manifest = json.loads(packed.read("manifest.json"))
            names = sorted(set(packed.namelist()) - {"manifest.json"})
            self.assertEqual(sorted(manifest["files"]), names)
            for name, digest in manifest["files"].items():
                self.assertEqual(hashlib.sha256(packed.read(name)).hexdigest(), digest)
            data = json.loads(packed.read("data.json"))
            record = json.loads(packed.read(f"wheels/{self.job.number}.wheel-record.json"))
            [photo] = [name for name in names if name.startswith("photos/")]
            Image.open(io.BytesIO(packed.read(photo))).verify()
        self.assertEqual({row["name"] for row in data["customers_customer"]}, {NAME, "Zebulon Quixotte"})
        # Every table in which the name stands is in it, but the shop's own machinery.
        ours = {
            "trail_change",
            "api_writekey",
            "queue_jobfind",
            "messages_caughtmail",
            "procrastinate_jobs",
            "procrastinate_events",
        }
        self.assertEqual(set(everywhere(TOKENS[0])) - ours - set(data), set())
        self.assertEqual(len(record["reading_sets"][0]["tension"]), 36)
        self.assertEqual(self.speak_for(self.stranger).get(f"/api/v1/customers/{self.customer.pk}/copy").status_code, 404)

    def consent(self, to: str, given: bool) -> Any:
        answer = self.put(f"customers/{self.customer.pk}/consents", {"consent_to": to, "given": given})
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer

    def test_consent_is_noted_with_who_and_when_and_never_rewritten(self) -> None:
        self.assertEqual([c["given"] for c in self.get(f"customers/{self.customer.pk}/consents").json()], [None, None])
        for given in (True, True, False):
            answer = self.consent("photos", given).json()
            self.assertEqual((answer[0]["given"], answer[0]["by"]), (given, "Bram"))
        self.assertEqual(Consent.objects.count(), 2, "the same word twice is noted once")
        with self.assertRaises(DatabaseError), transaction.atomic():
            Consent.objects.update(given=True)

    def test_photos_go_when_their_time_is_over_unless_they_may_stay(self) -> None:
        now = timezone.now()
        self.assertEqual(retain(now)["photos"], 0, "the wheel is still here")
        self.leave()
        self.assertEqual(retain(now + timedelta(days=600))["photos"], 0)
        set_consent(self.bram, self.customer.pk, "photos", True)
        self.assertEqual(retain(now + timedelta(days=900))["photos"], 0)
        set_consent(self.bram, self.customer.pk, "photos", False)
        self.assertEqual(retain(now + timedelta(days=900))["photos"], 1)
        self.assertEqual(Photo.objects.count(), 0)

    def test_letters_and_names_go_by_the_shops_times(self) -> None:
        now = timezone.now()
        self.leave()
        later = now + timedelta(days=1500)
        self.assertEqual(retain(later)["letters"], 1)
        self.assertEqual(retain(later)["customers"], 0, "names are kept unless the shop says otherwise")
        Shop.objects.filter(pk=self.shop.pk).update(keep_customers_months=36)
        here = open_job(self.bram)
        set_consent(self.bram, self.customer.pk, "name", True)
        self.assertEqual(retain(later)["customers"], 0, "one allowed it, one is still here")
        set_consent(self.bram, self.customer.pk, "name", False)
        self.assertEqual(retain(later)["customers"], 1)
        self.assertEqual(everywhere(TOKENS[1]), {})
        self.assertTrue(Erasure.objects.get().by_itself)
        self.assertEqual(Customer.objects.get(pk=here.wheel.bike.customer_id).name, "Invented Customer")

    def test_the_night_that_found_nothing(self) -> None:
        self.assertEqual({name for name, count in retain(timezone.now()).items() if count}, set())
