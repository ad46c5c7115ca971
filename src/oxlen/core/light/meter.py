"""Metering pixels: spots and whole frames, averaged in linear light, never in code values."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.light.tone import ToneState, stops_from_mid
from oxlen.core.units import require_between

SPOT_CLIPPED_SHARE = 0.01
"""Own choice: clipped pixels beyond this share pull the mean by more than 0.01 stop."""
SPOT_BLOCKED_SHARE = 0.5
"""Own choice: half of a spot at black says little of its tone."""
DEFAULT_SPOT_RADIUS = 0.02
"""Own choice: about a finger's tip on the screen, as a share of the shorter side."""
SMALLEST_TONE = 2.0**-20
"""Linear share below which a tone is quoted as this: the log of nothing is no reading. Own
choice."""


@dataclass(frozen=True)
class Spot:
    """A disc on the upright picture: x, y as shares of width and height, r of the shorter side."""

    name: str
    x: float
    y: float
    r: float = DEFAULT_SPOT_RADIUS

    def __post_init__(self) -> None:
        require_between(f"x of spot {self.name}", self.x, low=0, high=1)
        require_between(f"y of spot {self.name}", self.y, low=0, high=1)
        require_between(f"r of spot {self.name}", self.r, low=0.0005, high=0.5)


@dataclass(frozen=True)
class Tones:
    """Measured pixels: luminance as a share of the tone scale, and which were lost at either end.

    `luminance` is relative to mid = 0.18 whatever the file; `clipped` and `blocked` are shares.
    `channel_stops` is how far their strongest channel is nearer to clipping than their luminance.
    `strongest`, where it was asked for, is the strongest channel of each, on the same scale.
    `row_length` is given when the pixels are whole rows of a frame, one after the other.
    """

    luminance: NDArray[np.floating]
    clipped_share: float
    blocked_share: float
    row_length: int | None = None
    channel_stops: float = 0.0
    strongest: NDArray[np.floating] | None = None


@dataclass(frozen=True)
class SpotTone:
    """A spot's mean tone in stops from mid, its spread, and whether the tone can be trusted.

    `channel_stops`: how much sooner its strongest colour channel clips than a neutral as light.
    """

    stops_from_mid: float
    p05_stops: float
    p95_stops: float
    clipped_share: float
    state: ToneState
    channel_stops: float = 0.0


@dataclass(frozen=True)
class FrameTone:
    """A frame's tones in stops from mid: mean in linear light, and percentiles."""

    mean_stops: float
    p01_stops: float
    p50_stops: float
    p99_stops: float
    clipped_share: float
    blocked_share: float


def spot_tone(tones: Tones) -> SpotTone:
    """The tone of a spot from its pixels: the mean in linear light and the p5 to p95 spread.

    *clipped*: over 1 % of the pixels are, so the mean is an "at least"; *blocked*: half or more
    are, so it is an "at most".
    """
    p05, p95 = percentiles(tones.luminance, (0.05, 0.95))
    return SpotTone(
        _stops(tones.luminance.mean(dtype=float)),
        _stops(p05),
        _stops(p95),
        clipped_share=tones.clipped_share,
        state=_spot_state(tones),
        channel_stops=tones.channel_stops,
    )


def frame_tone(tones: Tones) -> FrameTone:
    """The tone of a whole frame from its pixels, or from an even sample of them."""
    p01, p50, p99 = percentiles(tones.luminance, (0.01, 0.50, 0.99))
    return FrameTone(
        _stops(tones.luminance.mean(dtype=float)),
        _stops(p01),
        _stops(p50),
        p99_stops=_stops(p99),
        clipped_share=tones.clipped_share,
        blocked_share=tones.blocked_share,
    )


def channel_stops(channel_means: NDArray[np.floating], luminance: float) -> float:
    """Stops by which the strongest of some channels (n,) is above their luminance; at least 0.

    Both on a scale where a neutral's channels and its luminance agree. By definition.

    >>> f"{channel_stops(np.array([0.2, 0.25, 0.5]), 0.25):.1f}"
    '1.0'
    """
    strongest = float(channel_means.max())
    if strongest <= 0 or luminance <= 0:
        return 0.0
    return float(max(0.0, np.log2(strongest / luminance)))


def percentiles(values: NDArray[np.floating], shares: tuple[float, ...]) -> list[float]:
    """Values below which the given shares are, straight between neighbours; any order in.

    One sort of single-precision numbers, which is several times faster than numpy's selection.
    Shares are between 0 and 1. By definition.

    >>> [f"{v:.1f}" for v in percentiles(np.array([4.0, 1.0, 3.0, 2.0]), (0.0, 0.5, 1.0))]
    ['1.0', '2.5', '4.0']
    """
    ascending = np.sort(values.astype(np.float32, copy=False))
    at = np.asarray(shares) * (ascending.size - 1)
    below = np.floor(at).astype(int)
    above = np.minimum(below + 1, ascending.size - 1)
    return list((ascending[below] + (at - below) * (ascending[above] - ascending[below])).tolist())


def disc_box(spot: Spot, width: int, height: int) -> tuple[int, int, int, int]:
    """Pixel box (left, top, right, bottom) that holds a spot's disc, at least one pixel.

    Takes shares of the frame from 0 to 1, and sides in px of at least 1. By geometry.

    >>> disc_box(Spot("a", 0.5, 0.5, 0.1), 100, 80)
    (42, 32, 58, 48)
    """
    radius = spot.r * min(width, height)
    cx, cy = spot.x * width, spot.y * height
    left, top = max(0, int(np.floor(cx - radius))), max(0, int(np.floor(cy - radius)))
    right, bottom = min(width, int(np.ceil(cx + radius))), min(height, int(np.ceil(cy + radius)))
    left, top = min(left, width - 1), min(top, height - 1)
    return left, top, max(right, left + 1), max(bottom, top + 1)


def disc_mask(spot: Spot, width: int, height: int) -> NDArray[np.bool_]:
    """Which pixels of `disc_box` have their centre in the disc; never empty.

    Takes shares of the frame from 0 to 1, and sides in px of at least 1; shape of the box. By
    geometry.

    >>> int(disc_mask(Spot("a", 0.5, 0.5, 0.1), 100, 80).sum())
    208
    """
    left, top, right, bottom = disc_box(spot, width, height)
    radius = spot.r * min(width, height)
    dx2 = (np.arange(left, right) + 0.5 - spot.x * width) ** 2
    dy2 = (np.arange(top, bottom) + 0.5 - spot.y * height) ** 2
    most = max(radius**2, float(dx2.min() + dy2.min()))
    # Compared side by side, not summed: a large spot's distances would take 8 bytes a pixel.
    mask: NDArray[np.bool_] = dx2[None, :] <= (most * (1 + 1e-12) - dy2)[:, None]
    return mask


def sample_rows(row_count: int, wanted: int) -> NDArray[np.intp]:
    """Rows of an even, jittered sample: one in each of `wanted` equal bands, all when fewer.

    The jitter follows the golden ratio, so that rows never fall in step with a pattern in the
    picture and the same file always gives the same figures. Takes at least one row, counted from
    0. Own choice: even cover without a beat; 1/φ mod 1 spreads best of all steps.

    >>> sample_rows(100, 4).tolist()
    [0, 40, 55, 96]
    """
    if row_count <= wanted:
        return np.arange(row_count)
    bands = np.arange(wanted)
    jitter = (bands * 0.6180339887498949) % 1.0
    return np.floor((bands + jitter) * (row_count / wanted)).astype(np.intp)


def _stops(linear: float) -> float:
    return float(stops_from_mid(max(float(linear), SMALLEST_TONE)))


def _spot_state(tones: Tones) -> ToneState:
    if tones.clipped_share > SPOT_CLIPPED_SHARE:
        return "clipped"
    return "blocked" if tones.blocked_share >= SPOT_BLOCKED_SHARE else "ok"
