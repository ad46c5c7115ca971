"""The outcome: where every spot lands, and how far that is from what was asked of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from oxlen.core.decisions.exposure.ask import (
    FORMAT,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, SUBJECT, Brief, PlacedReading, Role
from oxlen.core.decisions.solver.kept import (
    is_given_up,
)
from oxlen.core.decisions.solver.tones import (
    NOMINAL_STOPS,
    WantedTone,
    place_stops,
    spoken_spot,
    spot_name,
    wanted_of,
)
from oxlen.core.labels import sentence_case, stops_label

SHOWN_STOPS = 0.15
"""A tone nearer than this to the one asked for counts as on it."""
DOUBTFUL_STOPS = 0.75
"""A reading no surer than this is spoken of with its doubt."""


class SpotState(StrEnum):
    """What becomes of a spot."""

    AS_ASKED = "as wanted"
    DARKER = "darker"
    BRIGHTER = "brighter"
    CLIPPED = "clipped"
    GIVEN_UP = "given up"


@dataclass(frozen=True)
class SpotOutcome:
    """Where one spot lands against what was wanted of it, in stops from mid; positive = brighter.

    `lands_stops` is after development where the plan lifts it. Bright detail that only has to keep
    its texture is wanted at clipping at the most and misses nothing under it.
    """

    name: str
    role: Role
    wanted_stops: float
    lands_stops: float
    misses_stops: float
    state: SpotState
    words: str
    plus_minus_stops: float | None = None


def give_or_take(stops: float) -> str:
    """How sure a sentence about a tone is, where that is worth a word.

    >>> give_or_take(1.0), give_or_take(0.2)
    (', ± 1.0 stop', '')
    """
    return f", ± {stops_label(stops)}" if stops >= DOUBTFUL_STOPS else ""


def outcome(brief: Brief, ev100s: Sequence[float]) -> tuple[SpotOutcome, ...]:
    """Where every spot lands in frames exposed for these EV100, each in the one that fits it."""
    return tuple(
        min(
            (_spot(brief, reading, ev100_set) for ev100_set in ev100s),
            key=lambda spot: (spot.state is SpotState.CLIPPED, abs(spot.misses_stops)),
        )
        for reading in brief.readings
    )


def _spot(brief: Brief, reading: PlacedReading, ev100_set: float) -> SpotOutcome:
    tone, headroom = wanted_of(brief, reading), brief.mode.headroom_stops(brief[FORMAT])
    captured = reading.ev100 - ev100_set
    wanted = place_stops(brief, reading) if tone is None else tone.stops
    lifted = min(max(wanted - captured, 0.0), brief[STRATEGY].lift_stops)
    lands = captured + lifted
    misses = _missed(tone, wanted, lands)
    clips = captured + reading.channel_stops > headroom + 1e-6
    state = _state(brief, reading, misses, tone=tone, clips=clips)
    return SpotOutcome(
        spot_name(reading),
        reading.role,
        wanted,
        lands_stops=lands,
        misses_stops=misses,
        state=state,
        words=_words(reading, misses, state, lifted=lifted, clips=clips),
        plus_minus_stops=reading.plus_minus_stops,
    )


def _missed(tone: WantedTone | None, wanted: float, lands: float) -> float:
    """Stops off the tone asked for; none where being so far off that way is what was asked."""
    off = lands - wanted
    if tone is None:
        return max(0.0, off)
    if (off < 0 and tone.darker_stops is None) or (off > 0 and tone.brighter_stops is None):
        return 0.0
    return off


def _state(
    brief: Brief, reading: PlacedReading, misses: float, *, tone: WantedTone | None, clips: bool
) -> SpotState:
    if is_given_up(brief, reading):
        return SpotState.GIVEN_UP
    if clips and reading.role in (SUBJECT, KEEP_BRIGHT):
        given_up = reading.role == KEEP_BRIGHT and brief[STRATEGY].let_clip
        return SpotState.GIVEN_UP if given_up else SpotState.CLIPPED
    if tone is None:
        return SpotState.AS_ASKED
    allowed = tone.brighter_stops if misses > 0 else tone.darker_stops
    if allowed is None or abs(misses) <= allowed + NOMINAL_STOPS + 1e-6:
        return SpotState.AS_ASKED
    return SpotState.BRIGHTER if misses > 0 else SpotState.DARKER


def _given_up_words(name: str, misses: float, *, clips: bool) -> str:
    if clips:
        return f"{name}: clipped (given up)."
    side = "brighter" if misses > 0 else "darker"
    return f"{name}: {stops_label(misses)} {side} than wanted (given up)."


def _words(
    reading: PlacedReading, misses: float, state: SpotState, *, lifted: float, clips: bool
) -> str:
    """One sentence about a spot, in words."""
    name = sentence_case(spoken_spot(reading))
    if state is SpotState.CLIPPED:
        return f"{name}: clipped, without detail."
    if state is SpotState.GIVEN_UP:
        return _given_up_words(name, misses, clips=clips)
    after = f" after lifting it {stops_label(lifted)}" if lifted >= SHOWN_STOPS else ""
    after += give_or_take(reading.plus_minus_stops or 0.0)
    if abs(misses) < SHOWN_STOPS:
        return f"{name}: as wanted{after}."
    side = "brighter" if misses > 0 else "darker"
    return f"{name}: {stops_label(misses)} {side} than wanted{after}."


def main_miss(spots: Sequence[SpotOutcome]) -> SpotOutcome | None:
    """The spot to speak of beside the slip: a spoilt one, else the subject, else the worst."""
    order = {SUBJECT: 0}
    spoilt = [spot for spot in spots if spot.state not in (SpotState.AS_ASKED, SpotState.GIVEN_UP)]
    ranked = sorted(
        spoilt or spots, key=lambda spot: (order.get(spot.role, 1), -abs(spot.misses_stops))
    )
    return ranked[0] if ranked else None
