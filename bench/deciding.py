"""The decision alone, and over HTTP at 20 requests a second on loopback."""

from __future__ import annotations

import statistics
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import httpx
import uvicorn

from bench.measure import best_ms
from oxlen.core.decide.brief import Brief, PlacedReading
from oxlen.core.decide.plan import plan
from oxlen.formats.shipped_phones import shipped_profile
from oxlen.server.app import create_app
from oxlen.store.library import open_library

REQUESTS, PER_SECOND = 300, 20
BRIEF = {
    "phone": "wherry-3",
    "readings": [{"role": "subject", "ev100": 5}, {"role": "keep-bright", "ev100": 9}],
}


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, milliseconds measured, milliseconds wanted at most)."""
    phone = shipped_profile("wherry-3").to_phone()
    readings = (PlacedReading("subject", 5.0), PlacedReading("keep-bright", 9.0))
    brief = Brief(phone, readings=readings)
    times = [best_ms(lambda: plan(brief), rounds=1)[0] for _ in range(200)]
    yield "decision alone, median ms", statistics.median(times), 2.0
    yield "plan over HTTP at 20 a second, p99 ms", _p99_over_http(), 15.0


def _p99_over_http() -> float:
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(open_library(Path(folder)))
        config = uvicorn.Config(app, port=0, log_level="error", access_log=False)
        server = uvicorn.Server(config)
        thread = threading.Thread(target=server.run)
        thread.start()
        while not server.started:
            time.sleep(0.01)
        port = server.servers[0].sockets[0].getsockname()[1]
        try:
            times = _ask(f"http://127.0.0.1:{port}/api/plan")
        finally:
            server.should_exit = True
            thread.join()
    return sorted(times)[int(len(times) * 0.99)]


def _ask(url: str) -> list[float]:
    """Response times in ms of a bounded, steady run of requests."""
    times = []
    with httpx.Client() as client:
        client.post(url, json=BRIEF)
        for _ in range(REQUESTS):
            started = time.perf_counter()
            client.post(url, json=BRIEF).raise_for_status()
            times.append((time.perf_counter() - started) * 1000)
            time.sleep(max(0.0, 1 / PER_SECOND - (time.perf_counter() - started)))
    return times
