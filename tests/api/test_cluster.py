"""Two of everything on loopback, by Debian's programs: settings they accept, a primary that is killed, a fence that stays."""

from __future__ import annotations

import pwd
import shutil
import subprocess
import tempfile
import threading
import time
from pathlib import Path

import psycopg
from django.test import SimpleTestCase

from felloe.accounts.fence import ROLE, SETTING
from felloe.cli.cluster.layout import PAIR, PASSWORDS, PORTS, Layout, free_ports, laid_out
from felloe.cli.cluster.running import Cluster, RunsAlready, until
from felloe.upkeep.services.database import newest_bin


class ClusterCase(SimpleTestCase):
    def setUp(self) -> None:
        self.home = Path(tempfile.mkdtemp(prefix="felloe-cluster-", dir="/var/tmp"))
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)
        self.home.chmod(0o711)
        self.folder = self.home / "pair"
        self.folder.mkdir(mode=0o700)
        self.layout = laid_out(self.folder, self.home, Path(newest_bin()), free_ports(1)[0])
        if self.layout.owner:
            user = pwd.getpwnam(self.layout.owner)
            shutil.chown(self.folder, user.pw_uid, user.pw_gid)


class Settings(ClusterCase):
    def test_the_programs_themselves_accept_what_is_written(self) -> None:
        written = self.layout.settings()
        done = subprocess.run(
            ["/usr/sbin/haproxy", "-c", "-f", written["haproxy"]], capture_output=True, text=True, check=False
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertNotIn("WARNING", done.stderr)
        for which in PAIR:
            words = ["patroni", "--validate-config", str(written[f"patroni-{which}"])]
            done = subprocess.run(words, capture_output=True, text=True, check=False)
            # It complains of loopback, of etcd that is not there yet, and of “no socket”, which is PostgreSQL's own way.
            known = ('must not contain "127.0.0.1"', "is not reachable", "unix_socket_directories")
            said = [line for line in (done.stdout + done.stderr).splitlines() if not any(part in line for part in known)]
            self.assertEqual(said, [])
        self.assertEqual({path.stat().st_mode & 0o777 for path in written.values()}, {0o600})

    def test_every_port_is_another_and_passwords_stay_those_that_it_was_made_with(self) -> None:
        self.assertEqual(len(set(self.layout.ports.values())), len(PORTS))
        again = laid_out(self.folder, self.home, self.layout.bin_dir, 1)
        self.assertEqual(again.passwords, self.layout.passwords)
        self.assertEqual(len(set(again.passwords.values())), len(PASSWORDS))
        self.assertEqual((self.home / "pair.passwords.json").stat().st_mode & 0o777, 0o600)

    def test_a_place_that_nothing_fills_is_a_fault(self) -> None:
        half = Layout(self.folder, self.home, Path("bin"), 1, {}, self.layout.passwords)
        with self.assertRaises(KeyError):
            half.filled("haproxy.cfg")


class Killed(ClusterCase):
    """One walk, since the pair takes some seconds to stand."""

    def test_nothing_acknowledged_is_lost_and_nobody_inherits_a_shop(self) -> None:
        self.cluster = Cluster(self.layout)
        self.addCleanup(self.cluster.down)
        with self.assertRaises(RunsAlready):
            Cluster(self.layout)
        self.cluster.up()
        with self.subTest("what is only read is asked of the standby, which takes no writes"):
            self.standby()
        with self.subTest("a connection goes back to the pool without the role and the shop that were set in it"):
            self.nobody_inherits()
        with self.subTest("the primary is killed while rows are written"):
            self.killed()
        with self.subTest("who looked after them is gone, and they are not"):
            self.left_behind()

    def left_behind(self) -> None:
        """As after a kill -9 of who looked after them: another one ends what is left, and goes on with its data."""
        before = self.cluster.postmaster(self.cluster.primary() or "")
        self.cluster._lock.close()
        other = Cluster(laid_out(self.folder, self.home, self.layout.bin_dir, self.layout.web_port))
        self.addCleanup(other.down)
        other.up()
        self.assertNotIn(before, (None, *(other.postmaster(which) for which in PAIR)))
        self.assertEqual({process.poll() is None for process in self.cluster.processes.values()}, {False})
        with other.connect("pgbouncer_port") as db:
            self.assertGreater(db.execute("SELECT count(*) FROM kept").fetchone()[0], 100)  # type: ignore[index]

    def pooled(self, dbname: str = "felloe") -> psycopg.Connection:
        return self.cluster.connect("pgbouncer_port", dbname=dbname)

    def standby(self) -> None:
        with self.pooled() as db:
            db.execute("CREATE TABLE kept (n int PRIMARY KEY)")
            asked = "SELECT pg_is_in_recovery(), rolsuper FROM pg_roles WHERE rolname = user"
            self.assertEqual(db.execute(asked).fetchone(), (False, False))
            self.assertEqual(db.execute("SHOW synchronous_commit").fetchone(), ("on",))

        def there() -> bool:
            with self.pooled("felloe_standby") as db:
                found = db.execute("SELECT pg_is_in_recovery(), to_regclass('kept')").fetchone()
            return found == (True, "kept")

        until(there, 30, "the standby was not asked")
        with self.pooled("felloe_standby") as db, self.assertRaises(psycopg.errors.ReadOnlySqlTransaction):
            db.execute("INSERT INTO kept VALUES (-1)")

    def nobody_inherits(self) -> None:
        def who(db: psycopg.Connection) -> tuple[int, str, str]:
            shop = f"coalesce(current_setting('{SETTING}', true), '')"
            row = db.execute(f"SELECT pg_backend_pid(), current_user::text, {shop}").fetchone()
            assert row is not None
            return row

        with self.pooled() as db:
            db.execute(f"CREATE ROLE {ROLE} NOLOGIN")
            db.execute(f"GRANT {ROLE} TO felloe")
        for _ in range(20):
            with self.pooled() as db:
                db.execute(f"SET ROLE {ROLE}; SET {SETTING} = 'one'")
                before = who(db)
            with self.pooled() as db:
                after = who(db)
            if after[0] == before[0]:
                break
        self.assertEqual((before[1:], after), ((ROLE, "one"), (before[0], "felloe", "")))

    def killed(self) -> None:
        acknowledged: list[int] = []
        stop = threading.Event()

        def write() -> None:
            n = 0
            while not stop.is_set():
                try:
                    with self.pooled() as db:
                        while not stop.is_set():
                            db.execute("INSERT INTO kept VALUES (%s) ON CONFLICT DO NOTHING", [n])
                            acknowledged.append(n)
                            n += 1
                except psycopg.Error:
                    time.sleep(0.1)

        writer = threading.Thread(target=write)
        writer.start()
        self.addCleanup(stop.set)
        was = self.cluster.primary()
        assert was is not None
        other = next(which for which in PAIR if which != was)
        until(lambda: len(acknowledged) > 50, 60, "nothing was written")
        self.cluster.kill_postgres(was)
        until(lambda: self.cluster.says(other, "primary"), 120, "the standby did not take over")
        before = len(acknowledged)
        until(lambda: len(acknowledged) > before + 50, 60, "nothing was written afterwards")
        until(lambda: self.cluster.in_step() == was, 120, "the killed one did not come back as the standby")
        stop.set()
        writer.join()
        with self.pooled() as db:
            there = {n for (n,) in db.execute("SELECT n FROM kept").fetchall()}
        self.assertEqual(set(acknowledged) - there, set())
