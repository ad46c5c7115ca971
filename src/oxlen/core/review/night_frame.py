"""What a frame of the night sky tells: how bright the sky is, how far stars trailed, the focus."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.star_shapes import star_shapes
from oxlen.core.frames.trail_field import LEAST_STARS, trail_field
from oxlen.core.labels import stops_label, two_digits
from oxlen.core.sky.brightness import CLASS_MAG, magnitude_of_ev100

SHARP_WIDTH_PX, SOFT = 3.2, 1.35
"""A focused star on a phone is hardly wider, its blur and the pixels together."""
KNOCKED_RATIO, KNOCKED_PX = 1.4, 1.5
SKY_OFF_STOPS = 0.5


@dataclass(frozen=True)
class NightFrame:
    """What a frame tells; lengths and widths in its own pixels, None with too few stars.

    `sky_ev100` is the level between the stars, None where the file does not say how it was exposed.
    """

    stars: int
    sky_ev100: float | None
    magnitude: float | None
    dark_sky_class: int | None
    trail_px: float | None
    corner_trail_px: float | None
    width_px: float | None


def night_frame(
    luminance: NDArray[np.float32],
    *,
    mid_ev100: float | None,
    scale: float = 1.0,
    focal_px: float | None = None,
) -> NightFrame:
    """Read a frame's luminance (h, w), mid = 1; `mid_ev100` is the exposure it was made with.

    `scale` is how many pixels of the file one of these covers; `focal_px` the focal length in
    these.
    """
    shapes = star_shapes(luminance)
    few = len(shapes.lengths_px) < LEAST_STARS
    level = float(np.median(luminance[: len(luminance) // 2] if few else shapes.ground))
    sky = None if mid_ev100 is None or level <= 0 else mid_ev100 + float(np.log2(level))
    magnitude = None if sky is None else float(magnitude_of_ev100(sky))
    height, width = luminance.shape
    trails = trail_field(shapes, (width, height), focal_px=focal_px)
    return NightFrame(
        len(shapes.lengths_px),
        sky,
        magnitude,
        dark_sky_class=None if magnitude is None else class_of(magnitude),
        trail_px=None if trails is None else scale * trails.middle_px,
        corner_trail_px=None if trails is None else scale * trails.corner_px,
        width_px=None if few else _middle(shapes.widths_px, scale),
    )


def class_of(magnitude: float) -> int:
    """The dark-sky class a brightness (mag/arcsec²) belongs to, 1 the darkest."""
    return next((number for number, (low, _) in CLASS_MAG.items() if magnitude >= low), 9)


def next_time(
    seen: NightFrame,
    *,
    assumed_magnitude: float | None = None,
    planned_trail_px: float | None = None,
) -> Iterator[str]:
    """What to change for the next frame, in sentences, what spoils most first."""
    if seen.width_px is None:
        yield (
            "Too few stars to judge: clouds, lens cap, or wrong focus. Check one bright star at "
            "full size"
        )
    elif seen.width_px > SOFT * SHARP_WIDTH_PX:
        yield (
            f"Stars are {two_digits(seen.width_px)} px wide instead of "
            f"{two_digits(SHARP_WIDTH_PX)}: focus is off. Shoot a focus ladder on a bright star"
        )
    trail = seen.trail_px
    if trail is not None and planned_trail_px is not None:
        most = max(KNOCKED_RATIO * planned_trail_px, planned_trail_px + KNOCKED_PX)
        if trail > most:
            yield (
                f"Stars trail {two_digits(trail)} px instead of {two_digits(planned_trail_px)}: "
                "the phone moved. Use a longer timer"
            )
    if seen.magnitude is not None and assumed_magnitude is not None:
        brighter = (assumed_magnitude - seen.magnitude) / 2.5 * np.log2(10)
        if abs(brighter) > SKY_OFF_STOPS:
            way = "brighter" if brighter > 0 else "darker"
            yield (
                f"The sky is {stops_label(abs(brighter))} {way} than planned. Plan with "
                f"{seen.magnitude:.1f} mag/arcsec²"
            )


def _middle(values: NDArray[np.float64], scale: float) -> float | None:
    return None if len(values) < LEAST_STARS // 2 else scale * float(np.median(values))
