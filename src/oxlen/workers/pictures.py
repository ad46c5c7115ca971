"""Kept pictures as the server sees them: measured in a worker, each figure asked for once."""

from __future__ import annotations

from functools import lru_cache

from oxlen.core.colour.tone_colour import ToneColour
from oxlen.core.errors import WorkFailed
from oxlen.core.light.meter import Spot, SpotTone
from oxlen.core.light.patterns import FrameLight
from oxlen.formats.picture_report import PictureReport
from oxlen.metering.picture_cache import kept_report
from oxlen.store.library import Library
from oxlen.workers import worker_tasks
from oxlen.workers.worker_pool import WorkerPool

MOST_SPOTS, MOST_FRAMES = 5000, 100
"""Figures remembered: a kept picture is named by its content, so they never change."""


class PicturesInWorkers:
    """Kept pictures by content hash; none of their pixels are in this process."""

    def __init__(self, library: Library, pool: WorkerPool) -> None:
        self._library, self._pool = library, pool
        self._spot_tones = lru_cache(MOST_SPOTS)(self._spot_tone)
        self._tone_colours = lru_cache(MOST_SPOTS)(self._tone_colour)
        self._frame_lights = lru_cache(MOST_FRAMES)(self._frame_light)

    # A worker that died makes a picture as good as unreadable, so that its sheet still opens; that
    # is not remembered: the next time it is asked again.

    def spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        """The tone of a spot; None where the pixels cannot be read."""
        try:
            return self._spot_tones(sha256, spot)
        except WorkFailed:
            return None

    def tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:
        """The colour of a spot; None where the pixels cannot be read."""
        try:
            return self._tone_colours(sha256, spot)
        except WorkFailed:
            return None

    def frame_light(self, sha256: str) -> FrameLight | None:
        """The light of the whole frame; None where the pixels cannot be read."""
        try:
            return self._frame_lights(sha256)
        except WorkFailed:
            return None

    def report(self, sha256: str) -> PictureReport:
        """The stored reading of a picture, with a note where its file is gone."""
        return kept_report(self._library, sha256)

    def _spot_tone(self, sha256: str, spot: Spot) -> SpotTone | None:
        return self._pool.do("bench", worker_tasks.spot_tone, self._library.folder, sha256, spot)

    def _tone_colour(self, sha256: str, spot: Spot) -> ToneColour | None:
        return self._pool.do("bench", worker_tasks.tone_colour, self._library.folder, sha256, spot)

    def _frame_light(self, sha256: str) -> FrameLight | None:
        return self._pool.do("bench", worker_tasks.frame_light, self._library.folder, sha256)
