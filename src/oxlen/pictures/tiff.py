"""TIFF files, raw or processed: directories, tags, and whether the pixels are really there."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import IFD, Base
from tifffile import TIFF

from oxlen.core.errors import PictureError, PixelsUnreadable
from oxlen.pictures.container import check_pixels
from oxlen.pictures.memory import NO_MEMORY, check_bytes
from oxlen.pictures.processed_pixels import ProcessedPixels
from oxlen.pictures.raw_tags import OF_RAW_PIXELS
from oxlen.pictures.tiff_codes import as_codes, made_bytes

logging.getLogger("tifffile").setLevel(logging.CRITICAL + 1)

SUB_IFDS, NEW_SUBFILE_TYPE = (TIFF.TAGS[name] for name in ("SubIFDs", "NewSubfileType"))
MAX_PAGES = 16
READ_BYTES = 16_000_000
"""Stored bytes read at a time."""
REDUCED_RESOLUTION = 1
# Tags that only a raw file's directories carry: CFA pattern, and the makers' own raw compressions.
CFA, LINEAR_RAW = tifffile.PHOTOMETRIC.CFA, tifffile.PHOTOMETRIC.LINEAR_RAW
RAW_MAKER_COMPRESSIONS = {32767, 32769, 32770, 34713, 65000, 65535}
BROKEN_DIRECTORY = "it is a TIFF with a damaged directory."
ONE_NUMBER_EACH = (
    "imagewidth",
    "imagelength",
    "samplesperpixel",
    "photometric",
    "compression",
    "planarconfig",
)


class TiffFileReader:
    """The directories of a TIFF: no pixel is read before its strips or tiles are known whole."""

    def __init__(self, path: Path, name: str) -> None:
        self.name, self._path = name, path
        self._size = path.stat().st_size
        self._file = path.open("rb")
        try:
            self._tiff = tifffile.TiffFile(self._file)
            self._first: Any = self._tiff.pages[0]
        except Exception as error:
            self._file.close()
            raise PictureError(name, BROKEN_DIRECTORY) from error
        if not self.directories:
            self.close()
            raise PictureError(name, BROKEN_DIRECTORY)

    def close(self) -> None:
        """Release the file."""
        self._tiff.close()
        self._file.close()

    @cached_property
    def directories(self) -> list[Any]:
        """First sound directories of the file and of those below them, at most 16, none twice."""
        found: dict[int, Any] = {}
        for page in self._walk():
            if page.offset in found or len(found) >= MAX_PAGES:
                break
            if _is_sound(page):
                found[page.offset] = page
        return list(found.values())

    def _walk(self) -> Iterator[Any]:
        for index in range(MAX_PAGES):
            try:
                page = self._tiff.pages[index]
                yield page
                yield from self._children(page)
            except Exception:  # a broken chain ends the walk; what was read is kept
                return

    def _children(self, page: Any) -> Iterator[Any]:
        offsets = _tag(page, SUB_IFDS)
        if offsets is None:
            return
        for index in range(min(MAX_PAGES, len(np.atleast_1d(offsets)))):
            yield page.pages[index]

    @cached_property
    def tags(self) -> dict[int, Any]:
        """EXIF and TIFF tags by number of the first directory, with the EXIF block's over them."""
        found = {}
        for tag in self._first.tags:
            if tag.count < 10_000:
                found[tag.code] = _plain_value(tag)
        if Base.DNGVersion in found:
            found = {**self._beside_raw(), **found}
        named = found.get(IFD.Exif)
        if isinstance(named, dict):
            by_name = {v: k for k, v in tifffile.TIFF.EXIF_TAGS.items() if isinstance(k, int)}
            for key, value in named.items():
                code = by_name.get(key) if isinstance(key, str) else key
                if code is not None:
                    found[int(code)] = value
        return found

    def _beside_raw(self) -> dict[int, Any]:
        """Tags that are in the directory of the raw pixels."""
        tags = (tag for tag in self.main_directory.tags if tag.code in OF_RAW_PIXELS)
        return {tag.code: _plain_value(tag) for tag in tags if tag.count < 10_000}

    @cached_property
    def is_raw(self) -> bool:
        """Whether any directory holds a mosaic or linear raw pixels."""
        if Base.DNGVersion in self.tags:
            return True
        return any(
            int(page.photometric) in (CFA, LINEAR_RAW)
            or int(page.compression) in RAW_MAKER_COMPRESSIONS
            for page in self.directories
        )

    @property
    def is_mosaic(self) -> bool:
        """Whether its raw pixels have one channel each, not three."""
        return all(int(page.photometric) != LINEAR_RAW for page in self.directories)

    @property
    def main_directory(self) -> Any:
        """The directory with the most pixels that is not marked as a reduced copy."""
        full = [p for p in self.directories if not _is_reduced(p)] or self.directories
        return max(full, key=lambda page: page.imagewidth * page.imagelength)

    def check_extents(self) -> None:
        """PixelsUnreadable when strips or tiles are missing or reach past the end of the file."""
        try:
            self._check_extents()
        except PixelsUnreadable:
            raise
        except Exception as error:  # tags of kinds that no sound file gives them
            raise PixelsUnreadable(
                self.name, "its pixels cannot be found: its directory contradicts itself."
            ) from error

    def _check_extents(self) -> None:
        for page in self.directories:
            if _is_reduced(page) or not page.imagewidth:
                continue
            offsets, counts = page.dataoffsets, page.databytecounts
            if not offsets or len(offsets) != len(counts):
                raise PixelsUnreadable(self.name, "its pixels are missing.")
            expected = int(np.prod(page.chunked)) if page.chunked else len(offsets)
            past = any(
                o <= 0 or c <= 0 or o + c > self._size for o, c in zip(offsets, counts, strict=True)
            )
            if past or len(offsets) < expected:
                raise PixelsUnreadable(self.name, "its pixels are cut short.")
            _check_uncompressed_length(page, sum(counts), self.name)

    # ---- processed TIFF -------------------------------------------------------------------

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of the main directory, as stored."""
        page = self.main_directory
        check_pixels(page.imagewidth, page.imagelength, self.name)
        return int(page.imagewidth), int(page.imagelength)

    @property
    def pixel_bytes(self) -> int:
        """Memory its pixels take while they are decoded, from its directory alone."""
        width, height = self.size
        page = self.main_directory
        bits = int(np.max(np.atleast_1d(page.bitspersample or 8)))
        sample_bytes = max(1, -(-bits // 8))
        whole = width * height * int(page.samplesperpixel) * sample_bytes
        # One strip or tile may claim more than all of the picture.
        chunk = int(np.prod(page.chunks)) * sample_bytes
        made = width * height * made_bytes(page, sample_bytes)
        return int(whole + chunk + made + READ_BYTES)

    @cached_property
    def array(self) -> NDArray[Any]:
        """Code values, (h, w) or (h, w, 3), 8 or 16 bits, as stored."""
        width, height = self.size
        self.check_extents()
        check_bytes(self._claimed_bytes(), self.name)
        try:
            array = np.asarray(self.main_directory.asarray(maxworkers=1, buffersize=READ_BYTES))
            return as_codes(array, self.main_directory, (height, width), name=self.name)
        except PixelsUnreadable:
            raise
        except MemoryError as error:
            raise PixelsUnreadable(self.name, NO_MEMORY) from error
        except Exception as error:
            raise PixelsUnreadable(self.name, "Oxlen cannot unpack its pixels.") from error

    @cached_property
    def pixels(self) -> ProcessedPixels:
        """The pixels of a processed TIFF."""
        array = self.array
        top = 65535 if array.dtype == np.uint16 else 255
        width, height = self.size
        return ProcessedPixels(width, height, top, box=lambda b: array[b[1] : b[3], b[0] : b[2]])

    def preview_image(self, side: int) -> Image.Image:
        """A small 8-bit picture with its longest side at most `side`, as stored."""
        return self.pixels.preview(side)

    def _claimed_bytes(self) -> int:
        try:
            return self.pixel_bytes
        except PictureError:
            raise
        except Exception as error:  # tags of kinds that no sound file gives them
            raise PixelsUnreadable(
                self.name, "its pixels cannot be found: its directory contradicts itself."
            ) from error


def _is_sound(page: Any) -> bool:
    """Whether what must be one whole number in a directory is that."""
    values = (getattr(page, name) for name in ONE_NUMBER_EACH)
    return all(isinstance(value, int) for value in values)


def _tag(page: Any, code: int) -> Any:
    tag = page.tags.get(code)
    return None if tag is None else tag.value


def _plain_value(tag: Any) -> Any:
    try:
        value = tag.value
    except Exception:  # a value that is outside the file or has no sense
        return None
    return int(value) if hasattr(value, "value") and isinstance(value, int) else value


def _is_reduced(page: Any) -> bool:
    kind = _tag(page, NEW_SUBFILE_TYPE)
    return isinstance(kind, int) and bool(int(kind) & REDUCED_RESOLUTION)


def _check_uncompressed_length(page: Any, stored_bytes: int, name: str) -> None:
    """Uncompressed pixels must be there in full: the counts may be wrong as well as the offsets."""
    if int(page.compression) != 1:
        return
    bits = int(np.max(np.atleast_1d(page.bitspersample or 8)))
    needed = page.imagewidth * page.imagelength * page.samplesperpixel * bits // 8
    if stored_bytes < needed:
        raise PixelsUnreadable(name, "its pixels are cut short.")
