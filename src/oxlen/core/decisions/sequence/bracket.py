"""Whether a scene's range fits in one frame, and the bracket that takes it in when it does not."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.framework.brief import (
    KEEP_BRIGHT,
    KEEP_DARK,
    NEUTRAL,
    SUBJECT,
    Brief,
    PlacedReading,
)
from oxlen.core.decisions.sequence.ask import frames_averaged
from oxlen.core.decisions.solver.snr import output_gain
from oxlen.core.decisions.solver.tones import place_stops
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.labels import stops_label
from oxlen.core.light.placement import placed_ev100
from oxlen.core.light.tone import srgb_to_linear, stops_from_mid
from oxlen.core.sensor.noise import darkest_usable_stops

# An 8-bit file holds nothing under its third code, however clean the sensor was.
PROCESSED_FLOOR_STOPS = float(stops_from_mid(srgb_to_linear(3 / 255)))
WIDEST_STEP_STOPS = 3.0
"""Frames further apart than this leave a seam when they are merged."""
SAME_FRAME_STOPS = 0.5
"""Exposures no further apart than this are one frame."""


@dataclass(frozen=True)
class FormatSpan:
    """Tones one frame holds in a format, in stops from mid, and whether the scene fits in them."""

    file_format: FileFormat
    darkest_stops: float
    clipping_stops: float
    fits: bool

    @property
    def range_stops(self) -> float:
        """Stops from the darkest usable tone to clipping."""
        return self.clipping_stops - self.darkest_stops


@dataclass(frozen=True)
class Bracket:
    """Exposures (EV100) that give every spot a frame of its own, the darkest picture first."""

    ev100s: tuple[float, ...]

    @property
    def count(self) -> int:
        """How many frames."""
        return len(self.ev100s)

    @property
    def step_stops(self) -> float:
        """The widest step between two of them."""
        gaps = (a - b for a, b in pairwise(self.ev100s))
        return max(gaps, default=0.0)


@dataclass(frozen=True)
class TonalSpan:
    """The scene's range against what a frame holds at an ISO, and the verdict in words."""

    brightest_ev100: float
    darkest_ev100: float
    raw: FormatSpan
    processed: FormatSpan
    bracket: Bracket
    words: str

    @property
    def range_stops(self) -> float:
        """Stops between the brightest and the darkest detail to keep."""
        return self.brightest_ev100 - self.darkest_ev100


def tonal_span(brief: Brief, iso: float) -> TonalSpan | None:
    """Range of the scene against RAW and processed frames at an ISO. [ISO12232]

    None unless both a brightest and a darkest detail to keep were read.
    """
    bright = [r.clips_as_ev100 for r in brief.readings if r.role == KEEP_BRIGHT]
    dark = [r.ev100 for r in brief.readings if r.role == KEEP_DARK]
    if not bright or not dark:
        return None
    brightest, darkest = max(bright), min(dark)
    raw = _span(brief, "raw", iso, range_stops=brightest - darkest)
    processed = _span(brief, "processed", iso, range_stops=brightest - darkest)
    bracket = bracket_of(brief)
    return TonalSpan(
        brightest,
        darkest,
        raw,
        processed=processed,
        bracket=bracket,
        words=_words(raw, processed, bracket),
    )


def bracket_of(brief: Brief) -> Bracket:
    """The frames in which every spot of a brief gets the tone asked of it, none further apart.

    Each end of the range has one, and so has each subject; what is between them is filled evenly.
    """
    ends: list[float] = []
    mains: list[float] = []
    for reading in brief.readings:
        (mains if reading.role in (SUBJECT, NEUTRAL) else ends).append(_own_ev100(brief, reading))
    return Bracket(_filled(_apart(mains, ends), _widest(brief)))


def _own_ev100(brief: Brief, reading: PlacedReading) -> float:
    """The exposure that gives a spot its tone; bright detail also keeps its texture in it."""
    placed = float(placed_ev100(reading.ev100, place_stops(brief, reading)))
    if reading.role != KEEP_BRIGHT:
        return placed
    whole = reading.clips_as_ev100 - brief.mode.headroom_stops(brief[FORMAT])
    return whole if reading.place_stops is None else max(placed, whole)


def _apart(mains: Sequence[float], ends: Sequence[float]) -> tuple[float, ...]:
    """Exposures worth a frame each: an end no further from another than a blink shares its frame.

    >>> _apart([7.5], [12.3, 7.2])
    (12.3, 7.5)
    >>> _apart([8.0], [12.5, 9.0])
    (12.5, 8.0)
    """
    kept: list[float] = []
    top, bottom = max(mains, default=-math.inf), min(mains, default=math.inf)
    brightest, darkest = max(ends, default=top), min(ends, default=bottom)
    beyond = [stops for stops in (brightest,) if stops > top] + [
        stops for stops in (darkest,) if stops < bottom
    ]
    for main in (*mains, *beyond):
        if all(abs(main - other) > SAME_FRAME_STOPS for other in kept):
            kept.append(main)
    return tuple(sorted(kept, reverse=True))


def _filled(ev100s: Sequence[float], widest_stops: float) -> tuple[float, ...]:
    """With enough frames between that none are further apart than stated.

    >>> _filled((12.0, 7.0), 2.6)
    (12.0, 9.5, 7.0)
    """
    found = list(ev100s[:1])
    for above, below in pairwise(ev100s):
        count = math.ceil((above - below) / widest_stops - 1e-9)
        found += [above - (above - below) * index / count for index in range(1, count + 1)]
    return tuple(found)


def _widest(brief: Brief) -> float:
    """What is left of the widest step when both frames are off by half a step of the phone."""
    return max(1.0, WIDEST_STEP_STOPS - 2 * brief.mode.manual.half_step_stops)


def _span(brief: Brief, file_format: FileFormat, iso: float, *, range_stops: float) -> FormatSpan:
    mode = brief.mode
    darkest = float(
        darkest_usable_stops(
            mode.sensor,
            iso=iso,
            read_noise_e=mode.read_noise_at(iso),
            frames=frames_averaged(brief),
            output_gain=output_gain(brief),
            criterion=SNR_ACCEPTABLE,
        )
    )
    if np.isnan(darkest):
        darkest = mode.headroom_stops(file_format)
    if file_format == "processed":
        darkest = max(darkest, PROCESSED_FLOOR_STOPS)
    top = mode.headroom_stops(file_format)
    return FormatSpan(file_format, darkest, top, fits=range_stops <= top - darkest)


def _words(raw: FormatSpan, processed: FormatSpan, bracket: Bracket) -> str:
    if processed.fits:
        return "Fits in one processed frame."
    if raw.fits:
        return "Fits in one RAW frame, not in a processed one."
    return (
        f"Needs {bracket.count} exposures up to {stops_label(bracket.step_stops)} apart, merged "
        "afterwards."
    )
