"""How far a picture leans, measured by its long straight lines."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float32]
SIDE_PX = 900
WITHIN_DEG = 12.0
"""A line further off level or plumb than this was not meant to be either."""
LONG_SHARE = 0.06
"""Lines shorter than this share of the width say too little."""
AGREE_DEG = 0.5
LEAST_LENGTH = 0.12
"""Lines that agree must add up to this share of the width to tell."""
STEP_DEG = 0.05
SPREAD_DEG = 0.25
LEAST_PLUMB, LEAST_APART, PLUMB_SPREAD_DEG = 6, 0.35, 1.5
"""Plumb lines enough, far enough apart, and of one mind, to tell whether they converge."""


@dataclass(frozen=True)
class Lean:
    """Degrees by which a picture leans clockwise, and how sure: the share of lines that agree."""

    degrees: float
    share: float


def lean(luminance: Floats) -> Lean | None:
    """How far a picture's (h, w) straight lines lean; None where too few agree.

    Level lines and plumb ones count alike, each by its length; plumb ones near the middle alone, as
    a camera that looks up or down turns those at the sides. [GIOI2010]
    """
    lines = _lines(luminance)
    if lines is None:
        return None
    angles, weights = _deviations(lines, luminance.shape[1] / luminance.shape[0])
    if not angles.size:
        return None
    grid = np.arange(-WITHIN_DEG, WITHIN_DEG + STEP_DEG, STEP_DEG)
    near = np.exp(-0.5 * ((grid[:, None] - angles[None, :]) / SPREAD_DEG) ** 2)
    best = float(grid[int(np.argmax(near @ weights))])
    agree = np.abs(angles - best) <= AGREE_DEG
    if float(weights[agree].sum()) < LEAST_LENGTH:
        return None
    degrees = float(np.average(angles[agree], weights=weights[agree]))
    return Lean(degrees, float(weights[agree].sum() / weights.sum()))


def _lines(luminance: Floats) -> NDArray[np.float64] | None:
    """Line segments (n, 4) as x, y, x, y in shares of the width, long ones only."""
    scale = min(1.0, SIDE_PX / max(luminance.shape))
    size = (round(luminance.shape[1] * scale), round(luminance.shape[0] * scale))
    small = cv2.resize(luminance, size, interpolation=cv2.INTER_AREA) if scale < 1 else luminance
    top = max(float(np.quantile(small, 0.99)), 1e-9)
    codes = np.asarray(255 * np.clip(small / top, 0, 1) ** 0.45, dtype=np.uint8)
    found = cv2.createLineSegmentDetector(cv2.LSD_REFINE_STD).detect(codes)[0]
    if found is None:
        return None
    segments = np.asarray(found, dtype=np.float64).reshape(-1, 4) / size[0]
    lengths = np.hypot(segments[:, 2] - segments[:, 0], segments[:, 3] - segments[:, 1])
    kept: NDArray[np.float64] = segments[lengths >= LONG_SHARE]
    return kept if kept.size else None


def _deviations(
    lines: NDArray[np.float64], aspect: float
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Each line's angle off level or plumb, in degrees, y downwards, and its weight."""
    across, down = lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]
    lengths = np.hypot(across, down)
    angle = np.degrees(np.arctan2(down, across))
    off = (angle + 45) % 90 - 45
    is_plumb = np.abs(down) > np.abs(across)
    middle = (lines[:, 0] + lines[:, 2]) / 2
    aside = np.abs(middle - 0.5) * 2
    weights = lengths * np.where(is_plumb, np.maximum(0.0, 1 - aside), 0.0)
    # Long lines are measured more exactly than short ones of the same total length.
    weights = weights * np.minimum(1.0, lengths / 0.15)
    del aspect
    kept = np.abs(off) <= WITHIN_DEG
    return off[kept], weights[kept]


@dataclass(frozen=True)
class PlumbLines:
    """Plumb lines over the frame, in degrees: how they converge from left to right, and how much
    one in the middle leans clockwise.

    `converging_deg` positive = they meet above the frame, as when one looks up.
    """

    converging_deg: float
    middle_lean_deg: float


def converging_deg(luminance: Floats) -> float | None:
    """How much plumb lines at the right lean over against those at the left, in degrees.

    None where too few lines tell.
    """
    found = plumb_lines(luminance)
    return None if found is None else found.converging_deg


def plumb_lines(luminance: Floats) -> PlumbLines | None:
    """The plumb lines of a picture (h, w); None where too few of one mind tell.

    A camera that looks up or down leans those at the sides; only one in the middle tells its roll.
    """
    lines = _lines(luminance)
    if lines is None:
        return None
    across, down = lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1]
    off = (np.degrees(np.arctan2(down, across)) + 90) % 180 - 90
    off = np.where(off > 0, off - 90, off + 90)
    plumb = np.abs(off) <= WITHIN_DEG
    places = ((lines[:, 0] + lines[:, 2]) / 2)[plumb]
    if plumb.sum() < LEAST_PLUMB or float(np.ptp(places)) < LEAST_APART:
        return None
    weights = np.hypot(across, down)[plumb]
    slope, middle = np.polyfit(places - 0.5, off[plumb], 1, w=weights)
    left = off[plumb] - (slope * (places - 0.5) + middle)
    if float(np.average(np.abs(left), weights=weights)) > PLUMB_SPREAD_DEG:
        return None
    return PlumbLines(float(-slope), float(middle))
