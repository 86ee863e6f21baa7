"""What is kept sealed in the database: under keys derived from the installation's secret, so that a copied database alone
opens nothing."""

from __future__ import annotations

import base64
from typing import TYPE_CHECKING

from django.conf import settings

if TYPE_CHECKING:
    from cryptography.fernet import MultiFernet


def vault(purpose: bytes) -> MultiFernet:
    """Seals with the present secret, opens also what former ones sealed. Each purpose has a key of its own."""
    # Read when it is needed: the process that holds the events' streams needs none of it, and is to stay small.
    from cryptography.fernet import Fernet, MultiFernet
    from cryptography.hazmat.primitives.hashes import SHA256
    from cryptography.hazmat.primitives.kdf.hkdf import HKDF

    secrets = [str(secret) for secret in (settings.SECRET_KEY, *settings.SECRET_KEY_FALLBACKS)]
    derived = [HKDF(SHA256(), 32, None, purpose).derive(secret.encode()) for secret in secrets]
    return MultiFernet([Fernet(base64.urlsafe_b64encode(key)) for key in derived])
