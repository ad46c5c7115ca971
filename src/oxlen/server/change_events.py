"""What has changed, sent at once to every page that is open: server-sent events."""

from __future__ import annotations

import asyncio
import json
import re
import threading
from collections.abc import AsyncIterator, Callable
from contextlib import suppress
from dataclasses import dataclass, field

from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import TooMany
from oxlen.server.local_only import App, Message, Receive, Scope, Send

MOST_LISTENERS = 48
MOST_OF_A_PHONE, MOST_OF_PHONES = 6, 36
"""Of phones, so that the pages of the computer itself always hear."""
MOST_WAITING = 200
"""News kept for a page that does not listen; it then hears that all may have changed."""
BEAT_S = 15.0
LOOK_S = 0.5
ALL = "all"
LOOK = ""
"""A topic that is sent to nobody: each listener looks whether it is still paired."""
CHANGES = {"POST", "PUT", "PATCH", "DELETE"}
CHANGES_NOTHING = re.compile(
    r"/api/(compute|ladder|live|pair|network|kit/(phone-from|facts)|situations/answers)\b.*"
)
PAGE_HEADER, PAGE = b"x-oxlen-page", re.compile(r"[A-Za-z0-9-]{1,40}")


@dataclass(frozen=True)
class Item:
    """What changed, as the path below /api, and the page that changed it ("" unknown)."""

    topic: str
    page: str

    def as_event(self) -> str:
        """As it goes over the wire."""
        return f"event: changed\ndata: {json.dumps({'topic': self.topic, 'page': self.page})}\n\n"


@dataclass
class _Listener:
    """A page that listens, and the event loop it is served by: there may be two of those."""

    loop: asyncio.AbstractEventLoop
    owner: int | None
    queue: asyncio.Queue[Item] = field(default_factory=lambda: asyncio.Queue(MOST_WAITING))

    def put(self, item: Item) -> None:
        """Hand on an item; to a page that has fallen behind, that anything may have changed."""
        try:
            self.queue.put_nowait(item)
        except asyncio.QueueFull:
            while not self.queue.empty():
                self.queue.get_nowait()
            self.queue.put_nowait(Item(ALL, ""))


class ChangeEvents:
    """Hands news to whoever listens, whichever server they came by."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._listeners: list[_Listener] = []
        self._closed = False

    def tell(self, item: Item) -> None:
        """Tell every page; from any thread."""
        with self._lock:
            for listener in self._listeners:
                with suppress(RuntimeError):  # its server has ended
                    listener.loop.call_soon_threadsafe(listener.put, item)

    def close(self) -> None:
        """End every page's listening: the server is about to stop."""
        self._closed = True

    def look_again(self) -> None:
        """Have every phone's listening end that is no longer paired."""
        self.tell(Item(LOOK, ""))

    def listen(
        self, owner: int | None = None, is_let_in: Callable[[], bool] = lambda: True
    ) -> AsyncIterator[str]:
        """Events for one page, from now on until it goes. TooMany when too many listen.

        `owner` is the phone whose page it is, None on the computer itself; `is_let_in` is asked
        before every event: a phone that was put out hears nothing more.
        """
        listener = _Listener(asyncio.get_running_loop(), owner)
        with self._lock:
            if self._is_full(owner):
                raise TooMany("Too many pages of Oxlen are open. Close some.")
            self._listeners.append(listener)
        return self._events(listener, is_let_in)

    def _is_full(self, owner: int | None) -> bool:
        owners = [listener.owner for listener in self._listeners]
        if owner is None:
            return owners.count(None) >= MOST_LISTENERS
        of_phones = len(owners) - owners.count(None)
        return owners.count(owner) >= MOST_OF_A_PHONE or of_phones >= MOST_OF_PHONES

    async def _events(
        self, listener: _Listener, is_let_in: Callable[[], bool]
    ) -> AsyncIterator[str]:
        silent_s = 0.0
        try:
            yield "retry: 1000\n\n"
            while not self._closed:
                item: Item | None
                try:
                    item = await asyncio.wait_for(listener.queue.get(), LOOK_S)
                except TimeoutError:
                    silent_s += LOOK_S
                    if silent_s < BEAT_S:
                        continue
                    item = None  # keeps the way open, and finds out who has gone
                silent_s = 0.0
                if listener.owner is not None and not await run_in_threadpool(is_let_in):
                    return
                if item is None:
                    yield ": still here\n\n"
                elif item.topic != LOOK:
                    yield item.as_event()
        finally:
            with self._lock:
                self._listeners.remove(listener)


class Announcing:
    """Tells of every change that was answered well."""

    def __init__(self, app: App, events: ChangeEvents) -> None:
        self._app, self._events = app, events

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or not _may_change(scope):
            await self._app(scope, receive, send)
            return
        done = False

        async def sent(message: Message) -> None:
            nonlocal done
            if message["type"] == "http.response.start":
                done = message["status"] < 400
            await send(message)
            if done and message["type"] == "http.response.body" and not message.get("more_body"):
                self._events.tell(Item(scope["path"].removeprefix("/api/"), _page(scope)))

        await self._app(scope, receive, sent)


def _may_change(scope: Scope) -> bool:
    path = scope["path"]
    if scope["method"] not in CHANGES or not path.startswith("/api/"):
        return False
    return CHANGES_NOTHING.fullmatch(path) is None


def _page(scope: Scope) -> str:
    stated = next((value for name, value in scope["headers"] if name == PAGE_HEADER), b"")
    text = stated.decode("latin-1")
    return text if PAGE.fullmatch(text) else ""
