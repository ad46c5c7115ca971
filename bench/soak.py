"""Twenty minutes of mixed use while things go wrong: nothing lost, nothing grown.

`python -m bench.soak [MINUTES]`, as root: the data are on a small disk of their own that is filled
for half a minute in the middle. Six clients do a bit of everything, worker processes are killed at
random, and a host nearby holds half-open connections.
"""

from __future__ import annotations

import random
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path

import httpx
import psutil

from bench.harness.promises import PAIRED_FROM, Promised, Worker
from bench.harness.running import Running, started
from bench.surviving import _outing_file
from oxlen.store.check import findings_in
from oxlen.store.library import open_library

CLIENTS, MINUTES = 6, 20.0
KILL_EVERY_S, HALF_OPEN, FULL_S = (4.0, 12.0), 60, 30.0
DISK = "size=700m"
OUTINGS_EACH = 40
BUSY = (503, 507)


@dataclass
class Seen:
    """What came of it, by all clients together."""

    answers: Counter[int] = field(default_factory=Counter)
    bad: list[str] = field(default_factory=list)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def note(self, answer: httpx.Response) -> None:
        """Count an answer; a fault, or a busy server that says not when, is bad."""
        with self.lock:
            self.answers[answer.status_code] += 1
            is_stated = answer.status_code in BUSY and "retry-after" in answer.headers
            if answer.status_code >= 500 and not is_stated:
                sentence = f"{answer.status_code} {answer.request.method} {answer.request.url.path}"
                self.bad.append(f"{sentence}: {answer.text[:200]}")


@contextmanager
def _small_disk() -> Iterator[Path]:
    with tempfile.TemporaryDirectory() as name:
        subprocess.run(["mount", "-t", "tmpfs", "-o", DISK, "tmpfs", name], check=True)
        try:
            yield Path(name)
        finally:
            subprocess.run(["umount", "-l", name], check=True)


def _use(
    app: Running, number: int, *, network: str, files: Path, seen: Seen, until_s: float
) -> Promised:
    """One client: does one thing after another, and goes on after every refusal."""
    outings = [_outing_file(files, number * 1000 + child) for child in range(OUTINGS_EACH)]
    client = httpx.Client(
        base_url=app.client.base_url, timeout=120, event_hooks={"response": [seen.note]}
    )
    worker = Worker(client, random.Random(number), Promised(), outings, network)
    while time.monotonic() < until_s:
        with suppress(httpx.HTTPError):
            worker.work_until(until_s)
        time.sleep(0.3)
    client.close()
    return worker.promised


def _disturb(app: Running, network: str, data: Path, *, until_s: float) -> None:
    """Kill workers, hold connections half-open, and fill the disk once in the middle."""
    draw = random.Random(9)
    held: list[socket.socket] = []
    full_at = time.monotonic() + (until_s - time.monotonic()) / 2
    host, _, port = network.removeprefix("http://").partition(":")
    while time.monotonic() < until_s:
        for child in psutil.Process(app.process.pid).children(recursive=True):
            with suppress(psutil.Error):
                if "forkserver" in " ".join(child.cmdline()) and draw.random() < 0.3:
                    child.kill()
        while len(held) < HALF_OPEN:
            with suppress(OSError):
                held.append(socket.create_connection((host, int(port)), 2, ("127.0.0.9", 0)))
                held[-1].sendall(b"GET /api/outings HTTP/1.1\r\nHo")
        held = [connection for connection in held if connection.fileno() >= 0][HALF_OPEN // 3 :]
        if full_at and time.monotonic() > full_at:
            full_at = 0.0
            _fill(data)
        time.sleep(draw.uniform(*KILL_EVERY_S))


def _fill(data: Path) -> None:
    """Fill the disk to the last byte for a while."""
    stuffing = data / "stuffing"
    with suppress(OSError), stuffing.open("wb", buffering=0) as file:
        while True:
            file.write(b"\0" * 65536)
    time.sleep(FULL_S)
    stuffing.unlink()


def main() -> int:
    """Run it, and print the result; 1 where anything was lost or grew."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else MINUTES
    with _small_disk() as data, tempfile.TemporaryDirectory() as files:
        library = data / "library"
        app = started(library, more=("--network", "60", "--plain", "--address", PAIRED_FROM))
        network = app.client.get("/api/network").json()["urls"][0]
        seen, promised = Seen(), list[Promised]()
        until_s = time.monotonic() + 60 * minutes

        def use(number: int) -> None:
            done = _use(app, number, network=network, files=Path(files), seen=seen, until_s=until_s)
            promised.append(done)

        threads = [threading.Thread(target=use, args=(client,)) for client in range(CLIENTS)]
        for thread in threads:
            thread.start()
        time.sleep(20)
        begun = _figures(app)
        _disturb(app, network, data, until_s=until_s)
        for thread in threads:
            thread.join()
        time.sleep(40)  # workers end when idle
        ended = _figures(app)
        app.process.terminate()
        code = app.process.wait(30)
        lost = [words for promise in promised for words in promise.lost(open_library(library))]
        left = [finding.words for finding in findings_in(open_library(library))]
    print(f"answers: {dict(seen.answers)}; exit code {code}")
    print(f"memory {begun[0]:.0f} → {ended[0]:.0f} MB, handles {begun[1]} → {ended[1]}")
    print(*seen.bad[:20], *lost[:20], *left[:20], sep="\n")
    print(f"{len(seen.bad)} faults, {len(lost)} lost, {len(left)} left over")
    grown = ended[0] > 1.5 * begun[0] or ended[1] > begun[1] + 10
    return int(bool(seen.bad or lost or left or grown))


def _figures(app: Running) -> tuple[float, int]:
    """Memory of the server with its workers (MB), and handles of the server."""
    return app.memory_mb(), psutil.Process(app.process.pid).num_fds()


if __name__ == "__main__":
    sys.exit(main())
