"""What a phone's page sends of its live camera: abilities, settings in force, frames."""

from __future__ import annotations

from typing import Annotated

from pydantic import Base64Bytes, Field

from oxlen.core.live.camera import Dial, LiveCamera, LiveSettings
from oxlen.core.live.focus_points import FocusPoint
from oxlen.core.live.preview_curve import PreviewCurve
from oxlen.formats.sheet.file import SpotBody
from oxlen.formats.strict import Iso, Seconds, Slug, Strict

Figure = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Kelvin = Annotated[float, Field(ge=1000, le=40000)]
Dioptres = Annotated[float, Field(ge=0, le=100)]
Ev = Annotated[float, Field(ge=-12, le=24)]
MOST_FRAME_SIGNS = 54_000
"""A frame of 40 kB, written in base 64."""
Frame = Annotated[Base64Bytes, Field(max_length=MOST_FRAME_SIGNS)]


class DialFile(Strict):
    """A setting's reach in Oxlen's unit, and whether it can be set."""

    low: Figure
    high: Figure
    can_set: bool

    def to_core(self) -> Dial:
        """The dataclass it is written for."""
        return Dial(self.low, self.high, self.can_set)


class LiveCameraFile(Strict):
    """A camera as its browser offers it; None for what cannot even be read."""

    shutter_s: DialFile | None = None
    iso: DialFile | None = None
    white_k: DialFile | None = None
    focus_dioptres: DialFile | None = None
    compensation_stops: DialFile | None = None
    photo: bool = False
    points: bool = False
    torch: bool = False

    def to_core(self) -> LiveCamera:
        """The dataclass it is written for."""
        dials = {
            name: dial.to_core()
            for name in LiveCameraFile.model_fields
            if isinstance(dial := getattr(self, name), DialFile)
        }
        return LiveCamera(**dials, photo=self.photo, points=self.points, torch=self.torch)


class LiveSettingsFile(Strict):
    """Settings in force; None where the browser does not tell."""

    shutter_s: Seconds | None = None
    iso: Iso | None = None
    white_k: Kelvin | None = None
    focus_dioptres: Dioptres | None = None

    def to_core(self) -> LiveSettings:
        """The dataclass it is written for."""
        return LiveSettings(**self.model_dump())


class KnownLightFile(Strict):
    """The mean light of the view as it was known earlier, and how long ago."""

    ev100: Ev
    plus_minus_stops: Annotated[float, Field(ge=0, le=6)]
    age_s: Annotated[float, Field(ge=0, le=1e9)]


class LiveAsk(Strict):
    """A frame to read: a small JPEG, the settings in force, and the spots tapped on it.

    `camera` names the camera whose measured curve is used. `number` counts a page's frames: one
    that came after a later one is not read. Without `spots` those of the sheet are read.
    `filter_stops` is what a filter on the lens takes.
    """

    frame: Frame
    number: Annotated[int, Field(ge=1, le=2**53)]
    page: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{1,40}$")]
    settings: LiveSettingsFile = LiveSettingsFile()
    spots: Annotated[list[SpotBody], Field(max_length=12)] | None = None
    camera: Slug | None = None
    known: KnownLightFile | None = None
    filter_stops: Annotated[float, Field(ge=0, le=24)] = 0.0


class FocusPointFile(Strict):
    """Where a live camera was sharpest for something at a distance (m; None infinity)."""

    distance_m: Annotated[float, Field(ge=0.01, le=1e4)] | None
    set_dioptres: Dioptres

    def to_core(self) -> FocusPoint:
        """The dataclass it is written for."""
        return FocusPoint(self.distance_m, self.set_dioptres)


class CurveStepFile(Strict):
    """One step of a guided measurement: the shutter and ISO in force, and the frame."""

    shutter_s: Seconds
    iso: Iso
    frame: Frame


class CurveFile(Strict):
    """A preview's measured curve: stops from mid of its 256 codes, and their ±."""

    stops: Annotated[list[Figure], Field(min_length=256, max_length=256)]
    doubt_stops: Annotated[list[Figure], Field(min_length=256, max_length=256)]

    def to_core(self) -> PreviewCurve:
        """The dataclass it is written for."""
        return PreviewCurve(tuple(self.stops), tuple(self.doubt_stops))
