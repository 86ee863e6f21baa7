"""Signed reports: checked by OpenSSL's own command and by bytes changed one by one; keys that follow, are lost, are stolen."""

from __future__ import annotations

import base64
import binascii
import io
import json
import re
import subprocess
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey
from django.conf import settings
from django.db import IntegrityError, connection, transaction
from django.test import TransactionTestCase, override_settings
from pypdf import PdfReader

from felloe.accounts.models import Shop, User
from felloe.api.problems import Refused
from felloe.report.issued import signed_pdf
from felloe.signing.models import SigningKey
from felloe.signing.sealed import fingerprint
from felloe.signing.services import change_key, keys_of, signer_of
from tests.api.shop import BenchCase, person

#: SubjectPublicKeyInfo of an Ed25519 key before its 32 bytes (RFC 8410, section 4).
SPKI = bytes.fromhex("302a300506032b6570032100")
LAST = re.compile(rb"%felloe-signature (\S{88})\n\Z")
SAID = re.compile(rb"\n%felloe-statement (\S+)\nstartxref\n")
# RFC 8032, section 7.1: secret key, public key, message, signature.
VECTORS = (
    (
        "9d61b19deffd5a60ba844af492ec2cc44449c5697b326919703bac031cae7f60",
        "d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a",
        "",
        "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b",
    ),
    (
        "4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb",
        "3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c",
        "72",
        "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
    ),
    (
        "c5aa8df43f9f837bedb7442f31dcb7b166d38535076f094b85ce3a2e0b4458f7",
        "fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025",
        "af82",
        "6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f760984dc6594a7c15e9716ed28dc027beceea1ec40a",
    ),
)


def statement_of(pdf: bytes) -> dict[str, Any]:
    found = SAID.search(pdf)
    assert found is not None
    said: dict[str, Any] = json.loads(base64.b64decode(found[1]))
    return said


def openssl_says(public: bytes, message: bytes, signature: bytes) -> bool:
    """What OpenSSL's command says of a signature: another implementation than the one that made it, at another door."""
    with tempfile.TemporaryDirectory() as place:
        key, body, sign = (Path(place, name) for name in ("key.der", "body", "signature"))
        key.write_bytes(SPKI + public)
        body.write_bytes(message)
        sign.write_bytes(signature)
        found = subprocess.run(
            ["openssl", "pkeyutl", "-verify", "-pubin", "-keyform", "DER", "-inkey", str(key), "-rawin",
             "-in", str(body), "-sigfile", str(sign)],
            capture_output=True, check=False,
        )  # fmt: skip
        return found.returncode == 0


def holds(pdf: bytes) -> bool:
    last = LAST.search(pdf)
    if last is None or SAID.search(pdf) is None:
        return False
    try:
        key, signature = base64.b64decode(statement_of(pdf)["key"]), base64.b64decode(last[1])
    except binascii.Error:
        # The changed byte made a letter of it one that base64 does not have.
        return False
    return openssl_says(key, pdf[: last.start()], signature)


class Signatures(BenchCase):
    def setUp(self) -> None:
        super().setUp()
        self.owner = person(self.shop, "odile", "owner")
        self.boss = self.speak_for(self.owner)

    def pdf(self) -> bytes:
        answer = self.client.get(f"/api/v1/jobs/{self.job.pk}/report.pdf")
        self.assertEqual(answer.status_code, 200)
        return answer.content

    def end(self, how: str, **more: Any) -> Any:
        key = self.get("signing-keys").json()["keys"][0]["key"]
        return self.post("signing-keys", {"key": key, "key_ended": how, **more}, client=self.boss)

    def test_the_vectors_of_the_standard(self) -> None:
        for secret, public, message, signature in VECTORS:
            with self.subTest(message):
                key = Ed25519PrivateKey.from_private_bytes(bytes.fromhex(secret))
                self.assertEqual(key.public_key().public_bytes_raw().hex(), public)
                self.assertEqual(key.sign(bytes.fromhex(message)).hex(), signature)
                # OpenSSL's command reads no empty file.
                if message:
                    self.assertTrue(openssl_says(*(bytes.fromhex(part) for part in (public, message, signature))))

    def test_a_report_is_signed_and_stays_a_pdf(self) -> None:
        pdf = self.pdf()
        self.assertTrue(holds(pdf))
        said = statement_of(pdf)
        self.assertEqual((said["shop"], said["number"], said["chain"]), (self.shop.name, self.job.number, []))
        read = PdfReader(io.BytesIO(pdf), strict=True)
        text = " ".join(read.pages[0].extract_text().split())
        self.assertIn(f"Signed with the shop's key {fingerprint(base64.b64decode(said['key']))}", text)
        self.assertEqual(list(read.attachments), ["wheel-record.json"])
        self.assertLess(len(pdf) - pdf.rindex(b"%%EOF"), 1024, "viewers look for the end in the last kilobyte")

    def test_any_changed_byte_is_found(self) -> None:
        pdf = self.pdf()
        for at in [0, 9, 1000, len(pdf) // 2, pdf.rindex(b"startxref") - 5, len(pdf) - 120, len(pdf) - 60, len(pdf) - 1]:
            with self.subTest(at):
                self.assertFalse(holds(pdf[:at] + bytes([pdf[at] ^ 1]) + pdf[at + 1 :]))
        self.assertFalse(holds(pdf + b"\n"))
        self.assertFalse(holds(pdf[:-1]))

    def test_the_same_key_signs_the_next(self) -> None:
        self.assertEqual(statement_of(self.pdf())["key"], statement_of(self.pdf())["key"])
        self.assertEqual(SigningKey.objects.count(), 1)

    def test_a_key_that_follows_is_vouched_for(self) -> None:
        first = base64.b64decode(statement_of(self.pdf())["key"])
        self.assertEqual(self.end("followed").status_code, 200)
        self.assertEqual(self.end("followed").status_code, 200)
        said = statement_of(self.pdf())
        self.assertEqual(len(said["chain"]), 2)
        self.assertEqual(base64.b64decode(said["chain"][0]["by"]), first)
        self.assertEqual(said["chain"][0]["key"], said["chain"][1]["by"])
        self.assertEqual(said["chain"][1]["key"], said["key"])
        for link in said["chain"]:
            by, key, signature = (base64.b64decode(link[name]) for name in ("by", "key", "signature"))
            self.assertTrue(openssl_says(by, b"felloe key succession 1\n" + by + key, signature))
            self.assertFalse(openssl_says(by, b"felloe key succession 1\n" + key + by, signature))

    def test_a_lost_or_stolen_key_vouches_for_nothing(self) -> None:
        for how in ("lost", "stolen"):
            with self.subTest(how):
                before = statement_of(self.pdf())["key"]
                answer = self.end(how).json()
                self.assertEqual([key["ended_as"] for key in answer["keys"][:2]], ["", how])
                self.assertEqual(answer["keys"][1]["ended_by"], "Odile")
                said = statement_of(self.pdf())
                self.assertNotEqual(said["key"], before)
                self.assertEqual(said["chain"], [])
        self.assertEqual(SigningKey.objects.exclude(sealed_private=None).count(), 1, "the private half of an ended key is gone")

    def test_only_the_owner_ends_a_key_and_only_the_one_that_was_seen(self) -> None:
        self.pdf()
        key = self.get("signing-keys").json()["keys"][0]["key"]
        body = {"key": key, "key_ended": "stolen"}
        self.assertEqual(self.post("signing-keys", body).status_code, 403)
        self.assertEqual(self.post("signing-keys", body, client=self.boss).status_code, 200)
        self.assertProblem(self.post("signing-keys", body, client=self.boss), 409, "stale_write")
        self.assertEqual(SigningKey.objects.count(), 2)

    def test_a_key_that_does_not_open_here_signs_nothing_and_it_is_said(self) -> None:
        self.pdf()
        with override_settings(SECRET_KEY="another installation" * 3):
            pdf = signed_pdf(self.bram, self.job.pk, "en")
            keys = keys_of(self.owner)
            with self.assertRaises(Refused) as caught:
                change_key(self.owner, keys.keys[0].key, "followed")
            self.assertEqual(change_key(self.owner, keys.keys[0].key, "lost").keys[0].opens, True)
        self.assertNotIn(b"%felloe-signature", pdf)
        self.assertIn("This file is not signed.", " ".join(PdfReader(io.BytesIO(pdf)).pages[0].extract_text().split()))
        self.assertFalse(keys.keys[0].opens)
        self.assertEqual(caught.exception.code, "key_closed")

    def test_a_former_secret_still_opens(self) -> None:
        before = statement_of(self.pdf())["key"]
        with override_settings(SECRET_KEY="new" * 20, SECRET_KEY_FALLBACKS=[settings.SECRET_KEY]):
            signer = signer_of(self.owner)
        assert signer is not None
        self.assertEqual(base64.b64encode(signer.public).decode(), before)

    def test_the_private_half_stands_nowhere_in_the_open(self) -> None:
        signer = signer_of(self.owner)
        assert signer is not None
        raw = signer.private.private_bytes_raw()
        row = SigningKey.objects.get()
        for text in (raw, base64.b64encode(raw), base64.urlsafe_b64encode(raw), raw.hex().encode()):
            self.assertNotIn(text, bytes(row.sealed_private or b""))

    def test_the_database_keeps_them(self) -> None:
        self.pdf()
        self.end("followed")
        old = SigningKey.objects.get(ended_as="followed")
        for change in (
            "DELETE FROM signing_signingkey",
            "UPDATE signing_signingkey SET ended_as='stolen' WHERE ended_at IS NOT NULL",
            "UPDATE signing_signingkey SET public='\\x00' WHERE ended_at IS NULL",
            "UPDATE signing_signingkey SET sealed_private=NULL WHERE ended_at IS NULL",
            "UPDATE signing_signingkey SET vouched_by_id=NULL, vouched_signature=NULL WHERE ended_at IS NULL",
        ):
            with self.subTest(change), self.assertRaises(IntegrityError), transaction.atomic(), connection.cursor() as at:
                at.execute(change)
        self.assertEqual(SigningKey.objects.get(pk=old.pk).ended_as, "followed")

    def test_the_page_brings_the_keys_and_nothing_breaks_out_of_them(self) -> None:
        self.shop.name = "</script><script>alert(1)</script> & Söhne"
        self.shop.save()
        self.pdf()
        page = self.client.get("/api/v1/signing-keys/check-report.html").content.decode()
        self.assertNotIn("</script><script>alert(1)", page)
        found = re.search(r'<script type="application/json" id="keys">(.*?)</script>', page, re.DOTALL)
        assert found is not None
        known = json.loads(found[1])
        self.assertEqual(known["shop"], self.shop.name)
        self.assertEqual([key["ended_as"] for key in known["keys"]], [""])


class TwoFirstReports(TransactionTestCase):
    def test_they_make_one_key(self) -> None:
        user = person(Shop.objects.create(name="Here"), "bram")

        def key() -> bytes:
            try:
                found = signer_of(User.objects.get(pk=user.pk))
                assert found is not None
                return found.public
            finally:
                connection.close()

        with ThreadPoolExecutor(4) as pool:
            self.assertEqual(len({found.result() for found in [pool.submit(key) for _ in range(4)]}), 1)
