"""Where the sky ends: its share of the frame, the height and slope of its edge."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
WIDE_PX = 160
FLOOR_STOPS = -10.0
STEEP = 0.12
"""What a column's edge may cost in contrast (stops) for each row it is off its neighbour's."""
LEAST_STOPS = 0.8
"""A sky less bright than this over the foreground is not separated from it."""
SMOOTH_STOPS = 0.9
"""A sky is plainer than this: the median spread of its rows."""
EDGES = 0.04, 0.96


@dataclass(frozen=True)
class Skyline:
    """The lower edge of the sky.

    `sky_share` of the frame is sky; `height_share` is where its edge is in the middle of the
    frame, from the top; it falls to the right by `tilt_deg`; the sky is `over_land_stops` brighter.
    """

    sky_share: float
    height_share: float
    tilt_deg: float
    over_land_stops: float


def skyline(luminance: Floats) -> Skyline | None:
    """The sky's edge in linear luminance (h, w), upright; None where there is no plain sky above.

    In each column the split into a bright upper and a darker lower part that differ most, with
    neighbours kept near one another: the best path by dynamic programming. [BELLMAN1957]
    """
    scale = WIDE_PX / luminance.shape[1]
    size = (WIDE_PX, max(8, round(luminance.shape[0] * scale)))
    small = cv2.resize(luminance, size, interpolation=cv2.INTER_AREA)
    top = max(float(np.quantile(small, 0.99)), 1e-9)
    stops = np.maximum(np.log2(np.maximum(small / top, 1e-9)), FLOOR_STOPS).astype(np.float64)
    edge = _best_path(_contrast(stops))
    rows = np.arange(size[1])[:, None]
    sky = rows < edge[None, :]
    if not EDGES[0] <= sky.mean() <= EDGES[1]:
        return None
    over = float(np.median(stops[sky]) - np.median(stops[~sky]))
    spread = float(np.quantile(stops[sky], 0.9) - np.quantile(stops[sky], 0.1))
    if over < LEAST_STOPS or spread > 2 * SMOOTH_STOPS + over / 2:
        return None
    slope, middle = _fitted(edge)
    return Skyline(
        float(sky.mean()),
        float(np.clip(middle / size[1], 0, 1)),
        tilt_deg=float(np.degrees(np.arctan(slope))),
        over_land_stops=over,
    )


def _contrast(stops: NDArray[np.float64]) -> NDArray[np.float64]:
    """For an edge above each row, how much brighter what is above it is (rows, columns)."""
    height = stops.shape[0]
    above = np.cumsum(stops, axis=0)
    counts = np.arange(1, height)[:, None]
    upper = above[:-1] / counts
    lower = (above[-1] - above[:-1]) / (height - counts)
    # As between-class variance has it: a split near the rim must differ more to count.
    weight = np.sqrt(counts * (height - counts)) / height
    step = np.zeros((height - 1, stops.shape[1]))
    step[1:-1] = stops[1:-2] - stops[2:-1]
    return np.asarray((upper - lower) * weight * 2 + step)


def _best_path(gain: NDArray[np.float64]) -> NDArray[np.int64]:
    """One row a column, the sum of gains highest at a cost for each row between neighbours."""
    rows, columns = gain.shape
    steps = np.abs(np.arange(rows)[:, None] - np.arange(rows)[None, :]) * STEEP
    best = gain[:, 0].copy()
    came = np.zeros((columns, rows), dtype=np.int64)
    for column in range(1, columns):
        reached = best[None, :] - steps
        came[column] = np.argmax(reached, axis=1)
        best = reached[np.arange(rows), came[column]] + gain[:, column]
    path = np.zeros(columns, dtype=np.int64)
    path[-1] = int(np.argmax(best))
    for column in range(columns - 1, 0, -1):
        path[column - 1] = came[column, path[column]]
    return path + 1


def _fitted(edge: NDArray[np.int64]) -> tuple[float, float]:
    """Slope and height (rows) at the middle of the edge's own line, outliers above it left out."""
    places = np.arange(edge.size) - (edge.size - 1) / 2
    kept = np.ones(edge.size, dtype=bool)
    slope, middle = 0.0, float(np.median(edge))
    for _ in range(3):
        slope, middle = np.polyfit(places[kept], edge[kept], 1)
        off = np.abs(edge - (slope * places + middle))
        kept = off <= max(2.0, float(np.median(off)) * 2)
    return float(slope), float(middle)
