"""The colour profile that written pictures carry."""

from __future__ import annotations

from functools import lru_cache

from PIL import ImageCms

DATE_AT = slice(24, 36)
"""Where an ICC profile states when it was made (ISO 15076-1)."""


@lru_cache(maxsize=1)
def srgb_profile() -> bytes:
    """An sRGB profile, always the same: the day it was made on would make every file another."""
    made = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    made[DATE_AT] = bytes(12)
    return bytes(made)
