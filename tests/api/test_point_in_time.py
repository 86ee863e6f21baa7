"""Recovery to a moment, as docs/backup.md tells it: a base copy, the archived log, and the minute before the mistake."""

from __future__ import annotations

import os
import pwd
import shutil
import socket
import subprocess
import tempfile
import unittest
from pathlib import Path

import psycopg

BIN = max(Path("/usr/lib/postgresql").glob("*/bin"), key=lambda place: float(place.parent.name), default=Path("/usr/bin"))


def free_port() -> int:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


class PointInTime(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(dir="/var/tmp"))
        self.addCleanup(shutil.rmtree, self.folder, ignore_errors=True)
        # PostgreSQL refuses root; as root it runs as the user postgres.
        self.user = pwd.getpwnam("postgres") if os.getuid() == 0 else None
        (self.folder / "log").mkdir()
        for place in (self.folder, self.folder / "log"):
            if self.user:
                os.chown(place, self.user.pw_uid, self.user.pw_gid)
        self.running: list[Path] = []
        self.addCleanup(lambda: [self.stop(data) for data in self.running])

    def run_as(self, program: str, *arguments: str) -> None:
        who = {"user": self.user.pw_uid, "group": self.user.pw_gid, "extra_groups": []} if self.user else {}
        done = subprocess.run(
            [str(BIN / program), *arguments], cwd=self.folder, stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL, check=False, timeout=120, **who,
        )  # type: ignore[call-overload]  # fmt: skip
        self.assertEqual(done.returncode, 0, f"{program} {arguments}")

    def start(self, data: Path) -> int:
        port = free_port()
        self.run_as("pg_ctl", "-D", str(data), "-l", str(self.folder / "server.log"), "-o", f"-p {port}", "-w", "start")
        self.running.append(data)
        return port

    def stop(self, data: Path) -> None:
        self.run_as("pg_ctl", "-D", str(data), "-m", "fast", "-w", "stop")
        self.running.remove(data)

    def test_the_minute_before_the_mistake(self) -> None:
        data, base, archive = self.folder / "data", self.folder / "base", self.folder / "log"
        self.run_as("initdb", "-D", str(data), "-U", "felloe", "--auth=trust", "--no-sync", "--no-instructions")
        with (data / "postgresql.conf").open("a") as settings:
            settings.write(
                "listen_addresses = '127.0.0.1'\nunix_socket_directories = ''\nwal_level = replica\narchive_mode = on\n"
                f"archive_command = 'test ! -f {archive}/%f && cp %p {archive}/%f'\n"
            )
        port = self.start(data)
        with psycopg.connect(host="127.0.0.1", port=port, user="felloe", dbname="postgres", autocommit=True) as at:
            at.execute("CREATE TABLE reading (value text)")
            at.execute("INSERT INTO reading VALUES ('before the copy')")
            self.run_as("pg_basebackup", "-h", "127.0.0.1", "-p", str(port), "-U", "felloe", "-D", str(base), "-X", "stream")
            at.execute("INSERT INTO reading VALUES ('after the copy')")
            row = at.execute("SELECT clock_timestamp()").fetchone()
            at.execute("SELECT pg_sleep(0.05)")
            at.execute("DELETE FROM reading")
        self.stop(data)
        assert row is not None
        shutil.rmtree(data)
        with (base / "postgresql.conf").open("a") as settings:
            settings.write(
                f"restore_command = 'cp {archive}/%f %p'\nrecovery_target_time = '{row[0].isoformat()}'\n"
                "recovery_target_action = 'promote'\narchive_mode = off\n"
            )
        (base / "recovery.signal").touch()
        if self.user:
            os.chown(base / "recovery.signal", self.user.pw_uid, self.user.pw_gid)
        port = self.start(base)
        with psycopg.connect(host="127.0.0.1", port=port, user="felloe", dbname="postgres", autocommit=True) as at:
            found = at.execute("SELECT value FROM reading ORDER BY 1").fetchall()
        self.assertEqual([value for (value,) in found], ["after the copy", "before the copy"])
