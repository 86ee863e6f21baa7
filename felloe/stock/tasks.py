"""What the worker does for the bins each night."""

from __future__ import annotations

import logging

from procrastinate.contrib.django import app

from felloe.stock.services.ledger import differences

log = logging.getLogger("felloe.stock")


@app.periodic(cron="41 3 * * *")
@app.task(queue="night", queueing_lock="ledger")
def go_through_the_ledger(timestamp: int) -> None:
    """Says in the log where what is kept of the ledger differs from it: nothing that Felloe does can make it so."""
    for wrong in differences():
        log.error("part %s: kept %s, the ledger leaves %s", wrong.part, wrong.kept, wrong.found)
