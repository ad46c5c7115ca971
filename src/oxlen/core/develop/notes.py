"""Development notes: what a take's own light, noise and frame suggest, as numbers and sentences."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.develop.recipe import Gradient, Recipe
from oxlen.core.labels import signed, stops_label
from oxlen.core.light.tone import LUMA
from oxlen.core.review.skyline import Skyline

NoiseClass = Literal["none", "light", "medium", "strong"]
NOISE_CLASSES: tuple[tuple[float, NoiseClass, float], ...] = (
    (40.0, "none", 0.0),
    (20.0, "light", 0.25),
    (10.0, "medium", 0.5),
    (0.0, "strong", 0.85),
)
"""From which SNR of mid on, what it is called, and how much of the reduction it takes."""
WHITE_STOPS = 2.4
"""A developed picture's white, over mid."""
MOST_LIFT_STOPS, MOST_EXPOSURE_STOPS = 3.0, 3.0
DARK_SHARE, BRIGHT_SHARE = 0.05, 0.995
SKY_OVER_STOPS = 1.6
"""A sky this much brighter than the foreground looks as it did; more is brought down to it."""
STRIP_STOPS, STRIP_SPREAD, MOST_STRIP = 1.2, 0.5, 0.25
LEVEL_DEG = 0.3
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class TakeLight:
    """A take as it is to be developed.

    `colour` (h, w, 3) counts in multiples of mid, `snr_at` gives the SNR of a pixel of the file at
    so many stops from mid. `subject_stops` is where the subject is and `wanted_stops` where it is
    wanted; `white_k` and `tint_duv` are of the light on something neutral. None = not known.
    """

    colour: Floats
    snr_at: Callable[[float], float]
    subject_stops: float | None = None
    wanted_stops: float | None = None
    white_k: float | None = None
    tint_duv: float = 0.0
    lean_deg: float | None = None
    sky: Skyline | None = None


@dataclass(frozen=True)
class DevelopmentNotes:
    """What is suggested: the recipe, the class of noise, and sentences with the reasons."""

    recipe: Recipe
    noise: NoiseClass
    lift_bears_stops: float
    sentences: tuple[str, ...]


def development_notes(take: TakeLight) -> DevelopmentNotes:
    """What a take suggests for its development, from its own pixels and the phone's noise."""
    stops = np.log2(np.maximum(take.colour @ LUMA.astype(np.float32), 1e-6))
    exposure = _exposure(take, stops)
    dark = float(np.quantile(stops, DARK_SHARE))
    bears = _lift_bears(take, dark)
    shadows = min(bears, max(0.0, -3.0 - (dark + exposure)))
    bright = float(np.quantile(stops, BRIGHT_SHARE)) + exposure
    highlights = min(2.0, max(0.0, bright - WHITE_STOPS))
    noise, reduction = _noise_class(take.snr_at(-exposure))
    recipe = Recipe(
        round(exposure, 1),
        None if take.white_k is None else float(50 * round(take.white_k / 50)),
        round(take.tint_duv, 3),
        shadows_stops=round(shadows, 1),
        highlights_stops=round(highlights, 1),
        crop=stray_strip(stops),
        level_deg=_level(take),
        gradient=_gradient(take),
        sharpening=0.3 if noise != "strong" else 0.1,
        noise_reduction=reduction,
    )
    sentences = tuple(_sentences(take, recipe, noise, bears=bears))
    return DevelopmentNotes(recipe, noise, bears, sentences=sentences)


def _exposure(take: TakeLight, stops: Floats) -> float:
    """Stops to the tone wanted of the subject; to a middling frame where none is known."""
    if take.subject_stops is not None and take.wanted_stops is not None:
        wanted = take.wanted_stops - take.subject_stops
    else:
        wanted = -float(np.median(stops)) - 0.5
    return float(np.clip(wanted, -MOST_EXPOSURE_STOPS, MOST_EXPOSURE_STOPS))


def _lift_bears(take: TakeLight, dark_stops: float) -> float:
    """How far the dark tones may be lifted until their noise shows as much as is acceptable.

    Noise of a tone lifted by n stops is as plain as that of one n stops brighter with its SNR.
    """
    spare = math.log2(max(take.snr_at(dark_stops), 1e-3) / SNR_ACCEPTABLE) + 1
    return round(float(np.clip(spare, 0.0, MOST_LIFT_STOPS)), 1)


def _noise_class(snr: float) -> tuple[NoiseClass, float]:
    return next((name, share) for least, name, share in NOISE_CLASSES if snr >= least)


def _level(take: TakeLight) -> float:
    lean = take.lean_deg or 0.0
    return round(float(np.clip(-lean, -15, 15)), 1) if abs(lean) >= LEVEL_DEG else 0.0


def _gradient(take: TakeLight) -> Gradient | None:
    sky = take.sky
    if sky is None or sky.over_land_stops <= SKY_OVER_STOPS:
        return None
    darker = -round(min(2.5, sky.over_land_stops - SKY_OVER_STOPS), 1)
    return Gradient(round(sky.height_share, 3), darker, tilt_deg=round(sky.tilt_deg, 1))


def stray_strip(stops: NDArray[np.floating]) -> tuple[float, float, float, float]:
    """The crop (left, top, right, bottom) that leaves out plain white strips at the edges.

    `stops` (h, w) from mid. A strip is as good as white, plain, and ends at a clear edge.
    """
    top = _strip(stops)
    bottom = _strip(stops[::-1])
    left, right = _strip(stops.T), _strip(stops.T[::-1])
    return (left, top, round(1 - right, 3), round(1 - bottom, 3))


def _strip(stops: NDArray[np.floating]) -> float:
    """Share of the rows from the top that are a plain white strip; 0 for none."""
    rows = stops[: max(2, round(MOST_STRIP * stops.shape[0]))]
    middle, spread = np.median(rows, axis=1), np.ptp(np.quantile(rows, (0.1, 0.9), axis=1), axis=0)
    is_strip = (middle > STRIP_STOPS) & (spread < STRIP_SPREAD)
    length = int(np.argmin(is_strip)) if not is_strip.all() else 0
    if length == 0:
        return 0.0
    within = float(np.median(stops[length + 1 :]))
    # A white sky is no strip: what follows must be clearly darker.
    return round((length + 1) / stops.shape[0], 3) if middle[0] - within > STRIP_STOPS else 0.0


def _sentences(
    take: TakeLight, recipe: Recipe, noise: NoiseClass, *, bears: float
) -> Iterator[str]:
    if abs(recipe.exposure_stops) >= 0.1:
        side = "brighter" if recipe.exposure_stops > 0 else "darker"
        yield f"{stops_label(recipe.exposure_stops)} {side} puts the subject at its wanted tone."
    if recipe.white_k is not None:
        tint = f", tint {signed(recipe.tint_duv, 3)} Duv" if abs(recipe.tint_duv) >= 0.002 else ""
        yield f"White balance {recipe.white_k:.0f} K{tint} makes the patch neutral."
    if recipe.shadows_stops:
        yield f"Lift the shadows by {stops_label(recipe.shadows_stops)}."
    if bears:
        yield f"The darkest tones allow {stops_label(bears)} of lifting."
    else:
        yield "Do not lift the darkest tones: noise would show."
    if recipe.highlights_stops:
        yield f"Lower the highlights by {stops_label(recipe.highlights_stops)}."
    if take.sky is not None:
        yield (
            f"The sky is {stops_label(take.sky.over_land_stops)} brighter than the foreground, "
            f"its edge {take.sky.height_share:.0%} from the top."
        )
    if recipe.crop != (0.0, 0.0, 1.0, 1.0):
        yield "Crop the white strip at the edge."
    if recipe.level_deg:
        side = "clockwise" if recipe.level_deg > 0 else "anticlockwise"
        yield f"Rotate {abs(recipe.level_deg):.1f}° {side}."
    words = {
        "none": "No noise reduction needed.",
        "strong": "Strong noise reduction; print it small.",
    }
    yield words.get(noise, f"{noise.capitalize()} noise reduction.")
