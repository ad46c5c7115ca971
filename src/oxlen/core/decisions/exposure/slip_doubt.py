"""How sure a slip is: the light that was read, and the phone's figure behind what decided it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import HOLD
from oxlen.core.decisions.framework.brief import Brief, PlacedReading
from oxlen.core.decisions.solver.search import Search
from oxlen.core.kit.doubt import BRIGHT, HAND_FIGURE, FigureDoubt, Known

KNOWN_WORDS: dict[Known, str] = {
    "assumed": "assumed",
    "file": "from its files",
    "measured": "measured",
    "typed": "entered by hand",
}


@dataclass(frozen=True)
class SlipDoubt:
    """The ± of a slip in stops, None where it is unknown, and what makes most of it."""

    plus_minus_stops: float | None
    why: str


def slip_doubt(search: Search, because: tuple[str, ...]) -> SlipDoubt:
    """The ± of a slip whose ISO and shutter were decided by the limits of those ids.

    The reading's and the figure's doubts are independent, so their squares add. [ISO2720]
    """
    brief = search.brief
    reading = _least_sure(brief, search.aim.anchor)
    figures = list(_figures(brief, because, is_guarded=search.aim.anchor == "keep-bright"))
    parts = [] if reading is None else [(reading.plus_minus_stops or 0.0, reading.why_plus_minus)]
    parts += [(figure.plus_minus_stops, _figure_words(figure)) for figure in figures]
    if not parts:
        return SlipDoubt(None, "")
    return SlipDoubt(math.hypot(*(stops for stops, _ in parts)), max(parts)[1])


def _figure_words(doubt: FigureDoubt) -> str:
    return f"mostly {doubt.name}, {KNOWN_WORDS[doubt.known]}"


def _figures(brief: Brief, because: tuple[str, ...], *, is_guarded: bool) -> Iterator[FigureDoubt]:
    """The figures of the phone that a slip rests on."""
    decided = {*because, *((BRIGHT,) if is_guarded else ())}
    own_hand = brief[HOLD].stabiliser_stops is not None
    for doubt in (*brief.lens.doubts, *brief.mode.doubts):
        # A hand given for this picture leaves the phone's own figure of it unused.
        if not decided.isdisjoint(doubt.moves) and not (own_hand and doubt.name == HAND_FIGURE):
            yield doubt


def _least_sure(brief: Brief, anchor: str) -> PlacedReading | None:
    """The reading the exposure rests on that is least sure; None where none has a ±."""
    stated = [
        reading
        for reading in brief.readings
        if reading.role == anchor and reading.plus_minus_stops is not None
    ]
    return max(stated, key=lambda doubt: doubt.plus_minus_stops or 0.0, default=None)
