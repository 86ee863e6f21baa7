"""Jobs, their stages and history, and the guard before every work on them."""

from felloe.queue.services.guard import open_for_work
from felloe.queue.services.jobs import (
    Rail,
    change_job,
    close_job,
    events_of,
    find_job,
    job_numbers,
    job_summary,
    log,
    move_job,
    open_job,
    parts_are_there,
    quiet_days,
    rail,
    reopen_job,
    reopened_at,
    wait_for_parts,
)

__all__ = [
    "Rail",
    "change_job",
    "close_job",
    "events_of",
    "find_job",
    "job_numbers",
    "job_summary",
    "log",
    "move_job",
    "open_for_work",
    "open_job",
    "parts_are_there",
    "quiet_days",
    "rail",
    "reopen_job",
    "reopened_at",
    "wait_for_parts",
]
