"""Kept pictures at hand: decoded pixels stay open for a while, bounded in memory."""

from __future__ import annotations

import json
from collections import OrderedDict
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, field
from threading import Lock
from typing import Protocol

import numpy as np

from oxlen.core.colour.tone_colour import ToneColour, raw_tone
from oxlen.core.errors import NotFound, PictureError, PixelsUnreadable
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.meter import Spot, SpotTone, spot_tone
from oxlen.core.light.patterns import FrameLight, frame_light
from oxlen.formats.picture_report import PictureReport
from oxlen.pictures.opening import Picture, open_picture
from oxlen.store.library import Library
from oxlen.store.pictures import kept_picture

MAX_OPEN_BYTES = 250_000_000
"""Memory of all pictures kept decoded together; the one opened last always stays."""
MAX_SPOTS_REMEMBERED = 500
MOST_CLIPPED = 0.5
FILE_GONE = "This picture's file is missing from the library. Only what was read at import is left."


@dataclass
class OpenPicture:
    """A picture with its pixels at hand, the spots already read, and how many are using it."""

    picture: Picture
    closing: ExitStack
    tones: dict[Spot, SpotTone] = field(default_factory=dict)
    light: FrameLight | None = None
    lock: Lock = field(default_factory=Lock)
    users: int = 0


class MeteredPictures(Protocol):
    """Kept pictures that can be measured, here or in another process."""

    def report(self, sha256: str) -> PictureReport:
        """The stored reading of a picture."""

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        """Tone under a spot of a kept picture; None when its pixels cannot be metered."""

    def frame_light(self, sha256: str) -> FrameLight | None:
        """Cells and histogram of a kept picture; None when its pixels cannot be metered."""

    def tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:
        """Colour under a spot of a kept picture; None where it is lost to black or white."""


class NoPictures:
    """For sheets that rest on readings alone: NotFound for any picture."""

    def report(self, sha256: str) -> PictureReport:
        """There is none."""
        raise _no_picture(sha256)

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        """There is none."""
        raise _no_picture(sha256, spot.name)

    def frame_light(self, sha256: str) -> FrameLight | None:
        """There is none."""
        raise _no_picture(sha256)

    def tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:
        """There is none."""
        raise _no_picture(sha256, spot.name)


def _no_picture(sha256: str, spot: str = "") -> NotFound:
    return NotFound("No pictures here.", picture=sha256, spot=spot)


def kept_report(library: Library, sha256: str) -> PictureReport:
    """The stored reading of a picture, with a note where its file is gone."""
    with library.reader() as connection:
        kept = kept_picture(connection, sha256)
    report = PictureReport.model_validate(json.loads(kept.report))
    if library.picture_path(sha256).is_file():
        return report
    return report.model_copy(update={"notes": [*report.notes, FILE_GONE]})


def _tone_colour(picture: Picture, spot: Spot) -> ToneColour | None:
    patch = picture.patch(spot)
    if patch.clipped_share > MOST_CLIPPED or not np.all(patch.colour > 0):
        return None
    if picture.facts.kind == "raw":
        return raw_tone(patch.colour, picture.source.matrices)
    red, green, blue = (float(channel) for channel in patch.colour)
    return ToneColour((red, green, blue), picture.exposure.white_k)


class PictureCache:
    """Open pictures by content hash; the one that was used longest ago is closed first."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._open: OrderedDict[str, OpenPicture] = OrderedDict()
        self._lock = Lock()

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        """Tone under a spot of a kept picture; None when its pixels cannot be metered."""
        try:
            with self._in_use(sha256) as entry:
                if spot not in entry.tones:
                    tone = spot_tone(entry.picture.spot(spot))
                    if len(entry.tones) >= MAX_SPOTS_REMEMBERED:
                        entry.tones.clear()
                    entry.tones[spot] = tone
                return entry.tones[spot]
        except PictureError:
            return None

    def frame_light(self, sha256: str) -> FrameLight | None:
        """Cells and histogram of a kept picture; None when its pixels cannot be metered."""
        try:
            with self._in_use(sha256) as entry:
                if entry.light is None:
                    tones = entry.picture.pixels.sample(strongest=True)
                    rows = (-1, tones.row_length or 1)
                    strongest = None if tones.strongest is None else tones.strongest.reshape(rows)
                    entry.light = frame_light(tones.luminance.reshape(rows), strongest)
                return entry.light
        except PictureError:
            return None

    def tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:
        """Colour under a spot of a kept picture; None where it is lost to black or white."""
        try:
            with self._in_use(sha256) as entry:
                return _tone_colour(entry.picture, spot)
        except PictureError:
            return None

    def small_light(self, sha256: str, side_px: int) -> LinearPicture:
        """A kept picture upright as light, its longer side at most `side_px`."""
        with self._in_use(sha256) as entry:
            return entry.picture.light(side_px)

    def report(self, sha256: str) -> PictureReport:
        """The stored reading of a picture, with a note where its file is gone."""
        return kept_report(self._library, sha256)

    def close(self) -> None:
        """Release every picture."""
        with self._lock:
            for entry in self._open.values():
                entry.closing.close()
            self._open.clear()

    @contextmanager
    def _in_use(self, sha256: str) -> Iterator[OpenPicture]:
        """A picture that stays open, and is worked on by one at a time, until it is given back."""
        entry = self._opened(sha256)
        try:
            with entry.lock:
                yield entry
        finally:
            with self._lock:
                entry.users -= 1
                self._close_surplus()

    def _opened(self, sha256: str) -> OpenPicture:
        with self._lock:
            if sha256 not in self._open:
                closing = ExitStack()
                path = self._library.picture_path(sha256)
                if not path.is_file():
                    raise PixelsUnreadable(sha256[:8], "its file is missing from the library.")
                picture = closing.enter_context(open_picture(path, sha256[:8]))
                self._open[sha256] = OpenPicture(picture, closing)
            self._open.move_to_end(sha256)
            entry = self._open[sha256]
            # Counted before the lock is given up, so that nobody closes it in between.
            entry.users += 1
            self._close_surplus()
            return entry

    def _close_surplus(self) -> None:
        for sha256, entry in list(self._open.items())[:-1]:
            if sum(opened.picture.pixel_bytes for opened in self._open.values()) <= MAX_OPEN_BYTES:
                break
            if entry.users == 0:
                del self._open[sha256]
                entry.closing.close()
