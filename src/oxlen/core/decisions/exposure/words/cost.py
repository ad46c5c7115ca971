"""What one slip costs beside another, in words."""

from __future__ import annotations

import math
from collections.abc import Iterator

from oxlen.core.decisions.solver.frontier import Figures
from oxlen.core.labels import two_digits

SEEN_BLUR_PX = 1.0
"""Blur below a pixel of the file costs nothing."""
LEAST_STOPS = 0.3
"""Noise and blur that change by less than this share of a doubling are the same to the eye."""
LEAST_SHARE = 0.02


def cost_words(before: Figures, after: Figures) -> str:
    """What is worse or better by another slip of the same sheet; empty where nothing is.

    SNR counts at the subject, blur in pixels of the file.
    """
    return ", ".join(_costs(before, after))


def _costs(before: Figures, after: Figures) -> Iterator[str]:
    noise = math.log2(after.snr_subject / before.snr_subject)
    if abs(noise) >= LEAST_STOPS:
        side = "cleaner" if noise > 0 else "grainier"
        snrs = f"{two_digits(after.snr_subject)} for {two_digits(before.snr_subject)}"
        yield f"{side} (SNR {snrs})"
    worst = max(before.blur_px, after.blur_px)
    if worst >= SEEN_BLUR_PX:
        least = max(min(before.blur_px, after.blur_px), 0.1)
        if math.log2(worst / least) >= LEAST_STOPS:
            side = "sharper" if after.blur_px < before.blur_px else "softer"
            yield f"{side} (blur {after.blur_px:.1f} px for {before.blur_px:.1f})"
    lost, was = after.clipped_share or 0.0, before.clipped_share or 0.0
    if abs(lost - was) >= LEAST_SHARE:
        yield f"{lost:.0%} of the frame clipped for {was:.0%}"
