"""The exposure aim: from placed readings to the one EV100 to expose for."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from statistics import fmean

from oxlen.core.decisions.brief import (
    KEEP_BRIGHT,
    KEEP_DARK,
    NEUTRAL,
    SUBJECT,
    Brief,
    PlacedReading,
    Role,
)
from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    STRATEGY,
    ExposureAim,
    glass_stops,
    keeps_brightest,
    kept_readings,
)
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.exposure.tones import (
    WantedTone,
    is_backdrop,
    place_stops,
    wanted_tones,
)
from oxlen.core.decisions.sequence.ask import is_bracketed
from oxlen.core.errors import BadInput
from oxlen.core.labels import ev_label, listed, sentence_case, shutter_label, signed, stops_label
from oxlen.core.light.exposure import ev100
from oxlen.core.light.placement import placed_ev100

SHAPE_FROM_STOPS = -3.0
"""A subject at least this far under mid reads as a shape without detail."""
TELLING_STOPS = 0.15
"""A strongest colour that lies this far above a detail's light is named."""
WORTH_SAYING_STOPS = 0.5
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

ROLE_WORDS: Mapping[Role, str] = {
    SUBJECT: "The subject",
    KEEP_BRIGHT: "The brightest detail to keep",
    KEEP_DARK: "The darkest detail to keep",
    NEUTRAL: "The neutral patch",
}

# Several subjects share the exposure; several bright details must all survive.
COMBINE: Mapping[Role, Callable[[list[float]], float]] = {
    SUBJECT: fmean,
    NEUTRAL: fmean,
    KEEP_BRIGHT: max,
    KEEP_DARK: fmean,
}


@dataclass(frozen=True)
class Aim:
    """EV100 wanted, where it came from, and how far the highlight guard raised it (stops)."""

    ev100: float
    placed_ev100: float
    anchor: Role
    raised_stops: float
    guard_ev100: float | None
    sentences: tuple[str, ...]


def guard_ev100(brief: Brief) -> float | None:
    """Lowest EV100 that keeps every bright detail under clipping; None without such a reading."""
    first = guarded_reading(brief)
    if first is None:
        return None
    return first.clips_as_ev100 - brief.mode.headroom_stops(brief[FORMAT])


def guarded_reading(brief: Brief) -> PlacedReading | None:
    """The bright detail that clips first; None when none is to be kept."""
    bright = [reading for reading in brief.readings if reading.role == KEEP_BRIGHT]
    if not bright or not keeps_brightest(brief):
        return None
    return max(bright, key=lambda reading: reading.clips_as_ev100)


def exposure_aim(brief: Brief) -> Aim:
    """The EV100 to expose for under the brief's aim.

    It starts from what decides under that aim, moves as little as every other spot needs to land
    within what was asked of it, and keeps the highlight guard: there it moves half a ladder step
    past it, so that no step within reach of the aim breaks it. Raises BadInput when there is no
    reading to aim with.
    """
    if not kept_readings(brief):
        raise BadInput("The plan needs at least one reading of the light.", "readings")
    if is_drawn(brief):
        return _drawing_aim(brief)
    aim, anchor = brief[STRATEGY].exposure, _anchor_role(brief)
    placed, place = _placed(brief, anchor)
    sentences = [f"{_anchor_words(brief, anchor, place)} {ev_label(placed)}."]
    if aim == "split" and anchor in (SUBJECT, NEUTRAL):
        placed, words = _between_sky_and_ground(brief, placed)
        sentences += words
    lift = brief[STRATEGY].lift_stops
    if lift:
        sentences.append(f"It is taken {stops_label(lift)} darker, to be lifted in development.")
    shared, words = _serving_all(brief, placed + lift)
    sentences += words
    guard = guard_ev100(brief)
    floor = shared if guard is None else guard + brief.mode.manual.half_step_stops
    wanted = max(shared, floor)
    if wanted > shared + RAISED_STOPS:
        sentences += _guard_words(brief, wanted, raised_stops=wanted - shared)
    if aim == "silhouette":
        sentences += _shape_words(brief, wanted)
    sentences += _against_mean(brief.scene_mean_ev100, wanted)
    return Aim(
        wanted,
        placed,
        anchor,
        raised_stops=wanted - shared,
        guard_ev100=guard,
        sentences=tuple(sentences),
    )


def is_drawn(brief: Brief) -> bool:
    """Whether a lamp draws and no spot asks for a tone: then time decides, not the light."""
    if brief[DRAWING] is None:
        return False
    return all(is_backdrop(brief, one) for one in brief.readings)


def _drawing_aim(brief: Brief) -> Aim:
    """The drawing's own time at the lowest ISO, or darker where the ground would show."""
    asked = brief[DRAWING] or Drawing()
    ladder = brief.mode.manual
    shutter_s = next((t for t in ladder.shutter_s if t >= asked.time_s), ladder.shutter_s[-1])
    plain = float(ev100(brief.lens.f_number, shutter_s, ladder.iso[0])) + glass_stops(brief)
    floors = [one.low_ev100 for one in wanted_tones(brief)]
    black = max(floor for floor in floors if floor is not None)
    wanted = max(plain, black)
    level = max(one.ev100 for one in brief.readings) - wanted
    words = f"The drawing takes {shutter_label(asked.time_s)}; its ground lands at {signed(level)}."
    return Aim(
        wanted,
        plain,
        KEEP_DARK,
        raised_stops=0.0,
        guard_ev100=guard_ev100(brief),
        sentences=(words,),
    )


def _serving_all(brief: Brief, placed: float) -> tuple[float, list[str]]:
    """The exposure moved as little as it takes for every spot to land as asked.

    Where two spots cannot both be served it lies halfway between what they would take.
    """
    lift = brief[STRATEGY].lift_stops
    headroom = brief.mode.headroom_stops(brief[FORMAT])
    tones, half = wanted_tones(brief), brief.mode.manual.half_step_stops
    lows = [(one.low_ev100, one) for one in tones if one.low_ev100 is not None]
    lows += [
        (one.reading.clips_as_ev100 - headroom, one) for one in tones if one.reading.role == SUBJECT
    ]
    highs = [(one.high_ev100 + lift, one) for one in tones if one.high_ev100 is not None]
    low, bright = max(lows, key=lambda each: each[0], default=(-math.inf, None))
    high, dark = min(highs, key=lambda each: each[0], default=(math.inf, None))
    if low + half > high - half:
        middle = (low + high) / 2
        return middle, [] if low > high else _moved_words(
            placed, middle, dark if middle < placed else bright
        )
    moved = min(max(placed, low + half), high - half)
    return moved, _moved_words(placed, moved, dark if moved < placed else bright)


def _moved_words(placed: float, moved: float, tone: WantedTone | None) -> list[str]:
    if tone is None or abs(moved - placed) < 0.05:
        return []
    side = "brighter" if moved < placed else "darker"
    return [f"It is taken {stops_label(moved - placed)} {side}, for the sake of {tone.name}."]


def _guard_words(brief: Brief, wanted: float, *, raised_stops: float) -> list[str]:
    """What the highlight guard took off, and which colour it goes by."""
    words = ["That is as bright as the highlights allow."]
    if brief[STRATEGY].exposure != "highlights":
        words = [
            f"The highlight guard takes {stops_label(raised_stops)} off that, "
            f"so that the brightest detail keeps its texture: {ev_label(wanted)}."
        ]
    first = guarded_reading(brief)
    if first is not None and first.channel_stops >= TELLING_STOPS:
        words.append(
            f"Its strongest colour lies {stops_label(first.channel_stops)} above its light "
            "and is what clips first."
        )
    return words


def _anchor_role(brief: Brief) -> Role:
    present = {reading.role for reading in kept_readings(brief)}
    return next(role for role in ANCHORS[brief[STRATEGY].exposure] if role in present)


def _anchor_words(brief: Brief, anchor: Role, place: float) -> str:
    """What decides the exposure, by its name or names, and where it is put."""
    names = [one.name for one in brief.readings if one.role == anchor]
    if len(names) > 1 and not is_bracketed(brief):
        who = sentence_case(listed(names)) if all(names) else ROLE_WORDS[anchor]
        return f"{who} together ask for"
    return f"{sentence_case(names[0]) or ROLE_WORDS[anchor]} {_place_words(place)} is"


def _placed(brief: Brief, anchor: Role) -> tuple[float, float]:
    """EV100 the anchor's readings ask for together, and the mean place they were given."""
    readings = [reading for reading in brief.readings if reading.role == anchor]
    if is_bracketed(brief):
        # Each end of the range has a frame of its own; the main one is for the first.
        readings = readings[:1]
    places = [place_stops(brief, one) for one in readings]
    wanted = [
        float(placed_ev100(r.ev100, place)) for r, place in zip(readings, places, strict=True)
    ]
    return COMBINE[anchor](wanted), fmean(places)


def _between_sky_and_ground(brief: Brief, ground_ev100: float) -> tuple[float, list[str]]:
    """Halfway between what the foreground and the sky ask for, and how far both are off."""
    if all(reading.role != KEEP_BRIGHT for reading in kept_readings(brief)):
        return ground_ev100, ["No sky was read, so the foreground decides alone."]
    sky_ev100, _ = _placed(brief, KEEP_BRIGHT)
    half = (sky_ev100 - ground_ev100) / 2
    words = (
        f"The sky asks for {ev_label(sky_ev100)}; halfway, each is {stops_label(half)} "
        f"{'under' if half > 0 else 'over'} and {'over' if half > 0 else 'under'} its place."
    )
    return ground_ev100 + half, [words]


def _shape_words(brief: Brief, wanted: float) -> list[str]:
    """Whether the subject comes out as a shape."""
    subjects = [reading.ev100 for reading in brief.readings if reading.role == SUBJECT]
    if not subjects:
        return []
    falls = max(subjects) - wanted
    if falls <= SHAPE_FROM_STOPS:
        return [f"The subject falls to {signed(falls)}: a shape without detail."]
    return [
        f"The subject only falls to {signed(falls)}, and a shape needs {signed(SHAPE_FROM_STOPS)}: "
        "stand it against something brighter."
    ]


def _place_words(place_stops: float) -> str:
    if abs(place_stops) < 0.05:
        return "at mid"
    return f"at {signed(place_stops)}"


def _against_mean(mean_ev100: float | None, wanted: float) -> list[str]:
    """Say in words how the aim differs from what a meter over the whole frame would ask."""
    if mean_ev100 is None or abs(wanted - mean_ev100) < WORTH_SAYING_STOPS:
        return []
    darker = wanted > mean_ev100
    size = stops_label(wanted - mean_ev100)
    if darker:
        return [f"The meter will call that {size} under-exposed; it is meant."]
    return [f"The meter will call that {size} over-exposed; it is meant."]
