"""Customers' data: what they allow, their own copy, erasure, and times after which things go by themselves."""

from felloe.privacy.services.consents import consents_of, set_consent
from felloe.privacy.services.copies import own_copy
from felloe.privacy.services.erasing import erase, erasure_ahead
from felloe.privacy.services.retention import retain

__all__ = ["consents_of", "erase", "erasure_ahead", "own_copy", "retain", "set_consent"]
