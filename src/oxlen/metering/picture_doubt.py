"""How far the light read from a picture may be off."""

from __future__ import annotations

from oxlen.core.light.reading import combined_plus_minus
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.picture_report import PictureReport

RAW_PLUS_MINUS, PROCESSED_PLUS_MINUS = 0.15, 0.5
RAW_WHY = "linear raw; the phone's own meter offset is the larger doubt"
PROCESSED_WHY = "a processed file is tone-mapped, so its light is approximate"
PictureDoubt = tuple[float, str]
"""How far the light of a picture may be off (stops), and why."""


def picture_doubt(report: PictureReport, profile: PhoneProfile) -> PictureDoubt:
    """What a picture's kind and its phone's meter leave open."""
    raw = report.file.kind == "raw"
    own = RAW_PLUS_MINUS if raw else PROCESSED_PLUS_MINUS
    stops = combined_plus_minus(own, profile.meter_plus_minus_stops)
    return stops, RAW_WHY if raw else PROCESSED_WHY
