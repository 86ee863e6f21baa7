"""Passwords are hashed with Argon2id, one at a time in each process: wrong sign-ins at once cost time, not memory."""

from __future__ import annotations

from threading import BoundedSemaphore

from django.contrib.auth.hashers import Argon2PasswordHasher

#: Whoever waits longer than its neighbours waits for a few tens of milliseconds each.
_one_at_a_time = BoundedSemaphore(1)


class BoundedArgon2(Argon2PasswordHasher):
    """19 MiB, two passes, one lane: OWASP, Password Storage Cheat Sheet, from memory. Older hashes are renewed at sign-in."""

    time_cost = 2
    memory_cost = 19_456
    parallelism = 1

    def encode(self, password: str, salt: str) -> str:
        with _one_at_a_time:
            return super().encode(password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        with _one_at_a_time:
            return bool(super().verify(password, encoded))

    def harden_runtime(self, password: str, encoded: str) -> None:
        """Nothing: Argon2 cannot be topped up."""
