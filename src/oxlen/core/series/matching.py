"""Making a take match the reference in light, white balance and place; nothing is sharpened."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import CLIPPED_CODE
from oxlen.core.light.tone import linear_table, linear_to_srgb
from oxlen.core.series.comparing import SeriesDifference
from oxlen.core.series.framing import WHOLE, Box, Framing, framed
from oxlen.core.series.look import SeriesLook
from oxlen.core.series.white import BRIGHTEST, WhiteCurve, lifted

MOST_INSET = 0.25
"""Own choice: the most of each side that is cut off for turned frames; the rest is reshot."""

LEAST_TURN_DEG, LEAST_ZOOM = 0.15, 0.006
"""Own choice: what nobody sees, and measuring leaves open anyway; pixels stay as they are."""


@dataclass(frozen=True)
class Recipe:
    """What is done to a take: linear gains of R, G, B, then turned, zoomed and moved.

    `centre` and `middle` are where the thing is in the take and where it goes, as shares; `zoom`
    is over 1 where it is enlarged; `held_stops` is the light left out so that nothing of the thing
    clips. `crop` (left, top, right, bottom as shares) is what is kept of the matched frame.
    """

    gains: tuple[float, float, float]
    turn_deg: float
    zoom: float
    centre: tuple[float, float]
    middle: tuple[float, float]
    held_stops: float = 0.0
    crop: Box = WHOLE


def recipe(found: SeriesDifference, take: SeriesLook, reference: SeriesLook) -> Recipe | None:
    """What makes a take match; None where its thing or its light could not be compared."""
    if found.scale is None or found.exposure_stops is None or found.shift_xy is None:
        return None
    if reference.thing is None:
        return None
    x, y = reference.thing.centre
    gains = 1.0 / np.array(found.gains)
    held = _held_stops(take, gains)
    gains = gains * 2.0**-held
    return Recipe(
        gains=(float(gains[0]), float(gains[1]), float(gains[2])),
        turn_deg=found.tilt_deg or 0.0,
        zoom=1.0 / found.scale if found.same_shape else 1.0,
        centre=(x + found.shift_xy[0], y + found.shift_xy[1]),
        middle=(x, y),
        held_stops=held,
    )


def with_common_crop(
    recipes: Iterable[Recipe], shape: tuple[int, int], framing: Framing | None = None
) -> list[Recipe]:
    """Recipes with the one crop that leaves no empty corner in any; equal margins for all.

    `shape` is height and width of the takes; `framing` narrows the crop about the thing.
    """
    found = list(recipes)
    inset = min(max((_inset(each, shape) for each in found), default=0.0), MOST_INSET)
    whole: Box = (inset, inset, 1 - inset, 1 - inset)
    crop = whole if framing is None else framed(framing, whole, shape)
    return [replace(each, crop=crop) for each in found]


def matched(
    codes: NDArray[np.uint8], how: Recipe, white: WhiteCurve | None = None
) -> NDArray[np.uint8]:
    """A take's sRGB codes (h, w, 3) developed by its recipe, cropped. [IEC61966-2-1]

    `white`, the same for a whole series, takes the background to a stated white.
    """
    height, width = codes.shape[:2]
    left, top, right, bottom = how.crop
    rows = slice(round(top * height), round(bottom * height))
    columns = slice(round(left * width), round(right * width))
    light = linear_table(255)[:, None] * np.array(how.gains)
    if white is not None:
        light = lifted(white, light)
    table = np.rint(255 * linear_to_srgb(np.clip(light, 0, 1))).astype(np.uint8)
    clips_from = (table < CLIPPED_CODE).sum(axis=0)
    cut = _moved(codes, how, (rows, columns), clips_from=clips_from)
    return np.asarray(cv2.LUT(cut, table[None]))


def _moved(
    codes: NDArray[np.uint8],
    how: Recipe,
    kept: tuple[slice, slice],
    *,
    clips_from: NDArray[np.int_],
) -> NDArray[np.uint8]:
    """The kept part of the picture, turned, zoomed and moved.

    One that is only moved stays sharp to the pixel: it is cut out where the thing is.
    """
    rows, columns = kept
    matrix = _matrix(how, (codes.shape[0], codes.shape[1]))
    if abs(how.turn_deg) < LEAST_TURN_DEG and abs(how.zoom - 1) < LEAST_ZOOM:
        x = round((how.middle[0] - how.centre[0]) * codes.shape[1])
        y = round((how.middle[1] - how.centre[1]) * codes.shape[0])
        is_inside = rows.start - y >= 0 and rows.stop - y <= codes.shape[0]
        if is_inside and columns.start - x >= 0 and columns.stop - x <= codes.shape[1]:
            return codes[rows.start - y : rows.stop - y, columns.start - x : columns.stop - x]
    matrix[:, 2] -= columns.start, rows.start
    size = (columns.stop - columns.start, rows.stop - rows.start)
    edge = cv2.BORDER_REPLICATE
    done = cv2.warpAffine(codes, matrix, size, flags=cv2.INTER_CUBIC, borderMode=edge)
    return _not_brighter(np.asarray(done, dtype=np.uint8), codes, matrix, clips_from=clips_from)


def _not_brighter(
    moved: NDArray[np.uint8],
    codes: NDArray[np.uint8],
    matrix: NDArray[np.float64],
    *,
    clips_from: NDArray[np.int_],
) -> NDArray[np.uint8]:
    """Cubic keeps detail but overshoots beside edges: nothing clips that would not have there.

    `clips_from` are the codes of R, G and B from which on a pixel clips once it is developed.
    """
    red, green, blue = (moved[..., channel] >= clips_from[channel] for channel in range(3))
    rows, columns = np.nonzero(red | green | blue)
    if len(rows) == 0:
        return moved
    back = cv2.invertAffineTransform(matrix)
    x, y = (back @ np.stack([columns, rows, np.ones(len(rows))])).round().astype(int)
    height, width = codes.shape[:2]
    brightest = np.zeros((len(rows), 3), np.uint8)
    for down in (-1, 0, 1):
        for along in (-1, 0, 1):
            at = np.clip(y + down, 0, height - 1), np.clip(x + along, 0, width - 1)
            brightest = np.maximum(brightest, codes[at])
    moved[rows, columns] = np.minimum(moved[rows, columns], brightest)
    return moved


def _held_stops(take: SeriesLook, gains: NDArray[np.float64]) -> float:
    """How much less bright it is made so that no pixel of the thing clips that had not."""
    most = float((np.array(take.highest) * gains).max())
    return max(0.0, float(np.log2(most / BRIGHTEST))) if most > 0 else 0.0


def _inset(how: Recipe, shape: tuple[int, int]) -> float:
    """Share of each side to cut so that the turned frame fills what is left."""
    height, width = shape
    corners = np.array([[0, 0, 1], [width, 0, 1], [width, height, 1], [0, height, 1]], float)
    frame = (corners @ _matrix(how, shape).T).astype(np.float32)
    for inset in np.arange(0.0, MOST_INSET, 0.004):
        x, y = inset * width, inset * height
        kept = ((x, y), (width - x, y), (width - x, height - y), (x, height - y))
        # Within by half a pixel: the smooth edge of a turned frame is no picture either.
        if all(cv2.pointPolygonTest(frame, point, True) >= -0.5 for point in kept):
            return float(inset)
    return MOST_INSET


def _matrix(how: Recipe, shape: tuple[int, int]) -> NDArray[np.float64]:
    """From the take to the matched picture: turned back, with the thing at its place."""
    height, width = shape
    angle = np.radians(how.turn_deg)
    c, s = how.zoom * np.cos(angle), how.zoom * np.sin(angle)
    x, y = how.centre[0] * width - 0.5, how.centre[1] * height - 0.5
    to_x, to_y = how.middle[0] * width - 0.5, how.middle[1] * height - 0.5
    return np.array([[c, s, to_x - c * x - s * y], [-s, c, to_y + s * x - c * y]])
