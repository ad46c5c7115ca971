"""Connections within limits: how many by address and in all, and how long one may say nothing.

A host that opens connections and keeps them costs itself alone: the handles of this process are
never used up, and the loopback keeps its own.
"""

from __future__ import annotations

import asyncio
import socket
import struct
import threading
from collections import Counter
from dataclasses import dataclass, field
from typing import Any

import h11
from uvicorn.protocols.http.h11_impl import H11Protocol

HEADER_S = 10.0
"""A request's head must be here within this, and so must a TLS handshake."""
BODY_PAUSE_S = 30.0
"""So long a body may stall."""
NETWORK_IN_ALL, NETWORK_BY_ADDRESS, LOOPBACK_IN_ALL = 200, 24, 400
RESET = struct.pack("ii", 1, 0)
"""SO_LINGER that closes at once, leaving nothing behind."""


@dataclass
class Limits:
    """How many connections are open, by address and in all, and how many may be."""

    in_all: int
    by_address: int
    _open: Counter[str] = field(default_factory=Counter)
    _sockets: set[socket.socket] = field(default_factory=set)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def let_in(self, connection: socket.socket, address: str) -> bool:
        """Count a connection in; False where there is no room for it."""
        with self._lock:
            if len(self._sockets) >= self.in_all or self._open[address] >= self.by_address:
                return False
            self._open[address] += 1
            self._sockets.add(connection)
            return True

    def let_out(self, connection: socket.socket, address: str) -> None:
        """Count a connection out."""
        with self._lock:
            if connection in self._sockets:
                self._sockets.discard(connection)
                self._open[address] -= 1
                self._open += Counter()  # addresses without any are forgotten

    def close_all(self) -> None:
        """Close what is still open: handshakes and requests nobody finished."""
        with self._lock:
            left = list(self._sockets)
        for connection in left:
            connection.close()

    @property
    def count(self) -> int:
        """How many are open."""
        return len(self._sockets)


class Listener(socket.socket):
    """A listening TCP socket whose connections are kept within limits."""

    limits: Limits

    def accept(self) -> tuple[socket.socket, Any]:
        """The next connection for which there is room; those for which there is none are closed."""
        while True:
            handle, address = self._accept()  # type: ignore[attr-defined]
            made = _Connection(self.family, self.type, self.proto, fileno=handle)
            made.limits, made.address = self.limits, address[0]
            if self.limits.let_in(made, address[0]):
                return made, address
            made.setsockopt(socket.SOL_SOCKET, socket.SO_LINGER, RESET)
            made.close()


class _Connection(socket.socket):
    """A connection that counts itself out when it is closed."""

    limits: Limits
    address: str

    def close(self) -> None:
        """Close it."""
        self.limits.let_out(self, self.address)
        super().close()


def listening(host: str, port: int, limits: Limits, *, backlog: int = 128) -> Listener:
    """A listening socket; OSError where the port cannot be had.

    Named as TCP, so that the event loop turns delayed sending off: each answer in two parts would
    otherwise wait some 40 ms for the other side.
    """
    made = Listener(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    made.limits = limits
    try:
        made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        made.bind((host, port))
        made.listen(backlog)
    except OSError:
        made.close()
        raise
    return made


class PromptHttp(H11Protocol):
    """HTTP that gives up on requests whose head does not come, or whose body stalls."""

    _waiting: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Begin to wait for the first request."""
        super().connection_made(transport)
        self._wait(HEADER_S)

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is waited for any more."""
        self._wait(None)
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Take what came; what is still to come of it has its time."""
        super().data_received(data)
        if self.cycle is None or self.cycle.response_complete:
            if self._waiting is None:
                self._wait(HEADER_S)
        elif self.conn.their_state is h11.SEND_BODY:
            self._wait(BODY_PAUSE_S)
        else:
            self._wait(None)

    def _wait(self, seconds: float | None) -> None:
        if self._waiting is not None:
            self._waiting.cancel()
        closing = self.transport is None or self.transport.is_closing()
        if seconds is None or closing:
            self._waiting = None
        else:
            self._waiting = self.loop.call_later(seconds, self._give_up, seconds)

    def _give_up(self, seconds: float) -> None:
        """Close the connection, unless it is the app that does not read on yet."""
        if self.flow.read_paused:
            self._wait(seconds)
        else:
            self.transport.abort()


class PromptLoop(asyncio.SelectorEventLoop):
    """An event loop whose TLS handshakes must be done in time."""

    async def create_server(self, *given: Any, **named: Any) -> asyncio.Server:
        """As usual, with a bound on the handshake."""
        if named.get("ssl") is not None:
            named.setdefault("ssl_handshake_timeout", HEADER_S)
        return await super().create_server(*given, **named)
