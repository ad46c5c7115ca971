"""Reading a scene from a picture file: what it is, how it was exposed, and the light in it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Literal

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.exposure import ExposureSettings, luminance_cd_m2
from oxlen.core.light.meter import FrameTone, Spot, SpotTone, frame_tone, spot_tone
from oxlen.pictures.exposure_tags import Exposure
from oxlen.pictures.opening import FileFacts, Picture, open_picture

Confidence = Literal["measured", "indicative", "none"]


@dataclass(frozen=True)
class SpotReading:
    """Light on one spot; EV100 and luminance are None when the exposure is not known."""

    spot: Spot
    tone: SpotTone | None
    ev100: float | None
    luminance_cd_m2: float | None


@dataclass(frozen=True)
class PictureReading:
    """All that was read of a picture. `frame` is None when the pixels could not be metered."""

    file: FileFacts
    exposure: Exposure
    meter_offset_stops: float
    frame: FrameTone | None
    spots: tuple[SpotReading, ...]
    notes: tuple[str, ...]

    @property
    def settings(self) -> ExposureSettings | None:
        """The exposure the picture was made with, when all of it is known."""
        return self.exposure.settings

    @property
    def confidence(self) -> Confidence:
        """*measured* from linear raw, *indicative* from a processed file, *none* otherwise."""
        if self.frame is None or self.settings is None:
            return "none"
        return "measured" if self.file.kind == "raw" else "indicative"

    def ev100_of(self, stops_from_mid: float) -> float | None:
        """EV100 of a tone that is so many stops from mid in this file."""
        if self.settings is None:
            return None
        return self.settings.ev100 + stops_from_mid + self.meter_offset_stops


def read_picture(
    path: Path,
    name: str | None = None,
    *,
    spots: Sequence[Spot] = (),
    by_hand: Exposure | None = None,
    meter_offset_stops: float = 0.0,
) -> PictureReading:
    """Read a picture: facts, exposure, frame and spots, in EV100 where the exposure is known.

    `by_hand` fills in or overrides ISO, shutter and f-number. A file whose pixels are cut but
    whose exposure can be read gives a reading without a frame and a note that says so; with
    neither, the PictureError goes through.
    """
    with open_picture(path, name or path.name) as picture:
        return read_open_picture(
            picture, spots=spots, by_hand=by_hand, meter_offset_stops=meter_offset_stops
        )


def read_open_picture(
    picture: Picture,
    *,
    spots: Sequence[Spot] = (),
    by_hand: Exposure | None = None,
    meter_offset_stops: float = 0.0,
) -> PictureReading:
    """As `read_picture`, for a picture already open."""
    name = picture.facts.name
    exposure = _with_hand_values(picture.exposure, by_hand)
    notes = [f"{name}: {note}." for note in exposure.notes]
    frame: FrameTone | None = None
    tones: list[SpotTone | None] = [None for _ in spots]
    try:
        frame = frame_tone(picture.pixels.sample())
        tones = [spot_tone(picture.spot(spot)) for spot in spots]
    except PixelsUnreadable as error:
        if not exposure.says_anything:
            raise
        notes.append(f"{error.message} The settings were read.")
    if exposure.missing:
        missing = " and ".join(exposure.missing)
        notes.append(f"{name} has no {missing}. Enter the exposure to get EV100.")
    reading = PictureReading(
        picture.facts, exposure, meter_offset_stops, frame=frame, spots=(), notes=tuple(notes)
    )
    read = tuple(_spot_reading(reading, s, t) for s, t in zip(spots, tones, strict=True))
    return replace(reading, spots=read)


def _with_hand_values(exposure: Exposure, by_hand: Exposure | None) -> Exposure:
    if by_hand is None:
        return exposure
    given = {
        name: value
        for name in ("iso", "shutter_s", "f_number")
        if (value := getattr(by_hand, name)) is not None
    }
    return replace(exposure, **given)


def _spot_reading(reading: PictureReading, spot: Spot, tone: SpotTone | None) -> SpotReading:
    ev100 = reading.ev100_of(tone.stops_from_mid) if tone else None
    luminance = None if ev100 is None else float(luminance_cd_m2(ev100))
    return SpotReading(spot, tone, ev100, luminance_cd_m2=luminance)
