"""Holding a take's file against the plan it was shot by, and the picture that was planned by."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.temperature import mired
from oxlen.core.errors import OxlenError, PixelsUnreadable
from oxlen.core.focus.sharpness import KERNEL_NOISE, NOISE_KERNEL
from oxlen.core.light.meter import FrameTone, Spot, SpotTone, disc_box, frame_tone, spot_tone
from oxlen.core.review.alignment import Alignment, aligned
from oxlen.core.review.blur_cause import BlurCause
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.level import lean
from oxlen.core.review.light_ratio import light_ratio_stops
from oxlen.core.review.take_check import (
    LOST_SHARE,
    PlannedSpot,
    SeenSpot,
    SeenTake,
    TakeCheck,
    TakeSettings,
    check_take,
)
from oxlen.metering.white import white_on
from oxlen.pictures.opening import Picture, open_picture

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

    `spots` and `planned` go by name; the first spot is the one that matters most. `hand_px` counts
    in pixels of a file `frame_px` wide, of the take's own where that is None. Blur is looked for
    at `sharp_at`, else at the first spot; a cast at `neutral`. `white_share` of the frame was to
    turn white; `is_firm` says that nobody held the phone.
    """

    slip: TakeSettings
    planned: tuple[PlannedSpot, ...]
    spots: tuple[Spot, ...]
    hand_px: float = 0.0
    metered_by_picture: bool = True
    frame_px: int | None = None
    sharp_at: Spot | None = None
    neutral: Spot | None = None
    white_share: float | None = None
    is_firm: bool = False


@dataclass(frozen=True)
class CheckedFile:
    """What came of it, with the spots where they lie in the take.

    `file_scale` is how many pixels of the phone's own file one of the take's is.
    """

    check: TakeCheck
    spots: tuple[Spot, ...]
    clipped_share: float
    blocked_share: float
    snr: float | None
    blur: BlurCause | None
    lean_deg: float | None
    cast_mired: float | None
    notes: tuple[str, ...]
    file_scale: float = 1.0


def check_file(
    take: Path, name: str, *, reference: tuple[Path, str] | None, plan: PlannedTake
) -> CheckedFile:
    """Look a take's file over. PictureError when it is no use.

    Spots are given on the reference, or on the take itself where there is none.
    """
    notes: list[str] = []
    with open_picture(take, name) as picture:
        light = picture.luminance()
        frame = frame_tone(picture.pixels.sample())
        laid = _laid(light, reference, notes, spots=plan.spots)
        where, base = laid.where, laid.base
        spots = tuple(_moved(spot, where) for spot in plan.spots)
        gain = None
        if where is not None and base is not None:
            gain = light_ratio_stops(base, light, where)
        seen_spots = tuple(_seen(picture, spot) for spot in spots)
        if gain is not None:
            gain += _mid_stops(frame, light) - laid.mid_stops
            seen_spots = tuple(_reckoned(one, laid.tones, gain) for one in seen_spots)
        neutral = None if plan.neutral is None else _moved(plan.neutral, where)
        cast = _cast(picture, neutral, plan.slip.white_k)
        settings = picture.exposure
        is_raw = picture.facts.kind == "raw"
    scale = plan.frame_px / max(light.shape) if plan.frame_px else 1.0
    judged = plan.sharp_at or next(iter(plan.spots), None)
    at = None if judged is None else _moved(judged, where)
    blur = _blur(base, light, where, at=at, hand_px=None if plan.is_firm else plan.hand_px / scale)
    lean_deg = _lean(light, where)
    seen = SeenTake(
        TakeSettings(settings.iso, settings.shutter_s, settings.white_k),
        seen_spots,
        is_raw,
        blur=blur,
        lean_deg=lean_deg,
        cast_mired=cast,
        clipped_share=frame.clipped_share,
    )
    return CheckedFile(
        check_take(
            plan.slip,
            plan.planned,
            seen,
            metered_by_picture=plan.metered_by_picture,
            white_share=plan.white_share,
        ),
        spots,
        clipped_share=frame.clipped_share,
        blocked_share=frame.blocked_share,
        snr=_snr(light, spots[0]) if spots else None,
        blur=blur,
        lean_deg=lean_deg,
        cast_mired=cast,
        notes=tuple(notes),
        file_scale=scale,
    )


@dataclass(frozen=True)
class _Laid:
    """The picture planned by: how the take lies on it, its light, and the spots' tones in it."""

    where: Alignment | None = None
    base: Floats | None = None
    mid_stops: float = 0.0
    tones: Mapping[str, SpotTone] = field(default_factory=dict)


def _laid(
    light: Floats,
    reference: tuple[Path, str] | None,
    notes: list[str],
    *,
    spots: Sequence[Spot],
) -> _Laid:
    if reference is None:
        notes.append(NO_REFERENCE)
        return _Laid()
    try:
        with open_picture(*reference) as planned_by:
            base = planned_by.luminance()
            frame = frame_tone(planned_by.pixels.sample())
            tones = {spot.name: spot_tone(planned_by.spot(spot)) for spot in spots}
    except (PixelsUnreadable, OSError):
        notes.append(NO_REFERENCE)
        return _Laid()
    where = aligned(base, light)
    if where is None:
        notes.append(NOT_LAID)
    return _Laid(where, base, mid_stops=_mid_stops(frame, base), tones=tones)


def _mid_stops(frame: FrameTone, light: Floats) -> float:
    """What to add to the log2 of a picture's luminance for stops from mid."""
    return frame.mean_stops - math.log2(max(float(light.mean()), 1e-9))


def _reckoned(one: SeenSpot, tones: Mapping[str, SpotTone], gain_stops: float) -> SeenSpot:
    """A lost spot by its tone in the picture planned by and what the whole frame gained since."""
    was = tones.get(one.name)
    if was is None or max(one.clipped_share, one.blocked_share) <= LOST_SHARE:
        return one
    if was.clipped_share > LOST_SHARE or was.state == "blocked":
        return one
    return replace(one, stops=was.stops_from_mid + gain_stops, is_reckoned=True)


def _blur(
    base: Floats | None,
    light: Floats,
    where: Alignment | None,
    *,
    at: Spot | None,
    hand_px: float | None,
) -> BlurCause | None:
    """What blurred a place of the take; None where nothing tells."""
    if where is None or base is None or at is None:
        return None
    return blur_of_take(base, light, where, subject=(at.x, at.y), hand_px=hand_px)


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


def _cast(picture: Picture, spot: Spot | None, dial_k: float | None) -> float | None:
    """Cast (mired, warm positive) of a neutral spot at the dial's white; None where unknown."""
    if spot is None:
        return None
    try:
        found = white_on(picture, spot, dial_k=dial_k)
    except OxlenError:
        return None
    if found.light is None or dial_k is None:
        return found.cast_mired
    return float(mired(found.light.temperature.cct_k) - mired(dial_k))


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
