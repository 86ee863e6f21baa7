"""A real shop behind TLS. FELLOE_SECRET_KEY and FELLOE_HOSTS must be set."""

import os

from felloe.config.settings.base import *  # noqa: F403
from felloe.config.settings.base import SECRET_KEY

if not SECRET_KEY:
    raise RuntimeError("set FELLOE_SECRET_KEY to a long random text")
#: Besides its own names it is asked by itself, on loopback.
ALLOWED_HOSTS = [*(host for host in os.environ.get("FELLOE_HOSTS", "").split(",") if host), "127.0.0.1", "localhost"]
SECURE_SSL_REDIRECT = True
#: Asked on loopback by proxy, systemd and `bin/felloe status`, without TLS.
SECURE_REDIRECT_EXEMPT = [r"^health$", r"^ready$", r"^metrics$"]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
#: By choice: a browser that has heard it refuses plain HTTP for as long, also where the shop's certificate was lost.
SECURE_HSTS_SECONDS = int(os.environ.get("FELLOE_HSTS_SECONDS", "") or 0)
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_SECONDS > 0 and os.environ.get("FELLOE_HSTS_ALL", "") == "yes"
SECURE_HSTS_PRELOAD = SECURE_HSTS_INCLUDE_SUBDOMAINS
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
#: A worker runs beside the servers (`bin/felloe start`) and plays the queue.
FELLOE_PLAYS_ASIDE = True
