"""Which readings still count: spots that are given up, and bright detail that may clip."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import STRATEGY
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, Brief, PlacedReading
from oxlen.core.decisions.sequence.ask import is_bracketed


def spot_key(readings: Sequence[PlacedReading], reading: PlacedReading) -> str:
    """What a spot is called in files: its name, else its role and its number among those alike.

    >>> spots = [PlacedReading("keep-dark", -2.0), PlacedReading("keep-dark", -4.0)]
    >>> spot_key(spots, spots[1])
    'keep-dark 2'
    """
    if reading.name:
        return reading.name
    alike = [placed for placed in readings if placed.role == reading.role and not placed.name]
    # In light that has changed the readings are made anew each time: equal, not the same.
    same = [at for at, placed in enumerate(alike) if placed is reading] or [alike.index(reading)]
    return f"{reading.role} {same[0] + 1}"


def is_given_up(brief: Brief, reading: PlacedReading) -> bool:
    """Whether a spot may land anywhere; never all of them: something has to be exposed for."""
    given_up = set(brief[STRATEGY].given_up)
    if not given_up:
        return False
    counting = [
        placed for placed in brief.readings if placed.role != KEEP_BRIGHT or keeps_brightest(brief)
    ]
    keys = {spot_key(brief.readings, placed) for placed in counting}
    return not keys <= given_up and spot_key(brief.readings, reading) in given_up


def with_given_up(brief: Brief, *readings: PlacedReading) -> Brief:
    """The brief with some spots given up besides those that are."""
    strategy = brief[STRATEGY]
    keys = [spot_key(brief.readings, reading) for reading in readings]
    more = tuple(key for key in dict.fromkeys(keys) if key not in strategy.given_up)
    return brief.asking(STRATEGY, replace(strategy, given_up=(*strategy.given_up, *more)))


def keeps_brightest(brief: Brief) -> bool:
    """Whether this very exposure must keep the brightest detail."""
    return not brief[STRATEGY].let_clip and not is_bracketed(brief)


def kept_readings(brief: Brief) -> tuple[PlacedReading, ...]:
    """The readings that count for the exposure.

    Bright detail is left out where it may clip, and where another frame of a bracket keeps it;
    any spot that is given up is left out.
    """
    return brief.memo.of(_kept_readings)


def _kept_readings(brief: Brief) -> tuple[PlacedReading, ...]:
    kept = tuple(reading for reading in brief.readings if not is_given_up(brief, reading))
    if keeps_brightest(brief):
        return kept
    return tuple(reading for reading in kept if reading.role != KEEP_BRIGHT)
