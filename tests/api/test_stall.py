"""Nobody stalls it with a file: as many statements for many rows as for few, pictures unpacked outside and within bounds."""

from __future__ import annotations

import io
import os
import socket
import subprocess
import sys
from typing import Any
from unittest.mock import patch

from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext
from PIL import Image

from felloe.accounts.models import User
from felloe.instruments.services import listening
from felloe.queue.models import Photo
from felloe.queue.services import photos
from felloe.stock.models import Part
from felloe.stock.services import library
from tests.api.shop import ShopCase, open_job


def parts_file(count: int, counted: int = 100, price: int = 120) -> str:
    lines = ["kind,name,bin,supplier,counted,price_minor,length_mm,end_diameter_mm"]
    lines += [f"spoke,Spoke {i},A{i % 50},Quay Supply,{counted},{price},{200 + i / 50:.2f},2.0" for i in range(count)]
    return "\r\n".join(lines)


class Parts(ShopCase):
    def statements(self, user: User, rows: int) -> list[int]:
        """So many for a look, for new parts, and for changed ones."""
        found = []
        for text, does in (
            (parts_file(rows), library.preview),
            (parts_file(rows), library.import_csv),
            (parts_file(rows, 99, 130), library.import_csv),
        ):
            with CaptureQueriesContext(connection) as asked:
                does(user, text)
            found.append(len(asked))
        return found

    def test_as_many_statements_for_many_rows_as_for_few(self) -> None:
        few, many = self.statements(self.bram, 2), self.statements(self.stranger, 300)
        self.assertEqual(few, many)
        self.assertLess(max(many), 20)

    def test_what_came_in_is_what_the_file_says(self) -> None:
        self.assertEqual(library.import_csv(self.bram, parts_file(3)), 3)
        first = Part.objects.get(name="Spoke 0")
        self.assertEqual(library.import_csv(self.ines, parts_file(4, 100, 130)), 4)
        now = Part.objects.get(pk=first.pk)
        self.assertEqual((now.version, now.changed_by, now.price_minor, now.created_by), (2, self.ines, 130, self.bram))
        self.assertGreater(now.changed_at, first.changed_at)
        self.assertEqual(library.import_csv(self.bram, parts_file(4, 100, 130)), 0)
        self.assertEqual(library.import_csv(self.bram, parts_file(4, 7, 130)), 4)
        found = {p["name"]: p["on_hand"] for p in self.get("stock").json()["parts"]}
        self.assertEqual(found, {f"Spoke {i}": 7 for i in range(4)})
        self.assertEqual(Part.objects.get(pk=first.pk).version, 2)


def picture(size: tuple[int, int], kind: str, mode: str = "L", **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new(mode, size).save(out, kind, **more)
    return out.getvalue()


class Pictures(ShopCase):
    def send(self, data: bytes) -> Any:
        job = open_job(self.bram)
        return self.client.post(f"/api/v1/jobs/{job.pk}/photos", data, content_type="image/jpeg")

    def test_a_large_camera_picture_comes_in_and_what_is_unpacked_whole_is_refused_by_its_header(self) -> None:
        self.assertEqual(self.send(picture((7000, 7000), "JPEG")).json()["width"], 1600)
        for data in (picture((7000, 7000), "PNG"), picture((7000, 7000), "JPEG", progressive=True)):
            self.assertLess(len(data), 800_000)
            self.assertProblem(self.send(data), 422, "photo_too_large", "photo")

    def test_the_unpacker_cannot_take_more_memory_than_it_may(self) -> None:
        """With the refusal by the header taken away, the system refuses the memory, and nothing else happens."""
        program = (
            "from felloe.queue import developing as d; d.MOST_PIXELS_WHOLE = 10**9; d.Image.MAX_IMAGE_PIXELS = None; d.main()"
        )
        done = subprocess.run(
            [sys.executable, "-c", program, str(settings.STATE_DIR / "developing.lock")],
            input=picture((20_000, 20_000), "PNG"),
            capture_output=True,
            cwd=settings.ROOT,
            check=False,
        )
        self.assertEqual(done.stdout, b"too_large 0 0\n", done.stderr)

    def test_who_comes_while_others_wait_is_asked_to_come_again(self) -> None:
        held = [photos._waiting.acquire(blocking=False) for _ in range(2)]
        try:
            self.assertEqual(held, [True, True])
            self.assertProblem(self.send(picture((20, 20), "JPEG")), 503, "photos_busy")
        finally:
            for _ in held:
                photos._waiting.release()
        self.assertEqual(self.send(picture((20, 20), "JPEG")).status_code, 201)
        self.assertEqual(Photo.objects.count(), 1)

    def test_an_unpacker_that_dies_or_hangs_is_no_fault_of_the_server(self) -> None:
        dead = subprocess.CompletedProcess([], -9, b"", b"")
        with patch.object(subprocess, "run", return_value=dead):
            self.assertProblem(self.send(picture((20, 20), "JPEG")), 422, "not_a_photo", "photo")
        with patch.object(subprocess, "run", side_effect=subprocess.TimeoutExpired("", 1)):
            self.assertProblem(self.send(picture((20, 20), "JPEG")), 503, "photos_busy")


class Ears(SimpleTestCase):
    def test_so_many_at_once_and_one_more_is_told_so(self) -> None:
        """Instruments that say nothing: each has a thread, and no process has more of those than it may."""
        with socket.socket() as mute, patch.object(listening, "MOST_EARS", 3), patch.object(listening, "IDLE_S", 0.3):
            mute.bind(("127.0.0.1", 0))
            mute.listen(8)
            address = mute.getsockname()[:2]
            heard = [listening.listen(address, {}, f"purpose {n}") for n in range(4)]
            self.assertEqual([h.message for h in heard], ["", "", "", listening.TOO_MANY])
            self.assertEqual([h.connected for h in heard][3], False)
            for ear in list(listening._ears.values()):
                ear.join(30)
            self.assertEqual(listening.listen(address, {}, "purpose 4").message, "")

    def test_no_network_said_is_none_allowed_and_a_wrong_one_stops_the_server(self) -> None:
        look = "from felloe.config.settings import base; print(base.FELLOE_INSTRUMENT_NETWORKS)"
        for said, found in (
            ("", "[]"),
            (" , ", "[]"),
            ("10.0.0.0/8, 127.0.0.0/8", "['10.0.0.0/8', '127.0.0.0/8']"),
            ("x", None),
        ):
            env = {**os.environ, "FELLOE_INSTRUMENT_NETWORKS": said}
            done = subprocess.run(
                [sys.executable, "-c", look], env=env, cwd=settings.ROOT, capture_output=True, text=True, check=False
            )
            self.assertEqual(done.stdout.strip() if done.returncode == 0 else None, found, done.stderr[-300:])
