"""`oxlen serve` and `oxlen demo`."""

from __future__ import annotations

import argparse
import gc
import signal
import socket
import webbrowser
from pathlib import Path
from typing import TYPE_CHECKING

from oxlen.core.errors import BadInput
from oxlen.network.addresses import checked_names
from oxlen.network.connections import (
    LOOPBACK_IN_ALL,
    Limits,
    Listener,
    PromptHttp,
    listening,
)
from oxlen.network.serving import LONGEST_MIN, Wanted
from oxlen.store.library import default_folder, hold_lock, open_library

if TYPE_CHECKING:
    from collections.abc import Callable
    from types import FrameType

    import uvicorn

    from oxlen.server.change_events import ChangeEvents
    from oxlen.server.network_state import NetworkState

HOST = "127.0.0.1"
STOPS_WITHIN_S = 3
"""Time limit for unfinished answers after the app is asked to stop."""


def serve(arguments: argparse.Namespace) -> int:
    """Serve the user's own data until stopped."""
    return _run(arguments, arguments.data or default_folder(), with_demo=False)


def demo(arguments: argparse.Namespace) -> int:
    """Serve the demo data, made on the first start."""
    folder = arguments.data or default_folder().with_name("oxlen-demo")
    return _run(arguments, folder, with_demo=True)


def _run(arguments: argparse.Namespace, folder: Path, *, with_demo: bool) -> int:
    with hold_lock(folder), _bound(arguments.port) as listener:
        library = open_library(folder)
        if with_demo:
            from oxlen.demo.seed import seed_demo

            seed_demo(library)
        import uvicorn

        from oxlen.server.app import create_app
        from oxlen.server.log_lines import limit_log_lines

        limit_log_lines()
        app = create_app(library)
        if arguments.network is not None:
            _let_phones_in(app.state.network_state, arguments)
        config = uvicorn.Config(
            app,
            log_level="warning",
            access_log=False,
            # An upload that has stalled is given up: nothing of it is kept before it is whole.
            timeout_graceful_shutdown=STOPS_WITHIN_S,
            http=PromptHttp,
        )
        gc.freeze()  # what is loaded by now stays; collecting over it again only makes pauses
        port = listener.getsockname()[1]

        def tell() -> None:
            sentence = f"Oxlen is at http://{HOST}:{port}  (data in {folder}; Ctrl-C stops it)"
            print(sentence, flush=True)
            if not arguments.no_browser:
                webbrowser.open(f"http://{HOST}:{port}")

        _ignore_second_signals()
        server = _ending_events(uvicorn.Server(config), app.state.change_events)
        _once_it_answers(server, tell).run(sockets=[listener])
        listener.limits.close_all()
    return 0


def _ignore_second_signals() -> None:
    """The server raises the signal that stopped it once more when it is done.

    A stop is no failure, so that second signal is ignored.
    """
    for asked in (signal.SIGTERM, signal.SIGINT):
        signal.signal(asked, lambda *_: None)


def _once_it_answers(server: uvicorn.Server, tell: Callable[[], None]) -> uvicorn.Server:
    """The server, telling its address only when it answers: whoever opens it does not wait."""
    begins = server.startup

    async def startup(sockets: list[socket.socket] | None = None) -> None:
        await begins(sockets)
        tell()

    server.startup = startup  # type: ignore[method-assign]
    return server


def _ending_events(server: uvicorn.Server, events: ChangeEvents) -> uvicorn.Server:
    """The server; it ends the pages' listening first, then waits for answers under way."""
    ends = server.handle_exit

    def handle_exit(sig: int, frame: FrameType | None) -> None:
        events.close()
        ends(sig, frame)

    server.handle_exit = handle_exit  # type: ignore[method-assign]
    return server


def _let_phones_in(network: NetworkState, arguments: argparse.Namespace) -> None:
    """Serve the network from the start, and say the first code."""
    if not 1 <= arguments.network <= LONGEST_MIN:
        raise BadInput(f"--network must be 1 to {LONGEST_MIN} minutes.", "network")
    names = checked_names(arguments.name)
    served = network.serving.start(
        Wanted(arguments.network, not arguments.plain, names, address=arguments.address)
    )
    words = " ".join(network.desk.offer(network.seconds()).words)
    print(f"Phones nearby: {' or '.join(served.urls)} for {arguments.network} min.", flush=True)
    if served.fingerprint:
        print(f"Fingerprint of the certificate made here: {served.fingerprint}", flush=True)
    print(f"Valid for 2 min, for one phone: {words}", flush=True)
    print("Then confirm the phone on this computer, on the page Phone.", flush=True)


def _bound(port: int) -> Listener:
    """A listening socket on loopback; BadInput when the port cannot be had."""
    if not 0 <= port <= 65535:
        raise BadInput(f"Port {port} does not exist. Use 0 to 65535.", "port")
    try:
        return listening(HOST, port, Limits(LOOPBACK_IN_ALL, LOOPBACK_IN_ALL))
    except OSError as error:
        raise BadInput(
            f"Port {port} is in use ({error.strerror}). Choose another with --port.", "port"
        ) from None
