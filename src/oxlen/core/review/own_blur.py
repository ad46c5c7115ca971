"""Blur of a frame by itself, where no other picture of it tells what is plain and what is blurred.

The detail of pictures falls off evenly with fineness, about as 1/f² in power, and alike in every
direction; a long smear or a wide disc takes the fine part away far below that. [FIELD1987]
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.measures.blur_spectrum import (
    LEAST_SIDE,
    NOISE_FROM,
    RADIUS,
    RINGS,
    SECTORS,
    USED,
    detail_power,
)
from oxlen.core.review.blur_cause import LENGTHS_PX, disc_fades, smear_fades

Floats = NDArray[np.float32]
Powers = NDArray[np.float64]
PATCH_PX, ACROSS, DOWN = 128, 7, 5
TELLING = 8
"""So many patches, those with the most detail, are asked."""
FALL = 2.0
"""How power falls with fineness in a sharp picture."""
LOWEST_RINGS = slice(1, 4)
WHITE_SHARE, MOST_WHITE = 0.985, 0.02
SEEN_PX = 8.0
"""Pictures differ: only wider blur than this differs from a soft subject."""
LEAST_COSTS = 3
TELLS = 30.0
CLEARLY, GAIN = 0.8, 0.3
"""A smear must explain it so much better than a disc, and either so much better than no blur."""


@dataclass(frozen=True)
class OwnBlur:
    """How far (px) a frame is blurred by its own looks, 0 where sharp; `is_smear`: one way."""

    px: float
    is_smear: bool


def own_blur(luminance: Floats) -> OwnBlur | None:
    """Blur of a frame's linear luminance (h, w) by itself; None where it shows too little detail.

    Its length is good to a factor of two: how much detail the scene had is not known. What is
    clipped is left out: its edges are not the subject's.
    """
    powers = [
        np.asarray(detail_power(patch)).reshape(RINGS, SECTORS) for patch in _patches(luminance)
    ]
    powers.sort(key=lambda power: -float(power[LOWEST_RINGS].mean()))
    costs = [_costs(power) for power in powers[:TELLING] if _tells(power)]
    if len(costs) < LEAST_COSTS:
        return None
    smears = np.sum([smear for smear, _ in costs], axis=0)
    discs = np.sum([disc for _, disc in costs], axis=0)
    is_smear = bool(smears.min() < CLEARLY * discs.min())
    length = int(np.argmin(smears.min(axis=1) if is_smear else discs))
    px = float(LENGTHS_PX[length])
    gained = 1 - float(smears.min() if is_smear else discs.min()) / float(discs[0])
    return OwnBlur(px if px >= SEEN_PX and gained >= GAIN else 0.0, is_smear=is_smear)


def _tells(power: Powers) -> bool:
    """Whether coarse detail is far enough above the noise to judge the fine."""
    noise = float(np.median(power[RADIUS >= NOISE_FROM]))
    return float(np.median(power[LOWEST_RINGS])) > TELLS * noise


def _costs(power: Powers) -> tuple[Powers, Powers]:
    """How badly each smear (lengths, angles) and each disc (lengths) explains a patch."""
    noise = float(np.median(power[RADIUS >= NOISE_FROM]))
    level = np.median(power[LOWEST_RINGS] * RADIUS[LOWEST_RINGS, None] ** FALL)
    sharp = level / RADIUS[USED, None] ** FALL * np.ones(SECTORS)
    seen = np.log(np.maximum(power[USED], 1e-15))
    weight = np.sqrt(RADIUS[USED])[:, None]
    smears = ((seen - np.log(sharp * smear_fades() + noise)) ** 2 * weight).sum(axis=(2, 3))
    faded = sharp * disc_fades()[:, :, None] + noise
    discs = ((seen - np.log(faded)) ** 2 * weight).sum(axis=(1, 2))
    return np.asarray(smears), np.asarray(discs)


def _patches(luminance: Floats) -> list[Floats]:
    height, width = luminance.shape
    side = min(PATCH_PX, height, width)
    if side < LEAST_SIDE:
        return []
    top = WHITE_SHARE * float(luminance.max())
    lefts = np.linspace(0, width - side, ACROSS).astype(int)
    tops = np.linspace(0, height - side, DOWN).astype(int)
    found = [luminance[y : y + side, x : x + side] for y in tops for x in lefts]
    return [
        patch for patch in found if patch.mean() > 0 and float((patch >= top).mean()) <= MOST_WHITE
    ]
