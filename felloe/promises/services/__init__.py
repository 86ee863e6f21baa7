"""Estimates, promises and the rail."""

from felloe.promises.services.giving import give, look, offers_for_job, offers_for_new, open_job
from felloe.promises.services.rail import Shared, own_and_shared, rail, whole
from felloe.promises.services.working import put_down, stage_left, take_up, told, work_of

__all__ = [
    "Shared",
    "give",
    "look",
    "offers_for_job",
    "offers_for_new",
    "open_job",
    "own_and_shared",
    "put_down",
    "rail",
    "stage_left",
    "take_up",
    "told",
    "whole",
    "work_of",
]
