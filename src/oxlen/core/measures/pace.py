"""How fast a phone really shoots: gaps and frames a second from time stamps."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

STALL = 2.0
"""A burst has stalled where an interval is so many times the usual one."""
DAY_S = 86_400.0
LONGEST_GAP_S = 30.0
LEAST_FRAMES, FINE_S = 4, 0.02
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class Stamp:
    """When a frame was begun (seconds of the day), its shutter (s), and how exact the time is."""

    taken_s: float
    shutter_s: float
    is_raw: bool = False
    step_s: float = 0.01


def pace(stamps: Sequence[Stamp]) -> Measured:
    """Gap between frames (s), frames a second, and frames until a burst stalls.

    BadInput for fewer than four frames, or time stamps that never differ.
    """
    ordered = sorted(stamps, key=lambda stamp: stamp.taken_s)
    if len(ordered) < LEAST_FRAMES:
        raise BadInput("Add at least four frames shot in a row.", "files")
    apart = np.diff(_through_midnight([entry.taken_s for entry in ordered]))
    step_s = max(entry.step_s for entry in ordered)
    if float(apart.sum()) <= 0:
        raise BadInput("All time stamps are equal. These are copies of one frame.", "files")
    before = _until_it_stalls(apart, step_s)
    each = float(before.mean())
    # By its ends alone: what each stamp is rounded by cancels in between.
    doubt = 2 * step_s * math.sqrt(1 / 6) / before.size
    if step_s <= FINE_S:
        doubt = max(doubt, 2 * float(before.std()) / math.sqrt(before.size))
    gap = max(0.0, each - ordered[0].shutter_s)
    kind = "raw" if ordered[0].is_raw else "processed"
    figures = [
        Figure("files.frame_gap_s", gap, doubt, unit="s"),
        Figure(f"files.{kind}_fps", 1 / each, doubt / each**2, unit="frames/s"),
    ]
    words = f"{1 / each:.2g} frames a second, {gap:.2g} s between them"
    if before.size < apart.size:
        figures.append(Figure(f"files.{kind}_burst", before.size + 1.0, 1.0, unit="frames"))
        words += f"; it stalls after {before.size + 1}"
    is_long = gap > LONGEST_GAP_S
    count = tuple(float(k + 1) for k in range(apart.size))
    series = Series("frames", count, tuple(apart.tolist()))
    return Measured(
        tuple(figures),
        words + ".",
        plot=Plot("frame", "seconds to the next", (series,)),
        doubts=(f"{gap:.0f} s between frames is long. Was it one series?",) if is_long else (),
    )


def _through_midnight(taken_s: list[float]) -> Floats:
    """Seconds in order, those after midnight counted on from the day before."""
    at = np.asarray(taken_s, dtype=float)
    if at[-1] - at[0] > DAY_S / 2:
        at = np.sort(np.where(at < DAY_S / 2, at + DAY_S, at))
    return at


def _until_it_stalls(apart: Floats, step_s: float) -> Floats:
    """The intervals before the first that is twice the usual one; all where none is."""
    usual = float(np.median(apart))
    stalls = np.nonzero(apart > STALL * max(usual, step_s))[0]
    return apart[: int(stalls[0])] if stalls.size and stalls[0] >= LEAST_FRAMES - 1 else apart
