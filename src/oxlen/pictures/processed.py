"""Processed pictures (JPEG, HEIF, PNG): tags at once, pixels when asked for, a preview."""

from __future__ import annotations

import warnings
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import Base

from oxlen.core.errors import PictureError, PixelsUnreadable
from oxlen.pictures.container import check_pixels
from oxlen.pictures.memory import NO_MEMORY, check_bytes
from oxlen.pictures.processed_pixels import Box, ProcessedPixels
from oxlen.pictures.xmp_tags import tags_from_xmp

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
        packet = self._image.info.get("xmp")
        if packet and Base.ExposureTime not in found:
            found = {**tags_from_xmp(packet), **found}
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

        return ProcessedPixels(
            *image.size, 255, box=colour, grey=lambda: np.asarray(image.convert("L"))
        )

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

    def quick_image(self, side: int) -> Image.Image:
        """The same in a fraction of the time for a JPEG, decoded small at once; asked for first.

        Its pixels are averages of codes, not of light: for looking and comparing, not for metering.
        """
        if self.format != "JPEG":
            return self.preview_image(side)
        check_bytes(self.pixel_bytes, self.name)
        scale = side / max(self.width, self.height)
        if scale < 1:
            self._image.draft("RGB", (round(self.width * scale), round(self.height * scale)))
        image = self.image.convert("RGB")
        if max(image.size) <= side:
            return image
        import cv2  # ten times as fast as the decoder's own averages

        small = (max(1, round(self.width * scale)), max(1, round(self.height * scale)))
        return Image.fromarray(cv2.resize(np.asarray(image), small, interpolation=cv2.INTER_AREA))

    def close(self) -> None:
        """Release the file."""
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
