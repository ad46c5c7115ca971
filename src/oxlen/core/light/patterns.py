"""Metering patterns on any picture: what each way of looking at a frame reads."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.light.tone import stops_from_mid

PatternId = Literal["whole", "centre", "spot", "highlight"]

CENTRE_SIGMA = 0.22
"""Spread of the centre-weighted pattern, as a share of the frame's longer side. Rule of thumb, from
0.15 to 0.3: off by up to 0.3 stop in uneven scenes."""
SPOT_RADIUS = 0.06
"""Radius of the spot pattern, as a share of the shorter side. Rule of thumb, from 0.03 to 0.1:
off by up to a factor of 2 between phones."""
BRIGHTEST_SHARE = 0.01
"""Own choice: the brightest hundredth of a frame is looked at as its highlights."""


@dataclass(frozen=True)
class Pattern:
    """What a pattern reads, in stops from the file's mid; a meter renders that as mid."""

    id: PatternId
    name: str
    stops_from_mid: float


@dataclass(frozen=True)
class FrameLight:
    """A frame's light, coarsely: mean linear luminance of cells (rows, columns), and a histogram.

    `edges_stops` (n + 1) and `shares` (n) are tones in stops from mid and the share of the frame
    in each bin, by its strongest channel: that is what clips. Tones beyond the ends are counted
    in the end bins.
    """

    cells: NDArray[np.float64]
    edges_stops: NDArray[np.float64]
    shares: NDArray[np.float64]


HISTOGRAM_STEP_STOPS = 1 / 12
"""Fine enough to tell how much of a frame clips at each step of a phone."""
HISTOGRAM_EDGES = np.linspace(-12.0, 6.0, round(18 / HISTOGRAM_STEP_STOPS) + 1)
"""Own choice: from black to far over white."""


def frame_light(
    luminance: NDArray[np.floating],
    strongest: NDArray[np.floating] | None = None,
    *,
    rows: int = 24,
    columns: int = 32,
) -> FrameLight:
    """Cells of a frame's linear luminance and histogram of its strongest channel, mid at 0.18.

    Both (h, w); a frame of one channel has its luminance alone. BadInput for an empty frame.
    """
    if luminance.ndim != 2 or not luminance.size:
        raise BadInput("A frame's light needs rows and columns of luminance.", "luminance")
    level = luminance if strongest is None else strongest
    tones = stops_from_mid(np.maximum(level, 1e-6))
    inside = np.clip(tones, HISTOGRAM_EDGES[0], HISTOGRAM_EDGES[-1] - 1e-9)
    index = ((inside - HISTOGRAM_EDGES[0]) / HISTOGRAM_STEP_STOPS).astype(np.intp)
    counts = np.bincount(index.ravel(), minlength=HISTOGRAM_EDGES.size - 1)
    return FrameLight(
        _cell_means(luminance, rows, columns), HISTOGRAM_EDGES, counts / luminance.size
    )


def patterns(light: FrameLight, headroom_stops: float) -> tuple[Pattern, ...]:
    """What four patterns read on a frame; the last puts its brightest hundredth under clipping."""
    return (
        Pattern("whole", "Whole frame", _stops(light.cells.mean())),
        Pattern("centre", "Centre", _stops(_weighted(light.cells, _centre(light.cells)))),
        Pattern("spot", "Centre spot", _stops(_weighted(light.cells, _disc(light.cells)))),
        Pattern(
            "highlight",
            "Highlights",
            tone_above(light, BRIGHTEST_SHARE) - headroom_stops,
        ),
    )


def tone_above(light: FrameLight, share: float) -> float:
    """The tone (stops from mid) that a share of the frame is brighter than.

    Takes a share from 0 to 1. By definition.

    >>> light = frame_light(np.array([[0.18, 0.36], [0.72, 0.09]]))
    >>> f"{tone_above(light, 0.5):.1f}"
    '0.1'
    """
    above = np.concatenate([[0.0], np.cumsum(light.shares[::-1])])
    return float(np.interp(share, above, light.edges_stops[::-1]))


def _cell_means(luminance: NDArray[np.floating], rows: int, columns: int) -> NDArray[np.float64]:
    height, width = luminance.shape
    at_rows = np.linspace(0, height, min(rows, height) + 1).astype(int)[:-1]
    at_columns = np.linspace(0, width, min(columns, width) + 1).astype(int)[:-1]
    sums = np.add.reduceat(luminance.astype(float), at_rows, axis=0)
    sums = np.add.reduceat(sums, at_columns, axis=1)
    tall = np.diff([*at_rows, height])
    wide = np.diff([*at_columns, width])
    return np.asarray(sums / (tall[:, None] * wide[None, :]), dtype=float)


def _from_centre(cells: NDArray[np.float64]) -> tuple[NDArray[np.float64], int, int]:
    """Distance of each cell from the middle, in shares of a frame of 4:3 or its turn."""
    rows, columns = cells.shape
    y = (np.arange(rows) + 0.5) / rows - 0.5
    x = (np.arange(columns) + 0.5) / columns - 0.5
    return np.hypot(y[:, None] * 0.75, x[None, :]), rows, columns


def _centre(cells: NDArray[np.float64]) -> NDArray[np.float64]:
    distance, _, _ = _from_centre(cells)
    return np.asarray(np.exp(-0.5 * (distance / CENTRE_SIGMA) ** 2), dtype=float)


def _disc(cells: NDArray[np.float64]) -> NDArray[np.float64]:
    distance, _, _ = _from_centre(cells)
    within = distance <= max(SPOT_RADIUS, float(distance.min()))
    return within.astype(float)


def _weighted(cells: NDArray[np.float64], weights: NDArray[np.float64]) -> float:
    return float((cells * weights).sum() / weights.sum())


def _stops(linear: float) -> float:
    return float(stops_from_mid(max(linear, 1e-6)))
