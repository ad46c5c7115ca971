"""EXIF values as numbers one can trust: tags come from the decoders, sense is made here."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL.ExifTags import Base

from oxlen.core.light.exposure import (
    ExposureSettings,
    believable_brightness_ev100,
)

ISO_TAG_FULL = 65535  # PhotographicSensitivity when the speed does not fit 16 bits (CIPA DC-008)
UNKNOWN_NUMERATOR = 0xFFFFFFFF  # BrightnessValue "unknown" (CIPA DC-008)
MAX_TEXT = 80
ASCII_COMMENT = b"ASCII\0\0\0"

ISO_SPEEDS = (Base.ISOSpeed, Base.RecommendedExposureIndex, Base.StandardOutputSensitivity)


@dataclass(frozen=True)
class Exposure:
    """What a file says of how it was taken; None where it does not, or cannot be believed."""

    make: str | None = None
    model: str | None = None
    lens: str | None = None
    iso: float | None = None
    shutter_s: float | None = None
    f_number: float | None = None
    focal_mm: float | None = None
    focal35_mm: float | None = None
    brightness_value: float | None = None
    taken_at: str | None = None
    white_balance: str | None = None
    white_k: float | None = None
    focus_slider: float | None = None
    software: str | None = None
    orientation: int = 1
    notes: tuple[str, ...] = field(default=())

    @property
    def settings(self) -> ExposureSettings | None:
        """ISO, shutter and f-number together, when all three are known."""
        if self.iso is None or self.shutter_s is None or self.f_number is None:
            return None
        return ExposureSettings(self.iso, self.shutter_s, self.f_number)

    @property
    def brightness_ev100(self) -> float | None:
        """EV100 the phone's meter saw, when its brightness value can be believed."""
        settings = self.settings
        return believable_brightness_ev100(
            self.brightness_value, settings.ev100 if settings else None
        )

    @property
    def says_anything(self) -> bool:
        """Whether any exposure figure could be read."""
        return any(
            v is not None for v in (self.iso, self.shutter_s, self.f_number, self.brightness_value)
        )

    @property
    def missing(self) -> tuple[str, ...]:
        """Which of ISO, shutter and f-number the file does not give."""
        named = {"ISO": self.iso, "shutter": self.shutter_s, "f-number": self.f_number}
        return tuple(name for name, value in named.items() if value is None)


def exposure_from_tags(tags: Mapping[int, Any]) -> Exposure:
    """Make sense of EXIF tags by number: wrong types and absurd values become None with a note."""
    notes: list[str] = []
    brightness = number(tags.get(Base.BrightnessValue))
    dialled = _dialled(tags.get(Base.UserComment))
    return Exposure(
        make=text(tags.get(Base.Make)),
        model=text(tags.get(Base.Model)),
        lens=text(tags.get(Base.LensModel)),
        iso=_iso(tags, notes),
        shutter_s=_shutter_s(tags, notes),
        f_number=_f_number(tags, notes),
        focal_mm=_within(number(tags.get(Base.FocalLength)), 0.1, 5000),
        focal35_mm=_within(number(tags.get(Base.FocalLengthIn35mmFilm)), 1, 10000),
        brightness_value=_within(brightness, -30, 30),
        taken_at=_taken_at(tags),
        white_balance=_white_balance(tags.get(Base.WhiteBalance)),
        white_k=_within(number(dialled.get("white_k")), 1000, 25_000),
        focus_slider=_within(number(dialled.get("focus")), -1e6, 1e6),
        software=text(tags.get(Base.Software)),
        orientation=int(_within(number(tags.get(Base.Orientation)), 1, 8) or 1),
        notes=tuple(notes),
    )


def _dialled(comment: Any) -> Mapping[str, Any]:
    """What a phone writes of its dials where Exif has no tag for them: JSON in the comment."""
    if isinstance(comment, bytes):
        comment = comment.removeprefix(ASCII_COMMENT)
    words = text(comment) or ""
    if not words.startswith("{"):
        return {}
    try:
        found = json.loads(words)
    except ValueError:
        return {}
    return found if isinstance(found, dict) else {}


def number(value: Any) -> float | None:
    """A tag's value as a finite number; None for text, x/0, empty lists and anything else."""
    if isinstance(value, tuple | list):
        if len(value) == 2 and all(isinstance(v, int) for v in value):
            return None if value[1] == 0 or value[0] == UNKNOWN_NUMERATOR else value[0] / value[1]
        return number(value[0]) if value else None
    if isinstance(value, bool | str | bytes) or value is None:
        return None
    try:
        if getattr(value, "numerator", None) == UNKNOWN_NUMERATOR:
            return None
        found = float(value)
    except (TypeError, ValueError, ZeroDivisionError, OverflowError):
        return None
    return found if math.isfinite(found) else None


def text(value: Any) -> str | None:
    """A tag's value as printable text of at most 80 characters, or None."""
    if isinstance(value, bytes):
        value = value.decode("utf-8", "replace")
    if not isinstance(value, str):
        return None
    cleaned = "".join(c for c in value.split("\0")[0] if c.isprintable()).strip()
    return cleaned[:MAX_TEXT] or None


def _iso(tags: Mapping[int, Any], notes: list[str]) -> float | None:
    iso = number(tags.get(Base.ISOSpeedRatings))
    if iso is None or iso == ISO_TAG_FULL:
        further = (number(tags.get(tag)) for tag in ISO_SPEEDS)
        iso = next((value for value in further if value), iso)
    return _checked(iso, 1, 1e7, name="ISO", notes=notes)


def _shutter_s(tags: Mapping[int, Any], notes: list[str]) -> float | None:
    shutter = _within(number(tags.get(Base.ExposureTime)), 1e-7, 1e5)
    if shutter is None:
        apex = _within(number(tags.get(Base.ShutterSpeedValue)), -17, 24)
        shutter = None if apex is None else 2.0**-apex
    if shutter is None and Base.ExposureTime in tags:
        notes.append("its exposure time is not valid and was ignored")
    return shutter


def _f_number(tags: Mapping[int, Any], notes: list[str]) -> float | None:
    f_number = _within(number(tags.get(Base.FNumber)), 0.3, 128)
    if f_number is None:
        apex = _within(number(tags.get(Base.ApertureValue)), -3, 14)
        f_number = None if apex is None else 2.0 ** (apex / 2)
    if f_number is None and Base.FNumber in tags:
        notes.append("its f-number is not valid and was ignored")
    return f_number


def _checked(
    value: float | None, low: float, high: float, *, name: str, notes: list[str]
) -> float | None:
    inside = _within(value, low, high)
    if value is not None and inside is None:
        notes.append(f"its {name} of {value:g} is not valid and was ignored")
    return inside


def _within(value: float | None, low: float, high: float) -> float | None:
    return value if value is not None and low <= value <= high else None


def _taken_at(tags: Mapping[int, Any]) -> str | None:
    """EXIF "2026:05:04 09:12:00" as ISO 8601, with its offset when the file gives one."""
    stamp = text(tags.get(Base.DateTimeOriginal))
    if stamp is None or len(stamp) < 19 or not stamp[:4].isdigit():
        return None
    offset = text(tags.get(Base.OffsetTimeOriginal)) or ""
    return stamp[:10].replace(":", "-") + "T" + stamp[11:19] + offset


def _white_balance(value: Any) -> str | None:
    return (
        {0: "auto", 1: "set manually"}.get(int(number(value) or 0)) if value is not None else None
    )


def numbers(value: Any) -> NDArray[np.float64]:
    """A tag's rationals or numbers as an array; empty when it is something else."""
    if value is None or isinstance(value, str | bytes):
        return np.array([])
    flat = np.atleast_1d(np.asarray(value, dtype=float))
    if flat.size in (6, 18):  # numerators and denominators in turn
        with np.errstate(divide="ignore", invalid="ignore"):
            flat = flat[0::2] / flat[1::2]
    return flat if np.all(np.isfinite(flat)) else np.array([])
