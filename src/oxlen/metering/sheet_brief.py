"""The brief a sheet amounts to."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

from oxlen.core.decisions.framework.brief import Brief, PlacedReading, Role
from oxlen.core.decisions.sequence.ask import with_phone_gap
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone import Phone
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import LightReading, SheetLight


def brief_of_sheet(
    body: SheetBody,
    phone: Phone,
    light: SheetLight,
    *,
    filters_at_hand: Sequence[LensFilter] = (),
    clip_ons_at_hand: Sequence[ClipOn] = (),
) -> Brief:
    """What a sheet asks for, by the light that was measured for it."""
    brief = Brief(
        phone=phone,
        readings_measured=tuple(_placed(reading) for reading in light.readings if reading.counts),
        mean_measured_ev100=light.mean_ev100,
        tones_measured=light.tones,
        filters_at_hand=tuple(filters_at_hand),
        clip_ons_at_hand=tuple(clip_ons_at_hand),
        light_shift_stops=body.light_shift_stops,
        about=f"{body.title} {body.intent}".strip(),
        asked=body.asked(),
    )
    return with_phone_gap(brief)


def _placed(reading: LightReading) -> PlacedReading:
    """A reading as the decision uses it."""
    return PlacedReading(
        cast(Role, reading.role),
        reading.ev100 or 0.0,
        None if reading.place_is_default else reading.place,
        name=reading.name,
        channel_stops=reading.channel_stops,
        plus_minus_stops=reading.plus_minus_stops,
        why_plus_minus=reading.why,
    )
