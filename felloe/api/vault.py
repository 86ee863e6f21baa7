"""What is kept sealed in the database: under keys derived from the installation's secret, so that a copied database alone
opens nothing."""

from __future__ import annotations

import base64

from cryptography.fernet import Fernet, MultiFernet
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from django.conf import settings


def vault(purpose: bytes) -> MultiFernet:
    """Seals with the present secret, opens also what former ones sealed. Each purpose has a key of its own."""
    secrets = [str(secret) for secret in (settings.SECRET_KEY, *settings.SECRET_KEY_FALLBACKS)]
    derived = [HKDF(SHA256(), 32, None, purpose).derive(secret.encode()) for secret in secrets]
    return MultiFernet([Fernet(base64.urlsafe_b64encode(key)) for key in derived])
