"""Whose phone a sheet is answered for: the kit's, or the one its picture came from."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from oxlen.core.decisions.lens.ask import LENS
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.phones.provisional import (
    is_from,
    lens_of_picture,
    on_provisional,
    provisional_phone,
    provisional_words,
)


@dataclass(frozen=True)
class Answered:
    """A sheet with the phone it is answered for, and a note where that is not the kit's."""

    body: SheetBody
    profile: PhoneProfile
    note: str | None = None


def resolve_phone(body: SheetBody, profile: PhoneProfile, cache: MeteredPictures) -> Answered:
    """The kit's phone with the picture's own lens, unless the picture is from another phone.

    What that picture tells of its phone then counts.
    """
    if body.picture is None:
        return Answered(body, profile)
    report = cache.report(body.picture)
    other = provisional_phone(profile, report)
    if other is not None:
        return Answered(on_provisional(body), other, provisional_words(other))
    return Answered(on_its_lens(body, profile, report), profile)


def on_its_lens(body: SheetBody, profile: PhoneProfile, report: PictureReport) -> SheetBody:
    """The sheet on the lens its picture came through, where it names no lens itself."""
    lens = lens_of_picture(profile, report)
    if getattr(body, LENS.name) is not None or lens is None or lens.id == profile.lenses[0].id:
        return body
    return body.model_copy(update={LENS.name: lens.id})


def phone_that_took(report: PictureReport, phones: Iterable[PhoneProfile]) -> PhoneProfile | None:
    """The phone of the kit that took a picture, by maker and model; None where it is not there."""
    return next((phone for phone in phones if is_from(report, phone)), None)
