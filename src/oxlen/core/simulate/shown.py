"""What is shown of a predicted frame: marks of lost tones, and a histogram in stops."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import BLOCKED_CODE, CLIPPED_CODE
from oxlen.core.light.tone import LUMA, highest_channel, linear_table, stops_from_mid

HISTOGRAM_LOW, HISTOGRAM_HIGH, HISTOGRAM_STEP = -8.0, 3.0, 0.25
LEAST_AREA_SHARE = 0.0002
CLIPPED_INK, BLOCKED_INK, LOST_INK = (255, 255, 255), (0, 0, 0), (128, 128, 128)


@dataclass(frozen=True)
class Shown:
    """Tones of a finished picture: shares lost at either end, and a histogram in stops from mid."""

    clipped_share: float
    blocked_share: float
    edges_stops: tuple[float, ...]
    shares: tuple[float, ...]


def shown_tones(codes: NDArray[np.uint8]) -> Shown:
    """Tones of sRGB codes (h, w, 3); tones past the ends are counted in the end bins."""
    highest = highest_channel(codes)
    linear = np.take(linear_table(255), codes[::2, ::2]) @ LUMA.astype(np.float32)
    stops = stops_from_mid(np.maximum(linear, 1e-5))
    edges = np.arange(HISTOGRAM_LOW, HISTOGRAM_HIGH + 1e-9, HISTOGRAM_STEP)
    inside = np.clip(stops, edges[0], edges[-1] - 1e-6)
    counts = np.histogram(inside, edges)[0]
    return Shown(
        float((highest >= CLIPPED_CODE).mean()),
        float((highest <= BLOCKED_CODE).mean()),
        tuple(edges.tolist()),
        shares=tuple((counts / counts.sum()).tolist()),
    )


def marked(codes: NDArray[np.uint8], lost: NDArray[np.bool_] | None = None) -> NDArray[np.uint8]:
    """The picture with shores drawn round what is lost: clipped, blocked, and lost in its source.

    A shore is a line with a line of the other tone beside it, so that it shows on any background.
    """
    result = codes.copy()
    highest = highest_channel(codes)
    _shores(result, highest >= CLIPPED_CODE, CLIPPED_INK, beside=(0, 0, 0))
    _shores(result, highest <= BLOCKED_CODE, (255, 255, 255), beside=BLOCKED_INK)
    if lost is not None:
        _shores(result, lost, LOST_INK, beside=(255, 255, 255))
    return result


def _shores(
    picture: NDArray[np.uint8],
    mask: NDArray[np.bool_],
    ink: tuple[int, int, int],
    *,
    beside: tuple[int, int, int],
) -> None:
    joined = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((5, 5), np.uint8))
    found, _ = cv2.findContours(joined, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    least = LEAST_AREA_SHARE * mask.size
    large = [shore for shore in found if cv2.contourArea(shore) >= least]
    cv2.drawContours(picture, large, -1, beside, 4)
    cv2.drawContours(picture, large, -1, ink, 2)
