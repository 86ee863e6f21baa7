"""What to read next on a set, and what stands against what was read."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench import answers
from felloe.bench.services.doubts import doubts_about
from felloe.bench.services.readings import current_readings, find_set, traces_of, wheel_of
from felloe.bench.services.states import kept_estimate
from felloe.bench.services.suspects import slips_of
from felloe.core.measuring.sampling import next_readings, quick_look


def advice_for(user: User, set_id: UUID) -> answers.ReadingAdvice:
    """The readings that would tell most, the quick look, doubts about instruments, and the traces of the set."""
    reading_set = find_set(user, set_id)
    state, readings = kept_estimate(reading_set)
    following = next_readings(state, readings, reading_set.job.tolerance)
    return answers.ReadingAdvice(
        next=[answers.NextReading(**asdict(n)) for n in following],
        quick_look=list(quick_look(wheel_of(reading_set))),
        enough=not following,
        doubts=doubts_about(reading_set, current_readings(reading_set)),
        slips=[
            answers.Slip(
                slip.kind, slip.what, slip.mending, [answers.SlipPlace(*at, slip.instead.get(at)) for at in slip.places]
            )
            for slip in slips_of(reading_set)
        ],
        traces=traces_of(reading_set),
    )
