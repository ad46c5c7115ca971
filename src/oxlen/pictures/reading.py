"""Reading a scene from a picture file: what it is, how it was exposed, and the light in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any, Literal, Protocol

import numpy as np
from PIL import Image
from PIL.ExifTags import Base

from oxlen.core.errors import PictureError, PixelsUnreadable
from oxlen.core.light.exposure import ExposureSettings, luminance_cd_m2
from oxlen.core.light.linear_picture import LinearPicture, light_of_codes
from oxlen.core.light.meter import FrameTone, Spot, SpotTone, Tones, frame_tone, spot_tone
from oxlen.pictures.container import Kind, check_pixels, check_size, container_of
from oxlen.pictures.exposure_tags import Exposure, exposure_from_tags
from oxlen.pictures.upright import stored_spot, upright, upright_array, upright_size

Confidence = Literal["measured", "indicative", "none"]
PREVIEW_SIDE_PX = 1600


class Pixels(Protocol):
    """Pixels that can be metered, as stored."""

    def sample(self, *, strongest: bool = False) -> Tones: ...
    def disc(self, spot: Spot) -> Tones: ...


@dataclass(frozen=True)
class FileFacts:
    """What a file is; width and height after orientation, None where even they were cut off."""

    name: str
    format: str
    width: int | None
    height: int | None
    orientation: int
    kind: Kind


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
        """EV100 of a tone that lies so many stops from mid in this file."""
        if self.settings is None:
            return None
        return self.settings.ev100 + stops_from_mid + self.meter_offset_stops


@dataclass
class Picture:
    """An open picture file: facts at once, pixels when asked for."""

    facts: FileFacts
    exposure: Exposure
    source: Any

    @property
    def pixels(self) -> Pixels:
        """Pixels as stored; PixelsUnreadable when they are not all there."""
        if self.facts.kind == "raw":
            pixels: Pixels = self.source
            return pixels
        processed: Pixels = self.source.pixels
        return processed

    def spot(self, spot: Spot) -> Tones:
        """Tones under a spot given on the upright picture."""
        return self.pixels.disc(stored_spot(spot, self.facts.orientation))

    def preview(self, side_px: int = PREVIEW_SIDE_PX) -> Image.Image:
        """A small upright 8-bit picture for the screen."""
        return upright(self.source.preview_image(side_px), self.facts.orientation)

    def light(self, side_px: int) -> LinearPicture:
        """Its upright light, the longest side at most `side_px`: linear from raw, else by codes."""
        stored: LinearPicture = (
            self.source.light(side_px)
            if self.facts.kind == "raw"
            else light_of_codes(np.asarray(self.source.preview_image(side_px)))
        )
        colour, lost = (
            upright_array(values, self.facts.orientation) for values in (stored.colour, stored.lost)
        )
        return replace(stored, colour=colour, lost=lost)


@contextmanager
def open_picture(path: Path, name: str) -> Iterator[Picture]:
    """Open a picture of any kind Oxlen reads.

    Raises PictureError naming the file and the cause when it is empty, over 200 MB, over 250
    million pixels, or no picture at all. Cut or damaged pixels raise only when they are asked for.
    """
    check_size(path, name)
    container = container_of(path, name)
    opened: list[Any] = []
    try:
        yield _open(path, name, container, opened=opened)
    finally:
        for source in reversed(opened):
            source.close()


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
        notes.append(f"{name} does not say its {missing}; give it by hand to get EV100.")
    reading = PictureReading(picture.facts, exposure, meter_offset_stops, frame, (), tuple(notes))
    read = tuple(_spot_reading(reading, s, t) for s, t in zip(spots, tones, strict=True))
    return replace(reading, spots=read)


def _open(path: Path, name: str, container: str, *, opened: list[Any]) -> Picture:
    """The picture in its container; every source opened is noted for closing."""
    if container == "TIFF":
        return _open_tiff(path, name, opened)
    if container == "RAW":
        return _open_other_raw(path, name, opened)
    from oxlen.pictures.processed import PillowPicture, TagsOnly, tags_of_cut_jpeg

    try:
        source = PillowPicture(path, container, name)
    except PictureError:
        tags = tags_of_cut_jpeg(path) if container == "JPEG" else None
        if not tags:
            raise
        exposure = exposure_from_tags(tags)
        facts = FileFacts(name, "JPEG", None, None, exposure.orientation, "processed")
        return Picture(facts, exposure, TagsOnly(name, tags))
    opened.append(source)
    exposure = exposure_from_tags(source.tags)
    return _picture(
        name,
        container,
        "processed",
        size=(source.width, source.height),
        exposure=exposure,
        source=source,
    )


def _open_tiff(path: Path, name: str, opened: list[Any]) -> Picture:
    from oxlen.pictures.tiff import TiffFileReader

    reader = TiffFileReader(path, name)
    opened.append(reader)
    exposure = exposure_from_tags(reader.tags)
    if not reader.is_raw:
        return _picture(
            name, "TIFF", "processed", size=reader.size, exposure=exposure, source=reader
        )
    label = "DNG" if Base.DNGVersion in reader.tags else "RAW"
    claimed = reader.size  # held against the limit before the decoder sees the file
    try:
        reader.check_extents()
        source = _raw_source(path, name, reader.tags, opened=opened)
        size = source.size
    except PixelsUnreadable as error:
        source, size = _Unreadable(error), claimed
    return _picture(name, label, "raw", size=size, exposure=exposure, source=source)


def _open_other_raw(path: Path, name: str, opened: list[Any]) -> Picture:
    from oxlen.pictures.other_raw import check_other_extents

    source = _raw_source(path, name, {}, opened=opened)
    width, height = size = source.size
    check_pixels(width, height, name)
    exposure = exposure_from_tags(source.decoder_tags)
    try:
        check_other_extents(path, name)
    except PixelsUnreadable as error:
        source = _Unreadable(error)
    return _picture(name, "RAW", "raw", size=size, exposure=exposure, source=source)


def _raw_source(path: Path, name: str, tags: dict[int, Any], *, opened: list[Any]) -> Any:
    from oxlen.pictures.raw import RawPicture

    source = RawPicture(path, name, tags)
    opened.append(source)
    return source


def _picture(
    name: str, label: str, kind: Kind, *, size: tuple[int, int], exposure: Exposure, source: Any
) -> Picture:
    width, height = upright_size(*size, exposure.orientation)
    facts = FileFacts(name, label, width, height, exposure.orientation, kind)
    return Picture(facts, exposure, source)


class _Unreadable:
    """Stands where pixels would: any use of it says why there are none."""

    def __init__(self, error: PixelsUnreadable) -> None:
        self._error = error

    def sample(self, *, strongest: bool = False) -> Tones:  # noqa: ARG002
        raise self._error

    def disc(self, spot: Spot) -> Tones:  # noqa: ARG002
        raise self._error

    def preview_image(self, side: int) -> Image.Image:  # noqa: ARG002
        raise self._error

    def light(self, side: int) -> LinearPicture:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error


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
    return SpotReading(spot, tone, ev100, luminance)
