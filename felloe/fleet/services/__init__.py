"""Lots: opened from a list of numbers, sampled, agreed together, returned in parts."""

from felloe.fleet.services.deeds import agree, give_back, set_exception
from felloe.fleet.services.lots import labels_of, lot_of, lots_of
from felloe.fleet.services.opening import open_lot, preview

__all__ = ["agree", "give_back", "labels_of", "lot_of", "lots_of", "open_lot", "preview", "set_exception"]
