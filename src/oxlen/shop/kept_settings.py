"""The few facts of a shot that may go along: when and how it was taken, never where or by whom."""

from __future__ import annotations

from fractions import Fraction

from PIL import Image
from PIL.ExifTags import IFD, Base
from PIL.TiffImagePlugin import IFDRational

from oxlen.pictures.exposure_tags import Exposure


def settings_only(exposure: Exposure, title: str) -> Image.Exif:
    """EXIF with title, time, shutter, aperture and ISO, as far as they are known."""
    exif = Image.Exif()
    if title:
        exif[Base.ImageDescription] = title
    shot = exif.get_ifd(IFD.Exif)
    if exposure.taken_at:
        shot[Base.DateTimeOriginal] = exposure.taken_at[:19].replace("-", ":").replace("T", " ")
    if exposure.shutter_s is not None:
        shot[Base.ExposureTime] = _rational(exposure.shutter_s)
    if exposure.f_number is not None:
        shot[Base.FNumber] = _rational(exposure.f_number)
    if exposure.iso is not None:
        shot[Base.ISOSpeedRatings] = round(exposure.iso)
    return exif


def _rational(value: float) -> IFDRational:
    exact = Fraction(value).limit_denominator(1_000_000)
    return IFDRational(exact.numerator, exact.denominator)
