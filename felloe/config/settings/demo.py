"""The demo shop on loopback, over plain HTTP."""

from felloe.config.settings.base import *  # noqa: F403

SECRET_KEY = SECRET_KEY or "demo only: the demo listens on loopback and holds invented data"

FELLOE_DEMO = True
#: A worker runs beside the demo and plays its queue.
FELLOE_PLAYS_ASIDE = True

#: The demo sends nothing: what would have gone out can be read on its page.
EMAIL_BACKEND = "felloe.messages.caught.EmailBackend"
LOGGING["loggers"]["felloe"] = {"level": "WARNING"}
#: The stand-ins for instruments are on this machine.
FELLOE_INSTRUMENT_NETWORKS = ["127.0.0.0/8"]
