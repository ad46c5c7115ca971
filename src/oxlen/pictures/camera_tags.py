"""What a file tells of the phone that took it, beside the exposure: zoom, sensor, raw levels."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL.ExifTags import Base

from oxlen.pictures.exposure_tags import number, numbers, text
from oxlen.pictures.raw_colour import COLOUR_MATRICES
from oxlen.pictures.raw_tags import BASELINE_OFFSET, CFA_PATTERN, NOISE_PROFILE

CFA_COLOURS = {0: "R", 1: "G", 2: "B", 3: "C", 4: "M", 5: "Y", 6: "W"}
"""How TIFF/EP numbers the colours of a mosaic."""
MOST_LEVEL = 2**32
UNIT_UM = {2: 25_400.0, 3: 10_000.0, 4: 1000.0, 5: 1.0}
"""Micrometres of the units a focal plane's resolution is given in. [CIPA-DC008]"""
FINEST_UM, COARSEST_UM = 0.3, 20.0


@dataclass(frozen=True)
class RawTags:
    """Levels of a raw file: BaselineExposure in stops, and NoiseProfile as (scale, offset).

    `mosaic` are the colours of a tile row by row, such as "RGGB"; `active_px` width and height of
    the pixels that see light; `matrices` the number of each light source, as Exif has it, and the
    nine numbers from XYZ to camera. [DNG1_7]
    """

    baseline_exposure_stops: float | None
    noise: tuple[float, float] | None
    mosaic: str = ""
    black_dn: float | None = None
    white_dn: float | None = None
    active_px: tuple[int, int] | None = None
    matrices: tuple[tuple[int, tuple[float, ...]], ...] = ()


@dataclass(frozen=True)
class CameraTags:
    """Digital zoom (1: none), pixel pitch where the file gives it, when taken and last changed."""

    zoom: float
    pitch_um: float | None
    focal_plane_px: tuple[int, int] | None
    taken: str | None
    taken_s: float | None
    taken_step_s: float
    changed: str | None
    raw: RawTags | None


def camera_tags(tags: Mapping[int, Any], *, is_raw: bool) -> CameraTags:
    """Make sense of a file's tags; what is absent or absurd is None."""
    zoom = number(tags.get(Base.DigitalZoomRatio)) or 1.0
    return CameraTags(
        zoom if 1.0 <= zoom <= 200 else 1.0,
        _pitch_um(tags),
        focal_plane_px=_pixels(tags),
        taken=text(tags.get(Base.DateTimeOriginal)),
        taken_s=_seconds(tags),
        taken_step_s=10.0 ** -len(_subsecond(tags)),
        changed=text(tags.get(Base.DateTime)),
        raw=_raw(tags) if is_raw else None,
    )


def _pitch_um(tags: Mapping[int, Any]) -> float | None:
    """Of the pixels that the focal plane's resolution counts."""
    per_unit = number(tags.get(Base.FocalPlaneXResolution))
    unit_um = UNIT_UM.get(int(number(tags.get(Base.FocalPlaneResolutionUnit)) or 2))
    if not per_unit or unit_um is None:
        return None
    pitch = unit_um / per_unit
    return pitch if FINEST_UM <= pitch <= COARSEST_UM else None


def _pixels(tags: Mapping[int, Any]) -> tuple[int, int] | None:
    size = (number(tags.get(Base.ExifImageWidth)), number(tags.get(Base.ExifImageHeight)))
    return None if not size[0] or not size[1] else (int(size[0]), int(size[1]))


def _seconds(tags: Mapping[int, Any]) -> float | None:
    """Seconds of its day at which it was taken, to the fraction its phone writes."""
    stamp = text(tags.get(Base.DateTimeOriginal)) or ""
    parts = stamp[11:19].split(":")
    if len(parts) != 3 or not all(part.isdigit() for part in parts):
        return None
    hours, minutes, seconds = (int(part) for part in parts)
    part = float(f"0.{_subsecond(tags) or 0}")
    return 3600 * hours + 60 * minutes + seconds + part


def _subsecond(tags: Mapping[int, Any]) -> str:
    """Digits after the second; "" where the phone writes none."""
    fraction = text(tags.get(Base.SubsecTimeOriginal)) or ""
    return fraction if fraction.isdigit() else ""


def _raw(tags: Mapping[int, Any]) -> RawTags:
    baseline = number(tags.get(Base.BaselineExposure))
    offset = number(tags.get(BASELINE_OFFSET)) or 0.0
    return RawTags(
        None if baseline is None else baseline + offset,
        _noise(tags),
        mosaic=_mosaic(tags.get(CFA_PATTERN)),
        black_dn=_level(tags.get(Base.BlackLevel)),
        white_dn=_level(tags.get(Base.WhiteLevel)),
        active_px=_active_px(tags),
        matrices=tuple(_matrices(tags)),
    )


def _mosaic(pattern: Any) -> str:
    """The colours of a tile: bytes in most files, numbers in some."""
    places = list(pattern) if isinstance(pattern, bytes) else numbers(pattern)
    return "".join(CFA_COLOURS.get(int(place), "") for place in places)


def _level(value: Any) -> float | None:
    """A level in raw numbers, the mean over its channels."""
    found = numbers(value)
    return float(found.mean()) if found.size and 0 <= found.mean() <= MOST_LEVEL else None


def _active_px(tags: Mapping[int, Any]) -> tuple[int, int] | None:
    """Width and height from top, left, bottom and right."""
    area = numbers(tags.get(Base.ActiveArea))
    if area.size != 4 or area[2] <= area[0] or area[3] <= area[1]:
        return None
    return int(area[3] - area[1]), int(area[2] - area[0])


def _matrices(tags: Mapping[int, Any]) -> Iterator[tuple[int, tuple[float, ...]]]:
    for tag, illuminant in COLOUR_MATRICES:
        found = numbers(tags.get(tag))
        if found.size == 9 and np.isfinite(found).all():
            yield int(number(tags.get(illuminant)) or 0), tuple(found.tolist())


def _noise(tags: Mapping[int, Any]) -> tuple[float, float] | None:
    """Scale and offset, the mean over the channels; None where absent or impossible."""
    try:
        found = [float(value) for value in tags.get(NOISE_PROFILE) or ()]
    except (TypeError, ValueError):
        return None
    if len(found) < 2 or len(found) % 2:
        return None
    scales, offsets = found[0::2], found[1::2]
    scale, offset = sum(scales) / len(scales), sum(offsets) / len(offsets)
    return (scale, offset) if 0 < scale < 0.1 and 0 <= offset < 0.1 else None
