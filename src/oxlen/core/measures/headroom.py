"""How far above mid a phone's files still hold detail: from a bracket of an evenly lit wall."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from oxlen.core.constants import MID_LINEAR
from oxlen.core.errors import BadInput
from oxlen.core.labels import stops_label
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

CLIPPED_LINEAR = 0.965
"""Linear level of code 251: from there on processed files count as white."""
LEAST_STOPS, MOST_STOPS = 0.8, 6.0
LEVEL_DOUBT, WHITE_DOUBT, ONWARD_DOUBT = 0.002, 0.01, 0.08
Points = Sequence[tuple[float, float]]
RAW_FULL, RAW_LEAST = 0.9, 0.01


@dataclass(frozen=True)
class WallFrame:
    """The wall in one frame: its exposure in stops (log2 of seconds times ISO) and its level.

    Level is linear, from 0 to 1: of code values in processed files, of the strongest channel
    between black and white in RAW files.
    """

    exposure_stops: float
    level: float
    is_raw: bool


def headroom(frames: Sequence[WallFrame]) -> Measured:
    """Stops from mid to white, of processed files and of RAW where there are any. [ISO12232]

    BadInput when the bracket does not reach from below mid to clipping in the processed files.
    """
    processed = sorted(
        ((frame.exposure_stops, frame.level) for frame in frames if not frame.is_raw),
    )
    mid, mid_doubt = _mid(processed)
    white, white_doubt = _white(processed)
    figures = [
        Figure(
            "headroom_stops.processed",
            white - mid,
            math.hypot(mid_doubt, white_doubt),
            unit="stops",
        )
    ]
    words = f"Processed files hold {stops_label(white - mid)} above mid"
    raw = [
        (frame.exposure_stops, frame.level)
        for frame in frames
        if frame.is_raw and RAW_LEAST < frame.level < RAW_FULL
    ]
    series = [_series("processed", processed)]
    if raw:
        # A raw file is linear: each frame tells by itself where white is.
        whites = [stops - math.log2(level) for stops, level in raw]
        found = float(np.median(whites)) - mid
        doubt = math.hypot(2 * float(np.std(whites)) / math.sqrt(len(whites)), mid_doubt)
        figures.append(Figure("headroom_stops.raw", found, doubt, unit="stops"))
        words += f", RAW {found:.1f}"
        series.append(_series("RAW", sorted(raw)))
    return Measured(
        tuple(figures),
        words + ".",
        plot=Plot("exposure, stops", "level, 1 is white", tuple(series), y_is_log=True),
        doubts=tuple(_doubts(figures)),
    )


def _series(name: str, points: Points) -> Series:
    return Series(name, tuple(x for x, _ in points), tuple(max(y, 1e-4) for _, y in points))


def _mid(points: Points) -> tuple[float, float]:
    """Exposure (stops) at which the wall is mid grey, between two frames, and its doubt."""
    for place, ((x0, y0), (x1, y1)) in enumerate(pairwise(points)):
        if 0 < y0 < MID_LINEAR <= y1 < CLIPPED_LINEAR:
            share = math.log(MID_LINEAR / y0) / math.log(y1 / y0)
            # A curve through the next frame too shows how straight the way between the two is.
            x2, y2 = points[min(place + 2, len(points) - 1)]
            bend = 0.0
            if CLIPPED_LINEAR > y2 > y1:
                bend = math.log2(y2 / y1) / (x2 - x1) - math.log2(y1 / y0) / (x1 - x0)
            return x0 + share * (x1 - x0), LEVEL_DOUBT + abs(bend) * (x1 - x0) / 4
    raise _missing("mid grey", is_too_bright=bool(points) and points[0][1] >= MID_LINEAR)


def _white(points: Points) -> tuple[float, float]:
    """Exposure (stops) at which the wall clips: on from the last two frames that are not."""
    full = next((k for k, (_, y) in enumerate(points) if y >= CLIPPED_LINEAR), None)
    if full is None:
        raise _missing("white", is_too_bright=False)
    short = [(x, y) for x, y in points[:full] if y > MID_LINEAR]
    if len(short) < 2:
        raise _missing("white", is_too_bright=bool(points) and points[0][1] >= MID_LINEAR)
    (x0, y0), (x1, y1) = short[-2:]
    slope = math.log2(y1 / y0) / (x1 - x0)
    onward = math.log2(1 / y1) / slope
    return x1 + onward, WHITE_DOUBT + ONWARD_DOUBT * onward


def _missing(name: str, *, is_too_bright: bool) -> BadInput:
    return BadInput(
        f"The bracket does not reach {name}. Continue "
        f"{'darker' if is_too_bright else 'brighter'} in steps of 1/3.",
        "files",
    )


def _doubts(figures: Sequence[Figure]) -> Iterator[str]:
    for figure in figures:
        if isinstance(figure.value, float) and not LEAST_STOPS <= figure.value <= MOST_STOPS:
            yield (
                f"{figure.value:.1f} stops above mid is not possible (phones: {LEAST_STOPS:g} to "
                f"{MOST_STOPS:g}). Was the wall evenly lit and ISO fixed?"
            )
