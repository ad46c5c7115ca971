"""Metering a kept picture again and again: decoded pixels stay at hand for a while."""

from __future__ import annotations

import json
from collections import OrderedDict
from contextlib import ExitStack
from dataclasses import dataclass, field
from threading import Lock
from typing import Any

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.meter import Spot, SpotTone, spot_tone
from oxlen.core.light.patterns import FrameLight, frame_light
from oxlen.pictures.reading import Picture, open_picture
from oxlen.store.library import Library
from oxlen.store.pictures import kept_picture

MAX_OPEN_PIXELS = 80_000_000
"""Pixels of all pictures kept decoded together; the one in use always stays."""
MAX_SPOTS_REMEMBERED = 500


@dataclass
class OpenPicture:
    """A picture with its pixels at hand and the spots already read."""

    picture: Picture
    closing: ExitStack
    tones: dict[Spot, SpotTone] = field(default_factory=dict)
    light: FrameLight | None = None
    lock: Lock = field(default_factory=Lock)


class MeterRoom:
    """Open pictures by content hash, the least lately used let go first."""

    def __init__(self, library: Library) -> None:
        self._library = library
        self._open: OrderedDict[str, OpenPicture] = OrderedDict()
        self._lock = Lock()

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        """Tone under a spot of a kept picture; None when its pixels cannot be metered."""
        held = self._opened(sha256)
        with held.lock:
            if spot not in held.tones:
                try:
                    tone = spot_tone(held.picture.spot(spot))
                except PixelsUnreadable:
                    return None
                if len(held.tones) >= MAX_SPOTS_REMEMBERED:
                    held.tones.clear()
                held.tones[spot] = tone
            return held.tones[spot]

    def frame_light(self, sha256: str) -> FrameLight | None:
        """Cells and histogram of a kept picture; None when its pixels cannot be metered."""
        held = self._opened(sha256)
        with held.lock:
            if held.light is None:
                try:
                    tones = held.picture.pixels.sample(strongest=True)
                except PixelsUnreadable:
                    return None
                rows = (-1, tones.row_length or 1)
                strongest = None if tones.strongest is None else tones.strongest.reshape(rows)
                held.light = frame_light(tones.luminance.reshape(rows), strongest)
            return held.light

    def small_light(self, sha256: str, side_px: int) -> LinearPicture:
        """A kept picture upright as light, its longer side at most `side_px`."""
        held = self._opened(sha256)
        with held.lock:
            return held.picture.light(side_px)

    def report(self, sha256: str) -> dict[str, Any]:
        """The stored reading of a picture."""
        with self._library.reader() as connection:
            report: dict[str, Any] = json.loads(kept_picture(connection, sha256).report)
        return report

    def close(self) -> None:
        """Let go of every picture."""
        with self._lock:
            for held in self._open.values():
                held.closing.close()
            self._open.clear()

    def _opened(self, sha256: str) -> OpenPicture:
        with self._lock:
            if sha256 not in self._open:
                closing = ExitStack()
                path = self._library.picture_path(sha256)
                picture = closing.enter_context(open_picture(path, sha256[:8]))
                self._open[sha256] = OpenPicture(picture, closing)
            self._open.move_to_end(sha256)
            self._let_go()
            return self._open[sha256]

    def _let_go(self) -> None:
        def pixels(held: OpenPicture) -> int:
            return (held.picture.facts.width or 0) * (held.picture.facts.height or 0)

        while len(self._open) > 1 and sum(map(pixels, self._open.values())) > MAX_OPEN_PIXELS:
            _, held = self._open.popitem(last=False)
            with held.lock:
                held.closing.close()
