"""Backup and restore of a whole installation, and how old the last good backup is."""

from felloe.upkeep.services.backup import back_up, newest_backups
from felloe.upkeep.services.restore import restore

__all__ = ["back_up", "newest_backups", "restore"]
