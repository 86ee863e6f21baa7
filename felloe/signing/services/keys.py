from __future__ import annotations

import base64
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from cryptography.fernet import InvalidToken
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.api.problems import Refused, StaleWrite
from felloe.api.vault import vault
from felloe.core.said import say
from felloe.places.here import atomic
from felloe.signing import answers
from felloe.signing.models import SigningKey
from felloe.signing.sealed import Statement, Succession, b64, fingerprint, sealed, vouched

#: What the vault's key for private keys is derived for.
PURPOSE = b"felloe signing keys"


@dataclass(frozen=True)
class Signer:
    """A shop's key in use, opened, and what vouches for it."""

    shop: str
    private: Ed25519PrivateKey
    chain: Sequence[Succession]

    @property
    def public(self) -> bytes:
        return self.private.public_key().public_bytes_raw()

    @property
    def fingerprint(self) -> str:
        return fingerprint(self.public)

    def signed(self, pdf: bytes, number: int, at: datetime) -> bytes:
        """The PDF of a job's report with the shop's signature."""
        statement = Statement(self.shop, number, at.isoformat(timespec="seconds"), b64(self.public), self.chain)
        return sealed(pdf, statement, self.private)


def keys_of(user: User) -> answers.Keys:
    """Every key of the shop, the one in use first."""
    rows = SigningKey.objects.filter(shop=user.shop).select_related("created_by", "ended_by").order_by("-created_at")
    return answers.Keys(user.shop.name, [_answer(row) for row in rows])


def signer_of(user: User) -> Signer | None:
    """The shop's signer, its first key made where there is none; None where the key in use cannot be opened here, since
    the secret it was sealed under is not this installation's."""
    key = SigningKey.objects.filter(shop=user.shop, ended_at=None).first()
    if key is None:
        with atomic():
            # Two first reports at once make one key: the shop's row is the lock.
            Shop.objects.select_for_update().get(pk=user.shop_id)
            key = SigningKey.objects.filter(shop=user.shop, ended_at=None).first() or _made(user, None)
    private = _opened(key)
    return Signer(user.shop.name, private, _chain(key)) if private is not None else None


@atomic
def change_key(user: User, key: str, key_ended: str) -> answers.Keys:
    """Ends the key in use and makes the next. Only a key that was in good hands all along vouches for its successor.

    Raises:
        StaleWrite: `key` (base64) is not the one in use any more.
        Refused: it is to vouch for the next and cannot be opened here.
    """
    Shop.objects.select_for_update().get(pk=user.shop_id)
    old = SigningKey.objects.filter(shop=user.shop, ended_at=None).first()
    if old is None or b64(bytes(old.public)) != key:
        now = fingerprint(bytes(old.public)) if old else ""
        raise StaleWrite({"key": key}, {"fingerprint": now})
    private = _opened(old)
    if key_ended == SigningKey.Ended.FOLLOWED and private is None:
        raise Refused(
            "key_closed",
            say("This key cannot be opened here, so it cannot vouch for the next. Say that it is lost."),
        )
    old.ended_at, old.ended_by, old.ended_as, old.sealed_private = timezone.now(), user, key_ended, None
    old.save()
    _made(user, (old, private) if key_ended == SigningKey.Ended.FOLLOWED and private else None)
    return keys_of(user)


def _made(user: User, follows: tuple[SigningKey, Ed25519PrivateKey] | None) -> SigningKey:
    private = Ed25519PrivateKey.generate()
    public = private.public_key().public_bytes_raw()
    return SigningKey.objects.create(
        shop=user.shop,
        created_by=user,
        public=public,
        sealed_private=vault(PURPOSE).encrypt(private.private_bytes_raw()),
        vouched_by=follows[0] if follows else None,
        vouched_signature=base64.b64decode(vouched(follows[1], public).signature) if follows else None,
    )


def _opened(key: SigningKey) -> Ed25519PrivateKey | None:
    try:
        return Ed25519PrivateKey.from_private_bytes(vault(PURPOSE).decrypt(bytes(key.sealed_private or b"")))
    except InvalidToken:
        return None


def _chain(key: SigningKey) -> list[Succession]:
    """From the earliest key that vouches to `key`."""
    found: list[Succession] = []
    while key.vouched_by is not None:
        old = key.vouched_by
        found.append(Succession(b64(bytes(key.public)), b64(bytes(old.public)), b64(bytes(key.vouched_signature or b""))))
        key = old
    return found[::-1]


def _answer(row: SigningKey) -> answers.Key:
    return answers.Key(
        key=b64(bytes(row.public)),
        fingerprint=fingerprint(bytes(row.public)),
        since=row.created_at,
        by=row.created_by.display_name if row.created_by else "",
        ended_at=row.ended_at,
        ended_by=row.ended_by.display_name if row.ended_by else "",
        ended_as=row.ended_as,
        opens=row.ended_at is None and _opened(row) is not None,
        vouched=row.vouched_by_id is not None,
    )
