"""While large pictures come in and frames are predicted: memory, and how long others wait."""

from __future__ import annotations

import io
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import httpx
import numpy as np
from PIL import Image

from bench.running import Running, running

BUSY_S, REST_S = 20.0, 60.0
OTHERS = ("/api/outings", "/api/kit/phones", "/api/asks", "/api/presets")


def figures() -> Iterator[tuple[str, float, float]]:
    """(name, figure measured, figure wanted at most)."""
    large = _picture(8000, 6000, "JPEG")
    deep = _picture(8000, 6000, "PNG")
    with tempfile.TemporaryDirectory() as name, running(Path(name), "demo") as app:
        time.sleep(3)
        alone_ms = _waits_ms(app, 5.0)
        stop = threading.Event()
        peak = _Peak(app, stop)
        work = [lambda c: _send(c, large), lambda c: _send(c, deep), _predict]
        threads = [threading.Thread(target=_again, args=(app, stop, one)) for one in work]
        for thread in (*threads, peak.thread):
            thread.start()
        busy_ms = _waits_ms(app, BUSY_S)
        stop.set()
        for thread in (*threads, peak.thread):
            thread.join()
        yield "memory of server and workers at its peak (MB)", peak.most_mb, 1200
        yield "p99 of other requests meanwhile (ms)", float(np.percentile(busy_ms, 99)), 50
        ratio = np.percentile(busy_ms, 99) / np.percentile(alone_ms, 99)
        yield "p99 of other requests, busy / alone", float(ratio), 20
        time.sleep(REST_S)
        yield "memory a minute later (MB)", app.memory_mb(), 350


class _Peak:
    """Watches memory until told to stop."""

    def __init__(self, app: Running, stop: threading.Event) -> None:
        self.app, self.stop, self.most_mb = app, stop, 0.0
        self.thread = threading.Thread(target=self._watch)

    def _watch(self) -> None:
        while not self.stop.wait(0.1):
            self.most_mb = max(self.most_mb, self.app.memory_mb())


def _picture(width: int, height: int, kind: str) -> bytes:
    """A picture with grain, as one from a phone."""
    small = np.random.default_rng(1).integers(0, 255, (height // 8, width // 8, 3), dtype=np.uint8)
    buffer = io.BytesIO()
    whole = Image.fromarray(small).resize((width, height), Image.Resampling.BICUBIC)
    whole.save(buffer, kind, **({"quality": 88} if kind == "JPEG" else {"compress_level": 1}))
    return buffer.getvalue()


def _send(client: httpx.Client, data: bytes) -> None:
    client.post("/api/outings/1/pictures?name=large.jpg", content=data).raise_for_status()


def _predict(client: httpx.Client) -> None:
    client.get("/api/sheets/4/dry-run", params={"chooser": "auto"})


def _again(app: Running, stop: threading.Event, work: Callable[[httpx.Client], None]) -> None:
    with httpx.Client(base_url=app.client.base_url, timeout=120) as client:
        while not stop.is_set():
            work(client)


def _waits_ms(app: Running, seconds: float) -> list[float]:
    """How long requests that need no pixels took, asked one after the other."""
    found = []
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        for path in OTHERS:
            began = time.perf_counter()
            app.client.get(path).raise_for_status()
            found.append((time.perf_counter() - began) * 1000)
        time.sleep(0.02)
    return found
