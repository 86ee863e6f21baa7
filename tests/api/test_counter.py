"""At the counter: photos made anew and limited, a pen's strokes, the tag and its code."""

from __future__ import annotations

import io
from typing import Any

from django.db import DatabaseError, transaction
from django.utils import timezone
from PIL import Image

from felloe.queue import services as queue
from felloe.queue.models import Photo, Signature
from felloe.queue.services import photos
from tests.api.shop import ShopCase, open_job


def picture(size: tuple[int, int] = (400, 300), kind: str = "JPEG", mode: str = "RGB", **save: Any) -> bytes:
    """A picture whose left half is red and whose right half is blue."""
    image = Image.new("RGB", size, "blue")
    image.paste("red", (0, 0, size[0] // 2, size[1]))
    out = io.BytesIO()
    image.convert(mode).save(out, kind, **save)
    return out.getvalue()


class CounterCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.job = open_job(self.bram)

    def url(self, end: str) -> str:
        return f"jobs/{self.job.pk}/{end}"

    def hand_back(self) -> None:
        with transaction.atomic():
            queue.close_job(self.job, self.bram, timezone.now(), "")


class Photos(CounterCase):
    def send(self, data: bytes, content_type: str = "image/jpeg", caption: str = "") -> Any:
        return self.client.post(f"/api/v1/{self.url('photos')}?caption={caption}", data, content_type=content_type)

    def kept(self, photo_id: str) -> Image.Image:
        answer = self.client.get(f"/api/v1/photos/{photo_id}")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/jpeg"))
        self.assertIn("private", answer["Cache-Control"])
        return Image.open(io.BytesIO(answer.content))

    def test_each_kind_of_picture_comes_out_as_a_plain_jpeg(self) -> None:
        for kind, mode in (("JPEG", "RGB"), ("JPEG", "L"), ("PNG", "RGBA"), ("PNG", "P"), ("WEBP", "RGB")):
            made = self.send(picture(kind=kind, mode=mode), f"image/{kind.lower()}").json()
            kept = self.kept(made["id"])
            self.assertEqual((kept.format, kept.mode, kept.size), ("JPEG", "RGB", (400, 300)), (kind, mode))

    def test_what_a_camera_writes_beside_the_pixels_is_gone(self) -> None:
        """Tags by CIPA DC-008 (Exif 2.32): 0x010F maker, 0x8825 the place's directory, 0x0112 orientation."""
        exif = Image.Exif()
        exif[0x010F] = "an invented camera"
        exif[0x8825] = {1: "N", 2: (1.0, 2.0, 3.0)}
        data = picture(exif=exif, comment=b"secret words")
        self.assertIn(b"an invented camera", data)
        made = self.send(data).json()
        raw = bytes(Photo.objects.get(pk=made["id"]).data)
        for scrap in (b"an invented camera", b"secret words", b"Exif"):
            self.assertNotIn(scrap, raw)
        self.assertEqual(len(self.kept(made["id"]).getexif()), 0)

    def test_a_picture_taken_sideways_is_turned_upright(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6  # turn a quarter to the right to see it upright
        made = self.send(picture(exif=exif)).json()
        self.assertEqual((made["width"], made["height"]), (300, 400))
        kept = self.kept(made["id"]).load()
        assert kept is not None
        # What was the left half, red, is on top now.
        self.assertGreater(kept[150, 50][0], 200)
        self.assertGreater(kept[150, 350][2], 200)

    def test_a_large_one_is_made_smaller_a_small_one_is_left(self) -> None:
        large = self.send(picture((4000, 1000))).json()
        self.assertEqual((large["width"], large["height"]), (1600, 400))
        small = self.send(picture((60, 40))).json()
        self.assertEqual((small["width"], small["height"]), (60, 40))

    def test_what_is_no_picture_or_too_much_of_one(self) -> None:
        whole = picture()
        for data, code in (
            (b"", "not_a_photo"),
            (b"GIF89a" + b"\0" * 40, "not_a_photo"),
            (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not_a_photo"),
            (whole[: len(whole) // 3], "not_a_photo"),
            (whole + b"\0" * photos.MOST_BYTES, "photo_too_large"),
            (picture((10_001, 5_000), "PNG", "1"), "photo_too_large"),
        ):
            self.assertProblem(self.send(data), 422, code, "photo")
        self.assertEqual(Photo.objects.count(), 0)

    def test_so_many_to_a_job(self) -> None:
        data = picture((20, 20))
        for _ in range(photos.MOST_PER_JOB):
            self.assertEqual(self.send(data).status_code, 201)
        self.assertProblem(self.send(data), 422, "too_many_photos", "photo")
        self.assertEqual(len(self.get(self.url("photos")).json()), photos.MOST_PER_JOB)

    def test_listed_with_words_and_never_across_the_fence(self) -> None:
        made = self.send(picture((20, 20)), caption="%20dent%20by%20the%20valve%20").json()
        (listed,) = self.get(self.url("photos")).json()
        self.assertEqual((listed["id"], listed["caption"], listed["by"]), (made["id"], "dent by the valve", "Bram"))
        other = self.speak_for(self.stranger)
        self.assertEqual(other.get(f"/api/v1/photos/{made['id']}").status_code, 404)
        refused = other.get(f"/api/v1/photos/{made['id']}", HTTP_ACCEPT="image/avif,image/webp,image/*,*/*;q=0.8")
        self.assertProblem(refused, 404, "not_found")

    def test_closed_when_the_wheel_has_left(self) -> None:
        self.hand_back()
        self.assertProblem(self.send(picture((20, 20))), 409, "job_done")


class Signatures(CounterCase):
    def sign(self, purpose: str = "brought", **change: Any) -> Any:
        body = {"purpose": purpose, "name": " Invented Customer ", "strokes": [[[0, 0.5], [0.123456, 1]]], **change}
        return self.post(self.url("signatures"), body)

    def test_a_name_and_its_strokes_are_kept(self) -> None:
        self.assertEqual(self.sign().status_code, 201)
        kept = self.get(self.url("tag")).json()["signatures"][0]
        self.assertEqual((kept["name"], kept["by"]), ("Invented Customer", "Bram"))
        self.assertEqual(kept["strokes"], [[[0.0, 0.5], [0.1235, 1.0]]])

    def test_a_name_on_paper_has_no_strokes(self) -> None:
        self.assertEqual(self.sign(strokes=[]).status_code, 201)

    def test_strokes_that_no_pen_makes(self) -> None:
        for strokes, code in (
            ([[[0, 1.01]]], 422),
            ([[[-0.01, 0]]], 422),
            ([[[0.5]]], 422),
            ([[[0.1, 0.2, 0.3]]], 400),
            ([[["a", 0]]], 400),
            ([[[0, 0]]] * 61, 400),
            ([[[0, 0]] * 4000, [[0, 0]]], 422),
        ):
            response = self.sign(strokes=strokes)
            self.assertEqual(response.status_code, code, str(strokes)[:60])
            self.assertTrue(response.json()["errors"][0]["field"].startswith("strokes"))
        self.assertEqual(Signature.objects.count(), 0)

    def test_signed_for_when_fetched_after_it_is_handed_back_but_not_brought_again(self) -> None:
        self.hand_back()
        self.assertProblem(self.sign(), 409, "job_done")
        self.assertEqual(self.sign("fetched").status_code, 201)

    def test_never_changed(self) -> None:
        self.sign()
        with self.assertRaises(DatabaseError), transaction.atomic():
            Signature.objects.update(name="Somebody Else")


class Tag(CounterCase):
    def rows(self) -> list[str]:
        return list(self.get(self.url("tag")).json()["rows"])

    def test_the_code_is_one_by_the_standard(self) -> None:
        """ISO/IEC 18004: a square of 17 + 4 v modules, a finder pattern in three corners, timing patterns between them."""
        rows = self.rows()
        size = len(rows)
        self.assertEqual({len(row) for row in rows}, {size})
        self.assertEqual((size - 17) % 4, 0)
        finder = ["1111111", "1000001", "1011101", "1011101", "1011101", "1000001", "1111111"]
        for top, left in ((0, 0), (0, size - 7), (size - 7, 0)):
            self.assertEqual([row[left : left + 7] for row in rows[top : top + 7]], finder)
        timing = rows[6][8 : size - 8]
        self.assertEqual(timing, ("10" * size)[: len(timing)])
        self.assertEqual("".join(row[6] for row in rows[8 : size - 8]), timing)

    def test_it_says_the_address_of_this_job(self) -> None:
        tag = self.get(self.url("tag")).json()
        self.assertTrue(tag["address"].endswith(f"/jobs/{self.job.pk}"))
        other = open_job(self.ines)
        self.assertNotEqual(self.get(f"jobs/{other.pk}/tag").json()["rows"], tag["rows"])
