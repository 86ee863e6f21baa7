"""What the worker carries out."""

from __future__ import annotations

from uuid import UUID

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from felloe.messages.services import outbox

#: Ten tries over some 17 hours: 1, 2, 4 ... minutes, as long as the other side may be down.
PATIENCE = RetryStrategy(max_attempts=outbox.MOST_TRIES, wait=0, exponential_wait=2, linear_wait=60)


@app.task(queue="mail", retry=PATIENCE)
def deliver(message_id: str) -> None:
    outbox.deliver(UUID(message_id))
