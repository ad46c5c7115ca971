"""A sheet with the phone it is answered for, the light measured for it, and its brief."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import SheetLight, measured
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.metering.picture_doubt import PictureDoubt
from oxlen.metering.sheet_brief import brief_of_sheet
from oxlen.phones.resolve_phone import resolve_phone


@dataclass(frozen=True)
class KitAtHand:
    """Filters and clip-on lenses that ways out may use."""

    filters: Sequence[LensFilter] = ()
    clip_ons: Sequence[ClipOn] = ()


NOTHING = KitAtHand()


@dataclass(frozen=True)
class BriefedSheet:
    """A sheet and the brief it amounts to.

    `body` names the lens its picture came through; `profile` is the phone of the kit, or the one
    the picture came from, and `note` says so then.
    """

    body: SheetBody
    profile: PhoneProfile
    light: SheetLight
    brief: Brief
    note: str | None


def briefed_sheet(
    body: SheetBody,
    profile: PhoneProfile,
    cache: MeteredPictures,
    *,
    kit: KitAtHand = NOTHING,
    doubt: PictureDoubt | None = None,
) -> BriefedSheet:
    """Measure a sheet and make its brief. NotFound for an unknown lens, mode or picture."""
    answered = resolve_phone(body, profile, cache)
    light = measured(answered.body, answered.profile, cache, doubt=doubt)
    brief = brief_of_sheet(
        answered.body,
        answered.profile.to_phone(),
        light,
        filters_at_hand=kit.filters,
        clip_ons_at_hand=kit.clip_ons,
    )
    return BriefedSheet(answered.body, answered.profile, light, brief=brief, note=answered.note)
