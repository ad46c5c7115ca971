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
SURELY_SAME, SAME_THING = 0.7, 0.45
"""Own choice: the correlation of two things' edges from which on no other place is tried, and from
which on their turn is known."""
TURNING = 0.04
"""Own choice: what turning by 5° must cost of it, or the thing is as round as it is plain."""


@dataclass(frozen=True)
class Placed:
    """Against the reference: scale as a ratio, shift as shares of the frame's width and height.

    `tilt_deg` is clockwise on the picture; None where the thing is too round or too different.
    `same_shape` is False for a thing of another kind, whose `scale` is that of the areas.
    """

    scale: float
    shift: tuple[float, float]
    tilt_deg: float | None
    same_shape: bool = True

    @property
    def zoom(self) -> float:
        """How much larger its camera saw it; 1 where another shape leaves that open."""
        return self.scale if self.same_shape else 1.0


def placed(take: SeriesLook, reference: SeriesLook) -> Placed | None:
    """How the thing of a take is placed; None where either has none.

    Edges of both are correlated over turns and scales, the top by a parabola: the outline of a tin
    holds whatever its label. Paint like the background hides part of a thing: it is looked for at
    the reference's own place too. Things that differ are compared by their area alone.
    """
    if take.thing is None or reference.thing is None:
        return None
    wanted = _wanted(reference, reference.thing)
    by_area = take.thing.size / reference.thing.size
    found = _fitted(take, take.thing, wanted, about=by_area)
    if found.likeness < SURELY_SAME:
        as_reference = replace(take.thing, centre=reference.thing.centre)
        other = _fitted(take, as_reference, wanted, about=1.0)
        found = max(found, other, key=lambda each: each.likeness)
    centre = found.thing.centre
    shift = (centre[0] - reference.thing.centre[0], centre[1] - reference.thing.centre[1])
    if found.likeness < SAME_THING:
        return Placed(by_area, shift, None, same_shape=False)
    is_known = found.likeness - found.turned_likeness >= TURNING
    return Placed(found.scale, shift, found.turn_deg if is_known else None)


@dataclass(frozen=True)
class _Wanted:
    """The reference's thing: its edges, and the side of the square they are in (px)."""

    edges: Floats
    span_px: float


@dataclass(frozen=True)
class _Fit:
    """A thing fitted to the reference; `turned_likeness` is what it has when turned by 5°."""

    thing: Thing
    scale: float
    turn_deg: float
    likeness: float
    turned_likeness: float


def _wanted(reference: SeriesLook, thing: Thing) -> _Wanted:
    span = _span_px(reference)
    return _Wanted(_edges(_patch(reference, thing, span, scale=1.0, turn_deg=0.0)), span)


def _fitted(take: SeriesLook, thing: Thing, wanted: _Wanted, *, about: float) -> _Fit:
    def likeness(scale: float, turn_deg: float) -> float:
        found = _edges(_patch(take, thing, wanted.span_px, scale=scale, turn_deg=turn_deg))
        return _correlation(found, wanted.edges)

    turn = _best(TURNS_DEG, [likeness(about, degrees) for degrees in TURNS_DEG])
    scale = _best(about * SCALES, [likeness(s, turn) for s in about * SCALES])
    fine = turn + FINE_TURNS_DEG
    turn = _best(fine, [likeness(scale, degrees) for degrees in fine])
    beside = max(likeness(scale, turn - 5.0), likeness(scale, turn + 5.0))
    return _Fit(
        thing=thing,
        scale=scale,
        turn_deg=turn,
        likeness=likeness(scale, turn),
        turned_likeness=beside,
    )


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
    x, y = reference.thing.centre
    there = replace(take.thing, centre=(x + where.shift[0], y + where.shift[1]))
    middle, turn_deg = (x * width, y * height), where.tilt_deg or 0.0
    matrix = _matrix(take, there, 1 / where.zoom, turn_deg=turn_deg, middle=middle)

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
