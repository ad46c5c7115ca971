"""Holding a take's file against the plan it was shot by, and the picture that was planned by."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.patch import patch_cast
from oxlen.core.errors import OxlenError, PixelsUnreadable
from oxlen.core.focus.sharpness import KERNEL_NOISE, NOISE_KERNEL
from oxlen.core.light.meter import Spot, disc_box, frame_tone, spot_tone
from oxlen.core.review.alignment import Alignment, aligned
from oxlen.core.review.blur_cause import BlurCause
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.level import lean
from oxlen.core.review.take_check import (
    PlannedSpot,
    SeenSpot,
    SeenTake,
    TakeCheck,
    TakeSettings,
    check_take,
)
from oxlen.pictures.opening import Picture, open_picture

PICTURE_K = 6504.0
SURE_LEAN_SHARE = 0.6
NOT_LAID = (
    "The take could not be laid on the picture it was planned by: spots are read at their old "
    "places, and blur, level and tones are less sure."
)
NO_REFERENCE = "Without the picture it was planned by, blur cannot be told from what is plain."
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class PlannedTake:
    """What a take is held against: slip, spots with their places, and what is expected of the hand.

    `spots` and `planned` go by name; the first spot is the one that matters most.
    """

    slip: TakeSettings
    planned: tuple[PlannedSpot, ...]
    spots: tuple[Spot, ...]
    hand_px: float = 0.0
    metered_by_picture: bool = True


@dataclass(frozen=True)
class CheckedFile:
    """What came of it, with the spots where they lie in the take."""

    check: TakeCheck
    spots: tuple[Spot, ...]
    clipped_share: float
    blocked_share: float
    snr: float | None
    blur: BlurCause | None
    lean_deg: float | None
    cast_mired: float | None
    notes: tuple[str, ...]


def check_file(
    take: Path, name: str, *, reference: tuple[Path, str] | None, plan: PlannedTake
) -> CheckedFile:
    """Look a take's file over. PictureError when it is no use.

    Spots are given on the reference, or on the take itself where there is none.
    """
    notes: list[str] = []
    with open_picture(take, name) as picture:
        light = picture.luminance()
        where, base = _laid(light, reference, notes)
        spots = tuple(_moved(spot, where) for spot in plan.spots)
        frame = frame_tone(picture.pixels.sample())
        seen_spots = tuple(_seen(picture, spot) for spot in spots)
        cast = _cast(picture, spots, plan.planned)
        settings = picture.exposure
        is_raw = picture.facts.kind == "raw"
    blur = _blur(base, light, where, spots=spots, hand_px=plan.hand_px)
    lean_deg = _lean(light, where)
    seen = SeenTake(
        TakeSettings(settings.iso, settings.shutter_s, settings.white_k),
        seen_spots,
        is_raw,
        blur=blur,
        lean_deg=lean_deg,
        cast_mired=cast,
    )
    return CheckedFile(
        check_take(plan.slip, plan.planned, seen, metered_by_picture=plan.metered_by_picture),
        spots,
        clipped_share=frame.clipped_share,
        blocked_share=frame.blocked_share,
        snr=_snr(light, spots[0]) if spots else None,
        blur=blur,
        lean_deg=lean_deg,
        cast_mired=cast,
        notes=tuple(notes),
    )


def _laid(
    light: Floats, reference: tuple[Path, str] | None, notes: list[str]
) -> tuple[Alignment | None, Floats | None]:
    if reference is None:
        notes.append(NO_REFERENCE)
        return None, None
    try:
        with open_picture(*reference) as planned_by:
            base = planned_by.luminance()
    except (PixelsUnreadable, OSError):
        notes.append(NO_REFERENCE)
        return None, None
    where = aligned(base, light)
    if where is None:
        notes.append(NOT_LAID)
    return where, base


def _blur(
    base: Floats | None,
    light: Floats,
    where: Alignment | None,
    *,
    spots: Sequence[Spot],
    hand_px: float,
) -> BlurCause | None:
    """What blurred the first spot, which matters most; None where nothing tells."""
    if where is None or base is None or not spots:
        return None
    subject = (spots[0].x, spots[0].y)
    return blur_of_take(base, light, where, subject=subject, hand_px=hand_px)


def _moved(spot: Spot, where: Alignment | None) -> Spot:
    """A spot of the reference where it lies in the take; kept within it."""
    if where is None:
        return spot
    x, y = where.place(spot.x, spot.y)
    return Spot(spot.name, min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0), r=spot.r)


def _seen(picture: Picture, spot: Spot) -> SeenSpot:
    tone = spot_tone(picture.spot(spot))
    blocked = 1.0 if tone.state == "blocked" else 0.0
    return SeenSpot(spot.name, tone.stops_from_mid, tone.clipped_share, blocked_share=blocked)


def _cast(picture: Picture, spots: Sequence[Spot], planned: Sequence[PlannedSpot]) -> float | None:
    """Cast (mired, warm positive) of the neutral spot of a processed take; None without one."""
    if picture.facts.kind == "raw":
        return None
    neutral = {one.name for one in planned if one.role == "neutral"}
    spot = next((one for one in spots if one.name in neutral), None)
    if spot is None:
        return None
    colour = np.asarray(picture.patch(spot).colour, dtype=float)
    try:
        return patch_cast(np.maximum(colour, 1e-5), PICTURE_K).cast_mired
    except OxlenError:
        return None


def _lean(light: Floats, where: Alignment | None) -> float | None:
    """How far a take leans: against the picture it was planned by, else by its plumb lines."""
    if where is not None:
        return where.turn_deg
    found = lean(light)
    return None if found is None or found.share < SURE_LEAN_SHARE else found.degrees


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
