"""What the phone's auto mode would likely do, for contrast."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decisions.exposure.ask import glass_stops
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.kit.ladder import Ladder
from oxlen.core.labels import stops_label
from oxlen.core.light.exposure import ev100

HANDS_S = 1 / 60
"""Auto raises ISO before the shutter goes past this: it cannot know what holds it."""
CLEAN_ISO = 1600.0
SAME_STOPS = 0.15
NEAR_STOPS = 0.17
"""Auto comes this near with steps of a third."""
ROUNDED = 1.001
"""Ladders write 1/60 s with few digits."""


@dataclass(frozen=True)
class AutoChoice:
    """Auto's likely pair from its own ladders, and how it differs from the wanted exposure.

    `brighter_stops` is positive where auto would make the picture brighter than wanted.
    """

    metered_ev100: float
    iso: float
    shutter_s: float
    ev100_set: float
    brighter_stops: float
    words: str


def auto_choice(brief: Brief, wanted_ev100: float, metered_ev100: float) -> AutoChoice:
    """Auto's likely pair when its meter reads an EV100 through the filter on the lens.

    A program as most are built: lowest ISO while the shutter is short, then ISO up to a clean one,
    then the shutter up to the hand limit, then ISO, then the shutter to the end of its ladder.
    """
    ladder, lens = brief.mode.auto, brief.lens
    target = metered_ev100 - glass_stops(brief)
    exposures = np.asarray(
        ev100(lens.f_number, ladder.shutter_array[None, :], ladder.iso_array[:, None])
    )
    off = np.abs(exposures - target)
    row, column = _first_near(off, ladder, _programme(brief))
    iso, shutter_s = ladder.iso[int(row)], ladder.shutter_s[int(column)]
    set_ev100 = float(exposures[row, column]) + glass_stops(brief)
    brighter = wanted_ev100 - set_ev100
    return AutoChoice(
        metered_ev100,
        iso,
        shutter_s,
        ev100_set=set_ev100,
        brighter_stops=brighter,
        words=auto_words(brighter),
    )


def auto_words(brighter_stops: float) -> str:
    """How auto differs, in words.

    >>> auto_words(1.8)
    'Auto: 1.8 stops brighter than wanted.'
    """
    if abs(brighter_stops) < SAME_STOPS:
        return "Auto exposes it as wanted."
    side = "brighter" if brighter_stops > 0 else "darker"
    return f"Auto: {stops_label(brighter_stops)} {side} than wanted."


Stage = tuple[float, float, float]
"""Longest shutter (s), lowest and highest ISO."""


def _programme(brief: Brief) -> tuple[Stage, ...]:
    ladder, lens = brief.mode.auto, brief.lens
    hand_s = max(HANDS_S, float(hand_limit_s(lens.focal35_mm, lens.stabiliser_stops)))
    lowest, highest = ladder.iso[0], ladder.iso[-1]
    clean = max((iso for iso in ladder.iso if iso <= CLEAN_ISO), default=lowest)
    return (
        (HANDS_S, lowest, lowest),
        (HANDS_S, lowest, clean),
        (hand_s, clean, clean),
        (hand_s, clean, highest),
        (ladder.shutter_s[-1], highest, highest),
    )


def _first_near(
    off: NDArray[np.float64], ladder: Ladder, programme: tuple[Stage, ...]
) -> tuple[int, int]:
    """Place of the first stage's lowest ISO that comes near; else the nearest pair of all."""
    for longest_s, lowest, highest in programme:
        kept = (ladder.shutter_array <= longest_s * ROUNDED)[None, :] & (
            (ladder.iso_array >= lowest) & (ladder.iso_array <= highest)
        )[:, None]
        near = kept & (off <= NEAR_STOPS)
        if near.any():
            row = int(np.argmax(near.any(axis=1)))
            return row, int(np.argmin(np.where(near[row], off[row], np.inf)))
    nearest = np.unravel_index(int(np.argmin(np.round(off, 6))), off.shape)
    return int(nearest[0]), int(nearest[1])
