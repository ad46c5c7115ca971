"""Where each figure of a phone in the making comes from, and its ±."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from oxlen.formats.phone.origin import OriginProfile

Origin = Literal["assumed", "file", "measured", "typed"]


class Origins:
    """Origins by a figure's path, noted while a profile is made."""

    def __init__(self, date: str | None, known: Mapping[str, OriginProfile] | None = None) -> None:
        self._date = date
        self.found: dict[str, OriginProfile] = dict(known or {})

    def from_file(self, path: str, plus_minus: float | None = None) -> None:
        """A figure that files tell."""
        self.note(path, "file", plus_minus)

    def assumed(self, path: str, plus_minus: float | None = None) -> None:
        """A figure that is not known yet."""
        self.note(path, "assumed", plus_minus)

    def typed(self, path: str) -> None:
        """A figure the photographer gave."""
        self.note(path, "typed", None)

    def note(self, path: str, origin: Origin, plus_minus: float | None) -> None:
        """Note where a figure comes from."""
        self.found[path] = OriginProfile(origin=origin, plus_minus=plus_minus, date=self._date)
