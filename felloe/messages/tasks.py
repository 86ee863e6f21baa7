"""What the worker carries out."""

from __future__ import annotations

from uuid import UUID

from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app

from felloe.messages.services import outbox

#: Ten tries over some 17 hours: 1, 2, 4 ... minutes, as long as the other side may be down.
PATIENCE = RetryStrategy(max_attempts=outbox.MOST_TRIES, wait=0, exponential_wait=2, linear_wait=60)


@app.task(queue="mail", retry=PATIENCE)
def deliver(message_id: str) -> None:
    outbox.deliver(UUID(message_id))


@app.periodic(cron="*/2 * * * *")
@app.task(queue="mail", queueing_lock="take_up_again", pass_context=True)
async def take_up_again(context: JobContext, timestamp: int) -> None:
    """What a worker had in hand when it was killed is begun again by another; a letter on its way then becomes unsure."""
    for job in await app.job_manager.get_stalled_jobs():
        await app.job_manager.retry_job(job)
