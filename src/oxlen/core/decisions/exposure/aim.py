"""The exposure aim: from placed readings to the one EV100 to expose for."""

from __future__ import annotations

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
    FORMAT,
    STRATEGY,
    ExposureAim,
    keeps_brightest,
    kept_readings,
)
from oxlen.core.errors import BadInput
from oxlen.core.labels import ev_label, signed, stops_label
from oxlen.core.light.placement import placed_ev100

NIGHT_PLACE_STOPS = -3.0
DARK_SUBJECT_PLACE_STOPS = -2.0
SHAPE_PLACE_STOPS = -4.0
SKY_PLACE_STOPS = 1.0
"""Where a bright ground behind a shape, or a sky shared with a foreground, is put."""
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


def default_place_stops(role: Role, aim: ExposureAim, headroom_stops: float) -> float:
    """Stops from mid for a reading nobody placed.

    Bright detail goes just under clipping, the darkest detail to night, anything else to mid;
    keeping the night dark puts an unplaced subject two stops down; a shape's ground and a sky
    shared with its foreground lie a stop above mid, and a shape alone four stops under.
    """
    if role == KEEP_BRIGHT:
        return SKY_PLACE_STOPS if aim in ("silhouette", "split") else headroom_stops
    if role == KEEP_DARK:
        return NIGHT_PLACE_STOPS
    if aim == "silhouette" and role == SUBJECT:
        return SHAPE_PLACE_STOPS
    return DARK_SUBJECT_PLACE_STOPS if aim == "dark" else 0.0


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
    """The EV100 to expose for under the brief's aim, with the highlight guard respected.

    Where the guard acts, the aim moves half a ladder step past it, so that no step within reach
    of the aim breaks it. Raises BadInput when there is no reading to aim with.
    """
    if not kept_readings(brief):
        raise BadInput("The plan needs at least one reading of the light.", "readings")
    aim, anchor = brief[STRATEGY].exposure, _anchor_role(brief)
    placed, place = _placed(brief, anchor)
    sentences = [f"{ROLE_WORDS[anchor]} is placed {_place_words(place)}: {ev_label(placed)}."]
    if aim == "split" and anchor in (SUBJECT, NEUTRAL):
        placed, words = _between_sky_and_ground(brief, placed)
        sentences += words
    guard = guard_ev100(brief)
    floor = placed if guard is None else guard + brief.mode.manual.half_step_stops
    wanted = max(placed, floor)
    if wanted > placed + RAISED_STOPS:
        sentences += _guard_words(brief, wanted, raised_stops=wanted - placed)
    if aim == "silhouette":
        sentences += _shape_words(brief, wanted)
    sentences += _against_mean(brief.scene_mean_ev100, wanted)
    return Aim(
        wanted,
        placed,
        anchor,
        raised_stops=wanted - placed,
        guard_ev100=guard,
        sentences=tuple(sentences),
    )


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


def _placed(brief: Brief, anchor: Role) -> tuple[float, float]:
    """EV100 the anchor's readings ask for together, and the mean place they were given."""
    readings = [reading for reading in brief.readings if reading.role == anchor]
    headroom = brief.mode.headroom_stops(brief[FORMAT])
    fallback = default_place_stops(anchor, brief[STRATEGY].exposure, headroom)
    places = [fallback if r.place_stops is None else r.place_stops for r in readings]
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
    return f"{signed(place_stops)} from mid"


def _against_mean(mean_ev100: float | None, wanted: float) -> list[str]:
    """Say in words how the aim differs from what a meter over the whole frame would ask."""
    if mean_ev100 is None or abs(wanted - mean_ev100) < WORTH_SAYING_STOPS:
        return []
    darker = wanted > mean_ev100
    size = stops_label(wanted - mean_ev100)
    if darker:
        return [f"The meter will call that {size} under-exposed; it is meant."]
    return [f"The meter will call that {size} over-exposed; it is meant."]
