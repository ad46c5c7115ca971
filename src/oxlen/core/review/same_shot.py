"""Whether two files are of one shot: its RAW and what the phone made of it."""

from __future__ import annotations

import math
from dataclasses import dataclass

APART_S = 2.0
SAME_STOPS = 0.1


@dataclass(frozen=True)
class FileOfShot:
    """A file by its name, kind, and what it says of its shot; None = not given."""

    name: str
    is_raw: bool
    iso: float | None = None
    shutter_s: float | None = None
    taken_s: float | None = None

    @property
    def stem(self) -> str:
        """Its name without its ending, whatever the case."""
        stem, dot, _ = self.name.rpartition(".")
        return (stem if dot else self.name).casefold()


def is_same_shot(file: FileOfShot, other: FileOfShot) -> bool:
    """Whether one is the RAW of the other: taken within two seconds at the same settings.

    Where a time is left out their names must be the same but for the ending; a time that differs,
    or settings that do, make them two shots whatever they are called.

    >>> raw = FileOfShot("IMG_7.dng", True, 50, 0.01, 100.0)
    >>> is_same_shot(raw, FileOfShot("IMG_7.jpg", False, 50, 0.01, 100.0))
    True
    """
    if file.is_raw == other.is_raw:
        return False
    if not _same(file.iso, other.iso) or not _same(file.shutter_s, other.shutter_s):
        return False
    if file.taken_s is None or other.taken_s is None:
        return file.stem == other.stem
    return abs(file.taken_s - other.taken_s) <= APART_S


def _same(value: float | None, other: float | None) -> bool:
    return value is None or other is None or abs(math.log2(value / other)) <= SAME_STOPS
