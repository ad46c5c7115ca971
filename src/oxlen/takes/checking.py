"""Holding a take's file against the plan it was shot by, and the picture that was planned by."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Literal

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.temperature import mired
from oxlen.core.errors import BadInput, OxlenError
from oxlen.core.focus.sharpness import KERNEL_NOISE, NOISE_KERNEL
from oxlen.core.labels import listed
from oxlen.core.light.meter import FrameTone, Spot, disc_box, frame_tone, spot_tone
from oxlen.core.review.blur_cause import SHARED, BlurCause
from oxlen.core.review.blur_of_take import blur_of_take
from oxlen.core.review.lamp_bands import LampBands, lamp_bands
from oxlen.core.review.level import converging_deg, plumb_lines
from oxlen.core.review.own_blur import own_blur
from oxlen.core.review.skyline import Skyline, skyline
from oxlen.core.review.take_check import LOST_SHARE, TakeCheck, check_take, settings_off
from oxlen.core.review.take_seen import PlannedSpot, SeenSpot, SeenTake, TakeSettings
from oxlen.metering.white import white_on
from oxlen.pictures.opening import Picture, open_picture
from oxlen.takes.laying import SMALL_PX, Laid, laid, set_ev100, shrunk

WHITE_CELLS = 32
TOTAL_NOTE = (
    "The file states the total time of many frames, put together by the phone: its light and "
    "settings are not read by it."
)
WHOLE_FRAME = "The frame"
PLAINLY_WHITE = 0.15
"""So much of a frame clipped is a fault where nothing was planned to be."""
DETAIL_PX, DETAIL_FLOOR = 320, 0.02
MAINS_PULSES_HZ = (100.0, 120.0)
SMOOTHER = 1.5
"""A place of the picture planned by is so much smoother where what differs is noise."""
WHOLE = 0.04
"""A shutter within this share of a pulse holds a whole number of them."""
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class PlannedTake:
    """What a take is held against: slip, spots with their places, and what is expected of the hand.

    `spots` and `planned` go by name; the first spot is the one that matters most. `hand_px` counts
    in pixels of a file `frame_px` wide, of the take's own where that is None. Blur is looked for
    at `sharp_at`, else at the first spot; a cast at `neutral`. `white_share` of the frame was to
    turn white, and the first spot to be as clean as `snr` a pixel; `is_firm` says that nobody held
    the phone, `pulse_hz` how the lamps pulse: on the mains, where nothing is known.
    `is_total` says that the take's file states the total time of many frames, and
    `focuses_elsewhere` that it is focused on something none of its spots is on.
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
    snr: float | None = None
    is_firm: bool = False
    focuses_elsewhere: bool = False
    pulse_hz: tuple[float, ...] = MAINS_PULSES_HZ
    is_total: bool = False


@dataclass(frozen=True)
class Look:
    """What was measured in a take, besides its tones.

    `cut_off` names what lies across the frame's edge, `white_at` are places (shares of the sides)
    that turned white; `planned_sky` is the sky of the picture planned by.
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


@dataclass(frozen=True)
class CheckedFile:
    """What came of it, with the spots where they lie in the take.

    `file_scale` is how many pixels of the phone's own file one of the take's is.
    """

    check: TakeCheck
    spots: tuple[Spot, ...]
    frame: FrameTone
    look: Look
    notes: tuple[str, ...]
    file_scale: float = 1.0
    planned_snr: float | None = None


def check_file(
    take: Path, name: str, *, reference: tuple[Path, str] | None, plan: PlannedTake
) -> CheckedFile:
    """Look a take's file over. PictureError when it is no use.

    Spots are given on the reference, or on the take itself where there is none.
    """
    with open_picture(take, name) as picture:
        light = picture.luminance()
        small = shrunk(light, SMALL_PX)
        on = laid(light, small, reference, spots=plan.spots)
        frame = frame_tone(picture.pixels.sample())
        gained = on.gained_stops(small, frame)
        spots = tuple(on.moved(spot) for spot in plan.spots)
        seen_spots = tuple(on.reckoned(_seen(picture, spot), gained) for spot in spots)
        cast = _cast(picture, plan, on)
        settings, is_raw = picture.exposure, picture.facts.kind == "raw"
        whole = _whole_frame(on, set_ev100(settings), gained)
    scale = plan.frame_px / max(light.shape) if plan.frame_px else 1.0
    look = replace(_look(light, on, plan, small=small, scale=scale), cast_mired=cast)
    # With whole pulses in its shutter, bands would be those of the picture planned by.
    is_told = not _holds_whole_pulses(settings.shutter_s, plan.pulse_hz)
    if is_told and on.small_where is not None and on.small is not None:
        look = replace(look, bands=lamp_bands(on.small, small, on.small_where))
    shutter_s = None if plan.is_total else settings.shutter_s
    dialled = TakeSettings(settings.iso, shutter_s, settings.white_k)
    planned = plan.planned
    if not seen_spots and whole is not None and not plan.is_total:
        # No spot to go by: the frame as a whole stands for one.
        off = settings_off(plan.slip, dialled).stops
        seen_spots = (SeenSpot(WHOLE_FRAME, whole + off),)
        planned = (PlannedSpot(WHOLE_FRAME, "subject", 0.0, 0.0),)
    seen = _seen_take(dialled, seen_spots, plan, on=on, look=look)
    unjudged = tuple(_unjudged(seen, plan, on, look=look))
    white_share = plan.white_share
    if white_share is None and not any(one.may_be_lost for one in planned):
        white_share = 0.0 if frame.clipped_share > PLAINLY_WHITE else None
    check = check_take(
        plan.slip,
        planned,
        replace(seen, is_raw=is_raw, clipped_share=frame.clipped_share, unjudged=unjudged),
        metered_by_picture=plan.metered_by_picture,
        white_share=white_share,
    )
    told = (on.note, TOTAL_NOTE if plan.is_total else "", *unjudged)
    notes = tuple(note for note in told if note)
    if not spots:
        check = replace(check, spots=())
    return CheckedFile(
        check, spots, frame, look=look, notes=notes, file_scale=scale, planned_snr=plan.snr
    )


def check_names(plan: PlannedTake) -> None:
    """BadInput that names a spot which the plan does not have."""
    known = [one.name for one in plan.planned]
    for spot in plan.spots:
        if known and spot.name not in known:
            raise BadInput(
                f"The plan has no spot named “{spot.name}”; it has {listed(known)}.", "spot"
            )


def _whole_frame(on: Laid, set_for: float | None, gained_stops: float | None) -> float | None:
    """How much more light there was than when it was metered (stops), by the whole frame.

    None where either file does not say its settings, or the two cannot be compared.
    """
    if set_for is None or on.ev100_set is None or gained_stops is None:
        return None
    return gained_stops - (on.ev100_set - set_for)


def _unjudged(seen: SeenTake, plan: PlannedTake, on: Laid, *, look: Look) -> Iterator[str]:
    """What could not be judged, and why: nothing measured is nothing said."""
    told = [one for one in seen.spots if max(one.clipped_share, one.blocked_share) <= LOST_SHARE]
    if not told:
        why = "no spot of the plan was given" if not plan.spots else "its spots are clipped or black"
        yield f"Tones could not be judged: {why}."
    elif on.base is not None and on.where is None:
        yield (
            "Tones could not be judged: it could not be aligned with the picture it was planned by."
        )
    if look.blur is None:
        yield "Sharpness could not be judged: it shows too little detail that is not clipped."


def _seen_take(
    dialled: TakeSettings,
    seen_spots: tuple[SeenSpot, ...],
    plan: PlannedTake,
    *,
    on: Laid,
    look: Look,
) -> SeenTake:
    """All that was measured, as it is held against the plan."""
    return SeenTake(
        dialled,
        seen_spots,
        is_raw=False,
        blur=look.blur,
        lean_deg=look.lean_deg,
        cast_mired=look.cast_mired,
        cut_off=look.cut_off,
        bands_share=0.0 if look.bands is None else look.bands.depth,
        cleaner_stops=_cleaner_stops(look.snr, plan, on),
        is_total=plan.is_total,
        is_firm=plan.is_firm,
    )


def _holds_whole_pulses(shutter_s: float | None, pulse_hz: Sequence[float]) -> bool:
    pulses = [(shutter_s or 0.0) * one for one in pulse_hz]
    return any(one > 0.9 and abs(one - round(one)) <= WHOLE for one in pulses)


def _look(light: Floats, on: Laid, plan: PlannedTake, *, small: Floats, scale: float) -> Look:
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


def _blur(light: Floats, on: Laid, plan: PlannedTake, *, scale: float) -> BlurCause | None:
    """What blurred a place of the take; None where nothing tells."""
    if on.where is None or on.base is None:
        return _blur_by_itself(light, plan)
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
        return _blur_by_itself(light, plan)
    is_lone = found is not None and found.kind == "defocus" and found.shared < SHARED
    # A place that nobody focused on may lie before or behind what is sharp, as it was planned.
    return None if is_lone and plan.focuses_elsewhere else found


def _blur_by_itself(light: Floats, plan: PlannedTake) -> BlurCause | None:
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


def _cut_off(on: Laid, spots: Sequence[Spot], aspect: float) -> Iterator[str]:
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


def _seen(picture: Picture, spot: Spot) -> SeenSpot:
    tone = spot_tone(picture.spot(spot))
    blocked = 1.0 if tone.state == "blocked" else 0.0
    return SeenSpot(spot.name, tone.stops_from_mid, tone.clipped_share, blocked_share=blocked)


def _cast(picture: Picture, plan: PlannedTake, on: Laid) -> float | None:
    """Cast (mired, warm positive) of the neutral spot at the dial's white; None where unknown."""
    dial_k = plan.slip.white_k
    if plan.neutral is None:
        return None
    try:
        found = white_on(picture, on.moved(plan.neutral), dial_k=dial_k)
    except OxlenError:
        return None
    if found.light is None or dial_k is None:
        return found.cast_mired
    return float(mired(found.light.temperature.cct_k) - mired(dial_k))


def _lean(light: Floats, on: Laid) -> float | None:
    """How far a take leans: against the picture it was planned by, else by its plumb lines."""
    if on.where is not None:
        return on.where.turn_deg
    found = plumb_lines(light)
    return None if found is None else found.middle_lean_deg


def _cleaner_stops(snr: float | None, plan: PlannedTake, on: Laid) -> float | None:
    """How much cleaner than foretold, in stops; None where either is unknown.

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
