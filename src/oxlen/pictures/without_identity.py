"""Copies of pictures without where, by whom and on which very phone they were taken.

Pixels, exposure, time and colour stay to the byte; places, names, serial numbers, makers' notes and
embedded extras go.
"""

from __future__ import annotations

import re
import struct
import zlib
from collections.abc import Iterator

from PIL.ExifTags import Base

from oxlen.pictures.tiff_entries import GPS_IFD, TiffEntries

XMP, IPTC, IMAGE_RESOURCES = 700, 33723, 34377
CAMERA_SERIAL, DNG_PRIVATE, ORIGINAL_RAW = 50735, 50740, 50828
DNG_VERSION = 50706
IDENTITY = frozenset(
    {
        GPS_IFD,
        XMP,
        IPTC,
        IMAGE_RESOURCES,
        CAMERA_SERIAL,
        DNG_PRIVATE,
        ORIGINAL_RAW,
        Base.Artist,
        Base.Copyright,
        Base.HostComputer,
        Base.ImageDescription,
        Base.DocumentName,
        Base.XPTitle,
        Base.XPComment,
        Base.XPAuthor,
        Base.XPKeywords,
        Base.XPSubject,
        Base.MakerNote,
        Base.UserComment,
        Base.ImageUniqueID,
        Base.CameraOwnerName,
        Base.BodySerialNumber,
        Base.LensSerialNumber,
    }
)
EXIF = b"Exif\0\0"
PNG = b"\x89PNG\r\n\x1a\n"
KEPT_CHUNKS = {b"IHDR", b"PLTE", b"IDAT", b"IEND", b"tRNS", b"gAMA", b"cHRM", b"sRGB", b"iCCP"}
XMP_TEXT = re.compile(rb"<\?xpacket begin=.*?<\?xpacket end=[^>]*>|<x:xmpmeta.*?</x:xmpmeta>", re.S)
KEPT_SEGMENTS = {0xE0, 0xE2, 0xEE}
"""Of a JPEG's application segments: JFIF, colour profile, colour transform."""


def without_identity(data: bytes) -> bytes | None:
    """A picture's bytes without its identity; None where that cannot be done safely.

    Done twice it changes nothing more. Of RAW files only DNG can be cleaned: others need their
    makers' notes to be decoded.
    """
    try:
        if data.startswith(b"\xff\xd8"):
            return b"".join(_jpeg(data))
        if data.startswith(PNG):
            return PNG + b"".join(_png(data))
        if data[:4] in (b"II*\0", b"MM\0*"):
            return _tiff(data)
        if data[4:8] == b"ftyp" and data[8:12] != b"crx ":
            return _heif(data)
    except (ValueError, struct.error, IndexError):
        return None
    return None


def _tiff(data: bytes) -> bytes | None:
    made = bytearray(data)
    entries = TiffEntries(made)
    # A RAW file of another kind has its colours in its maker's notes.
    if entries.has(int(Base.MakerNote)) and not entries.has(DNG_VERSION):
        return None
    is_plain = entries.has(DNG_VERSION) or entries.has(int(Base.PhotometricInterpretation))
    if not is_plain:
        return None
    entries.remove(IDENTITY)
    return bytes(made)


def _exif(tiff: bytes) -> bytes:
    made = bytearray(tiff)
    TiffEntries(made).remove(IDENTITY)
    return bytes(made)


def _jpeg(data: bytes) -> Iterator[bytes]:
    """The segments that stay, up to the end of the picture: what follows it goes."""
    yield data[:2]
    at = 2
    while True:
        if data[at] != 0xFF:
            raise ValueError("no marker")
        kind = data[at + 1]
        if kind == 0xFF:  # a fill byte
            at += 1
            continue
        (length,) = struct.unpack_from(">H", data, at + 2)
        segment = data[at : at + 2 + length]
        content = segment[4:]
        at += 2 + length
        if kind == 0xE1 and content.startswith(EXIF):
            yield segment[:4] + EXIF + _exif(content[len(EXIF) :])
        elif kind == 0xE2 and content.startswith(b"MPF\0"):
            continue  # other pictures behind this one, with places of their own
        elif (0xE0 <= kind <= 0xEF and kind not in KEPT_SEGMENTS) or kind == 0xFE:
            continue
        else:
            yield segment
        if kind == 0xDA:
            end = _scan_end(data, at)
            yield data[at:end]
            if data[end : end + 2] == b"\xff\xd9":
                yield b"\xff\xd9"
                return
            at = end


def _scan_end(data: bytes, at: int) -> int:
    """Where the scan that begins there meets its next marker."""
    while True:
        at = data.index(b"\xff", at)
        if at + 1 >= len(data):
            raise ValueError("cut short")
        if data[at + 1] == 0 or 0xD0 <= data[at + 1] <= 0xD7:
            at += 2
        elif data[at + 1] == 0xFF:
            at += 1
        else:
            return at


def _png(data: bytes) -> Iterator[bytes]:
    at = len(PNG)
    while at < len(data):
        (length,) = struct.unpack_from(">I", data, at)
        kind, content = data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
        if len(content) < length:
            raise ValueError("cut short")
        at += 12 + length
        if kind == b"eXIf":
            content = _exif(content)
        elif kind not in KEPT_CHUNKS:
            continue
        yield struct.pack(">I", length) + kind + content
        yield struct.pack(">I", zlib.crc32(kind + content))
        if kind == b"IEND":
            return


def _heif(data: bytes) -> bytes:
    """Its EXIF cleaned and its XMP blanked where they are: no box moves."""
    made = bytearray(data)
    at = made.find(EXIF)
    while at >= 0:
        if bytes(made[at + 6 : at + 8]) in (b"II", b"MM"):
            TiffEntries(made, at + 6).remove(IDENTITY)
        at = made.find(EXIF, at + 6)
    for found in XMP_TEXT.finditer(data):
        made[found.start() : found.end()] = b" " * (found.end() - found.start())
    return bytes(made)
