"""Small picture files with known pixels and tags, made for the tests."""

import io
import struct
from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
import tifffile
from numpy.typing import ArrayLike, NDArray
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

EXIF_IFD = 0x8769
EV100 = 8.339850002884624  # f/1.8, 1/100 s, ISO 100: log2(1.8² · 100)
DNG_TAGS = {
    271: ("s", 0, "Fennick"),
    272: ("s", 0, "Wherry 3"),
    33421: ("H", 2, (2, 2)),
    33422: ("B", 4, (0, 1, 1, 2)),
    33434: ("2I", 1, (1, 100)),
    33437: ("2I", 1, (18, 10)),
    34855: ("H", 1, 100),
    50706: ("B", 4, (1, 4, 0, 0)),
    50708: ("s", 0, "Fennick Wherry 3"),
    50714: ("H", 1, 64),
    50717: ("H", 1, 4095),
    50728: ("2I", 3, (5000, 10000, 10000, 10000, 6000, 10000)),
    50730: ("2i", 1, (0, 1000)),
}


def exif(
    iso: int | None = 100,
    shutter: tuple[int, int] | None = (1, 100),
    f_number: tuple[int, int] | None = (18, 10),
    **more: Any,
) -> Image.Exif:
    """An EXIF block; None leaves a tag out, `more` sets tags by name t<number>."""
    block = Image.Exif()
    block[271], block[272] = "Fennick", "Wherry 3"
    inner = block.get_ifd(EXIF_IFD)
    if iso is not None:
        inner[34855] = iso
    if shutter is not None:
        inner[33434] = IFDRational(*shutter)
    if f_number is not None:
        inner[33437] = IFDRational(*f_number)
    for name, value in more.items():
        (block if name == "t274" else inner)[int(name[1:])] = value
    return block


def jpeg(
    pixels: ArrayLike, block: Image.Exif | bytes | None = None, mode: str = "RGB", **save: Any
) -> bytes:
    """A JPEG of an array at the best quality."""
    buffer = io.BytesIO()
    image = Image.fromarray(np.asarray(pixels, dtype=np.uint8)).convert(mode)
    save = {"quality": 100, "subsampling": 0, **save} if mode == "RGB" else {"quality": 100, **save}
    image.save(buffer, "JPEG", exif=exif() if block is None else block, **save)
    return buffer.getvalue()


def corners(height: int = 60, width: int = 80) -> NDArray[np.uint8]:
    """A picture with a different grey in each corner: 40, 90 on top, 140, 200 below."""
    picture = np.zeros((height, width, 3), dtype=np.uint8)
    half_h, half_w = height // 2, width // 2
    picture[:half_h, :half_w], picture[:half_h, half_w:] = 40, 90
    picture[half_h:, :half_w], picture[half_h:, half_w:] = 140, 200
    return picture


def mosaic(height: int = 64, width: int = 96, level: float = 718.0) -> NDArray[np.uint16]:
    """A mosaic of a neutral whose balanced level is `level` above black 64."""
    data = np.full((height, width), 64 + level)
    data[0::2, 0::2] = 64 + level * 0.5
    data[1::2, 1::2] = 64 + level * 0.6
    return np.asarray(np.rint(data), dtype=np.uint16)


def dng(data: NDArray[Any] | None = None, **changed: Any) -> bytes:
    """A DNG; `changed` replaces tags by name t<number>, None drops one."""
    tags = {**DNG_TAGS, **{int(name[1:]): value for name, value in changed.items()}}
    data = mosaic() if data is None else data
    extra = [(code, *value, True) for code, value in sorted(tags.items()) if value is not None]
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer,
        data,
        photometric="cfa",
        extratags=extra,
        metadata=None,
        software=False,
        rowsperstrip=data.shape[0],
    )
    return buffer.getvalue()


def tiff_directory(
    entries: Sequence[tuple[int, int, int, int]], tail: bytes = b"", next_offset: int = 0
) -> bytes:
    """A little-endian TIFF of one directory: entries are (tag, type, count, value)."""
    body = struct.pack("<H", len(entries))
    for tag, kind, count, value in entries:
        body += struct.pack("<HHII", tag, kind, count, value)
    return b"II*\0" + struct.pack("<I", 8) + body + struct.pack("<I", next_offset) + tail


def with_exif_directory(make: Callable[[Any], bytes], entries: Mapping[int, Any]) -> bytes:
    """A TIFF or DNG whose exposure is in a directory of its own, as phones write it.

    `make(t34664)` builds the file with a substitute for the pointer, which the writer will not
    write itself; entries are rationals or shorts by tag.
    """
    data = bytearray(make(("I", 1, 0)))
    entry = data.index(struct.pack("<HHI", 34664, 4, 1))
    struct.pack_into("<H", data, entry, 34665)
    where = entry + 8
    at = len(data) + len(data) % 2
    data += b"\0" * (at - len(data))
    struct.pack_into("<I", data, where, at)
    body, tail = struct.pack("<H", len(entries)), b""
    values_at = at + 2 + 12 * len(entries) + 4
    for tag, value in sorted(entries.items()):
        if isinstance(value, tuple):
            body += struct.pack("<HHII", tag, 5, 1, values_at + len(tail))
            tail += struct.pack("<II", *value)
        else:
            body += struct.pack("<HHIHH", tag, 3, 1, value, 0)
    return bytes(data) + body + b"\0\0\0\0" + tail
