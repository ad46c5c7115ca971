"""Light that is given to a sheet as numbers, without a picture."""

from __future__ import annotations

from oxlen.core.decisions.framework.brief import SUBJECT
from oxlen.core.kit.phone import Lens, Phone
from oxlen.core.light.exposure import ExposureSettings
from oxlen.core.light.reading import (
    Reading,
    reading_from_auto,
    reading_from_ev,
    reading_from_level,
    reading_from_lux,
    reading_predicted,
)
from oxlen.formats.sheet.file import (
    AutoNumbers,
    EvNumber,
    LuxNumber,
    PredictedLight,
    ReadingBody,
    ReadingSource,
    SheetBody,
    UsualLevel,
)


def reading_given(source: ReadingSource, phone: Phone, lens: Lens) -> Reading:
    """A reading from numbers, on a lens unless they name another; NotFound for an unknown one."""
    if isinstance(source, AutoNumbers):
        through = lens if source.lens is None else phone.lens(source.lens)
        return reading_from_auto(ExposureSettings(source.iso, source.shutter_s, through.f_number))
    if isinstance(source, LuxNumber):
        return reading_from_lux(source.lux)
    if isinstance(source, EvNumber):
        return reading_from_ev(source.ev100)
    if isinstance(source, PredictedLight):
        return reading_predicted(source.ev100, source.plus_minus_stops, source.why)
    assert isinstance(source, UsualLevel)
    return reading_from_level(source.level)


def whole_frame_reading(body: SheetBody) -> ReadingBody:
    """The mean of the frame while no spot was read; its number is filled in.

    It replaces the subject that was guessed, and is wanted where that was.
    """
    places = [entry.place for entry in body.readings if entry.role == SUBJECT]
    place = places[0] if places else None
    return ReadingBody(id="frame", name="Whole frame", place=place, source=EvNumber(ev100=0))
