"""Where a picture is sharp, and how its chosen spot compares."""

from __future__ import annotations

from pathlib import Path

from oxlen.core.focus.local_sharpness import SharpnessMap, sharpness_map
from oxlen.pictures.opening import open_picture


def picture_sharpness(path: Path, name: str) -> SharpnessMap:
    """The sharpness map of a picture, upright."""
    with open_picture(path, name) as picture:
        return sharpness_map(picture.luminance())
