"""Blur measured in a frame: how far the known scene must be blurred to look like it."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.light.meter import Spot, disc_box
from oxlen.core.light.tone import LUMA
from oxlen.core.simulate.blur import disc_kernel
from oxlen.core.simulate.scene import Scene

Floats = NDArray[np.float32]
MARGIN_PX = 8
BLURS_PX = np.array([0.4, 0.8, 1.2, 1.6, 2.0, 2.4, 2.8, 3.2, 3.8, 4.5, 5.5, 7.0, 9.0, 12.0])
BRIGHTEST = 2.5
"""What is brighter than so many times a patch's median counts as no brighter."""
ALIKE = 0.5
"""A patch less like the scene than this, clipped or blocked, shows nothing of its blur."""
PLAIN = 0.02
"""A patch whose relative spread is smaller shows no blur: there is nothing in it to see."""


def measured_blur_px(luminance: Floats, scene: Scene, spot: Spot, *, shake_px: float) -> float:
    """Diameter (px) of the disc that makes the scene's own patch most like the frame's.

    The patch may have shifted by some pixels, as a hand does; likeness is correlation, so noise and
    exposure do not count. A patch too plain or lost to tell is as sharp as the hand
    held it.
    """
    truth = np.asarray(scene.radiance @ LUMA.astype(np.float32))
    height, width = (min(a, b) for a, b in zip(truth.shape, luminance.shape, strict=True))
    left, top, right, bottom = disc_box(spot, width, height)
    rows = slice(max(0, top - MARGIN_PX), min(height, bottom + MARGIN_PX))
    columns = slice(max(0, left - MARGIN_PX), min(width, right + MARGIN_PX))
    wide, seen = _even(truth[rows, columns]), _even(luminance[rows, columns])
    if float(wide.std()) < PLAIN * float(wide.mean()):
        return shake_px
    alike = [_likeness(wide, seen, float(blur)) for blur in BLURS_PX]
    best = int(np.argmax(alike))
    if alike[best] < ALIKE:
        return shake_px
    if not 0 < best < len(BLURS_PX) - 1:
        return float(BLURS_PX[best])
    # Between three samples the top of a parabola, uneven steps counted.
    fit = np.polyfit(BLURS_PX[best - 1 : best + 2], alike[best - 1 : best + 2], 2)
    return float(-fit[1] / (2 * fit[0])) if fit[0] < 0 else float(BLURS_PX[best])


def _even(patch: Floats) -> Floats:
    """A patch with its glints cut to a common height: a frame clips them and the scene does not."""
    top = BRIGHTEST * float(np.median(patch))
    return np.asarray(np.minimum(patch, top), dtype=np.float32)


def _likeness(truth: Floats, seen: Floats, blur_px: float) -> float:
    """Highest correlation of the frame's patch with the blurred truth, over small shifts."""
    soft = cv2.filter2D(truth, -1, disc_kernel(blur_px), borderType=cv2.BORDER_REPLICATE)
    inner = np.ascontiguousarray(soft[MARGIN_PX:-MARGIN_PX, MARGIN_PX:-MARGIN_PX])
    found = cv2.matchTemplate(
        np.ascontiguousarray(seen, dtype=np.float32), inner.astype(np.float32), cv2.TM_CCOEFF_NORMED
    )
    return float(found.max())
