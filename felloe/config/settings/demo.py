"""The demo shop on loopback, over plain HTTP."""

from felloe.config.settings.base import *  # noqa: F403

SECRET_KEY = SECRET_KEY or "demo only: the demo listens on loopback and holds invented data"
