"""A phone profile as Oxlen keeps it; `phone_file.py` has the form it is exchanged in."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from oxlen.core.hold.hand import BRACED_STOPS
from oxlen.core.kit.automatic import Automatic
from oxlen.core.kit.ladder import Ladder
from oxlen.core.kit.phone import Lens, Mode, Phone
from oxlen.core.sensor.noise import Sensor
from oxlen.formats.phone.origin import (
    OriginProfile,
    dial_doubt_mired,
    lens_doubts,
    mode_doubts,
    said_plus_minus,
)
from oxlen.formats.phone.parts import (
    ComputedProfile,
    FilesProfile,
    FocusProfile,
    HandlingProfile,
    RawProfile,
    WhiteProfile,
)
from oxlen.formats.strict import Iso, Name, Seconds, Slug, Strict

Millimetres = Annotated[float, Field(ge=0.1, le=5000, allow_inf_nan=False)]
Micrometres = Annotated[float, Field(ge=0.05, le=100, allow_inf_nan=False)]
WellElectrons = Annotated[float, Field(ge=10, le=1e7, allow_inf_nan=False)]
NoiseElectrons = Annotated[float, Field(ge=0.001, le=1e4, allow_inf_nan=False)]
Stops = Annotated[float, Field(ge=-10, le=15, allow_inf_nan=False)]
STEPS = Field(min_length=1, max_length=200)


class LadderProfile(Strict):
    """One range of steps, both ascending; shutter in seconds."""

    iso: Annotated[list[Iso], STEPS]
    shutter_s: Annotated[list[Seconds], STEPS]

    @field_validator("iso", "shutter_s")
    @classmethod
    def _ascending(cls, steps: list[float]) -> list[float]:
        if any(later <= earlier for earlier, later in pairwise(steps)):
            raise ValueError("steps must increase, each used once")
        return steps


class HeadroomProfile(Strict):
    """Stops from mid to clipping, by format written."""

    processed: Stops
    raw: Stops


class ModeProfile(Strict):
    """One way a lens writes files; pixel pitch and full well are of the pixels written."""

    id: Slug
    name: Name
    width_px: Annotated[int, Field(ge=16, le=40000)]
    height_px: Annotated[int, Field(ge=16, le=40000)]
    pixel_pitch_um: Micrometres
    full_well_e: WellElectrons
    base_iso: Iso
    prnu_share: Annotated[float, Field(ge=0, le=0.2)]
    read_noise_e: Annotated[list[tuple[Iso, NoiseElectrons]], Field(min_length=1, max_length=40)]
    headroom_stops: HeadroomProfile
    readout_s: Annotated[float, Field(gt=0, le=1)] | None = None
    manual: Slug
    auto: Slug
    files: FilesProfile = FilesProfile()
    raw: RawProfile | None = None

    @field_validator("read_noise_e")
    @classmethod
    def _by_iso(cls, table: list[tuple[float, float]]) -> list[tuple[float, float]]:
        if any(later[0] <= earlier[0] for earlier, later in pairwise(table)):
            raise ValueError("read noise is a list of [ISO, electrons] with ISO ascending")
        return table


class LensProfile(Strict):
    """A lens: true and 35 mm-equivalent focal length in mm, its one aperture, its modes."""

    id: Slug
    name: Name
    focal_mm: Millimetres
    focal35_mm: Millimetres
    f_number: Annotated[float, Field(gt=0.5, le=32)]
    stabiliser_stops: Annotated[float, Field(ge=-3, le=8)] = 2.0
    braced_stops: Annotated[float, Field(ge=0, le=8)] = BRACED_STOPS
    tripod_stops: Annotated[float, Field(ge=-3, le=30)] | None = None
    modes: Annotated[list[ModeProfile], Field(min_length=1, max_length=12)]
    focus: FocusProfile | None = None


class AutomaticProfile(Strict):
    """What the phone does by itself; null where it has nothing of the kind.

    Room above mid that merging its own frames adds, frames its night mode merges, and its flash:
    distance times f-number at ISO 100.
    """

    compensation_step_stops: Annotated[float, Field(gt=0.05, le=2)] = 1 / 3
    compensation_most_stops: Annotated[float, Field(ge=0, le=8)] = 2.0
    wide_range_stops: Annotated[float, Field(gt=0, le=8)] | None = None
    night_frames: Annotated[int, Field(ge=2, le=100)] | None = None
    flash_guide_m: Annotated[float, Field(gt=0, le=50)] | None = None


class PhoneProfile(Strict):
    """A phone of the kit. Ladders are named once and shared by lenses and modes.

    Read from `oxlen-phone/2` too, where figures carry their origins.

    `origins` says by a figure's path, such as `lenses.main.12mp.full_well_e`, where it comes from;
    a figure it does not name is assumed.
    """

    format: Literal["oxlen-phone/1"] = "oxlen-phone/1"
    id: Slug
    name: Name
    make: Annotated[str, Field(max_length=60)] = ""
    model: Annotated[str, Field(max_length=60)] = ""
    note: Annotated[str, Field(max_length=600)] = ""
    meter_offset_stops: Annotated[float, Field(ge=-4, le=4)] = 0.0
    meter_plus_minus_stops: Annotated[float, Field(ge=0, le=4)] = 0.3
    ladders: dict[Slug, LadderProfile]
    lenses: Annotated[list[LensProfile], Field(min_length=1, max_length=12)]
    automatic: AutomaticProfile = AutomaticProfile()
    white: WhiteProfile | None = WhiteProfile()
    computed: Annotated[list[ComputedProfile], Field(max_length=20)] = []  # noqa: RUF012  copied by Pydantic
    handling: HandlingProfile = HandlingProfile()
    origins: Annotated[dict[str, OriginProfile], Field(max_length=1000)] = {}  # noqa: RUF012  copied by Pydantic

    @model_validator(mode="before")
    @classmethod
    def _from_file(cls, data: object) -> object:
        """A profile of the second version, whose figures carry their origins, becomes plain."""
        from oxlen.formats.phone.upgrades import plain_profile

        return plain_profile(data)

    @model_validator(mode="after")
    def _parts_agree(self) -> PhoneProfile:
        _distinct([lens.id for lens in self.lenses], "lens")
        for lens in self.lenses:
            _distinct([mode.id for mode in lens.modes], f"mode of lens {lens.id}")
            for mode in lens.modes:
                for ladder in (mode.manual, mode.auto):
                    if ladder not in self.ladders:
                        raise ValueError(
                            f"lens {lens.id}, mode {mode.id} names a ladder {ladder} "
                            "that ladders does not have"
                        )
        return self

    def to_phone(self) -> Phone:
        """The phone as the core knows it; a shipped profile is the same object each time."""
        made = _PHONES.get(id(self))
        if made is None or made[0] is not self:
            if len(_PHONES) >= MOST_PHONES:
                _PHONES.clear()
            made = _PHONES[id(self)] = (self, self._as_phone())
        return made[1]

    def _as_phone(self) -> Phone:
        ladders = {
            name: Ladder(tuple(ladder.iso), tuple(ladder.shutter_s))
            for name, ladder in self.ladders.items()
        }
        lenses = tuple(_lens(lens, ladders, self.origins) for lens in self.lenses)
        return Phone(
            self.id,
            self.name,
            self.meter_offset_stops,
            meter_plus_minus_stops=self.meter_plus_minus_stops,
            lenses=lenses,
            automatic=Automatic(**self.automatic.model_dump()),
            white=None
            if self.white is None
            else self.white.to_dial(dial_doubt_mired(self.origins)),
            computed=tuple(mode.to_mode() for mode in self.computed),
            handling=self.handling.to_handling(),
        )


MOST_PHONES = 20
_PHONES: dict[int, tuple[PhoneProfile, Phone]] = {}
"""By a profile's identity, which is kept with it: profiles are replaced, never changed."""


def _lens(lens: LensProfile, ladders: dict[str, Ladder], origins: dict[str, OriginProfile]) -> Lens:
    modes = tuple(_mode(lens, mode, ladders=ladders, origins=origins) for mode in lens.modes)
    return Lens(
        lens.id,
        lens.name,
        lens.focal_mm,
        focal35_mm=lens.focal35_mm,
        f_number=lens.f_number,
        stabiliser_stops=lens.stabiliser_stops,
        braced_stops=lens.braced_stops,
        tripod_stops=lens.tripod_stops,
        modes=modes,
        focus=None if lens.focus is None else lens.focus.to_drive(),
        doubts=lens_doubts(lens, origins),
    )


def _mode(
    lens: LensProfile,
    mode: ModeProfile,
    *,
    ladders: dict[str, Ladder],
    origins: dict[str, OriginProfile],
) -> Mode:
    sensor = Sensor(
        mode.full_well_e, mode.base_iso, mode.headroom_stops.raw, prnu_share=mode.prnu_share
    )
    place = f"lenses.{lens.id}.{mode.id}"
    return Mode(
        mode.id,
        mode.name,
        mode.width_px,
        height_px=mode.height_px,
        pixel_pitch_um=mode.pixel_pitch_um,
        sensor=sensor,
        read_noise_e=tuple(mode.read_noise_e),
        headroom_processed_stops=mode.headroom_stops.processed,
        manual=ladders[mode.manual],
        auto=ladders[mode.auto],
        readout_s=mode.readout_s,
        readout_plus_minus_s=said_plus_minus(place, origins).get("readout_s", 0.0),
        files=mode.files.to_files(said_plus_minus(f"{place}.files", origins)),
        doubts=mode_doubts(lens, mode, origins),
    )


def _distinct(ids: list[str], what: str) -> None:
    for number in ids:
        if ids.count(number) > 1:
            raise ValueError(f"{what} {number} is named twice")
