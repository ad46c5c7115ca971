"""Frames of a set that do not fit the others: other settings, other light, a lamp, a knock."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.combine import Combine
from oxlen.core.labels import stops_label

Floats = NDArray[np.float32]
LIGHT_STOPS = 0.35
"""Frames lit by so much more or less than the others are no longer of one picture."""
LAMP_STOPS, LAMP_SHARE = 2.0, 0.006
KNOCK_SMALL_PX, KNOCK_PX = 0.35, 3.0
"""A frame is elsewhere: so far in pixels of the small picture, and so far at full size."""
CLEAR_PEAK = 0.03
TELLS = 0.9
"""Moved back, frames must differ by so much less than moved the other way."""
DARK = 1e-4


@dataclass(frozen=True)
class FrameKind:
    """What a file says before its pixels are read: its size, and what it was taken with."""

    size: tuple[int, int]
    iso: float | None
    shutter_s: float | None
    f_number: float | None


@dataclass(frozen=True)
class SmallLook:
    """A frame's linear luminance made small (h, w), and how many pixels one of it covers."""

    light: Floats
    step_px: float


def usual_kind(kinds: Sequence[FrameKind]) -> FrameKind:
    """What most frames of a set are; the earliest where it is a tie."""
    return Counter(kinds).most_common(1)[0][0]


def kind_misfit(kind: FrameKind, usual: FrameKind, *, mixed: bool = False) -> str | None:
    """Why a frame's size or settings do not fit; None where they do.

    `mixed`: settings may differ.
    """
    if kind.size != usual.size:
        return "it is {} × {} pixels, the others are {} × {}".format(*kind.size, *usual.size)
    if mixed:
        return None
    if _differ(kind.iso, usual.iso):
        return f"it was taken at ISO {kind.iso:g}, the others at ISO {usual.iso:g}"
    if _differ(kind.shutter_s, usual.shutter_s):
        return "its shutter differs from the others"
    if _differ(kind.f_number, usual.f_number):
        return "it was shot with another lens"
    return None


@dataclass(frozen=True)
class Misfit:
    """Why a frame does not fit. `is_of_scene`: where many frames are so, that is what was there."""

    why: str
    is_of_scene: bool = False


def many(frames: int) -> int:
    """From so many frames on that are lit otherwise, the light of the scene changed."""
    return max(2, math.ceil(frames / 8))


def look_misfit(
    look: SmallLook, reference: SmallLook, how: Combine, *, aligned: bool
) -> Misfit | None:
    """Why what a frame shows does not fit the reference; None where it does.

    Only what would spoil the result by its rule: a lamp does where frames are averaged, and is
    wanted where the lighter is kept.
    """
    gained = _gained_stops(look, reference)
    if how not in ("add", "lighten") and abs(gained) > LIGHT_STOPS:
        more = "lighter" if gained > 0 else "darker"
        return Misfit(f"it is {stops_label(abs(gained))} {more} than the others", is_of_scene=True)
    moved = None if aligned else shift_px(look, reference)
    if moved is not None and moved > max(KNOCK_PX, KNOCK_SMALL_PX * look.step_px):
        return Misfit(f"it is {moved:.0f} px off the others. Was the tripod moved?")
    if how == "mean" and lamp_share(look, reference) > LAMP_SHARE:
        return Misfit("it contains a lamp or a flash", is_of_scene=True)
    return None


def lamp_share(look: SmallLook, reference: SmallLook) -> float:
    """Share of a frame that is two stops lighter than the reference, and bright in itself."""
    bright = look.light > 0.25 * float(np.quantile(reference.light, 0.99))
    more = look.light > 2.0**LAMP_STOPS * np.maximum(reference.light, DARK)
    return float(np.mean(bright & more))


def shift_px(look: SmallLook, reference: SmallLook) -> float | None:
    """How far a frame is from the reference, in pixels at full size; None where it is unknown.

    By the phase of their edges. Along a single straight edge, as the sea's horizon is, nothing
    tells a shift: moved the other way it would fit as well. [KUGLIN1975]
    """
    if look.light.shape != reference.light.shape:
        return None
    height, width = (_even_side(side) for side in look.light.shape)
    base, other = (_edges(each.light[:height, :width]) for each in (look, reference))
    window = cv2.createHanningWindow(base.shape[::-1], cv2.CV_32F)
    (x, y), peak = cv2.phaseCorrelate(other, base, window)
    if peak <= CLEAR_PEAK:
        return None
    there, elsewhere = (_left(base, other, (sign * x, sign * y)) for sign in (1, -1))
    return float(np.hypot(x, y)) * look.step_px if there < TELLS * elsewhere else None


def _left(levels: Floats, other: Floats, shift: tuple[float, float]) -> float:
    """What is left between two looks once one is moved back by a shift: a mean of squares."""
    matrix = np.array([[1, 0, shift[0]], [0, 1, shift[1]]], dtype=np.float64)
    flags = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    moved = cv2.warpAffine(
        levels, matrix, levels.shape[::-1], flags=flags, borderMode=cv2.BORDER_REPLICATE
    )
    rim = min(levels.shape) // 8
    return float(np.square(moved - other)[rim:-rim, rim:-rim].mean())


def middle_of(looks: Sequence[SmallLook]) -> int:
    """The place of the look that is most like all others: a reference that is not the odd one."""
    light = np.stack([np.log2(np.maximum(look.light, DARK)) for look in looks])
    off = np.abs(light[:, None] - light[None]).mean(axis=(2, 3))
    return int(np.argmin(np.median(off, axis=1)))


def _gained_stops(look: SmallLook, reference: SmallLook) -> float:
    both = (look.light > DARK) & (reference.light > DARK)
    if both.mean() < 0.05:
        return 0.0
    return float(np.median(np.log2(look.light[both] / reference.light[both])))


def _edges(light: Floats) -> Floats:
    stops = np.log2(np.maximum(light, DARK)).astype(np.float32)
    return np.asarray(stops - cv2.GaussianBlur(stops, (0, 0), 3.0), dtype=np.float32)


def _even_side(side: int) -> int:
    """The longest even side that is not padded for the transform: odd ones are half a px off."""
    return next(n for n in range(side - side % 2, 0, -2) if cv2.getOptimalDFTSize(n) == n)


def _differ(value: float | None, other: float | None) -> bool:
    return value is not None and other is not None and abs(value / other - 1) > 0.02
