"""How a thing is placed against the reference: turned, larger, elsewhere."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.series.look import SeriesLook
from oxlen.core.series.thing import Thing

Floats = NDArray[np.float32]
PATCH_PX, AROUND = 192, 1.5
"""Own choice: the size both things are compared at, and the room around them, in boxes."""
TURNS_DEG, FINE_TURNS_DEG = np.arange(-8.0, 8.1, 1.0), np.arange(-1.0, 1.01, 0.25)
SCALES = np.arange(0.92, 1.081, 0.02)
"""Own choice: how far a bumped phone is from the reference at most."""
SAME_THING = 0.45
"""Own choice: the correlation of two things' edges from which on their turn is known."""
TURNING = 0.04
"""Own choice: what turning by 5° must cost of it, or the thing is as round as it is plain."""


@dataclass(frozen=True)
class Placed:
    """Against the reference: scale as a ratio, shift as shares of the frame's width and height.

    `tilt_deg` is clockwise on the picture; None where the thing is too round or too different.
    """

    scale: float
    shift: tuple[float, float]
    tilt_deg: float | None


def placed(take: SeriesLook, reference: SeriesLook) -> Placed | None:
    """How the thing of a take is placed; None where either has none.

    Edges of both are correlated over turns and scales, the top by a parabola: the outline of a tin
    holds whatever its label. Things that differ are compared by their area alone.
    """
    thing = take.thing
    if thing is None or reference.thing is None:
        return None
    shift = (
        thing.centre[0] - reference.thing.centre[0],
        thing.centre[1] - reference.thing.centre[1],
    )
    by_area = thing.size / reference.thing.size
    span = _span_px(reference)
    wanted = _edges(_patch(reference, reference.thing, span, scale=1.0, turn_deg=0.0))

    def likeness(scale: float, turn_deg: float) -> float:
        found = _edges(_patch(take, thing, span, scale=scale, turn_deg=turn_deg))
        return _correlation(found, wanted)

    turn = _best(TURNS_DEG, [likeness(by_area, degrees) for degrees in TURNS_DEG])
    scale = _best(by_area * SCALES, [likeness(s, turn) for s in by_area * SCALES])
    fine = turn + FINE_TURNS_DEG
    turn = _best(fine, [likeness(scale, degrees) for degrees in fine])
    top = likeness(scale, turn)
    if top < SAME_THING:
        return Placed(by_area, shift, None)
    beside = max(likeness(scale, turn - 5.0), likeness(scale, turn + 5.0))
    return Placed(scale, shift, turn if top - beside >= TURNING else None)


def _span_px(reference: SeriesLook) -> float:
    """Side of the square that is compared, in pixels of the small reference."""
    assert reference.thing is not None
    height, width = reference.lost.shape
    left, top, right, bottom = reference.thing.box
    return float(AROUND * max((right - left) * width, (bottom - top) * height))


def seen_as(take: SeriesLook, reference: SeriesLook, where: Placed) -> SeriesLook:
    """The take as the reference's camera would have seen it; what it does not show is lost."""
    if take.thing is None or reference.thing is None:
        return take
    height, width = take.lost.shape
    centre = (reference.thing.centre[0] * width, reference.thing.centre[1] * height)
    turn_deg = where.tilt_deg or 0.0
    matrix = _matrix(take, take.thing, 1 / where.scale, turn_deg=turn_deg, middle=centre)

    def warped(values: NDArray[np.generic], beyond: float) -> NDArray[np.float32]:
        plain = np.asarray(values, dtype=np.float32)
        return np.asarray(
            cv2.warpAffine(plain, matrix, (width, height), borderValue=(beyond,) * 4),
            dtype=np.float32,
        )

    thing = replace(take.thing, mask=warped(take.thing.mask, 0.0) > 0.01)
    lost = warped(take.lost, 1.0) > 0.01
    return replace(take, linear=warped(take.linear, 0.0), lost=lost, thing=thing)


def _patch(
    look: SeriesLook, thing: Thing, span_px: float, *, scale: float, turn_deg: float
) -> Floats:
    """The thing upright and at the reference's size, as if it were so much larger and turned."""
    zoom, middle = PATCH_PX / (span_px * scale), (PATCH_PX / 2, PATCH_PX / 2)
    return np.asarray(
        cv2.warpAffine(
            look.lightness,
            _matrix(look, thing, zoom, turn_deg=turn_deg, middle=middle),
            (PATCH_PX, PATCH_PX),
            flags=cv2.INTER_LINEAR,
            borderMode=cv2.BORDER_REPLICATE,
        ),
        dtype=np.float32,
    )


def _matrix(
    look: SeriesLook,
    thing: Thing,
    zoom: float,
    *,
    turn_deg: float,
    middle: tuple[float, float],
) -> NDArray[np.float64]:
    """From the take to the patch: turned back about the thing's centre, which is in the middle."""
    height, width = look.lost.shape
    angle = np.radians(turn_deg)
    c, s = zoom * np.cos(angle), zoom * np.sin(angle)
    x, y = thing.centre[0] * width - 0.5, thing.centre[1] * height - 0.5
    return np.array([[c, s, middle[0] - c * x - s * y], [-s, c, middle[1] + s * x - c * y]])


def _edges(patch: Floats) -> Floats:
    """Strength of the edges, soft enough to be compared by fractions of a pixel."""
    soft = np.asarray(cv2.GaussianBlur(patch, (0, 0), 1.5))
    across, down = cv2.Scharr(soft, cv2.CV_32F, 1, 0), cv2.Scharr(soft, cv2.CV_32F, 0, 1)
    # The root keeps one strong edge from drowning the outline.
    return np.sqrt(np.asarray(cv2.magnitude(across, down), dtype=np.float32))


def _correlation(first: Floats, second: Floats) -> float:
    a, b = first - first.mean(), second - second.mean()
    norm = float(np.sqrt(float((a * a).sum()) * float((b * b).sum())))
    return float(np.vdot(a, b)) / norm if norm > 0 else 0.0


def _best(places: NDArray[np.float64], heights: list[float]) -> float:
    """Where the top of the samples is, by a parabola through the highest three."""
    top = int(np.argmax(heights))
    if top in (0, len(heights) - 1):
        return float(places[top])
    before, at, after = heights[top - 1 : top + 2]
    bend = before - 2 * at + after
    part = 0.0 if bend >= 0 else 0.5 * (before - after) / bend
    return float(places[top] + part * (places[1] - places[0]))
