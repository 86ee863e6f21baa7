"""What was changed of a wheel, a part, or the shop's settings, told in words."""

from felloe.trail.services.told import TOPICS, changes_of

__all__ = ["TOPICS", "changes_of"]
