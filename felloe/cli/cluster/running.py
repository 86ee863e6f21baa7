"""A cluster's processes: started in order, waited for, put up again where one falls, ended in order.

On machines of your own systemd does this for each (Debian's packages bring the units); on loopback one process does it for all.
"""

from __future__ import annotations

import fcntl
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Mapping
from contextlib import suppress
from pathlib import Path

import psycopg
from psycopg import sql

from felloe.cli.cluster.layout import PAIR, ROOT, Layout

PRIMARY_WITHIN_S, READY_WITHIN_S = 90, 60
Process = subprocess.Popen[bytes]


class RunsAlready(Exception):
    """Another process looks after this cluster: two would kill each other's."""


class NotUp(Exception):
    """Something did not get ready in time; the text says what, and which log tells more."""


def until(met: Callable[[], bool], within_s: float, what: str) -> None:
    """Wait for it. Raises NotUp."""
    end = time.monotonic() + within_s
    while not met():
        if time.monotonic() > end:
            raise NotUp(f"{what} within {within_s:.0f} s")
        time.sleep(0.2)


def answers(url: str, method: str = "GET") -> bool:
    with suppress(OSError, urllib.error.URLError):
        with urllib.request.urlopen(urllib.request.Request(url, method=method), timeout=2) as answer:
            return bool(answer.status == 200)
    return False


def free(port: int) -> bool:
    """Whether nobody listens at a port of loopback."""
    with socket.socket() as one:
        return one.connect_ex(("127.0.0.1", port)) != 0


class Cluster:
    """etcd, two PostgreSQL servers under Patroni, HAProxy, PgBouncer, two application servers with live processes, a worker."""

    def __init__(self, layout: Layout, settings_module: str = "felloe.config.settings.demo") -> None:
        self.layout = layout
        self.processes: dict[str, Process] = {}
        #: Those that may lie: a machine that is away is not put up again by anybody here.
        self.left_lying: set[str] = set()
        self._lock = (layout.folder / "lock").open("w")
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise RunsAlready(f"the cluster in {layout.folder.name} runs already") from None
        self._written = layout.settings()
        self._settings_module = settings_module

    # One process

    def command(self, name: str) -> tuple[list[str], Mapping[str, str], str | None]:
        """A process' command line, what its environment has besides, and the user it runs as."""
        at, folder = self.layout.ports, self.layout.folder
        kind, _, which = name.partition("-")
        venv = Path(sys.executable).parent
        if kind == "etcd":
            client, peer = (f"http://127.0.0.1:{at[port]}" for port in ("etcd_port", "etcd_peer_port"))
            words = ["etcd", "--name", "etcd", "--data-dir", str(folder / "etcd"), "--listen-client-urls", client]
            words += ["--advertise-client-urls", client, "--listen-peer-urls", peer, "--logger", "zap"]
            words += ["--initial-advertise-peer-urls", peer, "--initial-cluster", f"etcd={peer}"]
            return words, {}, self.layout.owner
        if kind == "patroni":
            return ["patroni", str(self._written[name])], {}, self.layout.owner
        if kind == "haproxy":
            return ["/usr/sbin/haproxy", "-db", "-f", str(self._written["haproxy"])], {}, self.layout.owner
        if kind == "pgbouncer":
            return ["/usr/sbin/pgbouncer", "-q", str(self._written["pgbouncer"])], {}, self.layout.owner
        if kind == "app":
            bind = f"127.0.0.1:{at[f'app_{which}_port']}"
            words = [str(venv / "gunicorn"), "felloe.config.wsgi:application", "-c", "python:felloe.config.serving"]
            return (
                [*words, "--bind", bind, "--workers", "1", "--threads", "6", "--access-logfile", "/dev/null"],
                self.django(),
                None,
            )
        if kind == "live":
            words = [str(venv / "uvicorn"), "felloe.live.server:app", "--host", "127.0.0.1", "--log-level", "warning"]
            return [*words, "--port", str(at[f"live_{which}_port"]), "--no-access-log"], self.django(direct=True), None
        assert kind == "worker"
        words = ["nice", "-n", "5", sys.executable, "manage.py", "procrastinate", "worker", "--concurrency", "2"]
        return [*words, "--fetch-job-polling-interval", "1"], self.django(direct=True), None

    def django(self, direct: bool = False) -> dict[str, str]:
        """What Felloe's own processes read. `direct`: past PgBouncer, for those that listen on a connection of their own."""
        at = self.layout.ports
        return {
            "DJANGO_SETTINGS_MODULE": self._settings_module,
            "OPENBLAS_NUM_THREADS": "1",
            "FELLOE_LIVE": "/live",
            "FELLOE_ADDRESS": f"http://127.0.0.1:{self.layout.web_port}",
            "FELLOE_DB_NAME": "felloe",
            "FELLOE_DB_USER": "felloe",
            "FELLOE_DB_PASSWORD": self.layout.passwords["felloe_password"],
            "FELLOE_DB_PORT": str(at["primary_port" if direct else "pgbouncer_port"]),
            # A connection goes back to PgBouncer with its request.
            "FELLOE_DB_KEEP_S": "60" if direct else "0",
            "FELLOE_DB_STANDBY": "" if direct else "felloe_standby",
        }

    def start(self, name: str) -> None:
        words, more, owner = self.command(name)
        env = {k: v for k, v in os.environ.items() if not k.startswith("FELLOE_DB")} | dict(more)
        with (self.layout.state / f"{self.layout.folder.name}-{name}.log").open("ab") as log:
            self.processes[name] = subprocess.Popen(
                words, cwd=ROOT if owner is None else "/", env=env, stdin=subprocess.DEVNULL, stdout=log, stderr=log,
                start_new_session=True, user=owner, group=owner, extra_groups=[] if owner else None,
            )  # fmt: skip
        self.left_lying.discard(name)
        self.layout.write("running", "\n".join(str(process.pid) for process in self.processes.values()))

    def end(self, name: str, within_s: float = 30) -> None:
        process = self.processes.pop(name, None)
        if process is None:
            return
        if process.poll() is None:
            process.terminate()
            with suppress(subprocess.TimeoutExpired):
                process.wait(within_s)
        if process.poll() is None:
            os.killpg(process.pid, signal.SIGKILL)
            process.wait()

    # All of them

    def up(self) -> None:
        """Everything started; raises NotUp. The database is made and brought to this version where it is new."""
        at = self.layout.ports
        self.end_former()
        until(lambda: free(self.layout.web_port), 5, f"port {self.layout.web_port} did not get free; say --port N, or wait,")
        self.start("etcd")
        until(lambda: answers(f"http://127.0.0.1:{at['etcd_port']}/health"), READY_WITHIN_S, "etcd was not healthy")
        for which in PAIR:
            self.start(f"patroni-{which}")
        until(lambda: self.primary() is not None, PRIMARY_WITHIN_S, "no PostgreSQL server became the primary")
        for name in ("haproxy", "pgbouncer"):
            self.start(name)
        self.make_database()
        until(lambda: self.in_step() is not None, PRIMARY_WITHIN_S, "no standby followed the primary")

    def serve(self) -> None:
        """Felloe's own processes, before which its tables must be there."""
        for name in ("live-one", "live-two", "worker", "app-one", "app-two"):
            self.start(name)
        at, door = self.layout.ports, f"http://127.0.0.1:{self.layout.web_port}"
        asked = [f"http://127.0.0.1:{at[f'app_{which}_port']}/ready" for which in PAIR]
        asked += [f"{door}/health", f"{door}/live/health"]
        until(lambda: all(answers(url) for url in asked), READY_WITHIN_S, "Felloe was not ready")

    def down(self) -> None:
        """Felloe first, then what it stands on."""
        last = ["patroni-two", "patroni-one", "etcd"]
        for name in [n for n in reversed(self.processes) if n not in last] + last:
            self.end(name)

    def look_after(self) -> list[str]:
        """Put up again what fell, as systemd would; the names."""
        fallen = [n for n, process in self.processes.items() if process.poll() is not None and n not in self.left_lying]
        for name in fallen:
            self.start(name)
        return fallen

    def empty(self) -> None:
        """All that it holds goes; what is left of a former start is ended first."""
        self.end_former()
        for name in (*(f"pg-{which}" for which in PAIR), "etcd"):
            shutil.rmtree(self.layout.folder / name, ignore_errors=True)

    def end_former(self) -> None:
        """What is left of a former start that was itself killed: known by this folder or these servers in its command line."""
        known = self.layout.folder / "running"
        for pid in known.read_text().split() if known.exists() else []:
            self._kill_if_ours(int(pid))
        for which in PAIR:
            self.kill_postgres(which)

    def _kill_if_ours(self, pid: int) -> None:
        with suppress(OSError):
            said = Path(f"/proc/{pid}/cmdline").read_bytes().decode(errors="replace")
            if str(self.layout.folder) in said or str(Path(sys.executable).parent) in said:
                os.killpg(pid, signal.SIGKILL)

    # PostgreSQL

    def connect(self, port: str = "primary_port", user: str = "felloe", dbname: str = "felloe") -> psycopg.Connection:
        word = {"felloe": "felloe_password", "postgres": "superuser_password"}[user]
        return psycopg.connect(
            host="127.0.0.1", port=self.layout.ports[port], user=user, dbname=dbname, connect_timeout=3,
            password=self.layout.passwords[word], autocommit=True,
        )  # fmt: skip

    def make_database(self) -> None:
        """Felloe's user, who is no superuser but may make the role of the fence and move shops, and its database; once."""

        def made() -> bool:
            # HAProxy takes both servers for primaries until it has looked at them: what meets the other is tried again.
            with suppress(psycopg.OperationalError, psycopg.errors.ReadOnlySqlTransaction):
                self._make_database()
                return True
            return False

        until(made, READY_WITHIN_S, "the primary was not reached through HAProxy")

    def _make_database(self) -> None:
        with self.connect(user="postgres", dbname="postgres") as db:
            if not db.execute("SELECT 1 FROM pg_roles WHERE rolname = 'felloe'").fetchone():
                made = sql.SQL("CREATE ROLE felloe LOGIN CREATEROLE PASSWORD {}")
                db.execute(made.format(self.layout.passwords["felloe_password"]))
            db.execute("GRANT SET ON PARAMETER session_replication_role TO felloe")
            if not db.execute("SELECT 1 FROM pg_database WHERE datname = 'felloe'").fetchone():
                db.execute("CREATE DATABASE felloe OWNER felloe")

    def says(self, which: str, path: str) -> bool:
        return answers(f"http://127.0.0.1:{self.layout.ports[f'rest_{which}_port']}/{path}", "OPTIONS")

    def primary(self) -> str | None:
        """Which of the two Patroni calls the primary."""
        return next((which for which in PAIR if self.says(which, "primary")), None)

    def in_step(self) -> str | None:
        """Which of the two has all that is acknowledged, and may take over."""
        return next((which for which in PAIR if self.says(which, "synchronous")), None)

    def postmaster(self, which: str) -> int | None:
        """The process of a PostgreSQL server, where it lives and is this folder's."""
        with suppress(OSError, ValueError, IndexError):
            pid = int((self.layout.data(which) / "postmaster.pid").read_text().split("\n")[0])
            if str(self.layout.data(which)) in Path(f"/proc/{pid}/cmdline").read_text():
                return pid
        return None

    def kill_postgres(self, which: str) -> None:
        """-9 to a server and all of its children: nothing of it writes on."""
        pid = self.postmaster(which)
        if pid is None:
            return
        with suppress(OSError):
            children = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
            os.kill(pid, signal.SIGKILL)
            for child in children:
                with suppress(OSError):
                    os.kill(int(child), signal.SIGKILL)

    def kill_machine(self, which: str) -> None:
        """As if its plug were pulled: Patroni first, which therefore tells nobody, and nobody puts it up again."""
        name = f"patroni-{which}"
        self.left_lying.add(name)
        os.killpg(self.processes[name].pid, signal.SIGKILL)
        self.processes[name].wait()
        self.kill_postgres(which)
