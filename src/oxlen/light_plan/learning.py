"""What a place's own pictures teach of its light: how far predictions were off."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.sky.day import day_light
from oxlen.core.sky.place import Place
from oxlen.core.sky.twilight import SPAN_S

LEAST = 3
MAD_SIGMA = 1.4826
FARTHEST_STOPS = 4.0
"""A picture farther off shows a room or a lamp, not the light of the day."""


@dataclass(frozen=True)
class LightLesson:
    """How many stops the light was over what is predicted, its spread, by how many pictures."""

    offset_stops: float
    plus_minus_stops: float
    pictures: int


def light_lesson(place: Place, read: Sequence[tuple[float, float]]) -> LightLesson | None:
    """What readings (seconds since 1970 UTC, EV100 of the frame) say; None for fewer than three.

    The median over those made while the Sun was up.
    """
    off = [stops for stops in (_off(place, at, ev) for at, ev in read) if stops is not None]
    if len(off) < LEAST:
        return None
    middle = float(np.median(off))
    spread = MAD_SIGMA * float(np.median(np.abs(np.array(off) - middle)))
    return LightLesson(middle, spread, len(off))


def _off(place: Place, unix_s: float, ev100: float) -> float | None:
    found = day_light(place, unix_s - SPAN_S / 2)
    height = float(np.interp(unix_s, found.unix_s, found.sun_altitude_deg))
    predicted = float(np.interp(unix_s, found.unix_s, found.ev100["open"]))
    off = ev100 - predicted
    return off if height > 0 and abs(off) <= FARTHEST_STOPS else None
