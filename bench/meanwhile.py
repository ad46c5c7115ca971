"""While pictures come in, frames are predicted and takes looked over: memory, and others' wait."""

from __future__ import annotations

import io
import multiprocessing
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path

import httpx
import numpy as np
from PIL import Image
from tests.pictures.making import exif, jpeg

from bench.harness.measure import Figure, Figures, Ratio
from bench.harness.running import Running, running

BUSY_S, REST_S, PARTS = 20.0, 60.0, 4
OTHERS = ("/api/outings", "/api/kit/phones", "/api/asks", "/api/presets")


def figures() -> Figures:
    """(name, figure measured, figure wanted at most)."""
    large = _picture(8000, 6000, "JPEG")
    deep = _picture(8000, 6000, "PNG")
    with tempfile.TemporaryDirectory() as name, running(Path(name), "demo") as app:
        time.sleep(3)
        alone_ms = waits_ms(app, 5.0)
        stop = threading.Event()
        peak = _Peak(app, stop)
        peak.thread.start()
        busy_ms = _waits_under(app, [(_send, large), (_send, deep), (_predict, b"")])
        stop.set()
        peak.thread.join()
        looking_ms = _waits_under(app, [(_look_over, _take())])
        yield Figure("meanwhile/peak-MB", peak.most_mb)
        yield waits_by(busy_ms, alone_ms).figure("meanwhile/waits-by-alone")
        yield waits_by(looking_ms, alone_ms).figure("meanwhile/waits-looking-by-alone")
        time.sleep(REST_S)
        yield Figure("meanwhile/rest-MB", app.memory_mb())


def waits_by(busy_ms: list[float], alone_ms: list[float]) -> Ratio:
    """The wait that 99 of 100 requests stay under, as a multiple of that of an idle server."""
    parts = [busy_ms[part::PARTS] for part in range(PARTS)]
    slow = [float(np.percentile(take, 99)) / 1000 for take in parts]
    usual = float(np.percentile(alone_ms, 99)) / 1000
    middle, spread = float(np.percentile(busy_ms, 99)) / 1000, max(slow) - min(slow)
    return Ratio(middle / usual, spread / middle / 2, usual * 1000)


class _Peak:
    """Watches memory until stopped."""

    def __init__(self, app: Running, stop: threading.Event) -> None:
        self.app, self.stop, self.most_mb = app, stop, 0.0
        self.thread = threading.Thread(target=self._watch)

    def _watch(self) -> None:
        while not self.stop.wait(0.3):
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


def _predict(client: httpx.Client, _: bytes) -> None:
    client.get("/api/sheets/4/dry-run", params={"chooser": "auto"})


def _look_over(client: httpx.Client, data: bytes) -> None:
    """A take of twelve megapixels added to a sheet, and compared with its plan."""
    added = client.post("/api/sheets/4/takes?name=take.jpg", content=data).raise_for_status()
    for take in added.json()[-1:]:
        client.get(f"/api/takes/{take['id']}/check").raise_for_status()


def _take() -> bytes:
    """A frame of twelve megapixels with its settings in it."""
    small = np.random.default_rng(2).integers(0, 255, (375, 500, 3), dtype=np.uint8)
    codes = np.asarray(Image.fromarray(small).resize((4000, 3000), Image.Resampling.BICUBIC))
    return jpeg(codes, exif(iso=50, shutter=(1, 500)), quality=90)


def _again(url: str, load: Callable[[httpx.Client, bytes], None], data: bytes) -> None:
    """Ask the same over and over, for as long as is measured."""
    until = time.monotonic() + BUSY_S + 1
    number = 0
    with httpx.Client(base_url=url, timeout=120) as client:
        while time.monotonic() < until:
            # A picture kept already would not be read again: some bytes after its end do no harm.
            load(client, data and data + number.to_bytes(4))
            number += 1


Load = tuple[Callable[[httpx.Client, bytes], None], bytes]


def _waits_under(app: Running, loads: list[Load]) -> list[float]:
    """How long other requests take while these are asked again and again."""
    # From processes of their own: their sending must not delay what is measured here.
    spawn = multiprocessing.get_context("spawn")
    url = str(app.client.base_url)
    asking = [spawn.Process(target=_again, args=(url, load, data)) for load, data in loads]
    for process in asking:
        process.start()
    time.sleep(1)
    waits = waits_ms(app, BUSY_S)
    for process in asking:
        process.join()
    return waits


def waits_ms(app: Running, seconds: float) -> list[float]:
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
