"""A picture's reading in its published form: the fields of `oxlen meter` and of the API."""

from __future__ import annotations

from typing import Any

from oxlen.core.light.meter import FrameTone
from oxlen.pictures.reading import PictureReading, SpotReading


def reading_report(reading: PictureReading) -> dict[str, Any]:
    """Plain data of a reading; None where something is unknown.

    Place, owner and serial tags are not among the fields, and never leave the file.
    """
    exposure, settings = reading.exposure, reading.settings
    return {
        "file": dict(vars(reading.file)),
        "camera": {
            "make": exposure.make,
            "model": exposure.model,
            "lens": exposure.lens,
            "software": exposure.software,
        },
        "settings": {
            "iso": exposure.iso,
            "shutter_s": exposure.shutter_s,
            "f_number": exposure.f_number,
            "focal_mm": exposure.focal_mm,
            "focal35_mm": exposure.focal35_mm,
            "ev100": settings.ev100 if settings else None,
        },
        "taken_at": exposure.taken_at,
        "white_balance": exposure.white_balance,
        "brightness_ev100": exposure.brightness_ev100,
        "frame": _frame(reading, reading.frame) if reading.frame else None,
        "spots": [_spot(spot) for spot in reading.spots],
        "confidence": reading.confidence,
        "missing": list(exposure.missing),
        "notes": list(reading.notes),
    }


def _frame(reading: PictureReading, frame: FrameTone) -> dict[str, Any]:
    return {
        "mean_ev100": reading.ev100_of(frame.mean_stops),
        "p01_ev100": reading.ev100_of(frame.p01_stops),
        "p50_ev100": reading.ev100_of(frame.p50_stops),
        "p99_ev100": reading.ev100_of(frame.p99_stops),
        "clipped_share": frame.clipped_share,
        "blocked_share": frame.blocked_share,
        "mean_stops": frame.mean_stops,
        "p01_stops": frame.p01_stops,
        "p50_stops": frame.p50_stops,
        "p99_stops": frame.p99_stops,
    }


def _spot(reading: SpotReading) -> dict[str, Any]:
    spot, tone = reading.spot, reading.tone
    return {
        "name": spot.name,
        "x": spot.x,
        "y": spot.y,
        "r": spot.r,
        "ev100": reading.ev100,
        "luminance_cd_m2": reading.luminance_cd_m2,
        "stops_from_mid": tone.stops_from_mid if tone else None,
        "spread_stops": [tone.p05_stops, tone.p95_stops] if tone else None,
        "clipped_share": tone.clipped_share if tone else None,
        "state": tone.state if tone else None,
        "channel_stops": tone.channel_stops if tone else None,
    }
