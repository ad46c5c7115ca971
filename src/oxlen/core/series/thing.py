"""The thing of a shop picture and the background around it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
Mask = NDArray[np.bool_]

MARGIN = 0.06
"""Own choice: the share of the width at either side where only background is looked for."""
SHIFTS = (-0.06, -0.03, 0.0, 0.03, 0.06)
"""Own choice: how far, in shares of the height, the edge of a table may run up or down across the
frame: 3° over its width."""
LIGHTNESS_WEIGHT = 0.5
"""Own choice: shadows change lightness alone, so it counts half."""
LEAST_APART, NOISES_APART = 6.0, 4.0
"""Own choice: CIELAB units, and times the margin's own noise, from which on a pixel is no
background."""
BUSY = 14.0
"""Own choice: margins whose pixels are so far from their own model are no plain background."""
LEAST_AREA, LEAST_PART = 0.003, 0.1
"""Own choice: shares of the frame and of the largest part from which on something is the thing."""


@dataclass(frozen=True)
class Thing:
    """Where the thing is, in a frame of any size: centre and box as shares of its sides.

    `mask` (h, w) is of a small picture. `size` is the root of its area as a share of the width.
    """

    mask: Mask
    centre: tuple[float, float]
    box: tuple[float, float, float, float]
    size: float


def thing_in(codes: NDArray[np.uint8]) -> Thing | None:
    """The thing in a small sRGB picture (h, w, 3); None where the background is too busy for it.

    The background is modelled row by row between the two side margins, so that it may have a table
    edge and a falloff.
    """
    srgb = np.asarray(codes, dtype=np.float32) / np.float32(255)
    lab = np.asarray(cv2.cvtColor(srgb, cv2.COLOR_RGB2LAB), dtype=np.float32)
    apart = _apart(lab)
    margin = _margin_px(codes.shape[1])
    sides = np.concatenate([apart[:, :margin].ravel(), apart[:, -margin:].ravel()])
    if float(np.percentile(sides, 90)) > BUSY:
        return None
    limit = max(LEAST_APART, NOISES_APART * 1.4826 * float(np.median(sides)))
    mask = _whole(apart > limit)
    if mask is None:
        return None
    return _placed(mask)


def _apart(lab: Floats) -> Floats:
    """Distance of each pixel from the background that its row's margins promise."""
    height, width = lab.shape[:2]
    margin = _margin_px(width)
    left = _smooth(np.median(lab[:, :margin], axis=1))
    right = _smooth(np.median(lab[:, -margin:], axis=1))
    along = (np.arange(width) - margin / 2) / max(1, width - margin)
    share = np.clip(along, 0, 1).astype(np.float32)[None, :]
    rows = np.arange(height)
    least = np.full((height, width), np.inf, dtype=np.float32)
    for shift in SHIFTS:
        from_rows = np.clip(rows + round(shift * height), 0, height - 1)
        squared = np.zeros((height, width), dtype=np.float32)
        for channel, weight in enumerate((LIGHTNESS_WEIGHT, 1.0, 1.0)):
            from_left, from_right = (side[from_rows, channel, None] for side in (left, right))
            away = lab[..., channel] - from_left - (from_right - from_left) * share
            squared += away * away * np.float32(weight**2)
        np.minimum(least, squared, out=least)
    return np.sqrt(least)


def _whole(mask: Mask) -> Mask | None:
    """The thing's parts without specks and holes; None where there is nothing."""
    kernel = np.ones((5, 5), np.uint8)
    solid = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_CLOSE, kernel)
    solid = cv2.morphologyEx(solid, cv2.MORPH_OPEN, kernel)
    outlines, _ = cv2.findContours(solid, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    areas = [cv2.contourArea(outline) for outline in outlines]
    if not areas or max(areas) < LEAST_AREA * mask.size:
        return None
    parts = [
        outline
        for outline, area in zip(outlines, areas, strict=True)
        if area >= LEAST_PART * max(areas)
    ]
    filled = np.zeros(mask.shape, np.uint8)
    cv2.drawContours(filled, parts, -1, 1, cv2.FILLED)
    return np.asarray(filled, dtype=bool)


def _placed(mask: Mask) -> Thing:
    height, width = mask.shape
    rows, columns = np.nonzero(mask)
    box = (
        float(columns.min() / width),
        float(rows.min() / height),
        float((columns.max() + 1) / width),
        float((rows.max() + 1) / height),
    )
    centre = (float((columns.mean() + 0.5) / width), float((rows.mean() + 0.5) / height))
    size = float(np.sqrt(mask.sum()) / width)
    return Thing(mask=mask, centre=centre, box=box, size=size)


def _margin_px(width: int) -> int:
    return max(4, round(MARGIN * width))


def _smooth(profile: NDArray[np.floating]) -> Floats:
    """A margin's colours by row, without single rows that stray."""
    return np.stack(
        [
            np.asarray(cv2.medianBlur(profile[:, channel].astype(np.float32)[:, None], 5))[:, 0]
            for channel in range(3)
        ],
        axis=-1,
    )
