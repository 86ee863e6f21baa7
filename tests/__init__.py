"""Felloe's tests. Nothing here fails by the clock: hypothesis does not time what it draws either."""

from hypothesis import HealthCheck, settings

settings.register_profile("felloe", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("felloe")
