"""Gaps between the frames of star trails, closed by the sky's own turn."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from oxlen.core.errors import BadInput
from oxlen.core.frames.star_alignment import SkyTurn
from oxlen.stacking.aligning import lay_on_stars
from oxlen.stacking.ask import FrameFile
from oxlen.stacking.kept import Kept
from oxlen.stacking.placing import PlaceMap, place_map

FRAMES_TRIED = 7
"""So many frames about the middle tell how the sky turns."""
LEAST_GAP_S = 0.05
MOST_COPIES = 8


def gap_maps(frames: Sequence[FrameFile]) -> tuple[PlaceMap, ...]:
    """Where each pixel is in a frame whose sky is turned on, as far as the pause after it lasts.

    Each frame laid over itself so turned carries its trails through the pause. Empty where there
    is no pause. BadInput where frames do not tell their times, or show too few stars.
    """
    gap_s, shutter_s = _pause(frames)
    if gap_s < LEAST_GAP_S:
        return ()
    turn, size = _turn_a_second(frames)
    rate = np.array(turn.vector)
    copies = min(MOST_COPIES, math.ceil(gap_s / shutter_s))
    steps = [min(shutter_s * (number + 1), gap_s) for number in range(copies)]
    return tuple(place_map(SkyTurn(_vector(-rate * step), turn.lens), size) for step in steps)


def _pause(frames: Sequence[FrameFile]) -> tuple[float, float]:
    """Seconds between one frame's end and the next one's beginning, and of a frame."""
    times = [frame.taken_s for frame in frames if frame.taken_s is not None]
    shutters = [frame.kind.shutter_s for frame in frames if frame.kind.shutter_s]
    if len(times) < 2 or not shutters:
        raise BadInput("These frames have no times, so gaps cannot be closed.", "gaps")
    shutter_s = float(np.median(shutters))
    return float(np.median(np.diff(sorted(times)))) - shutter_s, shutter_s


def _turn_a_second(frames: Sequence[FrameFile]) -> tuple[SkyTurn, tuple[int, int]]:
    """How the sky turns in a second, as the middle of what a few frames show; and their size."""
    first = max(0, len(frames) // 2 - FRAMES_TRIED // 2)
    some = list(frames[first : first + FRAMES_TRIED])
    reference, kept = some[len(some) // 2], Kept("")
    for _ in lay_on_stars(some, reference, kept):
        pass
    turns = []
    for frame in some:
        alignment = kept.placed.get(frame.name)
        if (
            isinstance(alignment, SkyTurn)
            and frame.taken_s is not None
            and reference.taken_s is not None
        ):
            turns.append((alignment, frame.taken_s - reference.taken_s))
    reported = [np.array(alignment.vector) / after_s for alignment, after_s in turns if after_s]
    if not reported:
        raise BadInput(
            "Too few stars to measure how the sky turns, so gaps cannot be closed.", "gaps"
        )
    lens = turns[0][0].lens
    return SkyTurn(_vector(np.median(reported, axis=0)), lens), lens.size


def _vector(
    values: np.ndarray[tuple[int, ...], np.dtype[np.float64]],
) -> tuple[float, float, float]:
    x, y, z = (float(value) for value in values)
    return x, y, z
