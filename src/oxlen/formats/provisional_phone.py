"""A picture from a phone that is not in the kit: its own lens counts, the rest is assumed."""

from __future__ import annotations

import math

from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.formats.phone_profile import LensProfile, ModeProfile, PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet_file import SheetBody

SAME_OPTICS = 0.04
"""Lenses whose f-number and focal length differ by no more than this share are taken as one."""
FULL_FRAME_DIAGONAL_MM = 43.27
PROVISIONAL_ID = "of-the-picture"


def provisional_phone(profile: PhoneProfile, report: PictureReport) -> PhoneProfile | None:
    """A phone with the picture's own lens; None where the profile's phone may have taken it.

    f-number, focal lengths and pixels are the file's; the pitch follows from them, full well from
    the pitch. Steps, read noise, stabiliser and headroom are those of the profile's first lens.
    """
    told, camera = report.settings, report.camera
    if told.f_number is None or told.focal35_mm is None or not (camera.make or camera.model):
        return None
    if (camera.make, camera.model) == (profile.make, profile.model):
        return None
    if any(_same_optics(lens, told.f_number, told.focal35_mm) for lens in profile.lenses):
        return None
    name = " ".join(filter(None, (camera.make, camera.model)))
    lens = _lens(profile.lenses[0], report, f_number=told.f_number, focal35_mm=told.focal35_mm)
    # What the phone does by itself is its own as well, and nothing is known of it.
    return profile.model_copy(
        update={
            "automatic": type(profile.automatic)(),
            "computed": [],
            "handling": type(profile.handling)(),
            "id": PROVISIONAL_ID,
            "name": name[:60],
            "make": camera.make or "",
            "model": camera.model or "",
            "lenses": [lens],
            "origins": {},
            "meter_offset_stops": 0.0,
            "meter_plus_minus_stops": 0.5,
        }
    )


def on_provisional(body: SheetBody) -> SheetBody:
    """A sheet as that phone can answer it: it has one lens and one mode."""
    return body.model_copy(update={LENS.name: None, MODE.name: None})


def provisional_words(phone: PhoneProfile, profile: PhoneProfile) -> str:
    """What is known of that phone and what is not."""
    lens = phone.lenses[0]
    return (
        f"This picture is from {phone.name}, which is not in the kit. Its own lens counts, "
        f"{lens.focal35_mm:g} mm at f/{lens.f_number:g}; steps, noise and stabiliser are assumed "
        f"from {profile.name}."
    )


def _same_optics(lens: LensProfile, f_number: float, focal35_mm: float) -> bool:
    near = (abs(math.log(f_number / lens.f_number)), abs(math.log(focal35_mm / lens.focal35_mm)))
    return max(near) <= SAME_OPTICS


def _lens(
    model: LensProfile, report: PictureReport, *, f_number: float, focal35_mm: float
) -> LensProfile:
    focal_mm = report.settings.focal_mm or model.focal_mm * focal35_mm / model.focal35_mm
    mode = _mode(model.modes[0], report, diagonal_mm=FULL_FRAME_DIAGONAL_MM * focal_mm / focal35_mm)
    return model.model_copy(
        update={
            "id": "main",
            "name": f"{focal35_mm:g} mm",
            "focal_mm": focal_mm,
            "focal35_mm": focal35_mm,
            "f_number": f_number,
            "stabiliser_stops": min(model.stabiliser_stops, 2.0),
            "modes": [mode],
            # A slider's scale holds for the phone it was measured on, and for no other.
            "focus": None,
        }
    )


def _mode(model: ModeProfile, report: PictureReport, *, diagonal_mm: float) -> ModeProfile:
    width, height = report.file.width, report.file.height
    long_px, short_px = max(width or 4000, height or 3000), min(width or 4000, height or 3000)
    pitch = 1000 * diagonal_mm / math.hypot(long_px, short_px)
    pitch = min(max(pitch, 0.3), 20.0)
    well = model.full_well_e * (pitch / model.pixel_pitch_um) ** 2
    return model.model_copy(
        update={
            "name": "as the picture",
            "width_px": long_px,
            "height_px": short_px,
            "pixel_pitch_um": pitch,
            "full_well_e": max(well, 500.0),
        }
    )
