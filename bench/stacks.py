"""Stacked frames: speed beside decoding, memory of hundreds, and going on after a kill."""

from __future__ import annotations

import multiprocessing
import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

import cv2
import imagecodecs
import numpy as np
import psutil
from tests.pictures.making import exif, jpeg

from bench.harness.measure import Figure, Figures, Ratio, in_turns
from bench.harness.running import running
from bench.meanwhile import waits_by, waits_ms
from oxlen.stacking.ask import StackAsk
from oxlen.stacking.stack import stack_files

FRAMES, MANY, PROCESSES, DIFFERENT = 50, 500, 2, 50
SIZE = (4000, 3000)
ASKED = {
    "mean": StackAsk(),
    "lighten": StackAsk(combine="lighten"),
    "median": StackAsk(combine="median"),
    "aligned": StackAsk(align="features"),
}


def figures() -> Figures:
    """What is measured."""
    with tempfile.TemporaryDirectory() as kept:
        folder = Path(kept)
        files = _files(folder)
        yield from _beside_decoding(folder, files)
        yield from _many(folder, files)
        yield _waits(files).figure("stacks/waits-by-alone")


def _files(folder: Path) -> list[Path]:
    """Frames of twelve megapixels with grain of their own."""
    draw = np.random.default_rng(1)
    small = draw.integers(20, 235, (375, 500, 3), dtype=np.uint8)
    base = cv2.resize(small, SIZE, interpolation=cv2.INTER_CUBIC)
    found = []
    for number in range(DIFFERENT):
        grain = draw.standard_normal(base.shape, dtype=np.float32) * 6
        codes = np.clip(base + grain, 0, 255).astype(np.uint8)
        path = folder / f"f{number:03d}.jpg"
        path.write_bytes(jpeg(codes, exif(iso=50, shutter=(1, 50)), quality=92))
        found.append(path)
    return found


def _decoded(path: Path) -> int:
    return int(imagecodecs.jpeg8_decode(path.read_bytes())[0, 0, 0])


def _beside_decoding(folder: Path, files: Sequence[Path]) -> Figures:
    """Best of three of each, one after the other: the machine is as busy for both."""
    named = [(file, file.name) for file in files]
    stack_files(named[:3], StackAsk(), folder=folder)
    with multiprocessing.get_context("spawn").Pool(PROCESSES) as pool:
        pool.map(_decoded, files[:4])
        for name, asked in ASKED.items():
            ratio = in_turns(
                lambda asked=asked: stack_files(named, asked, folder=folder, out=folder / "o.tif"),  # type: ignore[misc]
                lambda: pool.map(_decoded, files, chunksize=1),
                rounds=3,
            )
            yield ratio.figure(f"stacks/{name}-by-decode")


def _many(folder: Path, files: Sequence[Path]) -> Figures:
    """Five hundred frames, killed in the middle and taken up again."""
    many = folder / "many"
    many.mkdir()
    for number in range(MANY):
        os.link(files[number % len(files)], many / f"n{number:03d}.jpg")
    names = sorted(str(path) for path in many.iterdir())
    alone_mb = _peak_mb(["compute", "--list"], folder)
    whole = folder / "whole.tif"
    whole_mb = _peak_mb(["stack", *names, "--out", str(whole)], folder)
    yield Figure("stacks/mean-of-500-MB", whole_mb - alone_mb)
    # The median needs all frames of a place at once: they are on disk, not in memory.
    median = ["stack", *names, "--combine", "median", "--out", str(folder / "median.tif")]
    median_mb = _peak_mb(median, folder)
    yield Figure("stacks/median-of-500-MB", median_mb - alone_mb)
    again = folder / "again.tif"
    command = ["stack", *names, "--out", str(again), "--work", str(folder / "work")]
    _peak_mb(command, folder, killed_after_s=25)
    _peak_mb(command, folder)
    same = again.read_bytes() == whole.read_bytes()
    yield Figure("stacks/differs-after-kill", float(not same))


def _waits(files: Sequence[Path]) -> Ratio:
    """How long requests that need no pixels take while a stack is being worked on."""
    with tempfile.TemporaryDirectory() as name, running(Path(name), "demo") as app:
        made = app.client.post("/api/stacks", json={"name": "bench"}).json()
        path = f"/api/stacks/{made['id']}"
        for file in files:
            sent = app.client.post(f"{path}/frames?name={file.name}", content=file.read_bytes())
            sent.raise_for_status()
        app.client.put(path, json={"ending": "jpg"})
        time.sleep(3)
        alone_ms = waits_ms(app, 5.0)
        app.client.post(f"{path}/start").raise_for_status()
        found: list[float] = []
        while app.client.get(path).json()["state"] == "working":
            found += waits_ms(app, 0.2)
        return waits_by(found, alone_ms)


def _peak_mb(command: Sequence[str], folder: Path, *, killed_after_s: float = 3600) -> float:
    """Most memory a command of the app takes; it is killed after some time."""
    root = Path(__file__).parents[1]
    environment = {**os.environ, "PYTHONPATH": str(root / "src")}
    began, most = time.monotonic(), 0.0
    with (folder / "said.txt").open("w") as stated:
        process = subprocess.Popen(
            [sys.executable, "-m", "oxlen", *command], stdout=stated, stderr=stated, env=environment
        )
        reported = psutil.Process(process.pid)
        while process.poll() is None:
            try:
                most = max(most, reported.memory_info().rss / 1e6)
            except psutil.Error:
                break
            if time.monotonic() - began > killed_after_s:
                process.send_signal(signal.SIGKILL)
                process.wait()
                break
            time.sleep(0.1)
    return most
