"""`bin/felloe cluster demo`: the demo shop on two of everything, on loopback."""

from __future__ import annotations

import argparse
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

from felloe.cli.cluster.layout import ROOT, laid_out
from felloe.cli.cluster.running import Cluster, NotUp, RunsAlready

LOOK_EVERY_S = 2


def prepare(cluster: Cluster) -> None:
    """The demo's tables and data, by the application's own commands."""
    env = os.environ | cluster.django(direct=True)
    for words in (["migrate", "--noinput", "-v", "0"], ["load_demo"]):
        subprocess.run([sys.executable, "manage.py", *words], cwd=ROOT, env=env, check=True)


def told(cluster: Cluster) -> str:
    at = cluster.layout.ports
    return (
        f"Felloe is ready at http://127.0.0.1:{cluster.layout.web_port}/\n"
        f"  application servers at {at['app_one_port']} and {at['app_two_port']}, behind HAProxy\n"
        f"  PostgreSQL at {at['pg_one_port']} and {at['pg_two_port']} (the primary is “{cluster.primary()}”), "
        f"PgBouncer at {at['pgbouncer_port']}\n"
        f"  kill what you like: kill -9 {cluster.postmaster(cluster.primary() or 'one')} ends the primary, for instance"
    )


def main() -> int:
    asked = argparse.ArgumentParser(prog="bin/felloe cluster demo", description=__doc__)
    asked.add_argument("folder", type=Path)
    asked.add_argument("state", type=Path)
    asked.add_argument("bin_dir", type=Path)
    asked.add_argument("web_port", type=int)
    asked.add_argument("--fresh", action="store_true")
    given = asked.parse_args()
    try:
        cluster = Cluster(laid_out(given.folder, given.state, given.bin_dir, given.web_port))
    except RunsAlready as error:
        print(error, file=sys.stderr)
        return 1
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(143))
    try:
        if given.fresh:
            cluster.empty()
        cluster.up()
        prepare(cluster)
        cluster.serve()
        print(told(cluster), flush=True)
        subprocess.run([sys.executable, "-m", "felloe.demo.people"], cwd=ROOT, check=True)
        print("Ctrl-C stops it; the data stay for the next start (--fresh starts over).", flush=True)
        primary = cluster.primary()
        while True:
            time.sleep(LOOK_EVERY_S)
            for name in cluster.look_after():
                print(f"{name} fell and was put up again", flush=True)
            now = cluster.primary()
            if now and now != primary:
                print(f"the primary is “{now}” now, with {cluster.postmaster(now)}", flush=True)
                primary = now
    except NotUp as error:
        print(f"{error}; the logs are {given.state.name}/{given.folder.name}-*.log", file=sys.stderr)
        return 1
    except subprocess.CalledProcessError as error:
        return error.returncode
    except KeyboardInterrupt:
        return 130
    finally:
        # A second Ctrl-C must not leave half of it.
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        cluster.down()


if __name__ == "__main__":
    sys.exit(main())
