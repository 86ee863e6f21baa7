"""“Is my wheel ready?”, answered in one line for who is on the telephone."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from felloe.core.endings import ENDS, REPAIRED
from felloe.core.said import Said, say
from felloe.core.stages import STAGES

READY, NOT_YET, LATE, WAITS, GONE = "ready", "not_yet", "late", "waits", "gone"


@dataclass(frozen=True)
class Answer:
    """`key`: ready, not_yet, late, waits or gone, and the words for it."""

    key: str
    said: Said


def is_it_ready(
    stage: str, ready_at: datetime | None, promised_at: datetime | None, waiting_on: str, ended_as: str, now: datetime
) -> Answer:
    """What to say of a job at `stage`; `ended_as` empty while it is open."""
    if ended_as:
        if ended_as == REPAIRED:
            return Answer(GONE, say("Handed back."))
        return Answer(GONE, say("Ended: {end}.", end=ENDS[ended_as].lower()))
    if ready_at is not None:
        return Answer(READY, say("Ready to be fetched."))
    if waiting_on == "customer":
        return Answer(WAITS, say("Not yet: we wait for the customer's word."))
    if waiting_on == "parts":
        return Answer(WAITS, say("Not yet: parts are on their way."))
    if waiting_on == "owner":
        return Answer(WAITS, say("Not yet: the owner has to decide."))
    name = next((s.name for s in STAGES if s.key == stage), stage)
    if promised_at is not None and promised_at < now:
        return Answer(LATE, say("Not yet, and its promise is past. It stands at “{stage}”.", stage=name))
    return Answer(NOT_YET, say("Not yet: it stands at “{stage}”.", stage=name))
