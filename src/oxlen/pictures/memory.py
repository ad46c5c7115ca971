"""What a picture's pixels need in memory, known from its header before any is used."""

from __future__ import annotations

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.labels import file_size_label

MOST_PIXEL_BYTES = 420_000_000
"""For one picture while it is decoded and read; a 50-megapixel RAW takes about 400 MB."""


NO_MEMORY = "there was not enough memory for its pixels. Use a smaller copy."


def check_bytes(needed_bytes: int, name: str) -> None:
    """PixelsUnreadable when a picture's pixels would take more than one picture may have."""
    if needed_bytes > MOST_PIXEL_BYTES:
        raise PixelsUnreadable(
            name,
            f"its pixels need {file_size_label(needed_bytes / 1e6)} of memory, above the limit of "
            f"{file_size_label(MOST_PIXEL_BYTES / 1e6)}. Use a smaller copy.",
        )
