"""Fixed workloads that figures are compared with, and how busy the machine is besides.

They never change: a figure is a multiple of one of them in the same run, so that it means the same
on a slower machine.
"""

from __future__ import annotations

import statistics
import time
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

CONTENDED = 1.15
"""Wall-clock over processor time of a plain loop from which others use the machine too much."""
LOOKS = 9


@dataclass(frozen=True)
class _Step:
    """A small record, as the core makes many of."""

    iso: float
    shutter_s: float


def pure_python() -> float:
    """Records, dictionaries and floating point: some milliseconds of one processor."""
    total = 0.0
    for row in range(40):
        steps = [_Step(50.0 * 2 ** (column / 3), 2.0 ** (-column / 3)) for column in range(30)]
        by_iso = {round(step.iso, 3): step for step in steps}
        for step in sorted(by_iso.values(), key=lambda exposure: -exposure.shutter_s):
            total += step.iso * step.shutter_s + row
    return total


def small_arrays() -> float:
    """Many small numpy operations, as a search over a phone's steps is made of."""
    values: NDArray[np.float64] = np.linspace(-3.0, 9.0, 900)
    total = 0.0
    for shift in range(120):
        near = np.abs(values - shift / 20) <= 0.5
        total += float(np.where(near, values, 0.0).sum()) + float(np.round(values, 3).max())
    return total


def large_arrays() -> float:
    """A few large numpy operations, as pictures are worked on with."""
    plane: NDArray[np.float32] = np.linspace(0.0, 1.0, 1_500_000, dtype=np.float32)
    return float(np.sort(np.sqrt(plane) * plane[::-1]).sum())


PAGE = """<!doctype html><title>Reference</title><main></main><script>
window.begunAt = performance.now();
const main = document.querySelector('main');
let total = 0;
for (let row = 0; row < 400; row += 1) {
    const line = document.createElement('p');
    for (let column = 0; column < 8; column += 1) {
        const part = document.createElement('span');
        part.textContent = `${row}:${column} `;
        line.append(part);
        for (let turn = 0; turn < 1500; turn += 1) total += Math.sqrt(turn * row + column);
    }
    main.append(line);
}
main.dataset.height = String(main.getBoundingClientRect().height + total * 0);
requestAnimationFrame(() => requestAnimationFrame(() => { window.doneAt = performance.now(); }));
</script>"""
"""A page of fixed work for the browser: script, elements, layout and a frame."""


def contention() -> float:
    """Wall-clock over processor time of the plain loop, median of some: 1 on a quiet machine."""
    found = []
    for _ in range(LOOKS):
        wall, cpu = time.perf_counter(), time.process_time()
        pure_python()
        found.append((time.perf_counter() - wall) / max(1e-6, time.process_time() - cpu))
    return statistics.median(found)
