"""A drawing with a lamp planned through: time, background, trail, room, and the rehearsal."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decisions.exposure.ask import DRAWING, glass_stops
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.drawing.passes import DrawnPass, drawn_passes
from oxlen.core.errors import BadInput
from oxlen.core.focus.defocus import airy_um
from oxlen.core.labels import stops_label, time_label, two_digits
from oxlen.core.motion.drawing import (
    SHOWS_STOPS,
    background_stops,
    dwell_s,
    longest_black_s,
    spread_luminance_cd_m2,
    trail_stops,
)
from oxlen.core.motion.strokes import (
    Strokes,
    globe_luminance_cd_m2,
    image_speed_mm_s,
    strokes_of,
)

EDGE_SHARE = 0.08
"""Of the frame's sides: a lamp so near the edge is soon outside."""
THIN_STOPS = 0.0
"""A trail under mid is thin and grey."""
COLOUR_SPARE_STOPS = 0.5
"""So far under white a lamp still keeps its colour."""
WORTH_STOPS = 0.4
"""Less than this nobody changes a lamp for."""
CURVE = 60
Points = NDArray[np.float64]


@dataclass(frozen=True)
class Room:
    """What the frame holds at the drawing's distance (m), and where the drawing is in it.

    `left_m` and `right_m` are marks for the floor, from the middle, as the phone sees them.
    """

    wide_m: float
    high_m: float
    drawn_wide_m: float
    left_m: float
    right_m: float
    fits: bool
    words: str


@dataclass(frozen=True)
class DrawingPlan:
    """A drawing through the phone's own steps.

    `level_stops` is where the background lands, `black_s` the longest time that keeps it black,
    `trail_stops` how bright the lamp's line is, `white_stops` where it loses its colour. `curve` is
    (time, level) of the background. `advice` comes in the order to act on it.
    """

    drawing: Drawing
    strokes: Strokes
    lit_m: float
    dark_m: float
    draws_s: float
    iso: float | None
    shutter_s: float | None
    level_stops: float | None
    black_s: float | None
    trail_stops: float | None
    white_stops: float
    line_px: float
    curve: tuple[tuple[float, float], ...]
    room: Room
    passes: tuple[DrawnPass, ...]
    advice: tuple[str, ...]


def drawing_plan(brief: Brief) -> DrawingPlan:
    """Plan a brief's drawing. BadInput where it draws nothing, or has no light read for it."""
    drawing = brief[DRAWING]
    if drawing is None or not drawing.what.strip():
        raise BadInput("Enter what to draw: a word, or a shape such as heart.", "what")
    decided = plan(brief)
    strokes = strokes_of(drawing.what)
    slip, reached = decided.slip, decided.brief
    iso = reached.mode.manual.iso[0] if slip is None else slip.iso
    shutter_s = None if slip is None else slip.shutter_s
    ambient = _ambient_ev100(reached)
    level = None if shutter_s is None else _level(reached, ambient, iso=iso, time_s=shutter_s)
    trail, line_px = _trail(reached, drawing, iso)
    room = _room(reached, drawing, strokes)
    found = DrawingPlan(
        drawing,
        strokes,
        lit_m=strokes.lit_length * drawing.height_m,
        dark_m=strokes.dark_length * drawing.height_m,
        draws_s=drawing.takes_s,
        iso=None if slip is None else iso,
        shutter_s=shutter_s,
        level_stops=level,
        black_s=_black_s(reached, drawing, ambient, iso=iso),
        trail_stops=trail,
        white_stops=reached.mode.headroom_processed_stops,
        line_px=line_px,
        curve=tuple(_curve(reached, ambient, iso=iso, takes_s=drawing.takes_s)),
        room=room,
        passes=drawn_passes(drawing, shutter_s),
        advice=(),
    )
    return _with_advice(found, decided)


def _ambient_ev100(brief: Brief) -> float | None:
    """Light of the room: the brightest reading, as the background is all that it lights."""
    return max((reading.ev100 for reading in brief.readings), default=None)


def _level(brief: Brief, ambient: float | None, *, iso: float, time_s: float) -> float | None:
    if ambient is None:
        return None
    level = background_stops(ambient, brief.lens.f_number, time_s, iso=iso)
    return float(level) - glass_stops(brief)


def _black_s(brief: Brief, drawing: Drawing, ambient: float | None, *, iso: float) -> float | None:
    """The longest time that keeps the background black at an ISO."""
    level = _level(brief, ambient, iso=iso, time_s=1.0)
    if level is None:
        return None
    return float(longest_black_s(1.0, level, drawing.ambient_black_stops))


def _trail(brief: Brief, drawing: Drawing, iso: float) -> tuple[float, float]:
    """How bright the line is (stops from mid), and how wide (px): the lamp's image or its blur."""
    lens, pitch_um = brief.lens, brief.mode.pixel_pitch_um
    source = globe_luminance_cd_m2(drawing.lamp_lm, drawing.lamp_mm / 1000)
    source *= 2.0**-drawing.dim_stops
    image_mm = drawing.lamp_mm * lens.focal_mm / (1000 * drawing.distance_m)
    blur_mm = math.hypot(float(airy_um(lens.f_number)), pitch_um) / 1000
    wide_mm = max(image_mm, blur_mm)
    spread = float(spread_luminance_cd_m2(source, image_mm, blur_mm))
    speed = image_speed_mm_s(drawing.hand_m_s, drawing.distance_m, lens.focal_mm)
    dwell = float(dwell_s(wide_mm, speed))
    level = float(trail_stops(spread, iso, lens.f_number, dwell_s=dwell)) - glass_stops(brief)
    return level, 1000 * wide_mm / pitch_um


def _room(brief: Brief, drawing: Drawing, strokes: Strokes) -> Room:
    lens, mode = brief.lens, brief.mode
    a_metre = mode.pixel_pitch_um / (1000 * lens.focal_mm) * drawing.distance_m
    wide_m, high_m = mode.width_px * a_metre, mode.height_px * a_metre
    drawn = strokes.width * drawing.height_m
    within = 1 - 2 * EDGE_SHARE
    fits = drawn <= within * wide_m and drawing.height_m <= within * high_m
    if fits:
        words = (
            f"Put marks on the floor {two_digits(drawn)} m apart, the phone square to their centre"
        )
    else:
        share = max(drawn / wide_m, drawing.height_m / high_m) / within
        words = (
            f"Too large for the frame: draw it {two_digits(drawing.distance_m * share)} m away "
            f"or {two_digits(drawing.height_m / share)} m high"
        )
    return Room(wide_m, high_m, drawn, left_m=-drawn / 2, right_m=drawn / 2, fits=fits, words=words)


def _curve(
    brief: Brief, ambient: float | None, *, iso: float, takes_s: float
) -> Iterator[tuple[float, float]]:
    """The background's level against time, from a tenth of the drawing to ten times of it."""
    for time_s in np.geomspace(takes_s / 10, takes_s * 10, CURVE).tolist():
        level = _level(brief, ambient, iso=iso, time_s=time_s)
        if level is not None:
            yield float(time_s), level


def _with_advice(found: DrawingPlan, decided: Plan) -> DrawingPlan:
    return replace(found, advice=tuple(_advice(found, decided)))


def _advice(found: DrawingPlan, decided: Plan) -> Iterator[str]:
    """What to change, what spoils the picture most first."""
    if not found.room.fits:
        yield found.room.words
    if found.shutter_s is None and decided.conflict is not None:
        apart = stops_label(abs(decided.conflict.short_by_stops))
        yield (
            f"No shutter fits the drawing and keeps the background black ({apart} apart). Use "
            "more frames or make the room darker"
        )
    level = found.level_stops
    if level is not None and level > SHOWS_STOPS:
        where = f"{stops_label(abs(level))} {'under' if level < 0 else 'over'} mid"
        yield f"The ground lands {where} and shows; a darker room keeps it black"
    trail = found.trail_stops
    over = 0.0 if trail is None else trail - found.white_stops + COLOUR_SPARE_STOPS
    if over > WORTH_STOPS:
        yield (
            f"The line clips and loses its colour. Dim the lamp by {stops_label(over)} or draw "
            "faster"
        )
    elif trail is not None and trail < THIN_STOPS:
        under = stops_label(-trail)
        yield f"The line is thin, {under} under mid. Draw slower or use a brighter lamp"
    if found.black_s is not None and found.shutter_s is not None:
        yield (
            f"The ground stays black up to {time_label(found.black_s)}; the drawing takes "
            f"{time_label(found.draws_s)}"
        )
    yield (
        "Facing the phone you write mirrored: begin at your right, each letter turned about; "
        "or write as usual and mirror the picture"
    )
