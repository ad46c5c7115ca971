"""Which kind of file this is, recognised by its first bytes and never by its name."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from oxlen.core.errors import PictureError

Kind = Literal["processed", "raw"]
MAX_FILE_BYTES = 200 * 1000 * 1000
MAX_PIXELS = 250_000_000
MAX_SIDE_PX = 100_000
HEAD_BYTES = 64

CCD_MARK, CCD_MARK_AT = b"CCD-RAW", 8
HEIF_BRANDS = {b"heic", b"heix", b"heim", b"heis", b"hevc", b"hevx", b"mif1", b"msf1", b"avif"}
# Raw files that are not TIFF inside; each starts with its own mark.
RAW_MARKS: tuple[bytes, ...] = (b"IIU\0", b"IIRO", b"IIRS", b"MMOR", b"FOVb")


def check_size(path: Path, name: str) -> int:
    """Size of a file in bytes; PictureError when it is empty or over 200 MB."""
    size = path.stat().st_size
    if size == 0:
        raise PictureError(name, "the file is empty.")
    if size > MAX_FILE_BYTES:
        raise PictureError(name, f"the file has {size / 1e6:.0f} MB. The limit is 200 MB.")
    return size


def check_pixels(width: int, height: int, name: str) -> None:
    """PictureError when a file claims no pixels, more than 250 million, or a side over 100,000."""
    if width < 1 or height < 1:
        raise PictureError(name, "the file has no pixels.")
    if width * height > MAX_PIXELS:
        raise PictureError(
            name,
            f"it has {width} × {height} pixels ({width * height / 1e6:.0f} million). The limit "
            "is 250 million.",
        )
    if max(width, height) > MAX_SIDE_PX:
        raise PictureError(
            name,
            f"it has {width} × {height} pixels. The limit is {MAX_SIDE_PX} pixels a side.",
        )


def container_of(path: Path, name: str) -> str:
    """The container: JPEG, PNG, TIFF (which may be a raw file), HEIF or RAW.

    Raises PictureError when the first bytes are of none of them.
    """
    with path.open("rb") as file:
        head = file.read(HEAD_BYTES)
    if head.startswith(b"\xff\xd8\xff"):
        return "JPEG"
    if head.startswith(b"\x89PNG\r\n\x1a\n"):
        return "PNG"
    if head[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
        return "TIFF"
    if head[4:8] == b"ftyp":
        if head[8:12] == b"crx ":
            return "RAW"
        if head[8:12] in HEIF_BRANDS:
            return "HEIF"
    if head.startswith(RAW_MARKS) or head[CCD_MARK_AT:].startswith(CCD_MARK):
        return "RAW"
    raise PictureError(name, "this is not a picture Oxlen can read.")
