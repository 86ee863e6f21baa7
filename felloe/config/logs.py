"""Logs as lines of JSON, Felloe's own and those of its packages alike."""

from __future__ import annotations

from traceback import extract_tb
from typing import Any

import structlog

SHARED: list[Any] = [
    structlog.contextvars.merge_contextvars,
    structlog.stdlib.add_log_level,
    structlog.stdlib.add_logger_name,
    structlog.processors.TimeStamper(fmt="iso", utc=True),
]


def impersonal(_logger: Any, _method: str, event: dict[str, Any]) -> dict[str, Any]:
    """A fault as where it happened and of which kind: messages of exceptions quote what people typed, and Django's own line
    quotes the address, with a link's token in it."""
    fault = event.pop("exc_info", None)
    if isinstance(fault, tuple) and fault[0] is not None:
        event["fault"] = fault[0].__qualname__
        event["where"] = [f"{f.filename.rpartition('/felloe/')[2]}:{f.lineno} {f.name}" for f in extract_tb(fault[2])][-12:]
    if event.get("logger") == "django.request":
        event["event"] = "fault"
    return event


def settings_of(level: str) -> dict[str, Any]:
    """Django's LOGGING; what structlog says itself goes the same way."""
    structlog.configure(
        processors=[*SHARED, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
        cache_logger_on_first_use=True,
    )
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {
            "lines": {
                "()": structlog.stdlib.ProcessorFormatter,
                "foreign_pre_chain": SHARED,
                "processors": [
                    structlog.stdlib.ProcessorFormatter.remove_processors_meta,
                    impersonal,
                    structlog.processors.JSONRenderer(ensure_ascii=False, sort_keys=True),
                ],
            }
        },
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "lines"}},
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {
            "felloe": {"level": level},
            # Refusals are lines of `felloe.requests` already.
            "django.request": {"level": "ERROR"},
            # It names who tried and from where: that stands in the database alone.
            "axes": {"level": "CRITICAL"},
        },
    }
