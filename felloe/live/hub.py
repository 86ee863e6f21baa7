"""Who listens, and what they are told: one connection to PostgreSQL for all, and a short queue for each."""

from __future__ import annotations

import asyncio
import contextlib
import json
import logging
from collections import defaultdict
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

from psycopg import AsyncConnection, OperationalError

from felloe.live import events

log = logging.getLogger("felloe.live")
#: Events of one breath go out together.
BREATH_S = 0.03
PURGE_EVERY_S = 600
#: Who does not take what is sent is let go, and comes back with the last moment.
MOST_UNREAD = 256
AGAIN_AFTER_S = 1.0


@dataclass(frozen=True)
class Told:
    """One message to a page: what it is, the moment after it, its data."""

    kind: str
    data: Any
    moment: str = ""


@dataclass(eq=False)
class Stream:
    """One page that listens: whose, and what it has open."""

    shop: str
    person: str
    name: str
    job: str = ""
    at: str = ""
    tab: str = ""
    queue: asyncio.Queue[Told | None] = field(default_factory=lambda: asyncio.Queue(MOST_UNREAD))

    def tell(self, told: Told) -> None:
        try:
            self.queue.put_nowait(told)
        except asyncio.QueueFull:
            self.end()

    def end(self) -> None:
        """Make room for the last word, and say it."""
        with contextlib.suppress(asyncio.QueueEmpty):
            while True:
                self.queue.get_nowait()
        self.queue.put_nowait(None)


class Hub:
    """The streams of this process. `open` first puts a page among the listeners, then tells it what it has missed."""

    def __init__(self, dsn: str) -> None:
        self.dsn = dsn
        self.streams: dict[str, set[Stream]] = defaultdict(set)
        self.moment = ""
        self._db: AsyncConnection[Any] | None = None
        self._reading = asyncio.Lock()

    @property
    def count(self) -> int:
        return sum(len(streams) for streams in self.streams.values())

    @property
    def listening(self) -> bool:
        return self._db is not None and not self._db.closed

    async def run(self) -> None:
        """Listen for ever; a lost connection is made anew, and what was missed meanwhile is told."""
        while True:
            try:
                await self._listen()
            except OperationalError as error:
                log.warning("database lost: %s", type(error).__name__)
            await asyncio.sleep(AGAIN_AFTER_S)

    async def _listen(self) -> None:
        purged = asyncio.get_running_loop().time()
        async with (
            await AsyncConnection.connect(self.dsn, autocommit=True) as ear,
            await AsyncConnection.connect(self.dsn, autocommit=True) as self._db,
        ):
            await ear.execute("LISTEN felloe_live")
            await events.purge(self._db)
            await self._catch_up()
            while True:
                heard = [note async for note in ear.notifies(timeout=15, stop_after=1)]
                if heard:
                    await asyncio.sleep(BREATH_S)
                await self._catch_up()
                if asyncio.get_running_loop().time() - purged > PURGE_EVERY_S:
                    purged = asyncio.get_running_loop().time()
                    await events.purge(self._db)

    async def _catch_up(self) -> None:
        assert self._db is not None
        async with self._reading:
            found = (
                await events.since(self._db, self.moment)
                if self.moment
                else events.Since(await events.now(self._db), [], anew=True)
            )
            self.moment = found.moment
        by_shop: dict[str, list[dict[str, Any]]] = defaultdict(list)
        for event in found.events:
            by_shop[str(event["shop_id"])].append(event)
        for shop, streams in list(self.streams.items()):
            if found.anew:
                told = Told("anew", {}, found.moment)
            elif by_shop[shop]:
                told = Told("changed", [said(event) for event in by_shop[shop]], found.moment)
            else:
                continue
            for stream in list(streams):
                stream.tell(told)

    async def open(self, stream: Stream, moment: str) -> None:
        self.streams[stream.shop].add(stream)
        # A page that leaves in the middle cancels this; a query that is cancelled takes the connection of all with it.
        found = await asyncio.shield(asyncio.ensure_future(self._since(moment, stream.shop)))
        if found.anew:
            stream.tell(Told("anew", {}, found.moment))
        else:
            stream.tell(Told("changed", [said(event) for event in found.events], found.moment))
        self._say_who_is_here(stream)

    async def _since(self, moment: str, shop: str) -> events.Since:
        assert self._db is not None
        async with self._reading:
            return await events.since(self._db, moment, shop)

    def close(self, stream: Stream) -> None:
        streams = self.streams[stream.shop]
        streams.discard(stream)
        if not streams:
            del self.streams[stream.shop]
        self._say_who_is_here(stream)

    def _say_who_is_here(self, about: Stream) -> None:
        """Tell those at the same wheel who else is at it, each without itself."""
        if not about.job:
            return
        here = [s for s in self.streams.get(about.shop, ()) if s.job == about.job]
        for stream in here:
            others = {(s.person, s.name, s.at) for s in here if s is not stream and s.tab != stream.tab}
            stream.tell(Told("here", [{"person": person, "name": name, "at": at} for person, name, at in sorted(others)]))


def said(event: dict[str, Any]) -> dict[str, Any]:
    """An event as it goes to a page."""
    kept = {k: event[k] for k in ("id", "topic", "job", "reading_set", "plan", "spoke", "by", "tab") if event[k]}
    return {k: str(v) if isinstance(v, UUID) else v for k, v in kept.items()} | {"at": event["at"].isoformat()}


def as_text(told: Told) -> str:
    return json.dumps(told.data, separators=(",", ":"))
