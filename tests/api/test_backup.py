"""Backups: made while the shop writes, restored row for row, damaged ones refused before anything is touched."""

from __future__ import annotations

import io
import json
import os
import tarfile
import tempfile
import threading
import uuid
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import psycopg
from django.core.management import CommandError, call_command
from django.test import SimpleTestCase, TransactionTestCase, override_settings
from django.utils import timezone

from felloe.accounts.models import Shop
from felloe.queue.models import Photo
from felloe.report.issued import signed_pdf
from felloe.signing.models import SigningKey
from felloe.signing.services import signer_of
from felloe.upkeep.archive import MANIFEST, Damaged, checked, seal, unseal
from felloe.upkeep.models import BackupRun
from felloe.upkeep.services import back_up, restore
from felloe.upkeep.services.backup import SUFFIX
from felloe.upkeep.services.database import Place
from felloe.upkeep.services.restore import NotEmpty
from felloe.upkeep.services.rotation import kept
from tests.api.shop import ShopCase, open_job, person

PASSPHRASE = "lantern on the quay wall"


class Backups(TransactionTestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.shop = Shop.objects.create(name="Here")
        self.owner = person(self.shop, "odile", "owner")
        self.job = open_job(self.owner)
        Photo.objects.create(
            shop=self.shop, job=self.job, created_by=self.owner, data=bytes(range(256)) * 400, width=1, height=1
        )
        signed_pdf(self.owner, self.job.pk, "en")

    def fresh(self) -> Place:
        """An empty database beside the test's."""
        here = Place.of_settings()
        name = f"restored_{uuid.uuid4().hex[:12]}"
        with here.connect() as at:
            at.execute(f"CREATE DATABASE {name}")

        def drop() -> None:
            with here.connect() as at:
                at.execute(f"DROP DATABASE {name} WITH (FORCE)")

        self.addCleanup(drop)
        return Place(here.host, here.port, here.user, here.password, name)

    def made(self) -> Path:
        return self.folder / back_up(self.folder, PASSPHRASE).file

    def rows(self, place: Place) -> dict[str, list[Any]]:
        """Every row of every table as PostgreSQL copies it out: not by the backup's own hashes."""
        found = {}
        with place.connect() as at:
            names = [r[0] for r in at.execute("SELECT tablename FROM pg_tables WHERE schemaname='public'").fetchall()]
            for name in names:
                with at.cursor().copy(f'COPY "{name}" TO STDOUT') as out:  # type: ignore[arg-type]
                    found[name] = sorted(b"".join(bytes(part) for part in out).split(b"\n"))
        return found

    def test_restored_row_for_row_with_what_signs(self) -> None:
        before = self.rows(Place.of_settings())
        file = self.made()
        into = self.fresh()
        manifest, settings = restore(file, PASSPHRASE, into)
        self.assertEqual(self.rows(into), before)
        self.assertEqual(manifest.tables["queue_photo"].rows, 1)
        with into.connect() as at:
            [row] = at.execute("SELECT sealed_private FROM signing_signingkey").fetchall()
            # Triggers and constraints came along: what is append-only stays so.
            with self.assertRaises(psycopg.Error):
                at.execute("DELETE FROM queue_jobevent")
        SigningKey.objects.get()
        with override_settings(SECRET_KEY=settings["FELLOE_SECRET_KEY"]):
            self.assertIsNotNone(signer_of(self.owner))
        self.assertGreater(len(row[0]), 32)
        self.assertEqual(file.stat().st_mode & 0o077, 0, "for its owner's eyes only")

    def test_while_the_shop_writes(self) -> None:
        stop = threading.Event()
        written: list[int] = []

        def write() -> None:
            number = 0
            while not stop.is_set():
                number += 1
                # Two rows in one transaction: a backup holds both or neither.
                with Place.of_settings().connect() as at, at.transaction():
                    for side in ("a", "b"):
                        at.execute(
                            "INSERT INTO customers_customer SELECT (json_populate_record(c, json_build_object("
                            "'id', gen_random_uuid(), 'name', %s::text))).* FROM customers_customer c LIMIT 1",
                            (f"pair {number}{side}",),
                        )
                written.append(number)

        thread = threading.Thread(target=write)
        thread.start()
        try:
            while len(written) < 5 and thread.is_alive():
                pass
            file = self.made()
        finally:
            stop.set()
            thread.join()
        self.assertGreater(len(written), 5)
        into = self.fresh()
        restore(file, PASSPHRASE, into)
        with into.connect() as at:
            names = [r[0] for r in at.execute("SELECT name FROM customers_customer WHERE name LIKE 'pair %'").fetchall()]
        self.assertGreaterEqual(len(names), 10)
        self.assertEqual({n[:-1] for n in names if n.endswith("a")}, {n[:-1] for n in names if n.endswith("b")})

    def test_a_damaged_one_is_refused_before_anything_is_touched(self) -> None:
        file = self.made()
        whole = file.read_bytes()
        into = self.fresh()
        middle = whole.rindex(b"PGDMP") + 2000
        for damaged in (
            whole[: len(whole) // 2],
            whole[:middle] + bytes([whole[middle] ^ 1]) + whole[middle + 1 :],
            whole.replace(b'"version": 1', b'"version": 9', 1),
            whole.replace(b'"felloe-backup"', b'"another-thing"', 1),
            b"",
            b"PK\x03\x04 a zip",
        ):
            file.write_bytes(damaged)
            with self.subTest(len(damaged)), self.assertRaises(Damaged):
                restore(file, PASSPHRASE, into)
        file.write_bytes(whole)
        with self.assertRaises(Damaged):
            restore(file, "another passphrase", into)
        self.assertEqual(self.rows(into), {}, "nothing was touched")
        restore(file, PASSPHRASE, into)
        with self.assertRaises(NotEmpty):
            restore(file, PASSPHRASE, into)

    def test_a_backup_that_says_other_rows_is_found_after_restoring(self) -> None:
        file = self.made()
        with tarfile.open(file) as tar:
            parts = {name: tar.extractfile(name).read() for name in tar.getnames()}  # type: ignore[union-attr]
        said = json.loads(parts[MANIFEST])
        said["tables"]["customers_customer"]["rows"] += 1
        parts[MANIFEST] = json.dumps(said).encode()
        with tarfile.open(file, "w") as tar:
            for name, data in parts.items():
                entry = tarfile.TarInfo(name)
                entry.size = len(data)
                tar.addfile(entry, io.BytesIO(data))
        with self.assertRaises(Damaged) as caught:
            restore(file, PASSPHRASE, self.fresh())
        self.assertIn("customers_customer", str(caught.exception))

    def test_what_fails_is_noted_and_leaves_nothing_half_made(self) -> None:
        blocked = self.folder / "file"
        blocked.write_text("no folder")
        with self.assertRaises(OSError):
            back_up(blocked, PASSPHRASE)
        with self.assertRaises(ValueError):
            back_up(self.folder, "short")
        run = BackupRun.objects.get()
        self.assertFalse(run.good)
        self.assertTrue(run.reason)
        self.assertEqual(list(self.folder.glob(f"*{SUFFIX}")), [])

    def test_the_second_place(self) -> None:
        second = self.folder / "elsewhere"
        run = back_up(self.folder, PASSPHRASE, second)
        self.assertTrue(run.copied)
        self.assertEqual((second / run.file).read_bytes(), (self.folder / run.file).read_bytes())
        blocked = self.folder / "full"
        blocked.write_text("no folder")
        run = back_up(self.folder, PASSPHRASE, blocked)
        self.assertEqual((run.good, run.copied), (True, False))
        self.assertIn("second place", run.reason)

    def test_the_commands_say_what_they_did_and_what_they_will_not(self) -> None:
        passphrase, out = self.folder / "passphrase", io.StringIO()
        passphrase.write_text(PASSPHRASE + "\n")
        to, second = self.folder / "here", self.folder / "there"
        call_command("backup", to=to, second=second, passphrase_file=passphrase, stdout=out)
        [made] = to.glob(f"*{SUFFIX}")
        self.assertIn(made.name, out.getvalue())
        self.assertIn(str(second), out.getvalue())
        with self.assertRaises(CommandError) as caught:
            call_command("restore", made, passphrase_file=passphrase, settings_to=self.folder / "settings")
        self.assertIn("not empty", str(caught.exception))
        self.assertFalse((self.folder / "settings").exists())
        with self.assertRaises(CommandError):
            call_command("backup", to=to, passphrase_file=self.folder / "no such file")

    def test_nothing_stands_in_it_in_the_open(self) -> None:
        from django.conf import settings

        data = self.made().read_bytes()
        for secret in (str(settings.SECRET_KEY), PASSPHRASE, os.environ.get("FELLOE_DB_PASSWORD", "no such")):
            self.assertNotIn(secret.encode(), data)


class BackupsOnTheScreen(ShopCase):
    def test_the_owner_sees_how_old_the_last_good_one_is(self) -> None:
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        self.assertEqual(self.get("backups").status_code, 403)
        self.assertEqual(self.get("backups", client=owner).json()["overdue"], True)
        now = timezone.now()
        BackupRun.objects.create(at=now - timedelta(hours=30), good=True, file="old", copied=True)
        BackupRun.objects.create(at=now - timedelta(hours=2), good=False, reason="disk full")
        found = self.get("backups", client=owner).json()
        self.assertEqual((found["overdue"], round(found["hours"]), found["copied"]), (True, 30, True))
        self.assertEqual([run["good"] for run in found["runs"]], [False, True])
        BackupRun.objects.create(at=now, good=True, file="new")
        self.assertFalse(self.get("backups", client=owner).json()["overdue"])


class Rotation(SimpleTestCase):
    def test_days_weeks_and_months(self) -> None:
        last = datetime(2026, 11, 26, 2, 0, tzinfo=UTC)
        nightly = [last - timedelta(days=day) for day in range(800)]
        stay = kept(nightly)
        for day in range(7):
            self.assertIn(last - timedelta(days=day), stay)
        months = {(at.year, at.month) for at in stay}
        self.assertEqual(len(months), 12)
        self.assertLessEqual(len(stay), 7 + 5 + 12)
        # A second backup of a day takes the place of the first; the newest of all always stays.
        twice = [*nightly, last + timedelta(hours=5)]
        self.assertIn(last + timedelta(hours=5), kept(twice))
        self.assertNotIn(last, kept([*twice, last + timedelta(hours=6)]))
        self.assertEqual(kept([]), set())

    def test_one_made_each_hour_never_lets_go_of_a_day(self) -> None:
        last = datetime(2026, 11, 26, 23, 0, tzinfo=UTC)
        alive: set[datetime] = set()
        for hour in range(24 * 60, -1, -1):
            alive.add(last - timedelta(hours=hour))
            alive = kept(list(alive))
        self.assertEqual(len({at.date() for at in alive if (last - at).days < 6}), 6)

    def test_secrets_open_with_their_passphrase_only(self) -> None:
        sealed = seal({"FELLOE_SECRET_KEY": "s"}, PASSPHRASE)
        self.assertEqual(unseal(sealed, PASSPHRASE), {"FELLOE_SECRET_KEY": "s"})
        for wrong in (sealed[:-1], sealed[1:], b""):
            with self.assertRaises(Damaged):
                unseal(wrong, PASSPHRASE)
        with self.assertRaises(Damaged):
            checked(Path("/nowhere"))
