"""Development notes that only a night sky needs: its background, cast and gradient."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.labels import stops_label
from oxlen.core.light.tone import LUMA

BLACK_STOPS = -5.5
"""Where the darkest of the sky looks black without being lost."""
GREEN_STOPS, GREEN_MOST = 0.12, 2.0
COOL_K, WARM_SKY_STOPS = 3900.0, 0.25
GRADIENT_STOPS = 0.5
BANDS = 12
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class NightLook:
    """What a night sky shows: levels in stops from mid, casts in stops against green.

    `black_stops` is the sky's darkest; `green_stops` how much green is over red and blue,
    `warm_stops` how much red is over blue; `horizon_stops` how much brighter its foot is.
    """

    black_stops: float
    green_stops: float
    warm_stops: float
    horizon_stops: float


def night_look(colour: Floats, sky: NDArray[np.bool_] | None = None) -> NightLook:
    """Read the sky of a picture (h, w, 3) in multiples of mid; `sky` (h, w) where it is.

    Without a mask the whole frame counts as sky. Stars are left out by taking medians.
    """
    inside = np.ones(colour.shape[:2], dtype=bool) if sky is None else sky
    light = np.maximum(colour @ LUMA.astype(np.float32), 1e-6)
    red, green, blue = (
        float(np.log2(max(float(np.median(colour[..., at][inside])), 1e-6))) for at in range(3)
    )
    rows = [
        float(np.log2(np.median(part[held])))
        for part, held in zip(
            np.array_split(light, BANDS), np.array_split(inside, BANDS), strict=True
        )
        if held.sum() > 50
    ]
    return NightLook(
        black_stops=float(np.log2(np.quantile(light[inside], 0.02))),
        green_stops=green - (red + blue) / 2,
        warm_stops=red - blue,
        horizon_stops=rows[-1] - min(rows) if rows else 0.0,
    )


def night_sentences(seen: NightLook) -> Iterator[str]:
    """What to do about it in development, in working order, with the numbers."""
    lift = seen.black_stops - BLACK_STOPS
    if lift > 0.5:
        yield f"Raise the black point by {stops_label(lift)}: the darkest sky is grey."
    elif lift < -0.5:
        yield f"Lift the blacks by {stops_label(-lift)}: the darkest sky is clipped."
    if seen.green_stops > GREEN_STOPS:
        take = min(GREEN_MOST, seen.green_stops)
        yield f"Remove {take:.2f} stops of green: airglow tints the sky."
    if seen.warm_stops > WARM_SKY_STOPS:
        yield f"Cooler, near {COOL_K:.0f} K: red is {stops_label(seen.warm_stops)} above blue."
    if seen.horizon_stops > GRADIENT_STOPS:
        yield (
            f"Add a gradient from the horizon, {stops_label(seen.horizon_stops)} at the bottom, "
            "against light pollution."
        )
