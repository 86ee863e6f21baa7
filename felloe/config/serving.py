"""How gunicorn's workers begin: everything is read before the first question, and left out of the collector's rounds.

A full round of Python's collector walks through all that numpy, scipy and Django hold, in the middle of somebody's question.
What is loaded once stays for good, so it is frozen.
"""

from __future__ import annotations

import gc
from typing import Any

from django.urls import get_resolver


def post_worker_init(_worker: Any) -> None:
    """Read every room's addresses, and with them its code; then freeze what there is."""
    assert get_resolver().url_patterns
    gc.collect()
    gc.freeze()
