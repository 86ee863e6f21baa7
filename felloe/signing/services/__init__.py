"""A shop's signing keys: made when first needed, followed by new ones, and given up when lost."""

from felloe.signing.services.keys import Signer, change_key, keys_of, signer_of
from felloe.signing.services.page import checking_page

__all__ = ["Signer", "change_key", "checking_page", "keys_of", "signer_of"]
