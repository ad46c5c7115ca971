"""Measured figures put into a phone's profile, each marked with its ± and date."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from oxlen.core.measures.measured import Figure
from oxlen.formats.phone.figures import LENS_FIGURES, figure_places
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.phones.measuring.measurement import Subject
from oxlen.phones.origins import Origins

OF_THE_PHONE = ("meter_offset_stops", "white.", "handling.", "computed.")
COUNTED = ("_burst", ".frames")
"""Ends of the paths of figures that are whole numbers."""


def figure_path(name: str, subject: Subject) -> str:
    """Where a figure belongs in the profile: the phone, its lens, or its mode."""
    if name.startswith(OF_THE_PHONE):
        return name
    lens = f"lenses.{subject.lens.id}"
    return f"{lens}.{name}" if name in LENS_FIGURES else f"{lens}.{subject.mode.id}.{name}"


def value_at(profile: PhoneProfile, path: str) -> Any:
    """A figure's present value; None where the profile has none."""
    for place in figure_places(profile.model_dump(mode="json")):
        if place.path == path:
            return place.holder[place.key]
    return None


def with_measured(subject: Subject, figures: Sequence[Figure], *, date: str) -> PhoneProfile:
    """The subject's phone with figures measured on a date; BadInput where one cannot be kept."""
    data = subject.profile.model_dump(mode="json")
    if data["white"] is None and any(figure.name.startswith("white.") for figure in figures):
        data["white"] = {}
    origins = Origins(date, subject.profile.origins)
    places = {place.path: place for place in figure_places(data)}
    for figure in figures:
        path = figure_path(figure.name, subject)
        value: Any = figure.value
        place = places[path]
        place.holder[place.key] = round(value) if path.endswith(COUNTED) else value
        origins.note(path, "measured", figure.plus_minus)
        if path == "meter_offset_stops":
            data["meter_plus_minus_stops"] = figure.plus_minus
    data["origins"] = {path: origin.model_dump() for path, origin in origins.found.items()}
    return PhoneProfile.model_validate(data)
