"""The door to the network: which names are answered, who is paired, and what phones may not do."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from functools import partial
from http.cookies import CookieError, SimpleCookie

from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import NotAllowed, NotConfirmed, NotPaired, OxlenError
from oxlen.network.pairing import token_digest
from oxlen.server.local_only import (
    DEVICE,
    STILL,
    App,
    Guarded,
    Receive,
    Scope,
    Send,
    foreign_site,
    single_headers,
)
from oxlen.server.permits import NOT_FROM_A_PHONE, PLATE
from oxlen.server.problems import STATUS, storage_trouble
from oxlen.server.refusing import refuse
from oxlen.store.kit.devices import Device, device_of_token, seen_device
from oxlen.store.library import Library

PAIRING = "/api/pair"
"""What a device that is not paired may ask for, besides the pages themselves."""
SCHEMA = "/api/openapi"
"""The description of the routes, which is none of them."""
SEEN_EVERY = timedelta(minutes=1)
OVER = "Sharing has ended. Start it again on the computer that runs Oxlen."
UNCONFIRMED = "Confirm this phone on the computer that runs Oxlen."
UNPAIRED = "This phone is not paired. Pair it on the computer."


@dataclass(frozen=True)
class Doorplate:
    """What the door answers to: the hosts, as `name:port`, and the scheme."""

    hosts: frozenset[str]
    is_secure: bool

    @property
    def scheme(self) -> str:
        """https or http."""
        return "https" if self.is_secure else "http"

    @property
    def cookie(self) -> str:
        """The token's name; the prefix makes browsers refuse one that was set without TLS."""
        return "__Host-oxlen" if self.is_secure else "oxlen"


class NetworkDoor:
    """Gives paired devices the app, others pages and pairing alone."""

    def __init__(
        self,
        app: App,
        library: Library,
        plate: Doorplate,
        *,
        clock: Callable[[], datetime],
        is_over: Callable[[], bool] = lambda: False,
    ) -> None:
        self._app, self._library, self._plate, self._clock = app, library, plate, clock
        self._is_over = is_over

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            return  # nothing else is served on the network
        guarded = Guarded(send)
        headers = single_headers(scope["headers"])
        refusal = self._foreign(scope["path"], headers, scope["headers"])
        if refusal:
            await refuse(guarded, 403, refusal)
            return
        if self._is_over():
            await refuse(guarded, 403, OVER, code="serving-over")
            return
        try:
            device = await run_in_threadpool(self._device, headers.get(b"cookie", ""))
            check_allowed(device, scope["path"])
        except OxlenError as error:
            await refuse(guarded, STATUS[type(error)], error.message, code=error.code)
            return
        except (sqlite3.OperationalError, OSError) as error:
            status, words = storage_trouble(error)
            await refuse(guarded, status, words, code="storage")
            return
        still = partial(self._is_let_in, headers.get(b"cookie", ""))
        await self._app({**scope, DEVICE: device, PLATE: self._plate, STILL: still}, receive, send)

    def _is_let_in(self, cookie: str) -> bool:
        """Whether the phone of a cookie is paired now: what stays open is asked again."""
        if self._is_over():
            return False
        try:
            device = self._device(cookie)
        except (sqlite3.OperationalError, OSError):
            return True  # trouble with the disk puts nobody out
        return device is not None and device.is_confirmed

    def _foreign(
        self, path: str, headers: dict[bytes, str], raw: Iterable[tuple[bytes, bytes]]
    ) -> str | None:
        host = headers.get(b"host", "").casefold()
        if host not in self._plate.hosts:
            return "Oxlen does not use that name."
        return foreign_site(path, headers, raw, own=f"{self._plate.scheme}://{host}")

    def _device(self, cookie: str) -> Device | None:
        token = token_in(cookie, self._plate.cookie)
        if token is None:
            return None
        now = self._clock().astimezone(UTC)
        stamp = now.isoformat(timespec="seconds")
        with self._library.reader() as connection:
            device = device_of_token(connection, token_digest(token), stamp)
        if device is not None and now - datetime.fromisoformat(device.last_seen_at) > SEEN_EVERY:
            # Only a note: a disk that is full or read-only shuts no phone out.
            with suppress(sqlite3.OperationalError, OSError), self._library.writer() as connection:
                seen_device(connection, device.id, stamp)
        return device


def check_allowed(device: Device | None, path: str) -> None:
    """Whether a request may pass: NotPaired or NotAllowed says in a sentence why not.

    What a paired phone may do is declared on each route (`permits`), and asked once it is matched.
    """
    if not path.startswith("/api"):
        return
    if path == PAIRING:
        return
    if device is None:
        raise NotPaired(UNPAIRED)
    if not device.is_confirmed:
        raise NotConfirmed(UNCONFIRMED)
    # A route's pattern accepts a line end after it; nothing of Oxlen's has one in its address.
    if path.startswith(SCHEMA) or not path.isprintable():
        raise NotAllowed(NOT_FROM_A_PHONE)


def token_in(cookie: str, name: str) -> str | None:
    """The token among the cookies a browser sent; None where there is none, or two of it."""
    if cookie.count(f"{name}=") != 1:
        return None
    try:
        found = SimpleCookie(cookie).get(name)
    except CookieError:
        return None
    return found.value if found is not None and len(found.value) <= 100 else None
