"""The stand-in instrument, served on a port of its own for a test."""

from __future__ import annotations

import asyncio
import threading

from felloe.cli.instrument import StandIn


class ServedStandIn:
    """Serves from a thread of its own until it is stopped."""

    def __init__(self, instrument: StandIn) -> None:
        self.instrument = instrument
        self.loop = asyncio.new_event_loop()
        ready = threading.Event()

        def run() -> None:
            asyncio.set_event_loop(self.loop)
            self.server = self.loop.run_until_complete(asyncio.start_server(instrument.serve, "127.0.0.1", 0))
            self.address = "127.0.0.1:" + str(self.server.sockets[0].getsockname()[1])
            ready.set()
            self.loop.run_forever()

        self.thread = threading.Thread(target=run, daemon=True)
        self.thread.start()
        ready.wait(10)

    def stop(self) -> None:
        async def close() -> None:
            self.server.close()
            for task in asyncio.all_tasks():
                if task is not asyncio.current_task():
                    task.cancel()

        asyncio.run_coroutine_threadsafe(close(), self.loop).result(5)
        self.loop.call_soon_threadsafe(self.loop.stop)
        self.thread.join(5)
