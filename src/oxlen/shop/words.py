"""What is off in a picture of a series, in a few words each."""

from __future__ import annotations

from oxlen.core.labels import signed
from oxlen.core.series.comparing import Reason
from oxlen.formats.shop_series import SeriesFileChecked

COLOUR_SEEN_MIRED = 3.0
"""Own choice: under this a cast is called by its colour difference, not by its warmth."""


def reason_words(found: SeriesFileChecked, reason: Reason) -> str:
    """One reason with its size: "0.5 stop darker"."""
    return {
        "exposure": _exposure,
        "colour": _colour,
        "scale": _scale,
        "shift": lambda each: f"{100 * (each.shift or 0):.0f} % off its place",
        "tilt": _tilt,
        "sharpness": lambda each: f"{1 / max(each.sharpness or 1, 0.05):.1f}× softer",
        "clipped": lambda each: f"{100 * (each.clipped_share or 0):.1f} % clipped",
        "background": _background,
    }[reason](found)


def _exposure(found: SeriesFileChecked) -> str:
    stops = found.exposure_stops or 0
    unit = "stops" if abs(stops) >= 1.05 else "stop"
    return f"{abs(stops):.1f} {unit} {_way(stops, 'brighter', 'darker')}"


def _colour(found: SeriesFileChecked) -> str:
    warmth = found.mired or 0
    if abs(warmth) >= COLOUR_SEEN_MIRED:
        return f"{abs(warmth):.0f} mired {_way(warmth, 'warmer', 'cooler')}"
    return f"{_way(found.tint or 0, 'greener', 'more magenta')}, ΔE {found.delta_e or 0:.1f}"


def _scale(found: SeriesFileChecked) -> str:
    percent = 100 * ((found.scale or 1) - 1)
    return f"{abs(percent):.0f} % {_way(percent, 'larger', 'smaller')}"


def _tilt(found: SeriesFileChecked) -> str:
    return f"{signed(found.tilt_deg or 0, 1)}° tilted"


def _background(found: SeriesFileChecked) -> str:
    stops = found.background_stops or 0
    return f"background uneven by {stops:.1f} stop" if stops >= 0.2 else "dirt on the background"


def _way(value: float, more: str, less: str) -> str:
    return more if value > 0 else less
