"""Raw containers that are not TIFF: whether the file is as long as it says."""

from __future__ import annotations

import struct
from pathlib import Path

from oxlen.core.errors import PixelsUnreadable
from oxlen.pictures.container import CCD_MARK, CCD_MARK_AT

BOX_HEADER_BYTES = 8
MAX_BOXES = 64
# Offset and length (big-endian) of the mosaic, in files that carry the CCD mark.
CCD_DIRECTORY_AT = 100


def check_other_extents(path: Path, name: str) -> None:
    """PixelsUnreadable when a box or the mosaic reaches past the end of the file.

    Containers whose lengths are not known here are left to the decoder's own checks.
    """
    size = path.stat().st_size
    with path.open("rb") as file:
        head = file.read(CCD_DIRECTORY_AT + 8)
        if head[4:8] == b"ftyp":
            whole = _boxes_fit(path, size)
        elif head[CCD_MARK_AT:].startswith(CCD_MARK) and len(head) == CCD_DIRECTORY_AT + 8:
            offset, length = struct.unpack(">II", head[CCD_DIRECTORY_AT:])
            whole = offset > 0 and offset + length <= size
        else:
            whole = True
    if not whole:
        raise PixelsUnreadable(name, "its pixels are cut: the file is shorter than it says.")


def _boxes_fit(path: Path, size: int) -> bool:
    """Whether the top-level boxes of an ISO base media file (ISO 14496-12) end with the file."""
    at = 0
    with path.open("rb") as file:
        for _ in range(MAX_BOXES):
            if at == size:
                return True
            file.seek(at)
            header = file.read(16)
            if len(header) < BOX_HEADER_BYTES:
                return False
            (length,) = struct.unpack(">I", header[:4])
            if length == 1 and len(header) == 16:
                (length,) = struct.unpack(">Q", header[8:])
            if length == 0:
                return True
            if length < BOX_HEADER_BYTES or at + length > size:
                return False
            at += length
    return True
