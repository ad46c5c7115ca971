"""Processed pictures (JPEG, HEIF, PNG, TIFF): tags, pixels in rows and discs, a preview."""

from __future__ import annotations

import warnings
from collections.abc import Callable
from dataclasses import replace
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import Base

from oxlen.core.constants import BLOCKED_CODE, CLIPPED_CODE
from oxlen.core.errors import PictureError, PixelsUnreadable
from oxlen.core.light.meter import Spot, Tones, channel_stops, disc_box, disc_mask, sample_rows
from oxlen.core.light.tone import highest_channel, linear_table, luminance_share
from oxlen.pictures.container import check_pixels
from oxlen.pictures.memory import NO_MEMORY, check_bytes

SAMPLE_PIXELS = 400_000
"""Pixels a frame's figures rest on: all of a small picture, whole rows spread over a large one."""
SPOT_PIXELS = 1_000_000
"""Most pixels a spot's figures rest on: rows spread over it where it is larger."""
BAND_PIXELS = 2_000_000
"""Pixels made small at a time for a preview."""
HALVE_ABOVE_PIXELS = 64_000_000
"""JPEGs larger than this are decoded at half size, which keeps memory bounded."""
STORED_BYTES = {"1": 1, "L": 1, "P": 1, "I;16": 2}
"""Bytes a pixel takes once decoded, by the decoder's name of its kind; all others take four."""
COEFFICIENT_BYTES = 6
"""A progressive JPEG's coefficients are held for the whole picture: two bytes for each channel."""
HEIF_BYTES = 8
"""Bytes a pixel takes while a HEIF is decoded: planes, RGB, and a copy of it (measured)."""
FORMATS = {"JPEG": ("JPEG", "MPO"), "PNG": ("PNG",), "HEIF": ("HEIF", "AVIF")}
EXIF_IFD = 0x8769
EXIF_SEARCH_BYTES = 1 << 18
PNG_BIT_DEPTH_AT = 24

# The decoder warns of damaged tags and of large pictures; both are dealt with here, in words.
warnings.filterwarnings("ignore", module=r"PIL\.")
Image.MAX_IMAGE_PIXELS = None  # the limit is `check_pixels`, which names the file

Box = tuple[int, int, int, int]
"""A pixel box: left, top, right, bottom."""
Rows = Callable[[Box], NDArray[Any]]


class ProcessedPixels:
    """The decoded pixels of a processed file, as stored (not yet turned upright).

    `box` hands out code values of a pixel box, shape (h, w, 3) or (h, w), 8 or 16 bits.
    """

    def __init__(self, width: int, height: int, top_code: int, *, box: Rows) -> None:
        self.width, self.height = width, height
        self._top_code = top_code
        self._box = box

    def sample(self, *, strongest: bool = False) -> Tones:
        """Tones of the frame: every pixel, or an even sample of whole rows."""
        rows = sample_rows(self.height, max(1, SAMPLE_PIXELS // self.width))
        if rows.size == self.height:
            codes = self._box((0, 0, self.width, self.height))
        else:
            codes = np.concatenate([self._box((0, int(y), self.width, int(y) + 1)) for y in rows])
        tones = replace(self._tones(codes), row_length=self.width)
        if not strongest or not self._is_colour(codes):
            return tones
        return replace(tones, strongest=np.take(self._linear, highest_channel(codes)).ravel())

    def disc(self, spot: Spot) -> Tones:
        """Tones under a spot given on the stored pixels: of every pixel, or rows spread over it."""
        left, top, right, bottom = disc_box(spot, self.width, self.height)
        mask = disc_mask(spot, self.width, self.height)
        rows = sample_rows(bottom - top, max(1, SPOT_PIXELS // (right - left)))
        if rows.size == bottom - top:
            codes = self._box((left, top, right, bottom))[mask]
        else:
            lines = [self._box((left, top + int(y), right, top + int(y) + 1))[0] for y in rows]
            codes = np.stack(lines)[mask[rows]]
        tones = self._tones(codes)
        return replace(tones, channel_stops=self._channel_stops(codes, tones))

    def preview(self, side: int) -> Image.Image:
        """A small RGB picture with its longest side at most `side`, made band by band."""
        step = max(1, max(self.width, self.height) // side)
        band = max(1, BAND_PIXELS // (self.width * step)) * step
        small = [
            np.asarray(
                _image_of(self._box((0, y, self.width, min(y + band, self.height)))).reduce(step)
            )
            for y in range(0, self.height, band)
        ]
        image = Image.fromarray(np.concatenate(small))
        image.thumbnail((side, side), Image.Resampling.BOX)
        return image.convert("RGB")

    def _tones(self, codes: NDArray[Any]) -> Tones:
        luminance = self._luminance(codes)
        highest = highest_channel(codes) if self._is_colour(codes) else codes
        return Tones(
            luminance.ravel(),
            float(np.mean(highest >= CLIPPED_CODE / 255 * self._top_code)),
            float(np.mean(highest <= BLOCKED_CODE / 255 * self._top_code)),
        )

    def _channel_stops(self, codes: NDArray[Any], tones: Tones) -> float:
        if not self._is_colour(codes):
            return 0.0
        means = np.take(self._linear, codes).reshape(-1, 3).mean(axis=0, dtype=float)
        return channel_stops(means, float(tones.luminance.mean(dtype=float)))

    def _luminance(self, codes: NDArray[Any]) -> NDArray[np.floating]:
        linear = np.take(self._linear, codes)
        return luminance_share(linear) if self._is_colour(codes) else linear

    @staticmethod
    def _is_colour(codes: NDArray[Any]) -> bool:
        return codes.shape[-1] == 3 and codes.ndim >= 2

    @cached_property
    def _linear(self) -> NDArray[np.float32]:
        return linear_table(self._top_code)


def _image_of(codes: NDArray[Any]) -> Image.Image:
    """8-bit picture of code values of 8 or 16 bits."""
    eight = (codes >> 8).astype(np.uint8) if codes.dtype == np.uint16 else codes
    return Image.fromarray(np.ascontiguousarray(eight))


class PillowPicture:
    """A JPEG, PNG or HEIF file through Pillow: tags at once, pixels when asked for."""

    def __init__(self, path: Path, container: str, name: str) -> None:
        if container == "HEIF":
            _register_heif()
        self._file = path.open("rb")
        try:
            self._image = Image.open(self._file, formats=FORMATS[container])
        except Exception as error:
            self._file.close()
            cause = f"it starts like a {container} but is cut short or damaged."
            raise PictureError(name, cause) from error
        self.name, self.format = name, container
        self.width, self.height = self._image.size
        try:
            check_pixels(self.width, self.height, name)
        except PictureError:
            self.close()
            raise

    @cached_property
    def tags(self) -> dict[int, Any]:
        """EXIF tags by number, as far as they can be read; a damaged block gives none."""
        found: dict[int, Any] = {}
        try:
            exif = self._image.getexif()
            found.update(exif)
            found.update(exif.get_ifd(EXIF_IFD))
        except Exception:  # whatever a damaged block does to the parser, the picture goes on
            return found
        if self.format == "HEIF":  # the container's own turn has been made by the decoder
            found[Base.Orientation] = 1
        return found

    @property
    def pixel_bytes(self) -> int:
        """Memory its pixels take while they are decoded, from its header alone."""
        pixels = self.width * self.height
        if self.format == "HEIF":
            return pixels * HEIF_BYTES
        if self._is_deep_png:
            return pixels * 4 * len(self._image.mode) + self.file_bytes  # twice: it is copied
        stored = pixels * STORED_BYTES.get(self._image.mode, 4)
        if self.format != "JPEG":
            return stored
        coefficients = pixels * COEFFICIENT_BYTES if self._image.info.get("progressive") else 0
        return coefficients + (stored // 4 if pixels > HALVE_ABOVE_PIXELS else stored)

    @cached_property
    def file_bytes(self) -> int:
        """Length of the file."""
        return self._file.seek(0, 2)

    @cached_property
    def _is_deep_png(self) -> bool:
        """A 16-bit colour PNG, which Pillow would cut down to 8 bits."""
        is_colour = self.format == "PNG" and self._image.mode.startswith("RGB")
        return is_colour and self._bit_depth() == 16

    @cached_property
    def pixels(self) -> ProcessedPixels:
        """The decoded pixels; PixelsUnreadable when they are cut, damaged or too many."""
        check_bytes(self.pixel_bytes, self.name)
        if self._is_deep_png:
            return self._deep_png_pixels()
        image = self.image
        if image.mode == "I;16":
            return ProcessedPixels(*image.size, 65535, box=lambda box: np.asarray(image.crop(box)))
        if image.mode == "L":
            return ProcessedPixels(*image.size, 255, box=lambda box: np.asarray(image.crop(box)))

        def colour(box: Box) -> NDArray[Any]:
            part = image.crop(box)
            return np.asarray(part if part.mode == "RGB" else part.convert("RGB"))

        return ProcessedPixels(*image.size, 255, box=colour)

    def _bit_depth(self) -> int:
        """Bits of each sample of a PNG, from its header (ISO 15948)."""
        self._file.seek(PNG_BIT_DEPTH_AT)
        return int.from_bytes(self._file.read(1))

    def _deep_png_pixels(self) -> ProcessedPixels:
        """Pixels of a 16-bit colour PNG."""
        import imagecodecs  # large, and seldom needed

        self._file.seek(0)
        try:
            array = np.asarray(imagecodecs.png_decode(self._file.read()))[..., :3]
        except MemoryError as error:
            raise PixelsUnreadable(self.name, NO_MEMORY) from error
        except Exception as error:
            raise PixelsUnreadable(
                self.name, "its pixels are cut short or damaged and were not metered."
            ) from error
        return ProcessedPixels(
            self.width, self.height, 65535, box=lambda b: array[b[1] : b[3], b[0] : b[2]]
        )

    @cached_property
    def image(self) -> Image.Image:
        """The picture as stored; very large JPEGs at half size."""
        if self.format == "JPEG" and self.width * self.height > HALVE_ABOVE_PIXELS:
            self._image.draft(self._image.mode, (self.width // 2, self.height // 2))
        try:
            self._image.load()
        except MemoryError as error:
            raise PixelsUnreadable(self.name, NO_MEMORY) from error
        except Exception as error:
            raise PixelsUnreadable(
                self.name, "its pixels are cut short or damaged and were not metered."
            ) from error
        return self._image

    def preview_image(self, side: int) -> Image.Image:
        """A small 8-bit picture with its longest side at most `side`, as stored."""
        return self.pixels.preview(side)

    def close(self) -> None:
        """Let go of the file."""
        self._image.close()
        self._file.close()


class TagsOnly:
    """A JPEG cut before its first pixel, whose tags are still whole."""

    def __init__(self, name: str, tags: dict[int, Any]) -> None:
        self.name, self.tags = name, tags

    @property
    def pixels(self) -> ProcessedPixels:
        """There are none: PixelsUnreadable."""
        raise PixelsUnreadable(self.name, "its pixels are missing; only its tags are there.")

    def preview_image(self, side: int) -> Image.Image:  # noqa: ARG002
        """There is nothing to show: PixelsUnreadable."""
        raise PixelsUnreadable(self.name, "its pixels are missing; only its tags are there.")

    def close(self) -> None:
        """Nothing is held."""


def tags_of_cut_jpeg(path: Path) -> dict[int, Any] | None:
    """EXIF tags in the head of a JPEG that cannot be opened; None when there are none to read."""
    with path.open("rb") as file:
        head = file.read(EXIF_SEARCH_BYTES)
    start = head.find(b"Exif\0\0")
    if start < 4 or len(head) < start + int.from_bytes(head[start - 2 : start]) - 2:
        return None
    exif = Image.Exif()
    try:
        exif.load(head[start:])
        return {**exif, **exif.get_ifd(EXIF_IFD)}
    except Exception:  # a damaged block is as good as none
        return None


def _register_heif() -> None:
    import pillow_heif  # slow to load and seldom needed

    pillow_heif.register_heif_opener()
