"""A signed PDF: what is added to it, byte for byte. Ed25519 by RFC 8032; web/verify checks it.

Two comment lines are added to a PDF, where ISO 32000 lets comments be, so that it stays one that every viewer opens:

    %felloe-statement BASE64     before its last `startxref`: UTF-8 JSON with who signs, what and when
    %felloe-signature BASE64     after its last `%%EOF`: the signature of every byte that stands before this line

Nothing may follow. A key that follows an earlier one is vouched for by that one: the statement brings the chain along, each
link signed over SUCCESSION, the old key and the new one, so that whoever knows an early key recognises a late one.
"""

from __future__ import annotations

import base64
import hashlib
import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

STATEMENT, SIGNATURE = b"%felloe-statement ", b"%felloe-signature "
SUCCESSION = b"felloe key succession 1\n"


@dataclass(frozen=True)
class Succession:
    """`key` follows `by`, who signed that; all base64."""

    key: str
    by: str
    signature: str


@dataclass(frozen=True)
class Statement:
    """Who signs what: the shop, the number on the tag, ISO 8601 with its offset, the key (base64) and whence it comes."""

    shop: str
    number: int
    signed_at: str
    key: str
    chain: Sequence[Succession] = ()


def b64(data: bytes) -> str:
    return base64.b64encode(data).decode()


def fingerprint(key: bytes) -> str:
    """What people compare: the first 16 bytes of the key's SHA-256, as eight groups of four hexadecimal digits."""
    digits = hashlib.sha256(key).hexdigest()[:32]
    return " ".join(digits[at : at + 4] for at in range(0, 32, 4))


def vouched(old: Ed25519PrivateKey, new: bytes) -> Succession:
    """The old key's word that the new one follows it."""
    by = old.public_key().public_bytes_raw()
    return Succession(b64(new), b64(by), b64(old.sign(SUCCESSION + by + new)))


def sealed(pdf: bytes, statement: Statement, key: Ed25519PrivateKey) -> bytes:
    """The PDF with the statement and the signature.

    Raises:
        ValueError: it is no PDF as they are written: it has no `startxref`.
    """
    at = pdf.rfind(b"startxref")
    if at < 0:
        raise ValueError("no startxref in this PDF")
    said = json.dumps(asdict(statement), ensure_ascii=False, sort_keys=True, separators=(",", ":")).encode()
    body = pdf[:at] + STATEMENT + base64.b64encode(said) + b"\n" + pdf[at:]
    body += b"" if body.endswith(b"\n") else b"\n"
    return body + SIGNATURE + base64.b64encode(key.sign(body)) + b"\n"
