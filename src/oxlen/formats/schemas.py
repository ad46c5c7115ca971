"""The open file formats by name, published as JSON Schema."""

from __future__ import annotations

from oxlen.formats.outing.place import PlaceBody
from oxlen.formats.phone.file import PhoneFile
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.sheet.preset import PresetFile
from oxlen.formats.strict import Strict

SCHEMAS: dict[str, type[Strict]] = {
    "brief": BriefFile,
    "phone": PhoneFile,
    "place": PlaceBody,
    "preset": PresetFile,
}
