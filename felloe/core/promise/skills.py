"""What not everybody at the bench does, and which jobs need it. Common practice, no source."""

from __future__ import annotations

from felloe.core.promise.work import JobFacts
from felloe.core.said import say

SKILLS: dict[str, str] = {
    "truing": say("Truing to sound"),
    "fine": say("Truing to fine and race"),
    "lacing": say("Lacing and building"),
    "hubs": say("Hubs"),
}
#: Where a person's skills were never said: everything but the finest work, and truing for who learns.
USUAL_SKILLS, LEARNERS_SKILLS = frozenset({"truing", "lacing", "hubs"}), frozenset({"truing"})


def needs_of(facts: JobFacts) -> frozenset[str]:
    """Skills that a job needs from here on."""
    needs = {"fine" if facts.tier.kin in ("fine", "race") else "truing"}
    agreed = set(facts.agreed or ())
    if agreed & {"rebuild", "rebuild_side", "new_rim"}:
        needs.add("lacing")
    if "hub_overhaul" in agreed:
        needs.add("hubs")
    return frozenset(needs)
