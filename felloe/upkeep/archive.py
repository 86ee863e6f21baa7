"""The file of a backup: a tar with a manifest, PostgreSQL's own dump, and the installation's secrets under a passphrase.

manifest.json    what it is, when it was made, every table with its rows, the SHA-256 of the other members
database.dump    pg_dump's custom format, as pg_restore reads it without Felloe
secrets.sealed   JSON of the settings that no database holds, under a key of scrypt (RFC 7914) from the passphrase
"""

from __future__ import annotations

import base64
import hashlib
import io
import json
import os
import tarfile
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field
from pathlib import Path
from typing import Any

from cryptography.fernet import Fernet, InvalidToken
from cryptography.hazmat.primitives.kdf.scrypt import Scrypt

FORMAT, VERSION = "felloe-backup", 1
MANIFEST, DUMP, SECRETS = "manifest.json", "database.dump", "secrets.sealed"
#: scrypt's cost: some 130 MB and a good part of a second for each try.
COST, BLOCK, LANES = 2**17, 8, 1
SALT_BYTES = 16
_PIECE = 1 << 20


class Damaged(Exception):
    """The file is not as it was written, or is none of these."""


@dataclass(frozen=True)
class Table:
    """Rows of a table, and the sum of their hashes: equal for equal rows in any order."""

    rows: int
    digest: str


@dataclass(frozen=True)
class Manifest:
    made_at: str
    migrations: int
    tables: Mapping[str, Table]
    sha256: Mapping[str, str] = field(default_factory=dict)
    format: str = FORMAT
    version: int = VERSION


def seal(secrets: Mapping[str, str], passphrase: str) -> bytes:
    salt = os.urandom(SALT_BYTES)
    return salt + Fernet(_key(passphrase, salt)).encrypt(json.dumps(dict(secrets)).encode())


def unseal(data: bytes, passphrase: str) -> dict[str, str]:
    """Raises Damaged where the passphrase is not the one."""
    try:
        opened: dict[str, str] = json.loads(Fernet(_key(passphrase, data[:SALT_BYTES])).decrypt(data[SALT_BYTES:]).decode())
    except InvalidToken as error:
        raise Damaged("the passphrase does not open this backup's secrets") from error
    return opened


def _key(passphrase: str, salt: bytes) -> bytes:
    return base64.urlsafe_b64encode(Scrypt(salt, 32, COST, BLOCK, LANES).derive(passphrase.encode()))


def write(place: Path, manifest: Manifest, dump: Path, secrets: bytes) -> None:
    """Write an archive, for its owner's eyes only; `manifest` gets the digests."""
    digests = {DUMP: _digest_of(dump), SECRETS: hashlib.sha256(secrets).hexdigest()}
    said = json.dumps(asdict(manifest) | {"sha256": digests}, indent=1).encode()
    with open(os.open(place, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "wb") as file:
        with tarfile.open(fileobj=file, mode="w") as tar:
            for name, data in ((MANIFEST, said), (SECRETS, secrets)):
                entry = tarfile.TarInfo(name)
                entry.size = len(data)
                tar.addfile(entry, io.BytesIO(data))
            tar.add(dump, DUMP)
        file.flush()
        os.fsync(file.fileno())


def checked(place: Path) -> Manifest:
    """The manifest of an archive of which every byte is there and as it was written.

    Raises Damaged otherwise: nothing of it is to be used then.
    """
    try:
        with tarfile.open(place) as tar:
            names = tar.getnames()
            if sorted(names) != sorted((MANIFEST, SECRETS, DUMP)):
                raise Damaged("this is no backup of Felloe: its parts are others")
            said = json.loads(_member(tar, MANIFEST).read(_PIECE))
            found = _manifest(said)
            for name in (SECRETS, DUMP):
                if _digest(_member(tar, name)) != found.sha256.get(name):
                    raise Damaged(f"{name} is not as it was written")
    except (tarfile.TarError, OSError, EOFError, KeyError, TypeError, ValueError, RecursionError) as error:
        raise Damaged(f"this file is cut short, damaged, or no backup: {error}") from error
    return found


def _manifest(said: dict[str, Any]) -> Manifest:
    if said.get("format") != FORMAT:
        raise Damaged("this is no backup of Felloe")
    if said.get("version") != VERSION:
        raise Damaged(f"this is a backup of version {said.get('version')}; this Felloe reads version {VERSION}")
    tables = {name: Table(int(row["rows"]), str(row["digest"])) for name, row in said["tables"].items()}
    return Manifest(said["made_at"], int(said["migrations"]), tables, said["sha256"])


def take_out(place: Path, name: str, to: Path) -> None:
    """Copy one member to a file of its own."""
    with tarfile.open(place) as tar, to.open("wb") as out:
        member = _member(tar, name)
        while piece := member.read(_PIECE):
            out.write(piece)


def read_member(place: Path, name: str) -> bytes:
    with tarfile.open(place) as tar:
        data: bytes = _member(tar, name).read()
    return data


def _member(tar: tarfile.TarFile, name: str) -> Any:
    member = tar.extractfile(name)
    if member is None:
        raise Damaged(f"{name} is no file")
    return member


def _digest_of(place: Path) -> str:
    with place.open("rb") as file:
        return _digest(file)


def _digest(file: Any) -> str:
    found = hashlib.sha256()
    while piece := file.read(_PIECE):
        found.update(piece)
    return found.hexdigest()
