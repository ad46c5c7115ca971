"""What the phone's auto mode would likely do, for contrast."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decide.brief import Brief
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.labels import stops_label
from oxlen.core.light.exposure import ev100
from oxlen.core.units import Real

HANDS_S = 1 / 60
"""Auto lets ISO rise before it lets the shutter go past this: it cannot know what holds it."""
CLEAN_ISO = 1600.0
SAME_STOPS = 0.15


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
    """Auto's likely pair when its meter reads an EV100 through the glass on the lens.

    A program as most are built: lowest ISO while the shutter is short, then ISO up to a clean one,
    then the shutter up to the hand limit, then ISO, then the shutter to the end of its ladder.
    """
    ladder, lens = brief.mode.auto, brief.lens
    target = metered_ev100 - brief.glass_stops
    hand_s = float(hand_limit_s(lens.focal35_mm, lens.stabiliser_stops))
    programme = (
        (HANDS_S, ladder.iso[0]),
        (HANDS_S, CLEAN_ISO),
        (max(HANDS_S, hand_s), CLEAN_ISO),
        (max(HANDS_S, hand_s), ladder.iso[-1]),
        (ladder.shutter_s[-1], ladder.iso[-1]),
    )
    exposures = np.asarray(
        ev100(lens.f_number, ladder.shutter_array[None, :], ladder.iso_array[:, None])
    )
    for longest_s, highest_iso in programme:
        kept = (ladder.shutter_array <= longest_s * 1.001)[None, :] & (
            ladder.iso_array <= highest_iso
        )[:, None]
        off = np.where(kept, np.abs(exposures - target), np.inf)
        row, column = np.unravel_index(int(_least(off)), off.shape)
        if off[row, column] <= ladder.half_step_stops:
            break
    iso, shutter_s = ladder.iso[int(row)], ladder.shutter_s[int(column)]
    set_ev100 = float(exposures[row, column]) + brief.glass_stops
    brighter = wanted_ev100 - set_ev100
    return AutoChoice(metered_ev100, iso, shutter_s, set_ev100, brighter, auto_words(brighter))


def auto_words(brighter_stops: float) -> str:
    """How auto differs, in words.

    >>> auto_words(1.8)
    'Auto would make it 1.8 stops brighter than you want.'
    """
    if abs(brighter_stops) < SAME_STOPS:
        return "Auto would expose it as you want."
    side = "brighter" if brighter_stops > 0 else "darker"
    return f"Auto would make it {stops_label(brighter_stops)} {side} than you want."


def _least(off: Real) -> int:
    """The first of the smallest, rows (low ISO) before columns."""
    return int(np.argmin(np.round(off, 6)))
