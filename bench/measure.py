"""Timing and memory, fairly: best of several in turn, so that a busy machine slows both alike."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Callable

ROUNDS = 9


def best_ms(*tasks: Callable[[], object], rounds: int = ROUNDS) -> list[float]:
    """Best time of each task in ms, the tasks taking turns."""
    best = [float("inf")] * len(tasks)
    for _ in range(rounds):
        for index, task in enumerate(tasks):
            started = time.perf_counter()
            task()
            best[index] = min(best[index], time.perf_counter() - started)
    return [seconds * 1000 for seconds in best]


def peak_mb(code: str, *arguments: str) -> float:
    """Peak memory of a fresh process that runs some code, in MB.

    Read from /proc: the resource usage of a process also counts what its parent had.
    """
    tail = "\nprint([l for l in open('/proc/self/status') if 'VmHWM' in l][0].split()[1])"
    run = subprocess.run(
        [sys.executable, "-c", code + tail, *arguments], capture_output=True, text=True, check=True
    )
    return int(run.stdout.split()[-1]) / 1024


def process_ms(*command: str, rounds: int = 7) -> float:
    """Best time of a whole process in ms."""
    return best_ms(lambda: subprocess.run(command, capture_output=True, check=True), rounds=rounds)[
        0
    ]
