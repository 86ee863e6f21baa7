"""A shop of its own, from a clone: made, started, asked, brought to newer versions that work and that do not, stopped."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import re
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parents[2]
PASSWORD = "four spokes and a valve"
BROKEN = """
from django.db import migrations

class Migration(migrations.Migration):
    dependencies = [("upkeep", "{last}")]
    operations = [migrations.RunSQL("CREATE TABLE upkeep_newer (id int); ALTER TABLE accounts_shop ADD COLUMN newer int")]
"""


class Running(SimpleTestCase):
    """One walk, since each step needs the one before it. What is installed and built here already is lent to the clone."""

    def setUp(self) -> None:
        self.home = Path(tempfile.mkdtemp(prefix="felloe-shop-", dir="/var/tmp"))
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)
        self.here = self.home / "felloe"
        self.git("clone", "-q", "--bare", str(ROOT), str(self.home / "origin"), at=ROOT)
        self.git("clone", "-q", str(self.home / "origin"), str(self.here), at=ROOT)
        self.git("checkout", "-q", "-B", "shop")
        self.git("push", "-q", "-u", "origin", "shop")
        (self.here / ".venv").symlink_to(ROOT / ".venv")
        (self.here / "web/node_modules").symlink_to(ROOT / "web/node_modules")
        shutil.copytree(ROOT / "web/dist", self.here / "web/dist")
        (self.here / ".felloe").mkdir()
        shutil.copytree(ROOT / ".felloe/static", self.here / ".felloe/static")
        self.addCleanup(self.take_away)

    def take_away(self) -> None:
        self.felloe("stop")
        for name in {"shop", *(path.stem for path in (self.here / ".felloe").glob("shop*.port"))}:
            self.with_cluster('cluster_remove "$0"; rm -rf "$(cluster_dir "$0")"', name, check=False)

    def with_cluster(self, said: str, *words: str, check: bool = True) -> None:
        """A line of shell with what the command knows of clusters."""
        head = f"ROOT={self.here}; STATE={self.here}/.felloe; . bin/lib/say.sh; . bin/lib/debian.sh; . bin/lib/cluster.sh; "
        subprocess.run(["bash", "-euc", head + said, *words], cwd=self.here, check=check, capture_output=True)

    def worker(self) -> int | None:
        """The worker's own process, below what puts it up again."""
        above = int((self.here / ".felloe/run/worker.pid").read_text())
        below = Path(f"/proc/{above}/task/{above}/children").read_text().split()
        named = [int(pid) for pid in below if b"procrastinate" in Path(f"/proc/{pid}/cmdline").read_bytes()]
        return named[0] if named else None

    def eventually(self, met: Callable[[], bool], else_say: str) -> None:
        for _ in range(600):
            with contextlib.suppress(OSError):
                if met():
                    return
            time.sleep(0.2)
        self.fail(else_say)

    def git(self, *words: str, at: Path | None = None) -> str:
        who = ["-c", "user.name=Test", "-c", "user.email=test@shop.example", "-c", "safe.directory=*"]
        done = subprocess.run(["git", *who, *words], cwd=at or self.here, check=True, capture_output=True, text=True)
        return done.stdout.strip()

    def felloe(self, *words: str) -> subprocess.CompletedProcess[str]:
        clean = {key: value for key, value in os.environ.items() if not key.startswith(("FELLOE_", "DJANGO_"))}
        return subprocess.run(
            [str(self.here / "bin/felloe"), *words], cwd=self.here, env=clean, text=True, check=False,
            stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, timeout=400,
        )  # fmt: skip

    def good(self, *words: str) -> str:
        done = self.felloe(*words)
        self.assertEqual(done.returncode, 0, done.stdout)
        return done.stdout

    def ask(self, path: str, method: str = "GET", body: Any = None, **headers: str) -> tuple[int, str, Any]:
        at = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
        self.addCleanup(at.close)
        sent = {name.replace("_", "-"): value for name, value in headers.items()}
        if body is not None:
            sent["Content-Type"] = "application/json"
        at.request(method, path, None if body is None else json.dumps(body), sent)
        answer = at.getresponse()
        return answer.status, answer.read().decode(), answer

    def test_a_shop_from_nothing_to_its_third_version(self) -> None:
        self.port = self.free_port()
        with self.subTest("made, and asked for again"):
            password = self.home / "password"
            password.write_text("short\n")
            flags = [
                "--shop", "Here", "--language", "de", "--zone", "Europe/Lisbon", "--currency", "EUR", "--owner", "Odile",
                "--owner-name", "Odile Marrack", "--password-file", str(password),
                "--hosts", "wheels.shop.example", "--port", str(self.port),
            ]  # fmt: skip
            refused = self.felloe("init", *flags)
            self.assertNotEqual(refused.returncode, 0)
            self.assertIn("ten characters or more", refused.stdout)
            password.write_text(PASSWORD + "\n")
            self.assertIn("“Here” is open", self.good("init", *flags))
            kept = (self.here / ".felloe/shop.env").read_text()
            self.assertIn("stays as it is", self.good("init"))
            self.assertEqual((self.here / ".felloe/shop.env").read_text(), kept)
            self.assertEqual((self.here / ".felloe/shop.env").stat().st_mode & 0o077, 0)
            self.assertNotEqual(self.felloe("status").returncode, 0)
        with self.subTest("started, once"):
            self.good("start")
            self.assertIn("runs already", self.felloe("start").stdout)
            self.assertIn('"database": "ready"', self.good("status"))
        with self.subTest("asked"):
            self.asked()
        with self.subTest("no demo among a shop's own"):
            loaded = self.manage("load_demo")
            self.assertNotEqual(loaded.returncode, 0)
            self.assertIn("this is a shop's", loaded.stdout)
        with self.subTest("its database falls and is there again"):
            before = self.worker()
            pg_ctl = 'as_pg "$(pg_bin)/pg_ctl" -D "$(cluster_dir shop)/data" -l "$(cluster_dir shop)/log"'
            self.with_cluster(pg_ctl + ' -o "-p $(cat .felloe/shop.port)" -m immediate -w restart')
            self.eventually(lambda: self.worker() not in (None, before), "the worker was not put up again")
            self.eventually(lambda: self.ask("/ready")[0] == 200, "it did not get ready again")
            self.good("status")
        with self.subTest("a newer version that works, of the branch that is followed"):
            self.assertIn("that version already", self.good("upgrade"))
            (self.here / "NEWER").write_text("newer\n")
            self.version("newer")
            self.git("push", "-q", "origin", "newer:refs/heads/shop")
            self.assertIn("now; it was", self.good("upgrade"))
            self.assertEqual(self.git("branch", "--show-current"), "shop")
            self.assertTrue((self.here / "NEWER").exists())
            self.good("status")
        with self.subTest("a newer version that does not, after it has changed the tables"):
            last = sorted((self.here / "felloe/upkeep/migrations").glob("0*.py"))[-1].stem
            (self.here / "felloe/upkeep/migrations/9999_newer.py").write_text(BROKEN.format(last=last))
            serving = self.here / "felloe/config/serving.py"
            serving.write_text(serving.read_text() + "\nraise RuntimeError('a fault of the newer version')\n")
            self.version("broken")
            before = self.git("rev-parse", "HEAD")
            tried = self.felloe("upgrade", "broken")
            self.assertNotEqual(tried.returncode, 0)
            self.assertIn("works on with the data of before", tried.stdout)
            self.assertIn("the data of before are in the cluster", tried.stdout)
            self.assertEqual(self.git("rev-parse", "HEAD"), before)
            self.assertIn('"migrations": "ready"', self.good("status"))
            self.assertEqual(self.sign_in(PASSWORD)[0], 200)
        with self.subTest("the same where the settings name a database elsewhere"):
            settings = self.here / ".felloe/shop.env"
            name = re.findall(r"FELLOE_CLUSTER=(\S+)", settings.read_text())[-1]
            at, word = ((self.here / f".felloe/{name}.{what}").read_text() for what in ("port", "password"))
            settings.write_text(f"{settings.read_text()}FELLOE_DB_PORT={at}\nFELLOE_DB_PASSWORD={word}\n")
            tried = self.felloe("upgrade", "broken")
            self.assertNotEqual(tried.returncode, 0)
            self.assertIn("the data of before are in the database “felloe_", tried.stdout)
            self.assertIn("FELLOE_DB_NAME=felloe_", settings.read_text())
            self.assertIn('"migrations": "ready"', self.good("status"))
            self.assertEqual(self.sign_in(PASSWORD)[0], 200)
        with self.subTest("stopped"):
            self.good("stop")
            self.assertNotEqual(self.felloe("status").returncode, 0)

    def version(self, name: str) -> None:
        """What stands in the checkout as a version of that name; the checkout goes back to where it was."""
        was = self.git("branch", "--show-current") or self.git("rev-parse", "HEAD")
        self.git("checkout", "-q", "--detach")
        # Not what is lent: links to it are no part of a version.
        self.git("add", *(place for place in ("NEWER", "felloe") if (self.here / place).exists()))
        self.git("commit", "-q", "-m", name)
        self.git("tag", name)
        self.git("checkout", "-q", was)

    def manage(self, *words: str) -> subprocess.CompletedProcess[str]:
        settings = {**os.environ, "DJANGO_SETTINGS_MODULE": "felloe.config.settings.production"}
        for line in (self.here / ".felloe/shop.env").read_text().splitlines():
            name, _, value = line.partition("=")
            settings[name] = value
        return subprocess.run(
            [str(self.here / ".venv/bin/python"), "manage.py", *words], cwd=self.here, env=settings, text=True, check=False,
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
        )  # fmt: skip

    def free_port(self) -> int:
        """One whose neighbour is free as well."""
        import socket

        while True:
            with socket.socket() as one, socket.socket() as two:
                one.bind(("127.0.0.1", 0))
                port = one.getsockname()[1]
                try:
                    two.bind(("127.0.0.1", port + 1))
                except OSError:
                    continue
                return int(port)

    def behind(self) -> dict[str, str]:
        """As the proxy asks."""
        return {"Host": "wheels.shop.example", "X_Forwarded_Proto": "https", "X_Forwarded_For": "192.0.2.7"}

    def sign_in(self, password: str) -> tuple[int, str, Any]:
        cookie = self.ask("/", **self.behind())[2].getheader("Set-Cookie", "")
        token = re.search(r"csrftoken=([^;]+)", cookie).group(1)
        return self.ask(
            "/api/v1/session", "POST", {"username": "odile", "password": password}, **self.behind(),
            Cookie=f"csrftoken={token}", X_CSRFToken=token, Referer="https://wheels.shop.example/",
        )  # fmt: skip

    def asked(self) -> None:
        self.assertEqual(self.ask("/health")[:2], (200, "alive\n"))
        self.assertEqual(self.ask("/ready")[0], 200)
        status, _, answer = self.ask("/", Host="wheels.shop.example")
        self.assertEqual((status, answer.getheader("Location")), (301, "https://wheels.shop.example/"))
        self.assertEqual(self.ask("/", **{**self.behind(), "Host": "other.example"})[0], 400)
        status, _, answer = self.ask("/", **self.behind(), X_Request_ID="felloe-walk-0001")
        self.assertEqual((status, answer.getheader("X-Request-ID")), (200, "felloe-walk-0001"))
        # No promise of TLS for ever that nobody has chosen.
        self.assertIsNone(answer.getheader("Strict-Transport-Security"))
        self.assertIn("Secure", answer.getheader("Set-Cookie"))
        self.assertEqual(self.sign_in("not the password")[0], 400)
        status, body, answer = self.sign_in(PASSWORD)
        self.assertEqual((status, json.loads(body)["role"]), (200, "owner"))
        self.assertEqual(self.ask("/metrics", **self.behind())[0], 404)
        counted = self.ask("/metrics")[1]
        self.assertRegex(counted, r'felloe_answers_total\{method="POST",status="200",way="api/v1/session"\} 1\.0')
        lines = [json.loads(line) for line in (self.here / ".felloe/server.log").read_text().splitlines() if line[:1] == "{"]
        mine = [line for line in lines if line.get("request") == "felloe-walk-0001"]
        self.assertEqual([(line["status"], line["event"]) for line in mine], [(200, "answered")])
        text = json.dumps(lines)
        for secret in ("odile", "Odile", PASSWORD, "not the password", "192.0.2.7", "csrftoken"):
            self.assertNotIn(secret, text)
