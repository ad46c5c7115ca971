"""The presets that ship with Oxlen, one file for each kind of picture."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

from oxlen.formats.sheet.preset import PresetFile


@cache
def shipped_presets() -> tuple[PresetFile, ...]:
    """Shipped presets by name."""
    folder = files("oxlen") / "data" / "presets"
    texts = (entry.read_text("utf-8") for entry in folder.iterdir() if entry.name.endswith(".json"))
    found = (PresetFile.model_validate_json(text) for text in texts)
    return tuple(sorted(found, key=lambda preset: preset.name))
