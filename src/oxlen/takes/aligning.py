"""A take aligned with the picture it was planned by, and its spots there."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import PixelsUnreadable
from oxlen.core.frames.alignment import Alignment, aligned
from oxlen.core.light.meter import FrameTone, Spot, SpotTone, frame_tone, spot_tone
from oxlen.core.review.light_ratio import light_ratio_stops
from oxlen.core.review.skyline import Skyline, skyline
from oxlen.core.review.take_check import LOST_SHARE
from oxlen.core.review.take_seen import SeenSpot
from oxlen.pictures.exposure_tags import Exposure
from oxlen.pictures.opening import open_picture

Floats = NDArray[np.float32]
SMALL_PX = 1200
NOT_ALIGNED = (
    "The take could not be aligned with the planning picture. Spots are read at their old "
    "positions, so level and tones are less certain."
)
NO_REFERENCE = "Without the planning picture, blur is judged from the take alone."


@dataclass(frozen=True)
class TakeAlignment:
    """How a take aligns with the picture it was planned by, and what that one shows.

    `base` is its luminance, `mid_stops` what to add to the log2 of that for stops from mid, `tones`
    the spots' in it, `ev100_set` what it was exposed for; `where` None where the take could not be
    aligned with it. `small` and `small_where` are the same of both shrunk: enough for light and
    lines.
    """

    where: Alignment | None = None
    base: Floats | None = None
    small: Floats | None = None
    small_where: Alignment | None = None
    mid_stops: float = 0.0
    tones: Mapping[str, SpotTone] = field(default_factory=dict)
    sky: Skyline | None = None
    ev100_set: float | None = None
    note: str = ""

    def moved(self, spot: Spot) -> Spot:
        """A spot of the reference where it is in the take; kept within it."""
        if self.where is None:
            return spot
        x, y = self.where.place(spot.x, spot.y)
        return Spot(spot.name, min(max(x, 0.0), 1.0), min(max(y, 0.0), 1.0), r=spot.r)

    def gained_stops(self, light: Floats, frame: FrameTone) -> float | None:
        """How much brighter the take is than the picture planned by, in stops from mid of each.

        `light` is the take's luminance, shrunk.
        """
        if self.small_where is None or self.small is None:
            return None
        ratio = light_ratio_stops(self.small, light, self.small_where)
        return None if ratio is None else ratio + mid_stops(frame, light) - self.mid_stops

    def reckoned(self, spot: SeenSpot, gained_stops: float | None) -> SeenSpot:
        """A lost spot by its tone in the picture planned by and what the whole frame gained."""
        was = self.tones.get(spot.name)
        if was is None or gained_stops is None:
            return spot
        if max(spot.clipped_share, spot.blocked_share) <= LOST_SHARE:
            return spot
        if was.clipped_share > LOST_SHARE or was.state == "blocked":
            return spot
        stops = was.stops_from_mid + gained_stops
        # A spot's own pixels tell at least how far it is clipped, or black, whatever the rest says.
        is_clipped = spot.clipped_share > LOST_SHARE
        if (stops < spot.stops) if is_clipped else (stops > spot.stops):
            return replace(spot, is_alone=True)
        return replace(spot, stops=stops, is_reckoned=True)


def aligned_take(
    light: Floats, small: Floats, reference: tuple[Path, str] | None, *, spots: Sequence[Spot]
) -> TakeAlignment:
    """A take's luminance (h, w), whole and shrunk, aligned with a reference, if readable."""
    if reference is None:
        return TakeAlignment(note=NO_REFERENCE)
    try:
        with open_picture(*reference) as planned_by:
            base = planned_by.luminance()
            frame = frame_tone(planned_by.pixels.sample())
            tones = {spot.name: spot_tone(planned_by.spot(spot)) for spot in spots}
            exposed_for = set_ev100(planned_by.exposure)
    except (PixelsUnreadable, OSError):
        return TakeAlignment(note=NO_REFERENCE)
    less = shrunk(base, SMALL_PX)
    where = aligned(less, small)
    return TakeAlignment(
        None if where is None else where.resized(base.shape[::-1], light.shape[::-1]),
        base,
        small=less,
        small_where=where,
        mid_stops=mid_stops(frame, less),
        tones=tones,
        sky=skyline(less),
        ev100_set=exposed_for,
        note="" if where is not None else NOT_ALIGNED,
    )


def set_ev100(exposure: Exposure) -> float | None:
    """What a file was exposed for (EV100); None where it does not say its settings."""
    settings = exposure.settings
    return None if settings is None else settings.ev100


def shrunk(light: Floats, side_px: int) -> Floats:
    """A picture's luminance (h, w), its longer side at most so many pixels."""
    scale = side_px / max(light.shape)
    if scale >= 1:
        return light
    size = (max(1, round(light.shape[1] * scale)), max(1, round(light.shape[0] * scale)))
    return np.asarray(cv2.resize(light, size, interpolation=cv2.INTER_AREA), np.float32)


def mid_stops(frame: FrameTone, light: Floats) -> float:
    """What to add to the log2 of a picture's luminance for stops from mid."""
    return frame.mean_stops - math.log2(max(float(light.mean()), 1e-9))
