"""A take as files: JPEG with EXIF, and DNG with all that a developer needs."""

from __future__ import annotations

import io
import json
from dataclasses import dataclass
from fractions import Fraction

import numpy as np
import tifffile
from numpy.typing import NDArray
from PIL import Image
from PIL.ExifTags import IFD, Base
from PIL.TiffImagePlugin import IFDRational
from tifffile import TIFF

from oxlen.core.colour.white_point import XYZ_TO_SRGB
from oxlen.core.kit.phone import Lens
from oxlen.core.simulate.capture import Capture
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.readout import CHANNEL_GAIN
from oxlen.formats.phone.profile import PhoneProfile

JPEG_QUALITY = 93
ASCII_COMMENT = b"ASCII\0\0\0"
CFA_PATTERN = TIFF.TAGS["CFAPattern"]
"""TIFF/EP's own tag of that name; Exif has another."""
WHITE_AUTO, WHITE_BY_HAND = 0, 1
D65_ILLUMINANT = 21
CENTIMETRES = 3
NOISE_PROFILE = 51041


@dataclass(frozen=True)
class FileDetails:
    """What a file says of how it was taken; `brightness` is the meter's APEX value.

    `subsecond` are the digits after the second, `noise` what a DNG's NoiseProfile declares;
    `tells_pitch` where the phone writes its sensor's resolution.
    """

    profile: PhoneProfile
    lens: Lens
    settings: CaptureSettings
    brightness: float
    taken_at: str
    subsecond: str = ""
    noise: tuple[float, float] | None = None
    tells_pitch: bool = False

    @property
    def pixels_per_cm(self) -> float:
        """Pixels of the lens's first mode along a centimetre of its sensor."""
        return 10_000 / self.lens.modes[0].pixel_pitch_um


def jpeg_bytes(frame: Capture, details: FileDetails) -> bytes:
    """The processed picture as a JPEG."""
    buffer = io.BytesIO()
    picture = Image.fromarray(frame.developed())
    exif = exif_of(details)
    picture.save(buffer, "JPEG", quality=JPEG_QUALITY, exif=exif, subsampling=1)
    return buffer.getvalue()


def dng_bytes(frame: Capture, details: FileDetails) -> bytes:
    """The raw mosaic as a DNG with levels, matrix, neutral and full EXIF."""
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer,
        frame.raw.mosaic,
        photometric="cfa",
        extratags=_dng_tags(frame, details),
        metadata=None,
        software=False,
        rowsperstrip=frame.raw.mosaic.shape[0],
    )
    return buffer.getvalue()


def exif_of(details: FileDetails) -> Image.Exif:
    """The Exif block of a processed file."""
    exif = Image.Exif()
    exif[Base.Make], exif[Base.Model], exif[Base.Orientation] = (
        details.profile.make,
        details.profile.model,
        1,
    )
    if software := _software(details.profile):
        exif[Base.Software] = software
    block = exif.get_ifd(IFD.Exif)
    block[Base.ExposureTime] = IFDRational(*_pair(details.settings.shutter_s))
    block[Base.FNumber] = IFDRational(*_pair(details.lens.f_number))
    block[Base.ISOSpeedRatings] = round(details.settings.iso)
    block[Base.DateTimeOriginal] = details.taken_at
    block[Base.BrightnessValue] = IFDRational(round(details.brightness * 100), 100)
    block[Base.FocalLength] = IFDRational(*_pair(details.lens.focal_mm))
    block[Base.WhiteBalance] = _white_balance(details)
    block[Base.FocalLengthIn35mmFilm] = round(details.lens.focal35_mm)
    if comment := _dialled(details.settings):
        block[Base.UserComment] = ASCII_COMMENT + comment
    if details.subsecond:
        block[Base.SubsecTimeOriginal] = details.subsecond
    if details.tells_pitch:
        block[Base.FocalPlaneXResolution] = IFDRational(*_pair(details.pixels_per_cm))
        block[Base.FocalPlaneResolutionUnit] = CENTIMETRES
    block[Base.LensModel] = f"{details.profile.name} {details.lens.name}"
    return exif


def _dng_tags(frame: Capture, details: FileDetails) -> list[tuple[int, str, int, object, bool]]:
    matrix = np.diag(CHANNEL_GAIN) @ XYZ_TO_SRGB
    neutral = CHANNEL_GAIN / frame.balance.as_array()
    neutral = neutral / neutral.max()
    # A developer takes the chosen neutral for white, whose own luminance is not quite 1: made good
    # here, so that luminance read from the file is the scene's whatever the balance.
    whiteness = float(np.linalg.inv(matrix)[1] @ neutral)
    baseline = frame.raw.baseline_exposure_stops + float(np.log2(whiteness))
    settings, profile = details.settings, details.profile
    comment = ASCII_COMMENT + (_dialled(settings) or b"{}")
    noise = details.noise
    declared = [] if noise is None else [(NOISE_PROFILE, "d", 2, noise, True)]
    return [
        *declared,
        (Base.Make, "s", 0, profile.make, True),
        (Base.Model, "s", 0, profile.model, True),
        (Base.Orientation, "H", 1, 1, True),
        (Base.Software, "s", 0, _software(profile), True),
        (Base.CFARepeatPatternDim, "H", 2, (2, 2), True),
        (CFA_PATTERN, "B", 4, (0, 1, 1, 2), True),
        (Base.ExposureTime, "2I", 1, _pair(settings.shutter_s), True),
        (Base.FNumber, "2I", 1, _pair(details.lens.f_number), True),
        (Base.ISOSpeedRatings, "H", 1, round(settings.iso), True),
        (Base.DateTimeOriginal, "s", 0, details.taken_at, True),
        (Base.FocalLength, "2I", 1, _pair(details.lens.focal_mm), True),
        (Base.FocalLengthIn35mmFilm, "H", 1, round(details.lens.focal35_mm), True),
        (Base.WhiteBalance, "H", 1, _white_balance(details), True),
        (Base.LensModel, "s", 0, f"{profile.name} {details.lens.name}", True),
        (Base.UserComment, "B", len(comment), comment, True),
        (Base.DNGVersion, "B", 4, (1, 4, 0, 0), True),
        (Base.DNGBackwardVersion, "B", 4, (1, 1, 0, 0), True),
        (Base.UniqueCameraModel, "s", 0, profile.name, True),
        (Base.BlackLevel, "H", 1, frame.raw.black_dn, True),
        (Base.WhiteLevel, "H", 1, frame.raw.white_dn, True),
        (Base.ColorMatrix1, "2i", 9, _pairs(matrix.ravel()), True),
        (Base.AsShotNeutral, "2I", 3, _pairs(neutral), True),
        (Base.BaselineExposure, "2i", 1, (round(baseline * 1000), 1000), True),
        (Base.CalibrationIlluminant1, "H", 1, D65_ILLUMINANT, True),
    ]


def _software(profile: PhoneProfile) -> str:
    """The software the phone runs on: that of its newest scale, "" where none says."""
    scales = [scale for lens in profile.lenses if lens.focus for scale in lens.focus.scales]
    return max((scale.software for scale in scales), default="")


def _dialled(settings: CaptureSettings) -> bytes:
    """White balance and focus as dialled, for which Exif has no tags: JSON, empty where neither."""
    given = {"white_k": settings.white_k, "focus": settings.slider}
    dialled = {name: value for name, value in given.items() if value is not None}
    return json.dumps(dialled).encode("ascii") if dialled else b""


def _white_balance(details: FileDetails) -> int:
    return WHITE_AUTO if details.settings.white_k is None else WHITE_BY_HAND


def _pair(value: float) -> tuple[int, int]:
    fraction = Fraction(value).limit_denominator(20000)
    return fraction.numerator, fraction.denominator


def _pairs(values: NDArray[np.float64]) -> tuple[int, ...]:
    return tuple(part for value in values for part in (round(float(value) * 10000), 10000))
