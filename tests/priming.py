"""Let hypothesis read the project's sources before the first property is timed.

On its first draws it parses every loaded module of the project for constants, once, and keeps them beside the checkout. In
a fresh clone that second would be charged to whichever property comes first, and fail its check for slow input. This
takes it beforehand; it is no test, and the checks of the properties stay as they are.
"""

from __future__ import annotations

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st


@settings(max_examples=200, derandomize=True, database=None, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.floats())
def read_sources(_number: float) -> None:
    """Draw numbers until the sources are read; to be called once all tests are loaded."""
