"""What an app has for the network: the second server, and the desk that pairs phones."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any

from oxlen.network.addresses import private_addresses
from oxlen.network.deadline import seconds_awake_or_asleep
from oxlen.network.pairing import PairingDesk
from oxlen.network.serving import NetworkServing, Served
from oxlen.server.network_door import Doorplate, NetworkDoor
from oxlen.store.library import Library

FOLDER = "network"


class NetworkState:
    """The network side of an app on a library. `seconds` is a clock that never runs backwards."""

    def __init__(
        self,
        app: Any,
        library: Library,
        clock: Callable[[], datetime],
        *,
        seconds: Callable[[], float] = seconds_awake_or_asleep,
        addresses: Callable[[], Sequence[str]] = private_addresses,
    ) -> None:
        self.desk, self.seconds, self.clock = PairingDesk(), seconds, clock

        def door(served: Served) -> NetworkDoor:
            plate = Doorplate(served.hosts, served.is_secure)
            return NetworkDoor(
                app,
                library,
                plate,
                clock=clock,
                is_over=lambda: self.serving.is_over(served),
            )

        self.serving = NetworkServing(
            library.folder / FOLDER, door, clock=clock, seconds=seconds, addresses=addresses
        )
