"""A wheel, a customer, a shop as a file; a wheel or a customer taken into another shop: once, whole, or not at all."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from collections.abc import Callable
from typing import Any
from unittest.mock import patch
from uuid import uuid4

from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from felloe.accounts import fence
from felloe.accounts.models import User
from felloe.bench.models import ReadingSet
from felloe.condition.models import ConditionMark, SpokeBreak
from felloe.core.errors import BadRecord, TradeError
from felloe.core.said import say
from felloe.customers.models import Customer
from felloe.portable.models import Underway
from felloe.portable.services import take
from felloe.portable.services.opened import opened
from felloe.queue import services as queue
from felloe.queue.models import Job, Photo
from felloe.queue.services import photos
from felloe.wheels.models import Wheel
from tests.api.shop import BenchCase, open_job, person


def jpeg() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (64, 48), "grey").save(out, "JPEG")
    return out.getvalue()


def unpacked(data: bytes) -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        return {name: packed.read(name) for name in packed.namelist()}


def packed(files: dict[str, bytes], listed: bool = True) -> bytes:
    """A bundle of these files; `listed`: its manifest is brought up to them."""
    if listed:
        manifest = json.loads(files["manifest.json"])
        manifest["files"] = {n: hashlib.sha256(d).hexdigest() for n, d in files.items() if n != "manifest.json"}
        files = {**files, "manifest.json": json.dumps(manifest).encode()}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        for name, data in files.items():
            made.writestr(name, data)
    return out.getvalue()


class Bundles(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.there = self.speak_for(person(self.elsewhere, "theirs", "mechanic"))
        self.read_all(lump_mm=0.9)
        self.post(f"reading-sets/{self.set}/lumps", {"kind": "radial", "first": "R3", "last": "R5", "height_mm": 0.6})
        photos.add_photo(self.bram, self.job.pk, jpeg(), "A dent")
        self.post(f"jobs/{self.job.pk}/marks", {"kind": "dent", "spoke": "R4", "measure_mm": 1.5, "note": "kerb"})
        self.post(f"jobs/{self.job.pk}/breaks", {"spoke": "L7", "place": "elbow", "noticed_on": "2026-10-01"})
        self.wheel = self.job.wheel
        self.customer = self.wheel.bike.customer
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")

    def out(self, what: str = "customers", key: Any = None) -> bytes:
        answer = self.client.get(f"/api/v1/{what}/{key or self.customer.pk}/bundle")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        return answer.content

    def take(self, data: bytes, keep: bool = True, customer: Any = None, client: Any = None) -> Any:
        query = f"?keep={str(keep).lower()}" + (f"&customer={customer}" if customer else "")
        return (client or self.there).post(f"/api/v1/bundles{query}", data, content_type="application/zip")

    def test_a_customer_moves_with_everything(self) -> None:
        answer = self.take(self.out())
        self.assertEqual(answer.status_code, 200, answer.content)
        found = answer.json()
        self.assertEqual(
            (found["new_customers"], found["bikes"], found["wheels"], found["jobs"], found["photos"]), (1, 1, 1, 1, 1)
        )
        self.assertEqual(found["readings"], 109)
        [wheel] = Wheel.objects.filter(shop=self.elsewhere)
        self.assertEqual(wheel.specification, self.wheel.specification)
        self.assertEqual(wheel.bike.customer.name, self.customer.name)
        [job] = Job.objects.filter(shop=self.elsewhere)
        here = Job.objects.get(pk=self.job.pk)
        self.assertEqual((job.complaint, job.tier, job.created_at, job.handed_back_at, job.ended_as),
                         (here.complaint, here.tier, here.created_at, here.handed_back_at, "repaired"))  # fmt: skip
        mine, theirs = (self.get(f"jobs/{j.pk}/record", client=c).json() for j, c in ((here, self.client), (job, self.there)))
        for one, other in zip(mine["reading_sets"], theirs["reading_sets"], strict=True):
            self.assertEqual(one["traces"], other["traces"])
            self.assertEqual(one["taken_at"], other["taken_at"])
            self.assertEqual([t["tension_n"] for t in one["tension"]], [t["tension_n"] for t in other["tension"]])
        self.assertEqual(Photo.objects.get(job=job).caption, "A dent")
        self.assertEqual(ConditionMark.objects.get(job=job, kind="dent").measure_mm, 1.5)
        self.assertEqual(SpokeBreak.objects.get(job=job).spoke, "L7")
        history = self.get(f"wheels/{wheel.pk}/history", client=self.there).json()
        self.assertEqual(len(history["jobs"][0]["sets"]), 1)

    def test_a_second_time_brings_nothing_and_says_so(self) -> None:
        data = self.out()
        self.take(data)
        again = self.take(data).json()
        self.assertEqual((again["new_customers"], again["bikes"], again["wheels"], again["jobs"]), (0, 0, 0, 0))
        self.assertEqual(len(again["known"]), 2)
        self.assertEqual(Wheel.objects.filter(shop=self.elsewhere).count(), 1)
        back = self.take(self.out(), client=self.client).json()
        self.assertEqual((back["new_customers"], back["wheels"]), (0, 0), "a shop's own comes home to itself")

    def test_a_new_wheel_of_a_known_customer_comes_alone(self) -> None:
        self.take(self.out())
        values = {"bike_id": self.wheel.bike_id}
        second = open_job(self.bram, complaint="another")
        Wheel.objects.filter(pk=second.wheel_id).update(bike=values["bike_id"])
        found = self.take(self.out()).json()
        self.assertEqual((found["new_customers"], found["wheels"]), (0, 1))
        self.assertEqual(Customer.objects.filter(shop=self.elsewhere).count(), 1)

    def test_a_look_first_keeps_nothing(self) -> None:
        before = Customer.objects.count(), Wheel.objects.count(), Job.objects.count(), Photo.objects.count()
        found = self.take(self.out(), keep=False).json()
        self.assertEqual((found["kept"], found["wheels"], found["customer_id"]), (False, 1, None))
        self.assertEqual((Customer.objects.count(), Wheel.objects.count(), Job.objects.count(), Photo.objects.count()), before)

    def test_a_job_that_had_not_ended_is_open_there_too(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(stage="true", handed_back_at=None, ended_as="")
        self.assertEqual(self.take(self.out()).status_code, 200)
        job = Job.objects.get(shop=self.elsewhere)
        self.assertEqual((job.stage, job.handed_back_at, job.ended_as), ("take_in", None, ""))

    def test_another_shops_work_is_never_proposed_as_ones_own(self) -> None:
        ReadingSet.objects.filter(job=self.job).update(stage="as_left")
        self.take(self.out())
        there = User.objects.get(username="theirs")
        again = queue.open_job(there, {"wheel_id": Wheel.objects.get(shop=self.elsewhere).pk, "complaint": "soft"})
        self.set = str(self.post(f"jobs/{again.pk}/reading-sets", {"stage": "as_found"}, client=self.there).json()["id"])
        self.client = self.there
        self.read_all(tension_right=700, tension_left=340, lump_mm=0.9)
        found = self.get(f"jobs/{again.pk}/comeback").json()
        self.assertEqual((found["kind"], found["sure"], found["whose"]), ("settled", True, "cannot_tell"))

    def test_how_far_it_has_come_is_told_while_it_goes_and_to_its_shop_alone(self) -> None:
        key, seen = uuid4(), []
        whole = take._wheel

        def looked(*given: Any) -> None:
            # Asked by others, as if from elsewhere, and not within what is under way.
            with fence.beyond():
                ways = [self.get(f"bundles/underway?underway={key}", client=c).json() for c in (self.there, self.client)]
            seen.append([(way["done"], way["total"]) for way in ways])
            whole(*given)

        data = self.out()
        for keep in (False, True):
            with patch.object(take, "_wheel", looked):
                query = f"?keep={str(keep).lower()}&underway={key}"
                answer = self.there.post(f"/api/v1/bundles{query}", data, content_type="application/zip")
            self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(seen, [[(0, 1), (0, 0)]] * 2)
        self.assertEqual(self.get(f"bundles/underway?underway={key}", client=self.there).json(), {"done": 0, "total": 0})
        with patch.object(take, "_wheel", side_effect=BadRecord(say("no wheel"))):
            self.there.post(f"/api/v1/bundles?keep=true&underway={key}", data, content_type="application/zip")
        self.assertEqual(Underway.objects.count(), 0)

    def test_a_wheel_alone_goes_to_whoever_brings_it(self) -> None:
        data = self.out("wheels", self.wheel.pk)
        self.assertNotIn(self.customer.name.encode(), b"".join(unpacked(data).values()))
        self.assertProblem(self.take(data), 422, "customer_needed", "customer")
        theirs = Customer.objects.create(shop=self.elsewhere, name="Another")
        self.assertEqual(self.take(data, customer=theirs.pk).json()["wheels"], 1)
        self.assertEqual(Wheel.objects.get(shop=self.elsewhere).bike.customer, theirs)
        self.assertEqual(self.take(data, customer=self.customer.pk).status_code, 404, "another shop's customer")

    def test_what_is_refused_and_nothing_of_it_kept(self) -> None:
        whole = unpacked(self.out())
        [wheel] = [name for name in whole if name.startswith("wheels/")]
        [photo] = [name for name in whole if name.startswith("photos/")]

        def changed(name: str, change: Callable[[Any], None], listed: bool = True) -> bytes:
            value = json.loads(whole[name])
            change(value)
            return packed({**whole, name: json.dumps(value).encode()}, listed)

        def without(name: str) -> bytes:
            return packed({n: d for n, d in whole.items() if n != name})

        twice = io.BytesIO()
        with zipfile.ZipFile(twice, "w") as made:
            for name, data in [*whole.items(), (photo, b"another")]:
                made.writestr(name, data)
        deep = b"[" * 100_000 + b"]" * 100_000
        cases = {
            "no zip": b"no zip at all",
            "nothing": b"",
            "cut short": self.out()[:-200],
            "another format": changed("manifest.json", lambda m: m.update(format="other")),
            "another version": changed("manifest.json", lambda m: m.update(version=2)),
            "a whole shop": changed("manifest.json", lambda m: m.update(kind="shop")),
            "a path that leads out": packed({**whole, "../../etc/cron.d/evil": b"x"}),
            "an absolute path": packed({**whole, "/etc/evil": b"x"}),
            "a stranger among the files": packed({**whole, "photos/evil.exe": b"x"}),
            "a name twice": twice.getvalue(),
            "a changed byte": packed({**whole, wheel: whole[wheel] + b" "}, listed=False),
            "one that is not listed": packed({n: d for n, d in whole.items() if n != photo}, listed=False),
            "a bomb": packed({**whole, photo: b"\0" * 25_000_000}),
            "nested deep": packed({**whole, wheel: deep}),
            "a photo that is none": packed({**whole, photo: b"not a picture"}),
            "no photo for its caption": without(photo),
            "no customer": without("customers.json"),
            "an impossible wheel": changed(wheel, lambda w: w["specification"]["rim"].update(erd_mm=20)),
            "a record of another version": changed(wheel, lambda w: w["jobs"][0]["record"].update(version=9)),
            "a spoke that is none": changed(wheel, lambda w: w["jobs"][0]["breaks"][0].update(spoke="R99")),
            "a mark of no kind": changed(wheel, lambda w: w["marks"][0].update(kind="ghost")),
            "an end without a day": changed(wheel, lambda w: w["jobs"][0].update(left_at=None)),
            "an end that is none": changed(wheel, lambda w: w["jobs"][0].update(ended_as="sold")),
            "a field that nobody knows": changed(wheel, lambda w: w["jobs"][0].update(colour="red")),
            "a runout between spokes": changed(
                wheel,
                lambda w: w["jobs"][0]["record"]["reading_sets"][0]["lateral"].append(
                    {"angle_deg": 3.3, "deviation_mm": 0.1, "sd_mm": 0.03}
                ),
            ),
            "a day that is none": changed(wheel, lambda w: w["jobs"][0].update(opened_at="yesterday")),
            "no name": changed("customers.json", lambda c: c[0].update(name=" ")),
            "an id that is none": changed("customers.json", lambda c: c[0].update(id="7")),
        }
        before = Customer.objects.count(), Wheel.objects.count(), Job.objects.count()
        for what, data in cases.items():
            with self.subTest(what):
                answer = self.take(data)
                self.assertIn(answer.status_code, (400, 422), answer.content[:300])
                self.assertTrue(answer.json()["detail"])
        self.assertEqual((Customer.objects.count(), Wheel.objects.count(), Job.objects.count()), before)
        self.assertEqual(self.take(packed(whole)).status_code, 200, "and the whole one still goes in")

    def test_a_whole_shop(self) -> None:
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        self.assertEqual(self.client.get("/api/v1/shop/bundle").status_code, 403)
        answer = owner.get("/api/v1/shop/bundle")
        files = unpacked(answer.content)
        manifest = json.loads(files["manifest.json"])
        self.assertEqual(manifest["kind"], "shop")
        for name, digest in manifest["files"].items():
            self.assertEqual(hashlib.sha256(files[name]).hexdigest(), digest)
        jobs = json.loads(files["tables/queue_job.json"])
        self.assertEqual({row["id"] for row in jobs}, {str(job.pk) for job in Job.objects.filter(shop=self.shop)})
        everything = b"".join(files.values())
        self.assertNotIn(b"a long password", everything)
        self.assertNotIn(self.bram.password.encode(), everything)
        self.assertNotIn(b"Elsewhere", everything)
        self.assertIn(b"number,opened_at", files["csv/jobs.csv"])

    def test_cells_that_a_spreadsheet_would_carry_out_are_defused(self) -> None:
        Job.objects.filter(pk=self.job.pk).update(complaint='=HYPERLINK("http://evil")')
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        table = unpacked(owner.get("/api/v1/shop/bundle").content)["csv/jobs.csv"].decode()
        self.assertIn("'=HYPERLINK", table)

    def test_another_shops_things_are_not_given(self) -> None:
        for path in (f"wheels/{self.wheel.pk}/bundle", f"customers/{self.customer.pk}/bundle"):
            self.assertEqual(self.there.get(f"/api/v1/{path}").status_code, 404)

    def test_bytes_at_random_never_do_more_than_be_refused(self) -> None:
        whole = bytearray(self.out())

        @settings(max_examples=60, deadline=None)
        @given(st.lists(st.tuples(st.integers(0, len(whole) - 1), st.integers(0, 255)), min_size=1, max_size=8))
        def damaged(changes: list[tuple[int, int]]) -> None:
            data = bytearray(whole)
            for at, value in changes:
                data[at] = value
            try:
                opened(bytes(data))
            except TradeError as error:
                assert error.message

        damaged()
