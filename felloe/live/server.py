"""The live process: server-sent events over one path, for whoever is signed in. Run by uvicorn, apart from the workers."""

from __future__ import annotations

import asyncio
import contextlib
from collections.abc import AsyncIterator
from urllib.parse import urlsplit

import django
from asgiref.sync import sync_to_async
from starlette.applications import Starlette
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

django.setup()

from django.conf import settings  # noqa: E402
from django.db import DEFAULT_DB_ALIAS, close_old_connections, connections  # noqa: E402
from sse_starlette import EventSourceResponse, ServerSentEvent  # noqa: E402

from felloe.accounts.services.signed_in import person_of  # noqa: E402
from felloe.live.hub import Hub, Stream, as_text  # noqa: E402
from felloe.places import here  # noqa: E402
from felloe.places.asked import COOKIE  # noqa: E402

PING_S = 15
LOOK_AGAIN_S = 60
MOST_STREAMS = 2000
MOST_OF_ONE = 40


def dsn(place: str = DEFAULT_DB_ALIAS) -> str:
    from psycopg.conninfo import make_conninfo

    given = connections[place].get_connection_params()
    return make_conninfo(**{k: given[k] for k in ("host", "port", "dbname", "user", "password") if given.get(k)})


@sync_to_async(thread_sensitive=True)
def whose(session_key: str, place: str) -> tuple[str, str, str] | None:
    """Shop, person and name of a session; None where nobody is signed in."""
    close_old_connections()
    with here.at(place):
        user = person_of(session_key)
    return (str(user.shop_id), str(user.pk), user.display_name) if user else None


def same_house(request: Request) -> bool:
    """Whether the page that asks came from this host, whatever the port."""
    origin = request.headers.get("origin")
    return origin is None or urlsplit(origin).hostname == request.url.hostname


async def live(request: Request) -> Response:
    place = request.cookies.get(COOKIE) or DEFAULT_DB_ALIAS
    hub: Hub | None = request.app.state.hubs.get(place)
    if hub is None or not same_house(request):
        return Response(status_code=403)
    headers = {"X-Accel-Buffering": "no", "Cache-Control": "no-store"}
    origin = request.headers.get("origin")
    if origin:
        headers |= {"Access-Control-Allow-Origin": origin, "Access-Control-Allow-Credentials": "true", "Vary": "Origin"}
    key = request.cookies.get(settings.SESSION_COOKIE_NAME, "")
    found = await whose(key, place) if key else None
    if found is None:
        return Response(status_code=403, headers=headers)
    shop, person, name = found
    if (
        not hub.listening
        or hub.count >= MOST_STREAMS
        or sum(s.person == person for s in hub.streams.get(shop, ())) >= MOST_OF_ONE
    ):
        return Response(status_code=503, headers={**headers, "Retry-After": "30"})
    asked = request.query_params
    stream = Stream(shop, person, name, asked.get("job", "")[:40], asked.get("at", "")[:80], asked.get("tab", "")[:40])
    moment = request.headers.get("last-event-id") or asked.get("since", "")
    return EventSourceResponse(told_to(hub, stream, moment, key, place), ping=PING_S, headers=headers)


async def told_to(hub: Hub, stream: Stream, moment: str, key: str, place: str) -> AsyncIterator[ServerSentEvent]:
    watch = asyncio.create_task(end_with_session(stream, key, place))
    try:
        await hub.open(stream, moment)
        while (told := await stream.queue.get()) is not None:
            yield ServerSentEvent(as_text(told), event=told.kind, id=told.moment or None, retry=1000)
    finally:
        watch.cancel()
        hub.close(stream)


async def end_with_session(stream: Stream, key: str, place: str) -> None:
    """A session that is over, or somebody else's now, hears no more."""
    while True:
        await asyncio.sleep(LOOK_AGAIN_S)
        found = await whose(key, place)
        if found is None or found[:2] != (stream.shop, stream.person):
            return stream.end()


async def health(request: Request) -> Response:
    """Whether any place is heard: one whose database is away is no reason to send the others' tablets elsewhere."""
    hubs: list[Hub] = list(request.app.state.hubs.values())
    listening = any(hub.listening for hub in hubs)
    said = {"listening": listening, "streams": sum(hub.count for hub in hubs)}
    return JSONResponse(said, status_code=200 if listening else 503)


@contextlib.asynccontextmanager
async def lifespan(app: Starlette) -> AsyncIterator[None]:
    app.state.hubs = {place: Hub(dsn(place)) for place in here.places()}
    tasks = [asyncio.create_task(hub.run()) for hub in app.state.hubs.values()]
    yield
    for task in tasks:
        task.cancel()
    await asyncio.gather(*tasks, return_exceptions=True)


app = Starlette(routes=[Route("/live", live), Route("/live/health", health)], lifespan=lifespan)
