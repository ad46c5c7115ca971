"""What blocks a slip, in words."""

from __future__ import annotations

from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, Brief, PlacedReading
from oxlen.core.decisions.framework.limit import EXPOSURE, SHUTTER, Axis, Limit
from oxlen.core.decisions.solver.tones import place_stops, spoken_spot, spot_name, wanted_of
from oxlen.core.labels import sentence_case, stops_label, time_label, two_digits


def apart_words(brief: Brief, dark: PlacedReading, bright: PlacedReading) -> str:
    """How far two spots are from having both what was asked of them."""
    guarded = bright.role == KEEP_BRIGHT and wanted_of(brief, bright) is None
    headroom = brief.mode.headroom_stops(brief[FORMAT])
    kept_ev100 = bright.clips_as_ev100 - headroom if guarded else _asks_for_ev100(brief, bright)
    darker = kept_ev100 - _asks_for_ev100(brief, dark)
    if guarded:
        return (
            f"{sentence_case(spoken_spot(dark))}: {stops_label(darker)} darker than wanted, to "
            f"hold {spoken_spot(bright)}."
        )
    both = f"{spoken_spot(dark)} and {spoken_spot(bright)}"
    if spoken_spot(dark) == spoken_spot(bright):
        both = f"two spots marked {spot_name(dark).lower()}"
    return (
        f"{sentence_case(both)} need exposures {stops_label(darker)} apart. One frame cannot "
        "give both their wanted tone."
    )


def _asks_for_ev100(brief: Brief, reading: PlacedReading) -> float:
    tone = wanted_of(brief, reading)
    return reading.ev100 - (place_stops(brief, reading) if tone is None else tone.stops)


def crossed_words(low: Limit, high: Limit) -> str:
    """Two shutters that are asked for at once, each with what asks for it."""
    return f"{sentence_case(low_words(low))}; {high_words(high)}."


def low_words(limit: Limit) -> str:
    """A lower bound within a sentence."""
    value = _worded(limit.axis, limit.low or 1.0)
    return limit.low_words or f"“{limit.name}” needs {value} or more"


def high_words(limit: Limit) -> str:
    """An upper bound within a sentence."""
    value = _worded(limit.axis, limit.high or 1.0)
    return limit.high_words or f"“{limit.name}” allows {value} at most"


def begins_words(limit: Limit) -> str:
    """What keeps an exposure from being less bright."""
    if limit.axis == EXPOSURE:
        return "the brightest detail must keep texture"
    return low_words(limit)


def _worded(axis: Axis, value: float) -> str:
    return time_label(value) if axis == SHUTTER else f"ISO {two_digits(value)}"
