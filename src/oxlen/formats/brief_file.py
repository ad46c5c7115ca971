"""The open brief: what `oxlen plan` and the plan route take."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Literal

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
from oxlen.core.decide.wishes import Output
from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat, Phone
from oxlen.formats.phone_profile import PhoneProfile, Positive, Strict
from oxlen.formats.wishes_file import (
    FlickerFile,
    FramesFile,
    FramingFile,
    HoldFile,
    LookFile,
    MotionFile,
    NdFile,
    OutputFile,
    TonesFile,
)


class ReadingFile(Strict):
    """Light at EV100 in a role, wanted `place` stops from mid (the role's default when null)."""

    role: Role
    ev100: Annotated[float, Field(ge=-30, le=40)]
    place: Annotated[float, Field(ge=-12, le=8)] | None = None
    name: Annotated[str, Field(max_length=80)] = ""
    channel_stops: Annotated[float, Field(ge=0, le=12)] = 0.0

    @field_validator("role", mode="before")
    @classmethod
    def _hyphens(cls, role: object) -> object:
        return role.replace("_", "-") if isinstance(role, str) else role


class SchoolFile(Strict):
    """How to decide: the ISO school with its cap, the exposure aim, a shutter asked for by name.

    Without an ISO school, motion that must freeze or show puts the shutter first, else the floor.
    """

    iso: IsoSchool | None = None
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
    "motion": [{"subject": "walker", "distance_m": 6}],
    "flicker": {"mains_hz": 50},
    "output": {"use": "print-a4", "snr": "acceptable"},
    "nd": {"at_hand": [{"name": "ND 64", "factor": 64}]},
}
Motions = Annotated[list[MotionFile], Field(max_length=8)]
Looks = Annotated[list[LookFile], Field(max_length=8)]


class BriefFile(Strict):
    """One intended picture. `phone` is a shipped or kept id, or a whole profile.

    `lens` may be "any": Oxlen then takes the one that ranks first.
    """

    model_config = ConfigDict(extra="forbid", json_schema_extra={"examples": [EXAMPLE_BRIEF]})

    phone: str | PhoneProfile
    lens: str | None = None
    mode: str | None = None
    support: Support = "handheld"
    readings: Annotated[list[ReadingFile], Field(min_length=1, max_length=100)]
    school: SchoolFile = SchoolFile()
    format: FileFormat = "processed"
    mean_ev100: Annotated[float, Field(ge=-30, le=40)] | None = None
    motion: Motions = []  # noqa: RUF012  copied by Pydantic
    looks: Looks = []  # noqa: RUF012  copied by Pydantic
    flicker: FlickerFile | None = None
    output: OutputFile | None = None
    nd: NdFile = NdFile()
    hold: HoldFile = HoldFile()
    frames: FramesFile = FramesFile()
    framing: FramingFile | None = None
    tones: TonesFile | None = None
    ways: Literal["needed", "all"] = Field(
        default="needed",
        description="all: trades even when nothing collides, and every lens compared",
    )

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
        readings=tuple(
            PlacedReading(r.role, r.ev100, r.place, r.name, r.channel_stops) for r in file.readings
        ),
        school=School(**file.school.model_dump()),
        file_format=file.format,
        scene_mean_ev100=file.mean_ev100,
        hold=file.hold.to_hold(),
        freeze=tuple(motion.to_freeze() for motion in file.motion),
        show=tuple(look.to_show() for look in file.looks),
        flicker=file.flicker.to_flicker() if file.flicker else None,
        output=file.output.to_output() if file.output else Output(),
        glass_on=tuple(glass.to_glass() for glass in file.nd.on),
        glass_at_hand=tuple(glass.to_glass() for glass in file.nd.at_hand),
        frames=file.frames.to_frames(),
        framing=file.framing.to_framing() if file.framing else None,
        tones=file.tones.to_tones() if file.tones else None,
    )
