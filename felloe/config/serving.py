"""How gunicorn begins: everything is read and tried once before the workers are made: they share it and wait for nothing.

A full round of Python's collector walks through all that numpy, scipy and Django hold, in the middle of somebody's question;
and it writes to what workers share, which then is shared no more. What is loaded once stays for good, so it is frozen.
"""

from __future__ import annotations

import gc
from collections.abc import Callable
from typing import Any
from wsgiref.util import setup_testing_defaults

import numpy as np
from django.db import connections
from django.urls import get_resolver

preload_app = True


def when_ready(_server: Any) -> None:
    """Read every room's addresses, and with them its code; estimate and plan a wheel; then freeze what there is."""
    assert get_resolver().url_patterns
    _work_once()
    # A connection is of the process that made it.
    connections.close_all()
    gc.collect()
    gc.freeze()


def _unheard(_status: str, _headers: Any, _fault: Any = None) -> Callable[[bytes], object]:
    """Where an answer is begun that nobody hears."""
    return lambda data: None


def _work_once() -> None:
    """What is put together when it is first asked for: the numerics, the answers' fields, what an answer goes through."""
    from felloe.config.wsgi import application
    from felloe.core.mechanics.estimate import estimate_state
    from felloe.core.mechanics.influence import influence_of
    from felloe.core.mechanics.readings import Readings, TensionReading
    from felloe.core.truing.options import PlanOptions
    from felloe.core.truing.plan import make_plan
    from felloe.core.wheel_kinds import WHEEL_KINDS

    kind = WHEEL_KINDS["rim-brake-rear-36"]
    rng = np.random.default_rng(1)
    names = [str(name) for name in kind.wheel.names]
    forces = rng.normal(800, 60, len(names))
    read = Readings(tension=[TensionReading(name, float(force)) for name, force in zip(names, forces, strict=True)])
    make_plan(estimate_state(influence_of(kind.wheel), read), PlanOptions())
    # Nobody asks, so that no database is needed: it goes through everything that comes before an answer.
    for way in ("/health", "/api/v1/session", "/api/v1/rail"):
        asked: dict[str, Any] = {"PATH_INFO": way}
        setup_testing_defaults(asked)
        application(asked, _unheard).close()
