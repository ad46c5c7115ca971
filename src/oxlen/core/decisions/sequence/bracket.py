"""Whether a scene's range fits in one frame, and the bracket that takes it in when it does not."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.decisions.brief import KEEP_BRIGHT, KEEP_DARK, Brief
from oxlen.core.decisions.exposure.ask import FORMAT
from oxlen.core.decisions.exposure.snr import output_gain
from oxlen.core.decisions.sequence.ask import frames_averaged
from oxlen.core.kit.phone import FileFormat
from oxlen.core.labels import stops_label
from oxlen.core.light.tone import srgb_to_linear, stops_from_mid
from oxlen.core.sensor.noise import darkest_usable_stops

# An 8-bit file holds nothing under its third code, however clean the sensor was.
PROCESSED_FLOOR_STOPS = float(stops_from_mid(srgb_to_linear(3 / 255)))
WIDEST_STEP_STOPS = 2.0
"""Frames further apart than this leave a seam when they are merged."""


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
    """Frames that take in the whole range: how many, and how far apart.

    A frame at `highlights_ev100` or darker keeps the brightest detail, one at `shadows_ev100` or
    brighter the darkest. Where one frame does both, highlights come before shadows.
    """

    count: int
    step_stops: float
    highlights_ev100: float
    shadows_ev100: float

    @property
    def ev100s(self) -> tuple[float, ...]:
        """EV100 of each frame, the darkest picture (highest EV) first; one lies in the middle."""
        half, middle = (self.count - 1) / 2, (self.highlights_ev100 + self.shadows_ev100) / 2
        return tuple(middle + (half - index) * self.step_stops for index in range(self.count))


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
    written = raw if brief[FORMAT] == "raw" else processed
    bracket = bracket_for(brightest, darkest, written)
    return TonalSpan(
        brightest,
        darkest,
        raw,
        processed=processed,
        bracket=bracket,
        words=_words(raw, processed, bracket),
    )


def bracket_for(brightest_ev100: float, darkest_ev100: float, span: FormatSpan) -> Bracket:
    """The fewest frames whose spans together hold both ends, no more than two stops apart.

    >>> bracket_for(16.0, 4.0, FormatSpan("raw", -5.0, 3.0, False))
    Bracket(count=3, step_stops=2.0, highlights_ev100=13.0, shadows_ev100=9.0)
    """
    for_highlights = brightest_ev100 - span.clipping_stops
    for_shadows = darkest_ev100 - span.darkest_stops
    spread = for_highlights - for_shadows
    if spread <= 0:
        return Bracket(1, 0.0, for_highlights, shadows_ev100=for_shadows)
    count = math.ceil(spread / WIDEST_STEP_STOPS - 1e-9) + 1
    return Bracket(count, spread / (count - 1), for_highlights, shadows_ev100=for_shadows)


def bracket_around(
    main_ev100: float, bracket: Bracket, widest_step_stops: float
) -> tuple[float, ...]:
    """EV100 of a bracket's frames, one of them the main exposure, the darkest picture first.

    Both ends of the range are reached, in equal steps no wider than said.

    >>> bracket_around(9.0, Bracket(4, 2.0, 13.0, 7.0), 2.0)
    (13.0, 11.0, 9.0, 7.0)
    """
    above = max(0.0, bracket.highlights_ev100 - main_ev100)
    below = max(0.0, main_ev100 - bracket.shadows_ev100)
    up, down = (math.ceil(side / widest_step_stops - 1e-9) for side in (above, below))
    step = max(above / up if up else 0.0, below / down if down else 0.0)
    return tuple(main_ev100 + index * step for index in range(up, -down - 1, -1))


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
        return "It fits in one processed frame."
    if raw.fits:
        return "It fits in one RAW frame, not in a processed one."
    return (
        f"It needs {bracket.count} exposures {stops_label(bracket.step_stops)} apart, "
        "merged afterwards."
    )
