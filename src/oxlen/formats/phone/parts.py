"""Parts of a phone profile that some phones lack: white dial, focus, files, computed modes."""

from __future__ import annotations

import math
from collections.abc import Mapping
from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from oxlen.core.errors import OxlenError
from oxlen.core.focus.slider import SliderPoint, SliderScale
from oxlen.core.kit.computed_mode import ComputedKind, ComputedMode
from oxlen.core.kit.file_cost import WrittenFiles
from oxlen.core.kit.focus_drive import FocusDrive, NamedScale
from oxlen.core.kit.handling import Handling
from oxlen.core.kit.white_dial import WhiteDial
from oxlen.formats.strict import Name, Seconds, Slug, Strict

Kelvin = Annotated[float, Field(ge=1000, le=25_000)]
Megabytes = Annotated[float, Field(gt=0, le=2000)]
Metres = Annotated[float, Field(gt=0.002, le=1e6)]
Slider = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class WhiteProfile(Strict):
    """The dial of white balance: kelvin in steps, and tint where the phone has one."""

    low_k: Kelvin = 2300
    high_k: Kelvin = 10_000
    step_k: Annotated[float, Field(ge=1, le=2000)] = 100
    tint_most: Annotated[float, Field(ge=0, le=1000)] = 0
    tint_step: Annotated[float, Field(gt=0, le=100)] = 1
    tint_duv: Annotated[float, Field(gt=0, le=0.05)] = 0.0003
    offset_mired: Annotated[float, Field(ge=-200, le=200)] = 0.0

    @model_validator(mode="after")
    def _ascends(self) -> WhiteProfile:
        if self.high_k <= self.low_k:
            raise ValueError("high_k must be above low_k")
        return self

    def to_dial(self, plus_minus_mired: float = 0.0) -> WhiteDial:
        """The dial as the core knows it, and how far it may be off."""
        return WhiteDial(**self.model_dump(), plus_minus_mired=plus_minus_mired)


class SliderPointProfile(Strict):
    """A slider value and the distance in metres it focuses at, null for infinity; how and when."""

    value: Slider
    distance_m: Metres | None
    plus_minus: Annotated[float, Field(ge=0, le=1e6)] | None = None
    found: Annotated[str, Field(max_length=120)] = ""
    date: Annotated[str, Field(pattern=r"^(\d{4}-\d{2}-\d{2})?$")] = ""

    def to_point(self) -> SliderPoint:
        """The point as the core knows it."""
        distance = math.inf if self.distance_m is None else self.distance_m
        values = {**self.model_dump(exclude={"distance_m"}), "distance_m": distance}
        return SliderPoint(**values)


class ScaleProfile(Strict):
    """A slider's scale, bare or with the clip-on of that name; `software` it was measured on.

    With a single point it is kept, and not used before there is another.
    """

    clip_on: Annotated[str, Field(max_length=60)] = ""
    software: Annotated[str, Field(max_length=60)] = ""
    points: Annotated[list[SliderPointProfile], Field(min_length=1, max_length=60)]

    @field_validator("points")
    @classmethod
    def _is_a_scale(cls, points: list[SliderPointProfile]) -> list[SliderPointProfile]:
        ordered = sorted(points, key=lambda point: point.value)
        if len(ordered) == 1:  # no scale yet, but kept until there is a second
            return ordered
        try:
            SliderScale(tuple(point.to_point() for point in ordered))
        except OxlenError as error:
            raise ValueError(error.message) from None
        return ordered

    def to_scale(self) -> NamedScale:
        """The scale as the core knows it."""
        scale = SliderScale(tuple(point.to_point() for point in self.points))
        return NamedScale(scale, self.clip_on, self.software)


class FocusProfile(Strict):
    """How near a lens focuses, its slider, and the scales measured along it."""

    closest_m: Metres = 0.1
    by_hand: bool = True
    slider_low: Slider = 0.0
    slider_high: Slider = 1.0
    slider_step: Annotated[float, Field(gt=0, le=1e5)] = 0.01
    scales: Annotated[list[ScaleProfile], Field(max_length=12)] = []  # noqa: RUF012  copied by Pydantic

    @model_validator(mode="after")
    def _agrees(self) -> FocusProfile:
        if self.slider_high <= self.slider_low:
            raise ValueError("slider_high must be above slider_low")
        named = [scale.clip_on for scale in self.scales]
        if len(set(named)) < len(named):
            raise ValueError("each clip-on has one scale of its own")
        return self

    def to_drive(self) -> FocusDrive:
        """The drive as the core knows it."""
        plain = self.model_dump(exclude={"scales"})
        scales = (scale.to_scale() for scale in self.scales if len(scale.points) > 1)
        return FocusDrive(**plain, scales=tuple(scales))


class FilesProfile(Strict):
    """What one mode's files weigh in MB, and how fast they are written."""

    processed_mb: Megabytes = 5.0
    raw_mb: Megabytes | None = 25.0
    raw_packed_mb: Megabytes | None = None
    processed_fps: Annotated[float, Field(gt=0, le=1000)] = 10.0
    raw_fps: Annotated[float, Field(gt=0, le=1000)] = 3.0
    processed_burst: Annotated[int, Field(ge=1, le=100_000)] = 100
    raw_burst: Annotated[int, Field(ge=1, le=100_000)] = 10
    frame_gap_s: Annotated[float, Field(ge=0, le=60)] | None = None

    def to_files(self, plus_minus: Mapping[str, float] | None = None) -> WrittenFiles:
        """The files as the core knows them; `plus_minus` says how far figures may be off."""
        return WrittenFiles(**self.model_dump(), plus_minus=dict(plus_minus or {}))


class ComputedProfile(Strict):
    """A computed mode: its lenses, strengths in stops, times, frames, and what it writes."""

    id: Slug
    name: Name
    kind: ComputedKind
    lenses: Annotated[list[Slug], Field(min_length=1, max_length=12)]
    writes: Literal["processed", "raw", "both"] = "processed"
    strengths_stops: Annotated[
        list[Annotated[float, Field(gt=0, le=24)]], Field(max_length=24)
    ] = []  # noqa: RUF012  copied by Pydantic
    shortest_s: Seconds | None = None
    longest_s: Seconds | None = None
    frames: Annotated[int, Field(ge=2, le=10_000)] | None = None
    gap_s: Annotated[float, Field(ge=0, le=60)] | None = None
    looks_like_f: Annotated[float, Field(gt=0.3, le=64)] | None = None
    nearest_m: Metres | None = None
    farthest_m: Metres | None = None

    @field_validator("strengths_stops")
    @classmethod
    def _ascending(cls, stops: list[float]) -> list[float]:
        if any(later <= earlier for earlier, later in pairwise(stops)):
            raise ValueError("strengths_stops must increase, each used once")
        return stops

    def to_mode(self) -> ComputedMode:
        """The mode as the core knows it."""
        lists = {"lenses": tuple(self.lenses), "strengths_stops": tuple(self.strengths_stops)}
        return ComputedMode(**{**self.model_dump(), **lists})


class ColourMatrixProfile(Strict):
    """From XYZ to camera colours, row by row; the light source by its Exif number, 0 unknown."""

    illuminant: Annotated[int, Field(ge=0, le=255)]
    xyz_to_camera: Annotated[
        list[Annotated[float, Field(ge=-100, le=100)]], Field(min_length=9, max_length=9)
    ]


class RawProfile(Strict):
    """How the RAW files of a mode are laid out, as they say themselves; null where they do not.

    Colours of a tile of the mosaic row by row, levels in raw numbers, width and height of the
    pixels that see light.
    """

    mosaic: Annotated[str, Field(pattern=r"^[RGBCMYW]{0,36}$")] = ""
    black_dn: Annotated[float, Field(ge=0, le=2**32)] | None = None
    white_dn: Annotated[float, Field(ge=0, le=2**32)] | None = None
    active_px: (
        tuple[Annotated[int, Field(ge=1, le=100_000)], Annotated[int, Field(ge=1, le=100_000)]]
        | None
    ) = None
    matrices: Annotated[list[ColourMatrixProfile], Field(max_length=2)] = []  # noqa: RUF012  copied by Pydantic


class HandlingProfile(Strict):
    """Timers, what the camera forgets when it restarts, and the quickest way to open it."""

    full_aspect: Annotated[str, Field(pattern=r"^\d{1,2}:\d{1,2}$")] = "4:3"
    timers_s: Annotated[list[Annotated[float, Field(gt=0, le=120)]], Field(max_length=8)] = [3, 10]  # noqa: RUF012  copied by Pydantic
    volume_key: bool = True
    remote: bool = False
    changes_lens_close_up: bool = False
    faster_shooting: bool = False
    battery_percent_per_min: Annotated[float, Field(gt=0, le=20)] | None = None
    upright_share: Annotated[float, Field(ge=0, le=1)] | None = None
    forgets: Annotated[list[Name], Field(max_length=20)] = []  # noqa: RUF012  copied by Pydantic
    opens_by: Annotated[str, Field(max_length=120)] = ""

    def to_handling(self) -> Handling:
        """The handling as the core knows it."""
        lists = {"timers_s": tuple(self.timers_s), "forgets": tuple(self.forgets)}
        return Handling(**{**self.model_dump(), **lists})
