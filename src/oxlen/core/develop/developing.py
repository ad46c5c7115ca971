"""A picture developed by a recipe, from its linear light."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.develop.recipe import Gradient, Oval, Recipe
from oxlen.core.light.tone import LUMA, linear_to_srgb
from oxlen.core.simulate.develop import dialled_balance

Floats = NDArray[np.float32]
SHOULDER_FROM = 0.55
"""Linear tones above this are bent under white. [REINHARD2002]"""
BAND_ROWS, MARGIN_ROWS = 256, 16
SMALL_PX = 480
AROUND_SHARE = 1 / 40
"""Light about a pixel is judged over this share of the width."""
DARK_FROM, DARK_TO, BRIGHT_FROM, BRIGHT_TO = -0.5, -4.0, 0.0, 2.5
DAYLIGHT_K = 6504.0
NOISE_SIGMA, CHROMA_PX = 0.06, 9
EDGE_CODES = 0.04
"""Differences of neighbours larger than this are edges, which sharpening is for."""


def developed(colour: Floats, recipe: Recipe) -> Floats:
    """A picture's linear colours (h, w, 3) in multiples of mid, developed to sRGB from 0 to 1.

    White, exposure, gradient and oval act on light; shadows, highlights and local contrast on the
    light about each pixel, so that detail keeps its contrast. [REINHARD2002]
    """
    return np.concatenate(list(developed_bands(colour, recipe)))


def developed_bands(colour: Floats, recipe: Recipe) -> Iterator[Floats]:
    """The same in bands of rows from the top, so that a large picture needs little room."""
    light = _framed(colour, recipe)
    height = light.shape[0]
    around = _around(light, recipe)
    factor = _local_light(light.shape[:2], recipe)
    for top in range(0, height, BAND_ROWS):
        bottom = min(height, top + BAND_ROWS)
        first, last = max(0, top - MARGIN_ROWS), min(height, bottom + MARGIN_ROWS)
        rows = slice(first, last)
        band = _lit(light[rows], recipe) * factor[rows][..., None]
        band = band * _toned(band, around[rows], recipe)[..., None]
        band = np.maximum(band - np.float32(recipe.black_share), 0.0)
        linear = _shouldered(band / np.float32((1 - recipe.black_share) / MID_LINEAR))
        codes = np.asarray(linear_to_srgb(np.asarray(linear, dtype=np.float64)), dtype=np.float32)
        for step in FINISHING:
            codes = step(codes, recipe)
        yield np.clip(codes, 0.0, 1.0)[top - first : bottom - first]


def _lit(light: Floats, recipe: Recipe) -> Floats:
    """White balanced and exposed."""
    exposed = _gains(recipe) * np.float32(2.0**recipe.exposure_stops)
    return np.asarray(np.maximum(light, 0.0) * exposed, np.float32)


def _around(light: Floats, recipe: Recipe) -> Floats:
    """Light about each pixel (h, w) in stops from mid, as exposed; worked on a small copy."""
    height, width = light.shape[:2]
    size = (SMALL_PX, max(1, round(SMALL_PX * height / width)))
    small = _lit(np.asarray(cv2.resize(light, size, interpolation=cv2.INTER_AREA)), recipe)
    small = small * _local_light(small.shape[:2], recipe)[..., None]
    own = np.log2(np.maximum(small @ LUMA.astype(np.float32), 1e-6))
    slow = cv2.GaussianBlur(own, (0, 0), max(1.0, AROUND_SHARE * SMALL_PX))
    return np.asarray(cv2.resize(slow, (width, height), interpolation=cv2.INTER_LINEAR), np.float32)


def _framed(colour: Floats, recipe: Recipe) -> Floats:
    """Turned level and cropped; what turning leaves empty is cut off with it."""
    height, width = colour.shape[:2]
    if recipe.level_deg:
        # Enlarged so far that the turned frame has no empty corners.
        angle = np.radians(abs(recipe.level_deg))
        ratio = max(width, height) / min(width, height)
        grow = float(np.cos(angle) + ratio * np.sin(angle))
        matrix = cv2.getRotationMatrix2D((width / 2, height / 2), -recipe.level_deg, grow)
        colour = np.asarray(
            cv2.warpAffine(
                colour,
                matrix,
                (width, height),
                flags=cv2.INTER_CUBIC,
                borderMode=cv2.BORDER_REPLICATE,
            ),
            np.float32,
        )
    left, top, right, bottom = recipe.crop
    return colour[
        round(top * height) : round(bottom * height), round(left * width) : round(right * width)
    ]


def _gains(recipe: Recipe) -> Floats:
    """Gains on red, green and blue that make the light named neutral; ones for as it is."""
    if recipe.white_k is None and not recipe.tint_duv:
        return np.ones(3, dtype=np.float32)
    return dialled_balance(recipe.white_k or DAYLIGHT_K, recipe.tint_duv).as_array()


def _local_light(shape: tuple[int, int], recipe: Recipe) -> Floats:
    """What gradient and oval do to each pixel's light (h, w), as a factor."""
    stops = np.zeros(shape, dtype=np.float32)
    if recipe.gradient is not None:
        stops = stops + _gradient_mask(shape, recipe.gradient) * recipe.gradient.stops
    if recipe.oval is not None:
        stops = stops + _oval_mask(shape, recipe.oval) * recipe.oval.stops
    return np.asarray(np.exp2(stops), np.float32)


def _gradient_mask(shape: tuple[int, int], gradient: Gradient) -> Floats:
    height, width = shape
    across = np.arange(width, dtype=np.float32)[None, :] - width / 2
    edge = gradient.height_share * height + np.tan(np.radians(gradient.tilt_deg)) * across
    below = (np.arange(height, dtype=np.float32)[:, None] - edge) / (gradient.fade_share * height)
    return np.asarray(1 - _smooth(below + 0.5), np.float32)


def _oval_mask(shape: tuple[int, int], oval: Oval) -> Floats:
    height, width = shape
    across = ((np.arange(width) / width - oval.x) / max(oval.across, 0.01))[None, :]
    down = ((np.arange(height) / height - oval.y) / max(oval.down, 0.01))[:, None]
    return np.asarray(1 - _smooth(np.hypot(across, down)), np.float32)


def _toned(light: Floats, around: Floats, recipe: Recipe) -> Floats:
    """Factor (h, w) by which each pixel is lifted or brought down, and local contrast."""
    own = np.log2(np.maximum(light @ LUMA.astype(np.float32), 1e-6))
    dark = _smooth((around - DARK_FROM) / (DARK_TO - DARK_FROM))
    bright = _smooth((around - BRIGHT_FROM) / (BRIGHT_TO - BRIGHT_FROM))
    stops = recipe.shadows_stops * dark - recipe.highlights_stops * bright
    stops = stops + 0.5 * recipe.local_contrast * (own - around)
    return np.asarray(np.exp2(stops), np.float32)


def _smooth(at: NDArray[np.floating]) -> NDArray[np.floating]:
    held = np.clip(at, 0.0, 1.0)
    return np.asarray(held * held * (3 - 2 * held))


def _shouldered(linear: Floats) -> Floats:
    """Tones above the shoulder bent so that they near white and never reach it."""
    over = np.maximum(linear - SHOULDER_FROM, 0.0) / (1 - SHOULDER_FROM)
    bent = SHOULDER_FROM + (1 - SHOULDER_FROM) * (over / (1 + over)) * 1.35
    return np.asarray(np.where(linear > SHOULDER_FROM, np.minimum(bent, 1.0), linear), np.float32)


def _denoised(codes: Floats, recipe: Recipe) -> Floats:
    """Edge-keeping smoothing of brightness, stronger of colour. [TOMASI1998]"""
    if recipe.noise_reduction <= 0:
        return codes
    parts = cv2.cvtColor(codes, cv2.COLOR_RGB2YCrCb)
    sigma = NOISE_SIGMA * recipe.noise_reduction
    parts[..., 0] = cv2.bilateralFilter(parts[..., 0], 5, sigma, 2.0)
    for plane in (1, 2):
        parts[..., plane] = cv2.bilateralFilter(parts[..., plane], CHROMA_PX, 2 * sigma, 4.0)
    return np.asarray(cv2.cvtColor(parts, cv2.COLOR_YCrCb2RGB), np.float32)


def _sharpened(codes: Floats, recipe: Recipe) -> Floats:
    """Unsharp masking of brightness at edges alone, so that plain places keep their calm."""
    if recipe.sharpening <= 0:
        return codes
    luminance = codes @ LUMA.astype(np.float32)
    detail = luminance - cv2.GaussianBlur(luminance, (0, 0), 1.0)
    edges = cv2.GaussianBlur(np.abs(detail), (0, 0), 1.5)
    mask = np.clip(edges / EDGE_CODES, 0.0, 1.0)
    return np.asarray(codes + (1.5 * recipe.sharpening * mask * detail)[..., None], np.float32)


FINISHING: tuple[Callable[[Floats, Recipe], Floats], ...] = (_denoised, _sharpened)
