"""Serving the app on the network for a stated time, beside the loopback that is always served."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import uvicorn

from oxlen.core.errors import BadInput
from oxlen.network.addresses import is_loop, private_addresses
from oxlen.network.certificates import Authority, authority, server_certificate
from oxlen.network.connections import (
    NETWORK_BY_ADDRESS,
    NETWORK_IN_ALL,
    Limits,
    Listener,
    PromptHttp,
    PromptLoop,
    listening,
)
from oxlen.network.deadline import Deadline, Seconds, seconds_awake_or_asleep

USUAL_PORT = 8711
LONGEST_MIN = 24 * 60
STARTS_WITHIN_S = 10.0
LOOK_EVERY_S = 5.0
NO_NETWORK = (
    "This computer is not on a private network. Join the phone's Wi-Fi or use its hotspot, and "
    "try again."
)


@dataclass(frozen=True)
class Wanted:
    """How long to serve, whether by https, and the names to answer to besides addresses.

    With `address` on that one alone: of several networks, or on the loop for a cable.
    """

    minutes: int
    is_secure: bool
    names: tuple[str, ...] = ()
    port: int = USUAL_PORT
    address: str | None = None


@dataclass(frozen=True)
class Served:
    """What is served: addresses and names, the port, until when, and the authority where secure."""

    addresses: tuple[str, ...]
    names: tuple[str, ...]
    port: int
    is_secure: bool
    deadline: Deadline
    fingerprint: str | None

    @property
    def until(self) -> datetime:
        """Until when by the clock on the wall."""
        return self.deadline.until

    @property
    def hosts(self) -> frozenset[str]:
        """What a browser may say as its Host."""
        return frozenset(f"{address}:{self.port}" for address in (*self.addresses, *self.names))

    @property
    def urls(self) -> tuple[str, ...]:
        """Where phones find it, addresses first."""
        scheme = "https" if self.is_secure else "http"
        return tuple(
            f"{scheme}://{address}:{self.port}" for address in (*self.addresses, *self.names)
        )


def chosen_addresses(there: Sequence[str], only: str | None) -> tuple[str, ...]:
    """Addresses to serve on; BadInput where there is none, or the one asked for is not there."""
    if only is not None:
        if only not in there and not is_loop(only):
            raise BadInput(f"{only} is not a private address of this computer.", "address")
        return (only,)
    if not there:
        raise BadInput(NO_NETWORK, "network")
    return tuple(there)


class NetworkServing:
    """A second server of the same app on private addresses; it ends by itself when its time is up.

    `door` makes the app that is served there out of what is served; `folder` keeps certificates.
    """

    def __init__(
        self,
        folder: Path,
        door: Callable[[Served], Any],
        *,
        clock: Callable[[], datetime],
        seconds: Seconds = seconds_awake_or_asleep,
        addresses: Callable[[], Sequence[str]] = private_addresses,
    ) -> None:
        self._folder, self._door, self._clock = folder, door, clock
        self._seconds, self._addresses = seconds, addresses
        self.limits = Limits(NETWORK_IN_ALL, NETWORK_BY_ADDRESS)
        self._lock = threading.RLock()
        self._served: Served | None = None
        self._server: uvicorn.Server | None = None
        self._thread: threading.Thread | None = None
        self._timer: threading.Timer | None = None

    @property
    def served(self) -> Served | None:
        """What is served now; None while it is not, and once its time is up by either clock."""
        served = self._served
        return None if served is None or self.is_over(served) else served

    def is_over(self, served: Served) -> bool:
        """Whether the time of what is served is up, by the wall's clock or the steady one.

        A timer alone would not do: it does not count while the computer sleeps.
        """
        return served.deadline.is_over(self._clock, self._seconds)

    def authority(self) -> Authority:
        """The authority phones may be asked to trust."""
        return authority(self._folder, self._clock().astimezone(UTC))

    def start(self, wanted: Wanted) -> Served:
        """Serve from now on; BadInput where there is no network, or no port to be had."""
        with self._lock:
            self.stop()
            found = chosen_addresses(self._addresses(), wanted.address)
            listeners = _listeners(found, wanted.port, self.limits)
            maker = self.authority() if wanted.is_secure else None
            served = Served(
                found,
                wanted.names,
                listeners[0].getsockname()[1],
                is_secure=wanted.is_secure,
                deadline=Deadline.in_minutes(wanted.minutes, self._clock, self._seconds),
                fingerprint=None if maker is None else maker.fingerprint,
            )
            self._run(served, maker, listeners)
            self._look_later(served)
            return served

    def _look_later(self, served: Served) -> None:
        """Look every few seconds whether the time is up."""
        self._timer = threading.Timer(LOOK_EVERY_S, self._look, (served,))
        self._timer.daemon = True
        self._timer.start()

    def _look(self, served: Served) -> None:
        with self._lock:
            if self._served is not served:
                return
            if self.is_over(served):
                self.stop()
            else:
                self._look_later(served)

    def _run(self, served: Served, maker: Authority | None, listeners: list[Listener]) -> None:
        tls: dict[str, Any] = {}
        if maker is not None:
            certificate, key = server_certificate(
                maker,
                self._folder,
                addresses=served.addresses,
                names=served.names,
                now=self._clock().astimezone(UTC),
            )
            tls = {"ssl_certfile": str(certificate), "ssl_keyfile": str(key)}
        config = uvicorn.Config(
            self._door(served),
            log_level="warning",
            access_log=False,
            lifespan="off",
            timeout_graceful_shutdown=1,
            server_header=False,
            http=PromptHttp,
            **tls,
        )
        server = uvicorn.Server(config)
        thread = threading.Thread(target=self._serve, args=(server, listeners), daemon=True)
        thread.start()
        self._server, self._thread, self._served = server, thread, served

    def _serve(self, server: uvicorn.Server, listeners: list[Listener]) -> None:
        with asyncio.Runner(loop_factory=PromptLoop) as runner:
            runner.run(server.serve(sockets=list(listeners)))
        for listener in listeners:
            listener.close()
        self.limits.close_all()

    def stop(self) -> None:
        """Serve the network no more."""
        with self._lock:
            if self._timer is not None:
                self._timer.cancel()
            if self._server is not None:
                self._server.should_exit = True
            if self._thread is not None and self._thread is not threading.current_thread():
                self._thread.join(STARTS_WITHIN_S)
            self._server = self._thread = self._timer = self._served = None


def _listeners(addresses: Sequence[str], port: int, limits: Limits) -> list[Listener]:
    """A listening socket on each address, all on one port: the usual one, or any that is free."""
    for tried in (port, 0):
        made: list[Listener] = []
        try:
            for address in addresses:
                at = made[0].getsockname()[1] if made else tried
                made.append(listening(address, at, limits, backlog=64))
        except OSError:
            for listener in made:
                listener.close()
        else:
            return made
    raise BadInput("No free port on this network.", "port")
