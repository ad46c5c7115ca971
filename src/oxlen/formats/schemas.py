"""The open file formats by name, published as JSON Schema."""

from __future__ import annotations

from oxlen.formats.brief_file import BriefFile
from oxlen.formats.phone_file import PhoneFile
from oxlen.formats.place_body import PlaceBody
from oxlen.formats.preset_file import PresetFile
from oxlen.formats.strict import Strict

SCHEMAS: dict[str, type[Strict]] = {
    "brief": BriefFile,
    "phone": PhoneFile,
    "place": PlaceBody,
    "preset": PresetFile,
}
