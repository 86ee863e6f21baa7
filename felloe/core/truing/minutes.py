"""How long truing takes, in minutes. Common practice, no source."""

from __future__ import annotations

#: Finding a nipple, turning it past and back; the look after a pass; one nipple where all of a side are turned alike, from hand
#: to hand; squeezing the spokes all round; reading every tension and the dials for the next plan.
NIPPLE_MIN, LOOK_MIN, ALIKE_NIPPLE_MIN, SETTLE_MIN, READ_MIN = 0.4, 3.0, 0.12, 2.0, 3.0
#: Of a lap's nipples such a share is turned otherwise than their side: the mean of 116 laps on virtual wheels.
OTHERWISE_SHARE = 0.13


def minutes_of(moves: int, alike: int = 0) -> float:
    """Minutes for so many turns of a nipple, `alike` of them from hand to hand, and the look after them; none for none."""
    return NIPPLE_MIN * (moves - alike) + ALIKE_NIPPLE_MIN * alike + LOOK_MIN if moves else 0.0


def lap_minutes(nipples: int) -> float:
    """Minutes for a lap over so many nipples, before its plan is made: turned, settled, read again."""
    otherwise = round(OTHERWISE_SHARE * nipples)
    return minutes_of(nipples, nipples - otherwise) + SETTLE_MIN + READ_MIN
