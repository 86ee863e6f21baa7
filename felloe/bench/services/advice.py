"""What to read next on a set, and what stands against what was read."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench import answers
from felloe.bench.services.doubts import doubts_about
from felloe.bench.services.looked import Look
from felloe.bench.services.readings import find_set
from felloe.bench.services.states import kept_estimate
from felloe.bench.services.suspects import slips_of, slips_of_look
from felloe.core.measuring.sampling import next_readings, quick_look
from felloe.core.measuring.slips import Slip
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import Readings


def advice_for(user: User, set_id: UUID) -> answers.ReadingAdvice:
    """The readings that would tell most, the quick look, doubts about instruments, and the traces of the set."""
    reading_set = find_set(user, set_id)
    state, readings = kept_estimate(reading_set)
    return _advice(Look(reading_set), state, readings, slips_of(reading_set))


def advice_of_look(look: Look) -> answers.ReadingAdvice:
    """The same from a look at it."""
    return _advice(look, look.state, look.own, slips_of_look(look))


def _advice(look: Look, state: WheelState, readings: Readings, found: tuple[Slip, ...]) -> answers.ReadingAdvice:
    following = next_readings(state, readings, look.reading_set.job.tolerance)
    return answers.ReadingAdvice(
        next=[answers.NextReading(**asdict(n)) for n in following],
        quick_look=list(quick_look(look.wheel)),
        enough=not following,
        doubts=doubts_about(look),
        slips=[
            answers.Slip(
                slip.kind, slip.what, slip.mending, [answers.SlipPlace(*at, slip.instead.get(at)) for at in slip.places]
            )
            for slip in found
        ],
        traces=look.traces,
    )
