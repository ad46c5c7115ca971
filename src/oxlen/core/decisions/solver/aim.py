"""The exposure aim: from placed readings to the one EV100 to expose for."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from statistics import fmean

import numpy as np

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    STRATEGY,
    ExposureAim,
    glass_stops,
)
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import (
    KEEP_BRIGHT,
    KEEP_DARK,
    NEUTRAL,
    SUBJECT,
    Brief,
    PlacedReading,
    Role,
)
from oxlen.core.decisions.sequence.ask import is_bracketed
from oxlen.core.decisions.solver.kept import (
    keeps_brightest,
    kept_readings,
)
from oxlen.core.decisions.solver.tones import (
    WantedTone,
    is_backdrop,
    place_stops,
    wanted_tones,
)
from oxlen.core.errors import BadInput
from oxlen.core.light.exposure import ev100

SHAPE_FROM_STOPS = -3.0
"""A subject at least this far under mid reads as a shape without detail."""
TELLING_STOPS = 0.15
"""A strongest colour that is this far above a detail's light is named."""
WORTH_SAYING_STOPS = 0.5
SURE_SHARE = 0.94
"""What is counted in one picture may be a little more in the next."""
FILE_WHITE_STOPS = 0.09
"""A processed file shows no texture from code 250 up, this far under clipping."""
GUARDED_MORE_STOPS = 0.5
GUARD_MARGIN_STOPS = 0.2
"""A patch is brighter here and there than on the mean, and a code of 250 shows no texture more."""
MOVED_STOPS = 0.05
"""The aim is reported to have moved from here on."""
RAISED_STOPS = 1e-9
"""The guard acts when it moves the aim by more than rounding."""

ANCHORS: Mapping[ExposureAim, tuple[Role, ...]] = {
    "centre": (SUBJECT, NEUTRAL, KEEP_BRIGHT, KEEP_DARK),
    "highlights": (KEEP_BRIGHT, SUBJECT, NEUTRAL, KEEP_DARK),
    "dark": (KEEP_DARK, SUBJECT, NEUTRAL, KEEP_BRIGHT),
    "silhouette": (KEEP_BRIGHT, NEUTRAL, SUBJECT, KEEP_DARK),
    "split": (SUBJECT, NEUTRAL, KEEP_BRIGHT, KEEP_DARK),
}
"""Which role decides the exposure under each aim: the first that has a reading."""

# Several subjects share the exposure; several bright details must all survive.
COMBINE: Mapping[Role, Callable[[list[float]], float]] = {
    SUBJECT: fmean,
    NEUTRAL: fmean,
    KEEP_BRIGHT: max,
    KEEP_DARK: fmean,
}


@dataclass(frozen=True)
class Aim:
    """EV100 wanted, and how it came about: see `aim_words.aim_sentences`.

    `placed_ev100` is what the deciding spots ask for, `shared_ev100` that moved for the sake of the
    spot named in `moved_for`; the highlight guard raised it to `ev100`. `counted_guard_ev100` is
    where the frame's own tones put that guard.
    """

    ev100: float
    placed_ev100: float
    shared_ev100: float
    anchor: Role
    guard_ev100: float | None
    place_stops: float = 0.0
    moved_for: str = ""
    counted_guard_ev100: float | None = None

    @property
    def raised_stops(self) -> float:
        """How far the highlight guard raised it."""
        return self.ev100 - self.shared_ev100


def guard_ev100(brief: Brief) -> float | None:
    """Lowest EV100 that keeps every bright detail under clipping; None without such a reading."""
    first = guarded_reading(brief)
    if first is None:
        return None
    return first.clips_as_ev100 - brief.mode.headroom_stops(brief[FORMAT])


def guarded_reading(brief: Brief) -> PlacedReading | None:
    """The bright detail that clips first; None when none is to be kept."""
    bright = [reading for reading in kept_readings(brief) if reading.role == KEEP_BRIGHT]
    if not bright or not keeps_brightest(brief):
        return None
    return max(bright, key=lambda reading: reading.clips_as_ev100)


def exposure_aim(brief: Brief) -> Aim:
    """The EV100 to expose for under the brief's aim.

    It starts from what decides under that aim, moves as little as every other spot needs to land
    within what was asked of it, and keeps the highlight guard: there it moves half a ladder step
    or a little more past it, so that no step within reach of the aim breaks it. Raises BadInput
    when there is no reading to aim with.
    """
    if not kept_readings(brief):
        raise BadInput("Add a reading of the light first.", "readings")
    if is_drawn(brief):
        return _drawing_aim(brief)
    anchor = anchor_role(brief)
    placed, place = placed_together(brief, anchor)
    if brief[STRATEGY].exposure == "split" and anchor in (SUBJECT, NEUTRAL):
        placed += half_to_the_sky_stops(brief, placed)
    shared, moved_for = _serving_all(brief, placed + brief[STRATEGY].lift_stops)
    guard = guard_ev100(brief)
    counted = None if guard is None else share_guard_ev100(brief, guard, shared)
    floor = shared
    if guard is not None:
        margin = guard_margin_stops(brief)
        half = brief.mode.manual.half_step_stops
        floor = guard + margin if counted is None else counted + half
    return Aim(
        max(shared, floor),
        placed,
        shared,
        anchor=anchor,
        guard_ev100=guard,
        place_stops=place,
        moved_for=moved_for,
        counted_guard_ev100=counted,
    )


def share_guard_ev100(brief: Brief, guard_ev100: float, shared_ev100: float) -> float | None:
    """Lowest EV100 at which no more of the frame clips than may; None without a picture.

    The marked spot says what to keep, the frame how much of it is beside the spot and is as
    bright. What is far brighter, such as a lamp, is not meant: the exposure, or else the guard,
    moves by half a stop at most.
    """
    tones, allowed = brief.tones, SURE_SHARE * brief[STRATEGY].white_share
    if tones is None or tones.lost_share > allowed / 2:
        return None
    headroom = brief.mode.headroom_stops(brief[FORMAT])
    white = headroom if brief[FORMAT] == "raw" else headroom - FILE_WHITE_STOPS
    above = tones.brighter_shares
    edge = float(np.interp(allowed, above[::-1], tones.edges[::-1]))
    if guard_ev100 < edge - white <= shared_ev100 + GUARDED_MORE_STOPS:
        return edge - white
    return min(max(edge - white, guard_ev100), guard_ev100 + GUARDED_MORE_STOPS)


def guard_margin_stops(brief: Brief) -> float:
    """How far the guard keeps off clipping: half a step of the phone, and what files lose there."""
    return max(brief.mode.manual.half_step_stops, GUARD_MARGIN_STOPS)


def half_to_the_sky_stops(brief: Brief, ground_ev100: float) -> float:
    """Half the way from what the foreground asks for to what the sky does; 0 without a sky."""
    if all(reading.role != KEEP_BRIGHT for reading in kept_readings(brief)):
        return 0.0
    sky_ev100, _ = placed_together(brief, KEEP_BRIGHT)
    return (sky_ev100 - ground_ev100) / 2


def is_drawn(brief: Brief) -> bool:
    """Whether a lamp draws and no spot asks for a tone: then time decides, not the light."""
    if brief[DRAWING] is None:
        return False
    return all(is_backdrop(brief, reading) for reading in brief.readings)


def _drawing_aim(brief: Brief) -> Aim:
    """The drawing's own time at the lowest ISO, or darker where the background would show."""
    asked = brief[DRAWING] or Drawing()
    ladder = brief.mode.manual
    shutter_s = next((t for t in ladder.shutter_s if t >= asked.takes_s), ladder.shutter_s[-1])
    plain = float(ev100(brief.lens.f_number, shutter_s, ladder.iso[0])) + glass_stops(brief)
    floors = [tone.low_ev100 for tone in wanted_tones(brief)]
    black = max(floor for floor in floors if floor is not None)
    wanted = max(plain, black)
    guard = guard_ev100(brief)
    return Aim(wanted, plain, wanted, anchor=KEEP_DARK, guard_ev100=guard)


def _serving_all(brief: Brief, placed: float) -> tuple[float, str]:
    """The exposure moved as little as it takes for every spot to land as asked, and for which spot.

    Where two spots cannot both be served it is halfway between what they would take.
    """
    tones, half = wanted_tones(brief), brief.mode.manual.half_step_stops
    (low, bright), (high, dark) = _lowest(brief, tones), _highest(brief, tones)
    if low > high:
        return (low + high) / 2, ""
    moved = min(max(placed, low + half), high - half)
    if low + half > high - half:
        moved = (low + high) / 2
    if abs(moved - placed) < MOVED_STOPS:
        return moved, ""
    return moved, dark if moved < placed else bright


def _lowest(brief: Brief, tones: tuple[WantedTone, ...]) -> tuple[float, str]:
    """The exposure under which a first spot is too bright, and its name."""
    headroom = brief.mode.headroom_stops(brief[FORMAT])
    found = [(tone.low_ev100, tone.name) for tone in tones if tone.low_ev100 is not None]
    found += [
        (tone.reading.clips_as_ev100 - headroom, tone.name)
        for tone in tones
        if tone.reading.role == SUBJECT
    ]
    return max(found, default=(-math.inf, ""))


def _highest(brief: Brief, tones: tuple[WantedTone, ...]) -> tuple[float, str]:
    """The exposure over which a first spot is too dark, and its name."""
    lift = brief[STRATEGY].lift_stops
    found = [(tone.high_ev100 + lift, tone.name) for tone in tones if tone.high_ev100 is not None]
    return min(found, default=(math.inf, ""))


def anchor_role(brief: Brief) -> Role:
    """The role that decides the exposure under the brief's aim."""
    present = {reading.role for reading in kept_readings(brief)}
    return next(role for role in ANCHORS[brief[STRATEGY].exposure] if role in present)


def placed_together(brief: Brief, anchor: Role) -> tuple[float, float]:
    """EV100 the anchor's readings ask for together, and the mean place they were given."""
    readings = [reading for reading in kept_readings(brief) if reading.role == anchor]
    if is_bracketed(brief):
        # Each end of the range has a frame of its own; the main one is for the first.
        readings = readings[:1]
    places = [place_stops(brief, placed) for placed in readings]
    wanted = [placed.ev100 - place for placed, place in zip(readings, places, strict=True)]
    return COMBINE[anchor](wanted), fmean(places)
