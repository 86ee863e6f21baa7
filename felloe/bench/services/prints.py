"""What an estimate rests on, as numbers and times that change whenever it does: one question instead of the rows themselves."""

from __future__ import annotations

from felloe.bench.models import ReadingSet
from felloe.places.here import database

_LAST = 32_767  # as high as a set's number goes


def fingerprint(reading_set: ReadingSet) -> tuple[object, ...]:
    """All that the estimate of a set rests on: of every set of its job, and its wheel."""
    return _asked(reading_set, _LAST)


def print_of_earlier(reading_set: ReadingSet) -> tuple[object, ...]:
    """All that the sets before this one and the turns between them rest on; it stays while this one is read."""
    return _asked(reading_set, reading_set.number - 1)


def _asked(reading_set: ReadingSet, number: int) -> tuple[object, ...]:
    # Rows are only ever added to all of these, or counted by what they say.
    with database().cursor() as cursor:
        cursor.execute(
            """
            WITH sets AS (SELECT id FROM bench_readingset WHERE job_id = %(job)s AND number <= %(number)s)
            SELECT (SELECT (max(r.created_at), count(r.id))::text FROM bench_reading r JOIN sets ON sets.id = r.reading_set_id),
                   (SELECT (count(t.id), count(w.id))::text FROM bench_dialtrace t JOIN sets ON sets.id = t.reading_set_id
                      LEFT JOIN bench_tracewithdrawal w ON w.trace_id = t.id),
                   (SELECT (count(m.id), count(m.id) FILTER (WHERE m.state <> 'todo'), max(m.done_at), sum(m.done_turns))::text
                      FROM bench_planmove m JOIN bench_plan p ON p.id = m.plan_id JOIN sets ON sets.id = p.reading_set_id),
                   (SELECT count(*) FROM queue_jobevent e WHERE e.job_id = %(job)s),
                   (SELECT count(*) FROM bench_learntrim l JOIN bench_readingset s ON s.id = l.reading_set_id
                      WHERE s.job_id = %(job)s),
                   (SELECT (count(c.id), count(n.id))::text FROM condition_conditionmark c
                      LEFT JOIN condition_ending n ON n.mark_id = c.id WHERE c.job_id = %(job)s)
            """,
            {"job": reading_set.job_id, "number": number},
        )
        return (*cursor.fetchone(), reading_set.job.wheel.version)
