"""Where everything of a cluster on loopback stands: ports, folders, passwords, and its settings from deploy/cluster/."""

from __future__ import annotations

import json
import os
import pwd
import secrets
import socket
import string
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]
TEMPLATES = ROOT / "deploy" / "cluster"
#: The two PostgreSQL servers, the two application servers, the two live processes: each pair by these names.
PAIR = ("one", "two")
PORTS = (
    "etcd_port",
    "etcd_peer_port",
    "primary_port",
    "standby_port",
    "pgbouncer_port",
    *(f"{kind}_{which}_port" for kind in ("pg", "rest", "app", "live") for which in PAIR),
)
PASSWORDS = ("superuser_password", "replication_password", "rewind_password", "rest_password", "felloe_password")


def free_ports(count: int) -> list[int]:
    """So many ports of loopback that nobody has, all different: each is held until the last is found."""
    held = [socket.socket() for _ in range(count)]
    try:
        for one in held:
            one.bind(("127.0.0.1", 0))
        return [one.getsockname()[1] for one in held]
    finally:
        for one in held:
            one.close()


@dataclass(frozen=True)
class Layout:
    """A cluster's folder, which belongs to the user that its servers run as, and what its settings are filled with."""

    folder: Path
    state: Path
    bin_dir: Path
    web_port: int
    ports: Mapping[str, int]
    passwords: Mapping[str, str]

    @property
    def owner(self) -> str | None:
        """PostgreSQL and PgBouncer refuse root; as root they run as postgres. None: as whoever runs this."""
        return "postgres" if os.geteuid() == 0 else None

    def data(self, which: str) -> Path:
        return self.folder / f"pg-{which}"

    def filled(self, template: str, **more: object) -> str:
        """A file of deploy/cluster/ with its places filled. Raises KeyError for a place that nothing fills."""
        text = (TEMPLATES / template).read_text()
        return string.Template(text).substitute({"web_port": self.web_port, **self.ports, **self.passwords, **more})

    def write(self, name: str, text: str) -> Path:
        """A file in the cluster's folder that only its owner reads."""
        path = self.folder / name
        path.touch(mode=0o600)
        path.write_text(text)
        self.hand_over(path)
        return path

    def hand_over(self, path: Path) -> None:
        if self.owner:
            user = pwd.getpwnam(self.owner)
            os.chown(path, user.pw_uid, user.pw_gid)

    def settings(self) -> dict[str, Path]:
        """All settings written: by the name of the program that reads them."""
        written = {"haproxy": self.write("haproxy.cfg", self.filled("haproxy.cfg"))}
        who = self.write("users.txt", f'"felloe" "{self.passwords["felloe_password"]}"\n')
        written["pgbouncer"] = self.write(
            "pgbouncer.ini", self.filled("pgbouncer.ini", auth_file=who, log_file=self.folder / "pgbouncer.log")
        )
        for which in PAIR:
            written[f"patroni-{which}"] = self.write(
                f"patroni-{which}.yml",
                self.filled(
                    "patroni.yml",
                    name=which,
                    port=self.ports[f"pg_{which}_port"],
                    rest_port=self.ports[f"rest_{which}_port"],
                    data_dir=self.data(which),
                    bin_dir=self.bin_dir,
                    pgpass=self.folder / f"pgpass-{which}",
                ),
            )
        return written


def laid_out(folder: Path, state: Path, bin_dir: Path, web_port: int) -> Layout:
    """A layout with free ports, and the passwords that the cluster was made with."""
    kept = state / f"{folder.name}.passwords.json"
    if kept.exists():
        passwords = json.loads(kept.read_text())
    else:
        passwords = {name: secrets.token_hex(16) for name in PASSWORDS}
        kept.touch(mode=0o600)
        kept.write_text(json.dumps(passwords))
    return Layout(folder, state, bin_dir, web_port, dict(zip(PORTS, free_ports(len(PORTS)), strict=True)), passwords)
