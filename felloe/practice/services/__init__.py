"""Practice wheels: taken, worked, judged; the ladder and what was set."""

from felloe.practice.services.deeds import WHATS, act
from felloe.practice.services.ladder import ladder_of, learners_of, lesson_answer, set_task, take_back
from felloe.practice.services.runs import begin, run_answer, state_answer
from felloe.practice.services.sounds import pluck

__all__ = [
    "WHATS",
    "act",
    "begin",
    "ladder_of",
    "learners_of",
    "lesson_answer",
    "pluck",
    "run_answer",
    "set_task",
    "state_answer",
    "take_back",
]
