"""The open brief: what `oxlen plan` and the plan route take."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from pydantic import ConfigDict, Field, field_validator
from pydantic.config import JsonDict

from oxlen.core.decide.brief import (
    Brief,
    ExposureAim,
    IsoSchool,
    PlacedReading,
    Role,
    School,
)
from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat, Phone
from oxlen.formats.phone_profile import PhoneProfile, Positive, Strict


class ReadingFile(Strict):
    """Light at EV100 in a role, wanted `place` stops from mid (the role's default when null)."""

    role: Role
    ev100: Annotated[float, Field(ge=-30, le=40)]
    place: Annotated[float, Field(ge=-12, le=8)] | None = None
    name: Annotated[str, Field(max_length=80)] = ""

    @field_validator("role", mode="before")
    @classmethod
    def _hyphens(cls, role: object) -> object:
        return role.replace("_", "-") if isinstance(role, str) else role


class SchoolFile(Strict):
    """How to decide: the ISO school with its cap, the exposure aim, a shutter asked for by name."""

    iso: IsoSchool = "floor"
    iso_cap: Positive | None = None
    exposure: ExposureAim = "centre"
    shutter_s: Positive | None = None


EXAMPLE_BRIEF: JsonDict = {
    "phone": "wherry-3",
    "lens": "main",
    "support": "handheld",
    "readings": [
        {"role": "subject", "ev100": 9.3, "place": -2},
        {"role": "keep-bright", "ev100": 14.9, "place": None},
    ],
    "school": {"iso": "floor", "iso_cap": 800, "exposure": "centre"},
}


class BriefFile(Strict):
    """One intended picture. `phone` is a shipped or kept id, or a whole profile."""

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_BRIEF]})

    phone: str | PhoneProfile
    lens: str | None = None
    mode: str | None = None
    support: Support = "handheld"
    readings: Annotated[list[ReadingFile], Field(min_length=1, max_length=100)]
    school: SchoolFile = SchoolFile()
    format: FileFormat = "processed"
    mean_ev100: Annotated[float, Field(ge=-30, le=40)] | None = None

    def to_brief(self, find_phone: Callable[[str], PhoneProfile]) -> Brief:
        """The brief as the core knows it; NotFound when the phone is not in the kit."""
        profile = find_phone(self.phone) if isinstance(self.phone, str) else self.phone
        return brief_of(self, profile.to_phone())


def brief_of(file: BriefFile, phone: Phone) -> Brief:
    """A brief for a phone already at hand."""
    return Brief(
        phone=phone,
        lens_id=file.lens,
        mode_id=file.mode,
        support=file.support,
        readings=tuple(PlacedReading(r.role, r.ev100, r.place, r.name) for r in file.readings),
        school=School(**file.school.model_dump()),
        file_format=file.format,
        scene_mean_ev100=file.mean_ev100,
    )


SCHEMAS: dict[str, type[Strict]] = {"brief": BriefFile, "phone": PhoneProfile}
