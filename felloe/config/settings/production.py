"""A real shop behind TLS. FELLOE_SECRET_KEY and FELLOE_HOSTS must be set."""

import os

from felloe.config.settings.base import *  # noqa: F403
from felloe.config.settings.base import SECRET_KEY

if not SECRET_KEY:
    raise RuntimeError("set FELLOE_SECRET_KEY to a long random text")
ALLOWED_HOSTS = [host for host in os.environ.get("FELLOE_HOSTS", "").split(",") if host]
SECURE_SSL_REDIRECT = True
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SECURE_HSTS_PRELOAD = True
SESSION_COOKIE_SECURE = True
CSRF_COOKIE_SECURE = True
