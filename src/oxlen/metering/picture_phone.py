"""Whose phone a sheet is answered for: the kit's, or the one its picture came from."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.provisional_phone import (
    on_provisional,
    provisional_phone,
    provisional_words,
)
from oxlen.formats.sheet_file import SheetBody
from oxlen.metering.picture_cache import MeteredPictures


@dataclass(frozen=True)
class Answered:
    """A sheet with the phone it is answered for, and a note where that is not the kit's."""

    body: SheetBody
    profile: PhoneProfile
    note: str | None = None


def answered_for(body: SheetBody, profile: PhoneProfile, cache: MeteredPictures) -> Answered:
    """The kit's phone, unless the picture is from another: that one's own lens then counts."""
    if body.picture is None:
        return Answered(body, profile)
    other = provisional_phone(profile, cache.report(body.picture))
    if other is None:
        return Answered(body, profile)
    return Answered(on_provisional(body), other, provisional_words(other, profile))
