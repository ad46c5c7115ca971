"""The phone profile as people exchange it, `oxlen-phone/2`: every figure with its origin and ±."""

from __future__ import annotations

from typing import Any

from oxlen.formats.phone import figures as phone_figures
from oxlen.formats.phone.figures import figure_places
from oxlen.formats.phone.origin import OriginProfile
from oxlen.formats.phone.profile import PhoneProfile

FORMAT, PLAIN = "oxlen-phone/2", "oxlen-phone/1"
ORIGIN_FIELDS = tuple(OriginProfile.model_fields)
METER, METER_DOUBT = "meter_offset_stops", "meter_plus_minus_stops"
FIGURES_BY_PART = {
    "PhoneProfile": phone_figures.PHONE_FIGURES,
    "LadderProfile": phone_figures.LADDER_FIGURES,
    "LensProfile": phone_figures.LENS_FIGURES,
    "ModeProfile": phone_figures.MODE_FIGURES,
    "HeadroomProfile": phone_figures.HEADROOM_FIGURES,
    "AutomaticProfile": phone_figures.AUTOMATIC_FIGURES,
    "WhiteProfile": phone_figures.WHITE_FIGURES,
    "FocusProfile": phone_figures.FOCUS_FIGURES,
    "FilesProfile": phone_figures.FILE_FIGURES,
    "ComputedProfile": phone_figures.COMPUTED_FIGURES,
    "HandlingProfile": phone_figures.HANDLING_FIGURES,
    "RawProfile": phone_figures.RAW_FIGURES,
}


def phone_file(profile: PhoneProfile) -> dict[str, Any]:
    """A profile as its file: each figure as {value, plus_minus, origin, date}."""
    data = profile.model_dump(mode="json", exclude={"origins"})
    for place in list(figure_places(data)):
        stated = profile.origins.get(place.path, phone_figures.ASSUMED)
        figure = {"value": place.holder[place.key], **stated.model_dump()}
        if place.path == METER:
            figure["plus_minus"] = profile.meter_plus_minus_stops
        place.holder[place.key] = {
            name: figure[name] for name in ("value", "plus_minus", "origin", "date")
        }
    del data[METER_DOUBT]  # it is the ± of the meter's offset
    return {**data, "format": FORMAT}


class PhoneFile(PhoneProfile):
    """The same profile, described as its file is written: the plain form is read as well."""

    @classmethod
    def model_json_schema(cls, *_args: Any, **_options: Any) -> dict[str, Any]:
        """JSON Schema of `oxlen-phone/2`: figures plain, or with their origin."""
        schema = PhoneProfile.model_json_schema()
        parts = {**schema["$defs"], "PhoneProfile": schema}
        for name, figures in FIGURES_BY_PART.items():
            fields = parts[name]["properties"]
            for figure in figures:
                fields[figure] = _with_origin(fields[figure])
        schema["properties"]["format"] = {"enum": [FORMAT, PLAIN], "default": PLAIN}
        return schema


def _with_origin(plain: dict[str, Any]) -> dict[str, Any]:
    origin: dict[str, Any] = {name: {} for name in ORIGIN_FIELDS}
    figure = {
        "type": "object",
        "properties": {"value": plain, **origin},
        "required": ["value"],
        "additionalProperties": False,
    }
    return {"anyOf": [figure, plain]}
