"""Jobs, their stages and history, and the guard before every work on them."""

from felloe.queue.services.clock import in_hand, notes_to_next, open_span, spans_of
from felloe.queue.services.guard import open_for_work
from felloe.queue.services.jobs import (
    change_job,
    close_job,
    events_of,
    find_job,
    handed_back_lately,
    job_numbers,
    job_summary,
    log,
    move_job,
    open_job,
    open_jobs,
    parts_are_there,
    promise,
    quiet_days,
    reopen_job,
    reopened_at,
    to_next,
    wait_for_parts,
)
from felloe.queue.services.work import put_down, take_up

__all__ = [
    "change_job",
    "close_job",
    "events_of",
    "find_job",
    "handed_back_lately",
    "in_hand",
    "job_numbers",
    "job_summary",
    "log",
    "move_job",
    "notes_to_next",
    "open_for_work",
    "open_job",
    "open_jobs",
    "open_span",
    "parts_are_there",
    "promise",
    "put_down",
    "quiet_days",
    "reopen_job",
    "reopened_at",
    "spans_of",
    "take_up",
    "to_next",
    "wait_for_parts",
]
