"""Opening a bundle from outside: nothing of it is believed before it is counted, measured, and held against its own list."""

from __future__ import annotations

import hashlib
import io
import json
import re
import zipfile
import zlib
from collections.abc import Mapping
from dataclasses import dataclass

from felloe.core.errors import BadRecord
from felloe.core.said import say
from felloe.core.strict_fields import Fields
from felloe.portable.services.out import CUSTOMERS, FORMAT, MANIFEST, VERSION

MOST_BYTES = 60_000_000
MOST_FILES = 2000
MOST_FILE_BYTES = 20_000_000
MOST_UNPACKED = 200_000_000
_UUID = r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}"
#: What may be in it, and nothing else: no path leads anywhere.
_NAMES = re.compile(rf"(?:{re.escape(MANIFEST)}|{re.escape(CUSTOMERS)}|wheels/{_UUID}\.json|photos/{_UUID}\.jpg)")


@dataclass(frozen=True)
class Bundle:
    kind: str
    shop: str
    files: Mapping[str, bytes]

    def json(self, name: str) -> object:
        """Raises BadRecord with the file's name where it is no JSON."""
        try:
            return json.loads(self.files[name].decode("utf-8"))
        except (UnicodeDecodeError, json.JSONDecodeError, RecursionError, KeyError) as error:
            raise BadRecord(say("{name} is missing or is no JSON in UTF-8", name=name), "file") from error

    @property
    def wheels(self) -> list[str]:
        return sorted(name for name in self.files if name.startswith("wheels/"))


def opened(data: bytes) -> Bundle:
    """The files of a bundle of one wheel or one customer.

    Raises BadRecord where it is too large, no zip, holds what does not belong in one, is of another version, or where a file
    is not as its manifest says.
    """
    if len(data) > MOST_BYTES:
        raise _refused(say("a bundle has at most {most} MB", most=MOST_BYTES // 1_000_000))
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            files = _unpacked(packed)
    except (
        zipfile.BadZipFile,
        zipfile.LargeZipFile,
        NotImplementedError,
        RuntimeError,
        EOFError,
        OSError,
        ValueError,
        zlib.error,
    ) as error:
        # What zipfile says of damage, encryption and methods it does not know.
        raise _refused(say("this is no zip that can be read")) from error
    said = Bundle("", "", files).json(MANIFEST)
    fields = Fields(said)
    if fields.take("format", None) != FORMAT:
        raise _refused(say("this is no bundle of Felloe"))
    version = fields.integer("version")
    if version != VERSION:
        raise _refused(say("this reads bundles of version {known}; found version {version}", known=VERSION, version=version))
    kind = fields.choice("kind", ("wheel", "customer", "shop"))
    if kind == "shop":
        raise _refused(say("a whole shop is not taken in here; take a wheel or a customer"))
    listed = fields.take("files", {})
    if not isinstance(listed, dict) or set(listed) != set(files) - {MANIFEST}:
        raise _refused(say("its files are others than its manifest lists"))
    for name, digest in listed.items():
        if hashlib.sha256(files[name]).hexdigest() != digest:
            raise _refused(say("{name} is not as its manifest says", name=name))
    return Bundle(kind, fields.text("shop", "", 200), files)


def _unpacked(packed: zipfile.ZipFile) -> dict[str, bytes]:
    entries = packed.infolist()
    if len(entries) > MOST_FILES:
        raise _refused(say("a bundle has at most {most} files", most=MOST_FILES))
    files: dict[str, bytes] = {}
    left = MOST_UNPACKED
    for entry in entries:
        if not _NAMES.fullmatch(entry.filename) or entry.filename in files:
            raise _refused(say("“{name}” has no place in a bundle, or comes twice", name=entry.filename[:80]))
        # What the entry says of its size is not believed: it is read up to the limit and no further.
        most = min(MOST_FILE_BYTES, left)
        with packed.open(entry) as file:
            data = file.read(most + 1)
        if len(data) > most:
            raise _refused(say("“{name}” unpacks to more than is taken", name=entry.filename))
        left -= len(data)
        files[entry.filename] = data
    return files


def _refused(message: str) -> BadRecord:
    return BadRecord(message, "file")
