"""The result of a set as a file: TIFF of 16 bits, JPEG, or DNG where it still is a mosaic."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import IFD, Base
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.errors import BadInput
from oxlen.core.light.tone import linear_to_srgb
from oxlen.pictures.exposure_tags import number, numbers
from oxlen.pictures.opening import open_picture
from oxlen.pictures.srgb_profile import srgb_profile
from oxlen.pictures.upright import upright_array
from oxlen.stacking.ask import FrameFile

QUALITY, ROWS = 95, 64
DNG_ENDING, TIFF_ENDINGS, JPEG_ENDINGS = ".dng", (".tif", ".tiff"), (".jpg", ".jpeg")
CFA_PATTERN = tifffile.TIFF.TAGS["CFAPattern"]
MATRICES = (Base.ColorMatrix1, Base.ColorMatrix2)
ILLUMINANTS = (Base.CalibrationIlluminant1, Base.CalibrationIlluminant2)
Codes = NDArray[np.uint16]
Tag = tuple[int, str, int, object, bool]


def check_ending(path: Path, *, is_mosaic: bool) -> None:
    """BadInput for a file that cannot be written: DNG is for RAW frames that are not aligned."""
    ending = path.suffix.lower()
    if ending == DNG_ENDING and not is_mosaic:
        words = "DNG needs RAW frames without alignment or blending. Use .tif or .jpg."
        raise BadInput(words, "out")
    if ending not in (DNG_ENDING, *TIFF_ENDINGS, *JPEG_ENDINGS):
        raise BadInput("The result is written as .tif, .jpg or, from RAW, .dng.", "out")


def coded(levels: NDArray[np.floating], top: float) -> Codes:
    """16-bit sRGB codes of levels of linear light; what is over white is white."""
    table = _code_table()
    codes = np.empty(levels.shape, dtype=np.uint16)
    for first in range(0, len(levels), ROWS):
        linear = np.clip(levels[first : first + ROWS] * (65535 / top) + 0.5, 0, 65535)
        codes[first : first + ROWS] = table[linear.astype(np.uint16)]
    return codes


@lru_cache(maxsize=1)
def _code_table() -> Codes:
    """16-bit codes of sRGB of 65536 levels of linear light."""
    return np.asarray(np.rint(linear_to_srgb(np.arange(65536) / 65535) * 65535), dtype=np.uint16)


def write_picture(path: Path, codes: Codes, *, frames: Sequence[FrameFile], words: str) -> None:
    """Write codes (h, w[, 3]) as stored as an upright TIFF or JPEG with what it was made of."""
    turned = upright_array(codes, frames[0].orientation)
    about = described(frames, words)
    if path.suffix.lower() in JPEG_ENDINGS:
        eight = np.asarray((turned.astype(np.uint32) + 128) // 257, dtype=np.uint8)
        exif = _exif(frames, about)
        picture = Image.fromarray(eight)
        picture.save(
            path, "JPEG", quality=QUALITY, subsampling=0, exif=exif, icc_profile=srgb_profile()
        )
        return
    tifffile.imwrite(
        path,
        turned,
        photometric="rgb" if turned.ndim == 3 else "minisblack",
        iccprofile=srgb_profile(),
        description=about,
        extratags=_settings_tags(frames),
        metadata=None,
        software=False,
    )


def write_mosaic(
    path: Path, levels: NDArray[np.floating], *, frames: Sequence[FrameFile], words: str
) -> None:
    """Write a stacked mosaic as a DNG, its levels kept to fractions of one of the frames'.

    Whatever a developer needs is taken from the first frame.
    """
    first = frames[0]
    with open_picture(first.path, first.name) as picture:
        tags, raw = picture.tags, picture.source
        pattern = [int(colour) for colour in raw.pattern.ravel()]
        side = int(raw.pattern.shape[0])
        black, white = raw.levels
    finer = max(1, int(65535 // white))
    values = np.asarray(np.rint(np.clip(levels * finer, 0, 65535)), dtype=np.uint16)
    extra: list[Tag] = [
        (Base.Orientation, "H", 1, first.orientation, True),
        (Base.CFARepeatPatternDim, "H", 2, (side, side), True),
        (CFA_PATTERN, "B", len(pattern), tuple(pattern), True),
        (Base.DNGVersion, "B", 4, (1, 4, 0, 0), True),
        (Base.DNGBackwardVersion, "B", 4, (1, 1, 0, 0), True),
        (Base.BlackLevel, "H", 1, round(float(black.mean()) * finer), True),
        (Base.WhiteLevel, "H", 1, round(white * finer), True),
        *_colour_tags(tags),
        *_settings_tags(frames),
    ]
    tifffile.imwrite(
        path,
        values,
        photometric="cfa",
        extratags=extra,
        description=described(frames, words),
        metadata=None,
        software=False,
        rowsperstrip=values.shape[0],
    )


def described(frames: Sequence[FrameFile], words: str) -> str:
    """What the result was made of, as JSON: the rule, and every frame's settings."""
    made = [
        {
            "name": frame.name,
            "iso": frame.kind.iso,
            "shutter_s": frame.kind.shutter_s,
            "f_number": frame.kind.f_number,
        }
        for frame in frames
    ]
    return json.dumps({"frames": made, "together": words}, ensure_ascii=True)


def _exif(frames: Sequence[FrameFile], about: str) -> Image.Exif:
    kind = frames[0].kind
    exif = Image.Exif()
    exif[Base.ImageDescription], exif[Base.Orientation] = about, 1
    block = exif.get_ifd(IFD.Exif)
    if kind.shutter_s:
        block[Base.ExposureTime] = IFDRational(*_pair(kind.shutter_s))
    if kind.f_number:
        block[Base.FNumber] = IFDRational(*_pair(kind.f_number))
    if kind.iso:
        block[Base.ISOSpeedRatings] = round(kind.iso)
    return exif


def _settings_tags(frames: Sequence[FrameFile]) -> list[Tag]:
    """Settings of one frame: an average is as light as one of them."""
    kind, found = frames[0].kind, list[Tag]()
    if kind.shutter_s:
        found.append((Base.ExposureTime, "2I", 1, _pair(kind.shutter_s), True))
    if kind.f_number:
        found.append((Base.FNumber, "2I", 1, _pair(kind.f_number), True))
    if kind.iso:
        found.append((Base.ISOSpeedRatings, "H", 1, min(65535, round(kind.iso)), True))
    return found


def _colour_tags(tags: Mapping[int, Any]) -> list[Tag]:
    """What defines a DNG's colours: matrices, their lights, the neutral, and where mid is."""
    found: list[Tag] = []
    for tag in (Base.Make, Base.Model, Base.UniqueCameraModel):
        if tags.get(tag):
            found.append((tag, "s", 0, str(tags[tag]), True))
    for tag in MATRICES:
        values = numbers(tags.get(tag))
        if values.size == 9:
            found.append((tag, "2i", 9, _pairs(values), True))
    for tag in ILLUMINANTS:
        light = number(tags.get(tag))
        if light is not None:
            found.append((tag, "H", 1, round(light), True))
    neutral = numbers(tags.get(Base.AsShotNeutral))
    if neutral.size == 3:
        found.append((Base.AsShotNeutral, "2I", 3, _pairs(neutral), True))
    baseline = number(tags.get(Base.BaselineExposure)) or 0.0
    found.append((Base.BaselineExposure, "2i", 1, (round(baseline * 1000), 1000), True))
    return found


def _pair(value: float) -> tuple[int, int]:
    fraction = Fraction(value).limit_denominator(20000)
    return fraction.numerator, fraction.denominator


def _pairs(values: NDArray[np.floating]) -> tuple[int, ...]:
    return tuple(part for value in values for part in (round(float(value) * 10000), 10000))
