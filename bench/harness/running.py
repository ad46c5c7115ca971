"""The app in a process of its own, for figures taken from outside."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import httpx
import psutil


@dataclass(frozen=True)
class Running:
    """A started app: its process and a client of it."""

    process: subprocess.Popen[str]
    client: httpx.Client

    def memory_mb(self) -> float:
        """Memory of the server and its workers now; what they share is counted once."""
        whole = psutil.Process(self.process.pid)
        found = 0.0
        for process in (whole, *whole.children(recursive=True)):
            try:
                found += process.memory_full_info().pss
            except psutil.Error:  # it ended meanwhile
                continue
        return found / 1e6


def started(folder: Path, command: str = "serve", *, more: Sequence[str] = ()) -> Running:
    """The app on a folder of data, given `more` on its command line, and a client of it."""
    source = str(Path(__file__).parents[2] / "src")
    environment = {**os.environ, "PYTHONPATH": source, "MALLOC_ARENA_MAX": "2"}  # as ./oxlen sets
    process = subprocess.Popen(
        [
            *(sys.executable, "-m", "oxlen", command, "--no-browser", "--port", "0"),
            *("--data", str(folder), *more),
        ],
        stdout=subprocess.PIPE,
        text=True,
        env=environment,
    )
    assert process.stdout is not None
    found = None
    while found is None:
        line = process.stdout.readline()
        assert line, "it ended before it answered"
        found = re.search(r"Oxlen is at (http://[\d.:]+)", line)
    return Running(process, httpx.Client(base_url=found.group(1), timeout=120))


@contextmanager
def running(folder: Path, command: str = "serve") -> Iterator[Running]:
    """As `started`, and stopped afterwards."""
    app = started(folder, command)
    try:
        yield app
    finally:
        app.client.close()
        app.process.terminate()
        app.process.wait(15)
        if app.process.stdout is not None:
            app.process.stdout.close()
