"""The shell's own commands: a backup of a shop that runs, into a fresh cluster, and nothing left behind where it fails."""

from __future__ import annotations

import os
import subprocess
import tempfile
import uuid
from pathlib import Path

import psycopg
from django.db import connection
from django.test import TransactionTestCase

from felloe.accounts.models import Shop
from felloe.upkeep.services.backup import SUFFIX
from tests.api.shop import open_job, person

ROOT = Path(__file__).resolve().parents[2]
STATE = ROOT / ".felloe"


class Commands(TransactionTestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.name = f"try-{uuid.uuid4().hex[:8]}"
        self.addCleanup(self.forget, self.name)
        self.passphrase = self.folder / "passphrase"
        self.passphrase.write_text("lantern on the quay wall\n", encoding="utf-8")
        self.job = open_job(person(Shop.objects.create(name="Here"), "odile", "owner"))

    def felloe(self, *words: str, **env: str) -> subprocess.CompletedProcess[str]:
        here = {key: value for key, value in os.environ.items() if not key.startswith("FELLOE_DB_")}
        return subprocess.run(
            [str(ROOT / "bin/felloe"), *words], env={**here, **env}, text=True, capture_output=True, check=False, timeout=300
        )

    def forget(self, name: str) -> None:
        """Take the cluster away, as the command itself does where it fails."""
        parts = " ".join(f". bin/lib/{part}.sh;" for part in ("say", "debian", "cluster"))
        gone = f'{parts} cluster_remove "$0"; rm -rf "$(cluster_dir "$0")" "$STATE/$0" "$STATE/$0".*'
        head = f"ROOT={ROOT}; STATE={STATE}; "
        subprocess.run(["bash", "-euc", head + gone, name], cwd=ROOT, check=True, capture_output=True)

    def backed_up(self) -> str:
        at = connection.settings_dict
        made = self.felloe(
            "backup", "--to", str(self.folder), "--passphrase-file", str(self.passphrase),
            FELLOE_DB_PORT=str(at["PORT"]), FELLOE_DB_NAME=str(at["NAME"]), FELLOE_DB_PASSWORD=str(at["PASSWORD"]),
            FELLOE_DB_USER=str(at["USER"]), FELLOE_DB_HOST=str(at["HOST"]),
        )  # fmt: skip
        self.assertEqual(made.returncode, 0, made.stderr)
        self.assertIn("read back whole", made.stdout)
        (file,) = self.folder.glob(f"*{SUFFIX}")
        return str(file)

    def test_out_and_back_wrong_key_and_damage(self) -> None:
        file = self.backed_up()
        with self.subTest("a wrong passphrase leaves no cluster"):
            wrong = self.folder / "wrong"
            wrong.write_text("another\n", encoding="utf-8")
            refused = self.felloe("restore", file, "--passphrase-file", str(wrong), "--name", self.name)
            self.assertNotEqual(refused.returncode, 0)
            self.assertEqual(list(STATE.glob(f"{self.name}*")), [])
        with self.subTest("a damaged file is refused before any cluster is made"):
            bytes_ = bytearray(Path(file).read_bytes())
            bytes_[len(bytes_) // 2] ^= 1
            damaged = self.folder / "damaged.tar"
            damaged.write_bytes(bytes_)
            refused = self.felloe("restore", str(damaged), "--passphrase-file", str(self.passphrase), "--name", self.name)
            self.assertNotEqual(refused.returncode, 0)
            self.assertIn("nothing was touched", refused.stderr)
            self.assertNotIn("making a private PostgreSQL cluster", refused.stdout + refused.stderr)
        with self.subTest("restored, the job is there"):
            done = self.felloe("restore", file, "--passphrase-file", str(self.passphrase), "--name", self.name)
            self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
            self.assertIn("holds the shop", done.stdout + done.stderr)
            self.assertEqual(self.jobs_there(), [str(self.job.pk)])
        with self.subTest("nothing is restored over it"):
            again = self.felloe("restore", file, "--passphrase-file", str(self.passphrase), "--name", self.name)
            self.assertNotEqual(again.returncode, 0)
            self.assertIn("nothing is restored over it", again.stderr)

    def jobs_there(self) -> list[str]:
        """Started as the demo's cluster is, read by psycopg alone."""
        head = f"ROOT={ROOT}; STATE={STATE}; PY={ROOT}/.venv/bin/python; "
        parts = " ".join(f". bin/lib/{part}.sh;" for part in ("say", "debian", "cluster"))
        started = subprocess.run(
            ["bash", "-euc", f"{head}{parts} cluster_start \"$0\" >&2; env | grep ^FELLOE_DB_", self.name],
            cwd=ROOT, check=True, capture_output=True, text=True,
        )  # fmt: skip
        at = dict(line.split("=", 1) for line in started.stdout.splitlines() if "=" in line)
        with psycopg.connect(
            host="127.0.0.1",
            port=int(at["FELLOE_DB_PORT"]),
            user="felloe",
            password=at["FELLOE_DB_PASSWORD"],
            dbname=at.get("FELLOE_DB_NAME", "felloe"),
        ) as there:
            return [str(row[0]) for row in there.execute("SELECT id FROM queue_job")]
