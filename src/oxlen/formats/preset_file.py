"""The open preset, `oxlen-preset/1`: a sheet's choices without its light, to be used again."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field
from pydantic.config import JsonDict

from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat
from oxlen.formats.brief_file import Looks, Motions, SchoolFile
from oxlen.formats.phone_profile import Name, Slug, Strict
from oxlen.formats.wishes_file import (
    FlickerFile,
    FramesFile,
    FramingFile,
    GlassFile,
    HoldFile,
    OutputFile,
)

EXAMPLE_PRESET: JsonDict = {
    "format": "oxlen-preset/1",
    "id": "walkers-on-the-quay",
    "name": "Walkers on the quay",
    "choices": {"support": "handheld", "motion": [{"subject": "walker", "distance_m": 6}]},
}


class ChoicesFile(Strict):
    """All of a sheet's choices but its phone, its light and its steps by hand.

    What a preset does not name is set as in a new sheet.
    """

    support: Support = "handheld"
    format: FileFormat = "processed"
    school: SchoolFile = SchoolFile()
    motion: Motions = []  # noqa: RUF012  copied by Pydantic
    looks: Looks = []  # noqa: RUF012  copied by Pydantic
    flicker: FlickerFile | None = None
    output: OutputFile = OutputFile()
    glass: Annotated[list[GlassFile], Field(max_length=6)] = []  # noqa: RUF012  copied by Pydantic
    hold: HoldFile = HoldFile()
    frames: FramesFile = FramesFile()
    framing: FramingFile | None = None


class PresetFile(Strict):
    """Choices that worked, by name."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_PRESET]})

    format: Literal["oxlen-preset/1"] = "oxlen-preset/1"
    id: Slug
    name: Name
    note: Annotated[str, Field(max_length=600)] = ""
    choices: ChoicesFile
