"""What is measured in a take besides its tones: blur, noise, lean, bands, edges."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.focus.sharpness import KERNEL_NOISE, NOISE_KERNEL
from oxlen.core.light.meter import Spot, disc_box
from oxlen.core.review.blur_cause import SHARED, BlurCause
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.lamp_bands import LampBands
from oxlen.core.review.level import converging_deg, plumb_lines
from oxlen.core.review.own_blur import own_blur
from oxlen.core.review.skyline import Skyline, skyline
from oxlen.takes.aligning import TakeAlignment, shrunk
from oxlen.takes.planned import PlannedTake

WHITE_CELLS = 32
DETAIL_PX, DETAIL_FLOOR = 320, 0.02
SMOOTHER = 1.5
"""A place of the picture planned by is so much smoother where what differs is noise."""
WHOLE = 0.04
"""A shutter within this share of a pulse holds a whole number of them."""
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class Look:
    """What was measured in a take, besides its tones.

    `cut_off` names what is across the frame's edge, `white_at` are places (shares of the sides)
    that clipped; `planned_sky` is the sky of the picture planned by.
    """

    snr: float | None
    blur: BlurCause | None
    lean_deg: float | None
    converging_deg: float | None
    cast_mired: float | None
    bands: LampBands | None
    sky: Skyline | None
    planned_sky: Skyline | None
    cut_off: tuple[str, ...]
    white_at: tuple[tuple[float, float], ...]


def holds_whole_pulses(shutter_s: float | None, pulse_hz: Sequence[float]) -> bool:
    """Whether a shutter holds a whole number of one of some pulses: then lamps leave no bands."""
    pulses = [(shutter_s or 0.0) * hz for hz in pulse_hz]
    return any(pulse > 0.9 and abs(pulse - round(pulse)) <= WHOLE for pulse in pulses)


def look_at(
    light: Floats, on: TakeAlignment, plan: PlannedTake, *, small: Floats, scale: float
) -> Look:
    """What a take shows at its spots and over all of the frame; cast and bands are added later."""
    first = None if not plan.spots else on.moved(plan.spots[0])
    return Look(
        None if first is None else _snr(light, first),
        _blur(light, on, plan, scale=scale),
        _lean(small, on),
        converging_deg=converging_deg(small),
        cast_mired=None,
        bands=None,
        sky=skyline(small),
        planned_sky=on.sky,
        cut_off=tuple(_cut_off(on, plan.spots, light.shape[1] / light.shape[0])),
        white_at=_white_at(light),
    )


def _blur(light: Floats, on: TakeAlignment, plan: PlannedTake, *, scale: float) -> BlurCause | None:
    """What blurred a place of the take; None where nothing tells."""
    if on.where is None or on.base is None:
        return _blur_by_itself(light)
    hand_px = None if plan.is_firm else plan.hand_px / scale
    judged = plan.sharp_at or next(iter(plan.spots), None)
    found = None
    if judged is not None:
        at = on.moved(judged)
        found = blur_of_take(on.base, light, on.where, subject=(at.x, at.y), hand_px=hand_px)
    if found is None:
        # Its spot is plain or clipped: the place of the frame that shows most tells of all of it.
        x, y = on.where.place(*most_detailed(on.base))
        found = blur_of_take(on.base, light, on.where, subject=(x, y), hand_px=hand_px)
        found = None if found is None or found.kind == "motion" else found
    if found is None:
        return _blur_by_itself(light)
    is_lone = found is not None and found.kind == "defocus" and found.shared < SHARED
    # A place that nobody focused on may be before or behind what is sharp, as it was planned.
    return None if is_lone and plan.focuses_elsewhere else found


def _blur_by_itself(light: Floats) -> BlurCause | None:
    """Blur of all of a take without another to compare it with; None where it shows too little."""
    found = own_blur(light)
    if found is None:
        return None
    if found.px == 0:
        return BlurCause("none", 0.0, None, shared=0.0)
    kind: Literal["shake", "defocus"] = "shake" if found.is_smear else "defocus"
    return BlurCause(kind, found.px, None, shared=1.0)


def most_detailed(light: Floats) -> tuple[float, float]:
    """The place of a picture, in shares of its sides, that shows the most detail."""
    small = shrunk(light, DETAIL_PX)
    detail = np.abs(cv2.Laplacian(np.log2(small + DETAIL_FLOOR * float(small.mean())), cv2.CV_32F))
    spread = cv2.GaussianBlur(np.asarray(detail, dtype=np.float32), (0, 0), DETAIL_PX / 16)
    rim = [side // 6 for side in spread.shape]
    inner = spread[rim[0] : -rim[0] or None, rim[1] : -rim[1] or None]
    row, column = np.unravel_index(int(np.argmax(inner)), inner.shape)
    height, width = spread.shape
    return float((column + rim[1] + 0.5) / width), float((row + rim[0] + 0.5) / height)


def _cut_off(on: TakeAlignment, spots: Sequence[Spot], aspect: float) -> Iterator[str]:
    """Spots of which the frame's edge takes more than it did in the picture planned by."""
    if on.where is None:
        return
    for spot in spots:
        x, y = on.where.place(spot.x, spot.y)
        # A spot's radius is a share of the shorter side.
        across, down = spot.r / max(aspect, 1.0), spot.r * min(aspect, 1.0)
        was_whole = across <= spot.x <= 1 - across and down <= spot.y <= 1 - down
        if was_whole and not (across <= x <= 1 - across and down <= y <= 1 - down):
            yield spot.name


def _white_at(light: Floats) -> tuple[tuple[float, float], ...]:
    """Cells of the frame that are white through and through, by their middles."""
    top = float(light.max())
    if top <= 0:
        return ()
    height, width = light.shape
    size = (WHITE_CELLS, max(1, round(WHITE_CELLS * height / width)))
    # Every other line and column tell as well: cells are a hundred times as large.
    white = np.asarray(light[::2, ::2] >= 0.985 * top, dtype=np.uint8) * np.uint8(255)
    share = cv2.resize(white, size, interpolation=cv2.INTER_AREA) / 255
    rows, columns = np.nonzero(share > 0.5)
    return tuple(
        (float((column + 0.5) / size[0]), float((row + 0.5) / size[1]))
        for row, column in zip(rows, columns, strict=True)
    )


def _lean(light: Floats, on: TakeAlignment) -> float | None:
    """How far a take leans: against the picture it was planned by, else by its plumb lines."""
    if on.where is not None:
        return on.where.turn_deg
    found = plumb_lines(light)
    return None if found is None else found.middle_lean_deg


def cleaner_stops(snr: float | None, plan: PlannedTake, on: TakeAlignment) -> float | None:
    """How much cleaner than predicted, in stops; None where either is unknown.

    What looks as rough in the picture planned by is the thing's own texture, no noise.
    """
    if not snr or not plan.snr or on.base is None:
        return None
    was = _snr(on.base, plan.spots[0])
    if was is None or was < SMOOTHER * snr:
        return None
    return math.log2(snr / plan.snr)


def _snr(light: Floats, spot: Spot) -> float | None:
    """Signal over noise per pixel of the take at a spot, by what only noise answers to."""
    height, width = light.shape
    left, top, right, bottom = disc_box(spot, width, height)
    patch = np.asarray(light[top:bottom, left:right], dtype=np.float32)
    if min(patch.shape) < 8 or float(patch.mean()) <= 0:
        return None
    answer = cv2.filter2D(patch, cv2.CV_32F, NOISE_KERNEL)[1:-1, 1:-1]
    noise = math.sqrt(float(np.median(answer**2)) / 0.455 / KERNEL_NOISE)
    return None if noise == 0 else float(patch.mean()) / noise
