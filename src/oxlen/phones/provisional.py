"""A picture from a phone that is not in the kit: what its file tells counts, no more."""

from __future__ import annotations

import math

from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.errors import BadInput
from oxlen.formats.phone.profile import LensProfile, PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import SheetBody
from oxlen.phones.file_facts import FileFacts
from oxlen.phones.from_files import phone_from

SAME_OPTICS = 0.04
"""Lenses whose f-number and focal length differ by no more than this share are taken as one."""
PROVISIONAL_ID = "of-the-picture"


def is_from(report: PictureReport, profile: PhoneProfile) -> bool:
    """Whether a picture was taken with a phone of that maker and model."""
    reported = (report.camera.make or "").casefold(), (report.camera.model or "").casefold()
    return any(reported) and reported == (profile.make.casefold(), profile.model.casefold())


def provisional_phone(profile: PhoneProfile, report: PictureReport) -> PhoneProfile | None:
    """A phone out of the picture alone; None where the profile's phone may have taken it.

    Its lens and pixels are the file's; steps, noise, stabiliser and headroom are what is usual.
    """
    settings, camera = report.settings, report.camera
    if settings.f_number is None or not (settings.focal35_mm or settings.focal_mm):
        return None
    if not (camera.make or camera.model) or is_from(report, profile):
        return None
    is_unnamed = not (profile.make or profile.model)
    if is_unnamed and lens_of_picture(profile, report) is not None:
        return None
    try:
        made = phone_from([facts_of_report(report)], date=(report.taken_at or "")[:10] or None)
    except BadInput:  # cut, or given impossible values: the sheet's own phone has to do
        return None
    return made.profile.model_copy(update={"id": PROVISIONAL_ID})


def facts_of_report(report: PictureReport) -> FileFacts:
    """The facts of a kept picture, as far as its reading has them."""
    settings, camera, file = report.settings, report.camera, report.file
    sides = sorted(side for side in (file.width, file.height) if side)
    whole = len(sides) == 2
    return FileFacts(
        file.name,
        file.format,
        file.kind,
        megabytes=0.0,
        long_px=sides[1] if whole else None,
        short_px=sides[0] if whole else None,
        make=camera.make or "",
        model=camera.model or "",
        lens=camera.lens or "",
        iso=settings.iso,
        shutter_s=settings.shutter_s,
        f_number=settings.f_number,
        focal_mm=settings.focal_mm,
        focal35_mm=settings.focal35_mm,
    )


def on_provisional(body: SheetBody) -> SheetBody:
    """A sheet as that phone can answer it: it has one lens and one mode."""
    return body.model_copy(update={LENS.name: None, MODE.name: None})


def provisional_words(phone: PhoneProfile) -> str:
    """What is known of that phone and what is not."""
    lens = phone.lenses[0]
    return (
        f"This picture is from {phone.name}, which is not in your kit. Its lens is used "
        f"({lens.focal35_mm:.3g} mm, f/{lens.f_number:g}). Steps, noise and stabiliser are assumed."
    )


def lens_of_picture(profile: PhoneProfile, report: PictureReport) -> LensProfile | None:
    """The lens of a phone that a picture came through; None where none is like it."""
    f_number, focal35_mm = report.settings.f_number, report.settings.focal35_mm
    if f_number is None or focal35_mm is None:
        return None

    def apart(lens: LensProfile) -> float:
        return max(
            abs(math.log(f_number / lens.f_number)), abs(math.log(focal35_mm / lens.focal35_mm))
        )

    nearest = min(profile.lenses, key=apart)
    return nearest if apart(nearest) <= SAME_OPTICS else None
