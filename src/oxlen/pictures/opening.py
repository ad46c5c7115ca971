"""Opening a picture file of any kind: its facts at once, its pixels when asked for."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import Base

from oxlen.core.errors import OxlenError, PictureError, PixelsUnreadable
from oxlen.core.light.linear_picture import LinearPicture, light_of_codes
from oxlen.core.light.meter import Spot, Tones
from oxlen.core.light.patch import Patch
from oxlen.pictures.container import Kind, check_pixels, check_size, container_of
from oxlen.pictures.exposure_tags import Exposure, exposure_from_tags
from oxlen.pictures.memory import check_bytes
from oxlen.pictures.upright import stored_spot, upright, upright_array, upright_size

PREVIEW_SIDE_PX = 1600
DECODERS = ("rawpy", "tifffile", "PIL", "pillow_heif", "exifread", "struct", "zlib", "_lzma")
"""Modules whose errors say that a file is damaged, wherever in reading it they are raised."""
DAMAGED = "the file is damaged and cannot be read."


class Pixels(Protocol):
    """Pixels that can be metered, as stored."""

    def sample(self, *, strongest: bool = False) -> Tones:
        """Tones of the frame, by luminance or by each pixel's strongest channel."""

    def disc(self, spot: Spot) -> Tones:
        """Tones under a spot of the picture as stored."""

    def patch(self, spot: Spot) -> Patch:
        """A spot's box of the picture as stored, as one colour and as pixels."""

    def luminance(self) -> NDArray[np.float32]:
        """Linear luminance of the whole picture as stored, at a scale of its own."""


@dataclass(frozen=True)
class FileFacts:
    """What a file is; width and height after orientation, None where even they were cut off."""

    name: str
    format: str
    width: int | None
    height: int | None
    orientation: int
    kind: Kind


@dataclass
class Picture:
    """An open picture file: facts at once, pixels when asked for."""

    facts: FileFacts
    exposure: Exposure
    source: Any
    tags: Mapping[int, Any] = field(default_factory=dict)

    @property
    def pixel_bytes(self) -> int:
        """Memory its pixels take while they are read, from its header; 0 when there are none."""
        return int(getattr(self.source, "pixel_bytes", 0))

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

    def patch(self, spot: Spot) -> Patch:
        """The box of a spot given on the upright picture, as one colour and as pixels."""
        return self.pixels.patch(stored_spot(spot, self.facts.orientation))

    def luminance(self) -> NDArray[np.float32]:
        """Upright linear luminance of the whole picture, shape (h, w)."""
        return upright_array(self.pixels.luminance(), self.facts.orientation)

    def preview(self, side_px: int = PREVIEW_SIDE_PX) -> Image.Image:
        """A small upright 8-bit picture for the screen."""
        return upright(self.source.preview_image(side_px), self.facts.orientation)

    def quick_preview(self, side_px: int) -> Image.Image:
        """The same in less time where the file allows; asked for before anything else is read."""
        quick = getattr(self.source, "quick_image", self.source.preview_image)
        return upright(quick(side_px), self.facts.orientation)

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
        yield _opened(path, name, container, opened=opened)
    except Exception as error:
        if type(error).__module__.partition(".")[0] not in DECODERS:
            raise
        raise PixelsUnreadable(name, DAMAGED) from error
    finally:
        for source in reversed(opened):
            source.close()


def _opened(path: Path, name: str, container: str, *, opened: list[Any]) -> Picture:
    """The picture; whatever a decoder raises at a damaged header is a PictureError."""
    try:
        return _open(path, name, container, opened=opened)
    except (OxlenError, OSError, MemoryError):
        raise
    except Exception as error:
        raise PictureError(name, DAMAGED) from error


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
        facts = FileFacts(
            name, "JPEG", None, height=None, orientation=exposure.orientation, kind="processed"
        )
        return Picture(facts, exposure, TagsOnly(name, tags), tags=tags)
    opened.append(source)
    exposure = exposure_from_tags(source.tags)
    return _picture(
        name,
        container,
        "processed",
        size=(source.width, source.height),
        exposure=exposure,
        source=source,
        tags=source.tags,
    )


def _open_tiff(path: Path, name: str, opened: list[Any]) -> Picture:
    from oxlen.pictures.raw import RawPicture
    from oxlen.pictures.tiff import TiffFileReader

    reader = TiffFileReader(path, name)
    opened.append(reader)
    exposure = exposure_from_tags(reader.tags)
    if not reader.is_raw:
        return _picture(
            name,
            "TIFF",
            "processed",
            size=reader.size,
            exposure=exposure,
            source=reader,
            tags=reader.tags,
        )
    label = "DNG" if Base.DNGVersion in reader.tags else "RAW"
    claimed = reader.size  # checked against the limit before the decoder sees the file
    try:
        reader.check_extents()
        source: Any = RawPicture(path, name, reader.tags, is_mosaic=reader.is_mosaic)
        opened.append(source)
        size = source.size
    except PixelsUnreadable as error:
        source, size = _Unreadable(error), claimed
    return _picture(
        name, label, "raw", size=size, exposure=exposure, source=source, tags=reader.tags
    )


def _open_other_raw(path: Path, name: str, opened: list[Any]) -> Picture:
    from oxlen.pictures.other_raw import check_other_extents
    from oxlen.pictures.raw import RawPicture

    source: Any = RawPicture(path, name, {})
    opened.append(source)
    width, height = size = source.size
    check_pixels(width, height, name)
    tags: dict[int, Any] = {}
    try:
        # The decoder unpacks all pixels for its tags: what that takes is known first.
        check_bytes(source.pixel_bytes, name)
        tags = source.decoder_tags
        check_other_extents(path, name)
    except PixelsUnreadable as error:
        source = _Unreadable(error)
    exposure = exposure_from_tags(tags)
    return _picture(
        name,
        "RAW",
        "raw",
        size=size,
        exposure=exposure,
        source=source,
        tags=tags,
    )


def _picture(
    name: str,
    label: str,
    kind: Kind,
    *,
    size: tuple[int, int],
    exposure: Exposure,
    source: Any,
    tags: Mapping[int, Any],
) -> Picture:
    width, height = upright_size(*size, exposure.orientation)
    facts = FileFacts(
        name, label, width, height=height, orientation=exposure.orientation, kind=kind
    )
    return Picture(facts, exposure, source, tags=tags)


class _Unreadable:
    """In place of pixels: any use of it reports why there are none."""

    def __init__(self, error: PixelsUnreadable) -> None:
        self._error = error

    def sample(self, *, strongest: bool = False) -> Tones:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error

    def disc(self, spot: Spot) -> Tones:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error

    def patch(self, spot: Spot) -> Patch:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error

    def luminance(self) -> NDArray[np.float32]:
        """There is nothing to read: PixelsUnreadable."""
        raise self._error

    def preview_image(self, side: int) -> Image.Image:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error

    def light(self, side: int) -> LinearPicture:  # noqa: ARG002
        """There is nothing to read: PixelsUnreadable."""
        raise self._error
