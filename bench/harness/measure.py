"""Figures, and timing fairly: tasks in turns with their reference, the best and the spread kept."""

from __future__ import annotations

import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass

ROUNDS = 9
Task = Callable[[], object]


@dataclass(frozen=True)
class Figure:
    """What was measured, under an id that `bench.harness.bounds` has a bound for.

    `spread` is how far rounds of a timed ratio differ, as a share; None for what does not depend on
    the machine: counts, sizes, shares of cases. `note` is for people.
    """

    id: str
    measured: float
    spread: float | None = None
    note: str = ""


Figures = Iterator[Figure]


@dataclass(frozen=True)
class Ratio:
    """A time as a multiple of its reference's, and the spread of the rounds as a share."""

    value: float
    spread: float
    reference_ms: float

    def figure(self, figure_id: str) -> Figure:
        """As a figure, with the reference's own time for people."""
        return Figure(figure_id, self.value, self.spread, f"reference {self.reference_ms:.1f} ms")


def seconds(task: Task) -> float:
    """How long a task takes once."""
    began = time.perf_counter()
    task()
    return time.perf_counter() - began


def in_turns(task: Task, reference: Task, rounds: int = ROUNDS) -> Ratio:
    """A task against its reference, each once a round: the best of both, which a hiccup spares."""
    pairs = [(seconds(task), seconds(reference)) for _ in range(rounds)]
    return ratio_of(pairs)


def ratio_of(pairs: list[tuple[float, float]]) -> Ratio:
    """The ratio of the best times of some rounds (task, reference), and how far rounds differ."""
    each = sorted(task / reference for task, reference in pairs)
    best_task, best = (min(times) for times in zip(*pairs, strict=True))
    quarter = len(each) // 4
    spread = (each[-1 - quarter] - each[quarter]) / statistics.median(each)
    return Ratio(best_task / best, spread, best * 1000)


def median_ratio(tasks: list[float], references: list[float]) -> Ratio:
    """The ratio of two medians, of times taken by turns; the spread as the quartiles differ."""
    each = sorted(task / statistics.median(references) for task in tasks)
    quarter = len(each) // 4
    middle = statistics.median(each)
    spread = (each[-1 - quarter] - each[quarter]) / middle
    return Ratio(middle, spread, statistics.median(references) * 1000)


def best_ms(*tasks: Task, rounds: int = ROUNDS) -> list[float]:
    """Best time of each task in ms, the tasks taking turns."""
    best = [float("inf")] * len(tasks)
    for _ in range(rounds):
        for index, task in enumerate(tasks):
            best[index] = min(best[index], seconds(task))
    return [night * 1000 for night in best]


def peak_mb(code: str, *arguments: str) -> float:
    """Peak memory of a fresh process that runs some code, in MB.

    Read from /proc: the resource usage of a process also counts what its parent had.
    """
    tail = "\nprint([l for l in open('/proc/self/status') if 'VmHWM' in l][0].split()[1])"
    run = subprocess.run(
        [sys.executable, "-c", code + tail, *arguments], capture_output=True, text=True, check=True
    )
    return int(run.stdout.split()[-1]) / 1024


def process(*command: str) -> Task:
    """A whole process as a task."""
    return lambda: subprocess.run(command, capture_output=True, check=True)
