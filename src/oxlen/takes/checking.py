"""Holding a take's file against the plan it was shot by, and the picture that was planned by."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from oxlen.core.colour.clipped_patch import cast_of_clipped
from oxlen.core.colour.temperature import mired
from oxlen.core.errors import BadInput, OxlenError
from oxlen.core.labels import listed
from oxlen.core.light.meter import FrameTone, Spot, frame_tone, spot_tone
from oxlen.core.review.lamp_bands import LampBands, lamp_bands
from oxlen.core.review.take_check import LOST_SHARE, TakeCheck, check_take, settings_off
from oxlen.core.review.take_seen import PlannedSpot, SeenSpot, SeenTake, TakeSettings
from oxlen.metering.white import CLIPPED, white_on
from oxlen.pictures.opening import Picture, open_picture
from oxlen.takes.aligning import SMALL_PX, TakeAlignment, aligned_take, set_ev100, shrunk
from oxlen.takes.planned import PlannedTake
from oxlen.takes.take_measurements import Floats, Look, cleaner_stops, holds_whole_pulses, look_at

TOTAL_NOTE = (
    "The file contains the total time of many stacked frames, so its light and settings are not "
    "used."
)
WHOLE_FRAME = "The frame"
PLAINLY_WHITE = 0.15
"""So much of a frame clipped is a fault where nothing was planned to be."""


@dataclass(frozen=True)
class CheckedFile:
    """What came of it, with the spots where they are in the take.

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
        on = aligned_take(light, small, reference, spots=plan.spots)
        frame = frame_tone(picture.pixels.sample())
        gained = on.gained_stops(small, frame)
        spots = tuple(on.moved(spot) for spot in plan.spots)
        seen_spots = tuple(on.reckoned(_seen(picture, spot), gained) for spot in spots)
        cast = _cast(picture, plan, on)
        settings, is_raw = picture.exposure, picture.facts.kind == "raw"
    scale = plan.frame_px / max(light.shape) if plan.frame_px else 1.0
    look = replace(look_at(light, on, plan, small=small, scale=scale), cast_mired=cast)
    look = replace(look, bands=_bands(on, small, settings.shutter_s, plan=plan))
    shutter_s = None if plan.is_total else settings.shutter_s
    dialled = TakeSettings(settings.iso, shutter_s, settings.white_k)
    if not seen_spots and not plan.is_total:
        whole = _whole_frame(on, set_ev100(settings), gained, glass_stops=plan.glass_stops)
        seen_spots, plan = _as_a_spot(whole, plan, dialled)
    measured = _seen_take(dialled, seen_spots, plan, on=on, look=look)
    seen = replace(measured, is_raw=is_raw, clipped_share=frame.clipped_share)
    check = _judged(seen, plan, on, look=look)
    notes = (on.note, TOTAL_NOTE if plan.is_total else "", *_unjudged(seen, plan, on, look=look))
    return CheckedFile(
        check if spots else replace(check, spots=()),
        spots,
        frame,
        look=look,
        notes=tuple(note for note in notes if note),
        file_scale=scale,
        planned_snr=plan.snr,
    )


def _bands(
    on: TakeAlignment, small: Floats, shutter_s: float | None, *, plan: PlannedTake
) -> LampBands | None:
    """Bands of lamps; with whole pulses in the shutter they would be the planning picture's."""
    if holds_whole_pulses(shutter_s, plan.pulse_hz) or on.small_where is None or on.small is None:
        return None
    return lamp_bands(on.small, small, on.small_where)


def _judged(seen: SeenTake, plan: PlannedTake, on: TakeAlignment, *, look: Look) -> TakeCheck:
    """What was measured, compared with the plan."""
    white_share = plan.white_share
    if white_share is None and not any(spot.may_be_lost for spot in plan.planned):
        white_share = 0.0 if seen.clipped_share > PLAINLY_WHITE else None
    return check_take(
        plan.slip,
        plan.planned,
        replace(seen, unjudged=tuple(_unjudged(seen, plan, on, look=look))),
        metered_by_picture=plan.metered_by_picture,
        white_share=white_share,
    )


def _as_a_spot(
    whole_stops: float | None, plan: PlannedTake, dialled: TakeSettings
) -> tuple[tuple[SeenSpot, ...], PlannedTake]:
    """The frame as a whole in place of spots that were not given."""
    if whole_stops is None:
        return (), plan
    off = settings_off(plan.slip, dialled).stops
    substitute = PlannedSpot(WHOLE_FRAME, "subject", wanted_stops=0.0, lands_stops=0.0)
    return (SeenSpot(WHOLE_FRAME, whole_stops + off),), replace(plan, planned=(substitute,))


def check_names(plan: PlannedTake) -> None:
    """BadInput that names a spot which the plan does not have."""
    known = [planned_spot.name for planned_spot in plan.planned]
    for spot in plan.spots:
        if known and spot.name not in known:
            raise BadInput(
                f"The plan has no spot named “{spot.name}”. It has {listed(known)}.", "spot"
            )


def _whole_frame(
    on: TakeAlignment, set_for: float | None, gained_stops: float | None, *, glass_stops: float
) -> float | None:
    """How much more light there was than when it was metered (stops), by the whole frame.

    None where either file does not say its settings, or the two cannot be compared.
    """
    if set_for is None or on.ev100_set is None or gained_stops is None:
        return None
    return gained_stops - (on.ev100_set - set_for - glass_stops)


def _unjudged(seen: SeenTake, plan: PlannedTake, on: TakeAlignment, *, look: Look) -> Iterator[str]:
    """What could not be judged, and why: what is not measured is not judged."""
    reported = [
        spot for spot in seen.spots if max(spot.clipped_share, spot.blocked_share) <= LOST_SHARE
    ]
    if not reported:
        why = "the plan has no spots" if not plan.spots else "its spots are clipped or black"
        yield f"Tones not judged: {why}."
    elif on.base is not None and on.where is None:
        yield "Tones not judged: the take could not be aligned with the planning picture."
    if look.blur is None:
        yield "Sharpness not judged: too little detail that is not clipped."


def _seen_take(
    dialled: TakeSettings,
    seen_spots: tuple[SeenSpot, ...],
    plan: PlannedTake,
    *,
    on: TakeAlignment,
    look: Look,
) -> SeenTake:
    """All that was measured, as it is compared with the plan."""
    return SeenTake(
        dialled,
        seen_spots,
        is_raw=False,
        blur=look.blur,
        lean_deg=look.lean_deg,
        cast_mired=look.cast_mired,
        cut_off=look.cut_off,
        bands_share=0.0 if look.bands is None else look.bands.depth,
        cleaner_stops=cleaner_stops(look.snr, plan, on),
        is_total=plan.is_total,
        is_firm=plan.is_firm,
    )


def _seen(picture: Picture, spot: Spot) -> SeenSpot:
    tone = spot_tone(picture.spot(spot))
    blocked = 1.0 if tone.state == "blocked" else 0.0
    return SeenSpot(spot.name, tone.stops_from_mid, tone.clipped_share, blocked_share=blocked)


def _cast(picture: Picture, plan: PlannedTake, on: TakeAlignment) -> float | None:
    """Cast (mired, warm positive) of the neutral spot at the dial's white; None where unknown."""
    dial_k = plan.slip.white_k
    if plan.neutral is None:
        return None
    neutral = on.moved(plan.neutral)
    try:
        found = white_on(picture, neutral, dial_k=dial_k)
    except OxlenError:
        return _cast_of_clipped(picture, neutral, dial_k)
    if found.light is None or dial_k is None:
        return found.cast_mired
    return float(mired(found.light.temperature.cct_k) - mired(dial_k))


def _cast_of_clipped(picture: Picture, neutral: Spot, dial_k: float | None) -> float | None:
    """The cast of a neutral spot that a wrong white balance clipped in one channel."""
    if dial_k is None or picture.facts.kind == "raw":
        return None
    patch = picture.patch(neutral)
    if patch.clipped_share <= CLIPPED or patch.colour.min() <= 0:
        return None
    return cast_of_clipped(patch.colour, dial_k)
