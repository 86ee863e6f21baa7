"""Tests: the same application, quicker password hashes and no connection kept between requests."""

from felloe.config.settings.base import *  # noqa: F403

SECRET_KEY = "tests only"
TEST_RUNNER = "tests.runner.Runner"
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
DATABASES["default"]["CONN_MAX_AGE"] = 0
# Refusals are what many tests are about: do not print each of them.
LOGGING["loggers"] = {
    "felloe": {"level": "WARNING"},
    "django.request": {"level": "ERROR"},
    "axes": {"level": "CRITICAL"},
    "django.security": {"level": "CRITICAL"},
}
FELLOE_DEMO = True
FELLOE_PSEUDO_LANGUAGE = True
#: The stand-ins for instruments are on this machine.
FELLOE_INSTRUMENT_NETWORKS = ["127.0.0.0/8"]
