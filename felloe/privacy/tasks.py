"""What the worker does each night."""

from __future__ import annotations

from django.utils import timezone
from procrastinate.contrib.django import app

from felloe.accounts.services.sessions import forget_over
from felloe.accounts.services.sign_in_tries import forget_old
from felloe.privacy.services import retain


@app.periodic(cron="17 3 * * *")
@app.task(queue="night", queueing_lock="retain")
def retain_nightly(timestamp: int) -> None:
    """What was kept long enough goes."""
    retain(timezone.now())
    forget_old(timezone.now())
    forget_over(timezone.now())
