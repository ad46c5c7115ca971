"""A take as files: JPEG with EXIF, and DNG with all that a developer needs."""

from __future__ import annotations

import io
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from oxlen.core.kit.phone import Lens
from oxlen.core.simulate.capture import Capture
from oxlen.core.simulate.exposing import Settings
from oxlen.core.simulate.readout import CHANNEL_GAIN, XYZ_TO_SRGB
from oxlen.formats.phone_profile import PhoneProfile

JPEG_QUALITY = 93
EXIF_IFD = 0x8769
D65_ILLUMINANT = 21


@dataclass(frozen=True)
class TakenAs:
    """What a file says of how it was taken; `brightness` is the meter's APEX value."""

    profile: PhoneProfile
    lens: Lens
    settings: Settings
    brightness: float
    taken_at: str


def jpeg_bytes(frame: Capture, taken: TakenAs) -> bytes:
    """The processed picture as a JPEG."""
    buffer = io.BytesIO()
    picture = Image.fromarray(frame.developed())
    exif = _exif(taken)
    picture.save(buffer, "JPEG", quality=JPEG_QUALITY, exif=exif, subsampling=1)
    return buffer.getvalue()


def dng_bytes(frame: Capture, taken: TakenAs) -> bytes:
    """The raw mosaic as a DNG with levels, matrix, neutral and full EXIF."""
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer,
        frame.raw.mosaic,
        photometric="cfa",
        extratags=_dng_tags(frame, taken),
        metadata=None,
        software=False,
        rowsperstrip=frame.raw.mosaic.shape[0],
    )
    return buffer.getvalue()


def _exif(taken: TakenAs) -> Image.Exif:
    exif = Image.Exif()
    exif[271], exif[272], exif[274] = taken.profile.make, taken.profile.model, 1
    block = exif.get_ifd(EXIF_IFD)
    block[33434] = IFDRational(*_pair(taken.settings.shutter_s))
    block[33437] = IFDRational(*_pair(taken.lens.f_number))
    block[34855] = round(taken.settings.iso)
    block[36867] = taken.taken_at
    block[37379] = IFDRational(round(taken.brightness * 100), 100)
    block[37386] = IFDRational(*_pair(taken.lens.focal_mm))
    block[41987] = 0
    block[41989] = round(taken.lens.focal35_mm)
    block[42036] = f"{taken.profile.name} {taken.lens.name}"
    return exif


def _dng_tags(frame: Capture, taken: TakenAs) -> list[tuple[int, str, int, object, bool]]:
    matrix = np.diag(CHANNEL_GAIN) @ XYZ_TO_SRGB
    neutral = CHANNEL_GAIN / frame.automatic.as_array()
    neutral = neutral / neutral.max()
    # A developer takes the chosen neutral for white, whose own luminance is not quite 1: made good
    # here, so that luminance read from the file is the scene's whatever the balance.
    whiteness = float(np.linalg.inv(matrix)[1] @ neutral)
    baseline = frame.raw.baseline_exposure_stops + float(np.log2(whiteness))
    settings, profile = taken.settings, taken.profile
    return [
        (271, "s", 0, profile.make, True),
        (272, "s", 0, profile.model, True),
        (274, "H", 1, 1, True),
        (33421, "H", 2, (2, 2), True),
        (33422, "B", 4, (0, 1, 1, 2), True),
        (33434, "2I", 1, _pair(settings.shutter_s), True),
        (33437, "2I", 1, _pair(taken.lens.f_number), True),
        (34855, "H", 1, round(settings.iso), True),
        (36867, "s", 0, taken.taken_at, True),
        (37386, "2I", 1, _pair(taken.lens.focal_mm), True),
        (41989, "H", 1, round(taken.lens.focal35_mm), True),
        (42036, "s", 0, f"{profile.name} {taken.lens.name}", True),
        (50706, "B", 4, (1, 4, 0, 0), True),
        (50707, "B", 4, (1, 1, 0, 0), True),
        (50708, "s", 0, profile.name, True),
        (50714, "H", 1, frame.raw.black_dn, True),
        (50717, "H", 1, frame.raw.white_dn, True),
        (50721, "2i", 9, _pairs(matrix.ravel()), True),
        (50728, "2I", 3, _pairs(neutral), True),
        (50730, "2i", 1, (round(baseline * 1000), 1000), True),
        (50778, "H", 1, D65_ILLUMINANT, True),
    ]


def _pair(value: float) -> tuple[int, int]:
    fraction = Fraction(value).limit_denominator(20000)
    return fraction.numerator, fraction.denominator


def _pairs(values: NDArray[np.float64]) -> tuple[int, ...]:
    return tuple(part for value in values for part in (round(float(value) * 10000), 10000))
