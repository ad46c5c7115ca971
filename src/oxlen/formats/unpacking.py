"""Zip files from elsewhere, unpacked within bounds: by bytes produced, whatever they claim."""

from __future__ import annotations

import zipfile
from collections.abc import Iterator

from oxlen.core.errors import ArchiveError

BLOCK_BYTES = 1 << 20
PACKINGS = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
"""Ways of packing that can be unpacked block by block; others produce gigabytes from one block."""
LOCKED = 0x1
"""The bit of a zip entry that says it needs a password."""


def check_packing(info: zipfile.ZipInfo) -> None:
    """ArchiveError for an entry that is locked, or packed in a way that has no bound."""
    if info.flag_bits & LOCKED:
        raise ArchiveError(f"{info.filename} in the zip file is password protected.")
    if info.compress_type not in PACKINGS:
        raise ArchiveError(
            f"Oxlen cannot unpack {info.filename} in the zip file. Zip it again with deflate."
        )


def unpacked_blocks(
    archive: zipfile.ZipFile, info: zipfile.ZipInfo, *, most_bytes: int
) -> Iterator[bytes]:
    """The content of an entry, block by block. ArchiveError once it is longer than `most_bytes`."""
    check_packing(info)
    length = 0
    with archive.open(info) as packed:
        while block := packed.read(BLOCK_BYTES):
            length += len(block)
            if length > most_bytes:
                raise ArchiveError(
                    f"{info.filename} in the zip file is over {most_bytes / 1e6:.0f} MB unpacked."
                )
            yield block


def unpacked(archive: zipfile.ZipFile, info: zipfile.ZipInfo, *, most_bytes: int) -> bytes:
    """The whole content of an entry. ArchiveError where it is longer than `most_bytes`."""
    return b"".join(unpacked_blocks(archive, info, most_bytes=most_bytes))
