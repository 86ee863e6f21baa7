"""What is wrong with a wheel, and what was found on it."""

from felloe.condition.services.marks import (
    add_break,
    add_frame_check,
    add_mark,
    breaks_of,
    broken_at,
    broken_since,
    broken_spokes,
    core_break,
    core_mark,
    end_break,
    end_mark,
    frame_check_of,
    judged_frame,
    marks_count,
    standing_marks,
    untouchable,
)

__all__ = [
    "add_break",
    "add_frame_check",
    "add_mark",
    "breaks_of",
    "broken_at",
    "broken_since",
    "broken_spokes",
    "core_break",
    "core_mark",
    "end_break",
    "end_mark",
    "frame_check_of",
    "judged_frame",
    "marks_count",
    "standing_marks",
    "untouchable",
]
