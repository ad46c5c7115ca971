"""Tags of raw files that Pillow has no name for, and those that are beside the raw pixels."""

from __future__ import annotations

from PIL.ExifTags import Base

CFA_PATTERN = 33422
"""TIFF/EP's own tag of that name; Exif has another."""
NOISE_PROFILE = 51041
BASELINE_OFFSET = 51109
OF_RAW_PIXELS = (
    CFA_PATTERN,
    NOISE_PROFILE,
    BASELINE_OFFSET,
    Base.BlackLevel,
    Base.WhiteLevel,
    Base.ActiveArea,
    Base.BaselineExposure,
)
"""Where the raw pixels have a directory of their own, these may be in it alone. [DNG1_7]"""
