"""The situation that saving depends on, from a brief."""

from __future__ import annotations

import numpy as np

from oxlen.core.colour.mixing import ONE_SETTING_MIRED
from oxlen.core.decisions.colour.ask import LIGHT_COLOUR
from oxlen.core.decisions.colour.decision import white_choice
from oxlen.core.decisions.colour.known_light import known_light
from oxlen.core.decisions.exposure.ask import (
    HOLD,
    OUTPUT,
    SKY,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_BRIGHT, SUBJECT, Brief, PlacedReading
from oxlen.core.decisions.saving.advice import Situation
from oxlen.core.decisions.saving.ask import SAVING
from oxlen.core.decisions.scene.unfit import has_lamps_of_its_own, is_lit_by_others
from oxlen.core.decisions.sequence.ask import FRAMES
from oxlen.core.decisions.solver.kept import (
    keeps_brightest,
)
from oxlen.core.kit.phone_words import FileFormat

NOTHING_BRIGHT = -9.0


def situation_of(brief: Brief) -> Situation:
    """What a brief says of the use of its picture, its tones, its light and its storage."""
    asked, output, light = brief[SAVING], brief[OUTPUT], known_light(brief)
    colour = brief[LIGHT_COLOUR]
    own_light = bool(colour.lamps) or has_lamps_of_its_own(brief)
    white = white_choice(brief).dialled
    return Situation(
        brief.mode.files,
        use=output.use,
        output_px=output.pixels if _says_where(brief) else brief.mode.megapixels * 0.25e6,
        editing=asked.editing,
        over_processed_stops=_over_stops(brief, "processed"),
        over_raw_stops=_over_stops(brief, "raw"),
        lift_stops=brief[STRATEGY].lift_stops,
        colour_doubt_mired=None if light is None else light.plus_minus_mired,
        is_controlled=own_light and not is_lit_by_others(brief),
        mixed_lamps=light is not None and light.spread_mired > ONE_SETTING_MIRED,
        fps=asked.fps,
        frames=frames_in_all(brief),
        free_mb=asked.free_mb,
        stars=brief[SKY] is not None,
        dial_short_mired=0.0 if white is None else abs(white.residual_mired),
    )


def frames_in_all(brief: Brief) -> int:
    """Frames an outing writes: pictures times what each takes."""
    return brief[SAVING].pictures * max(brief[FRAMES].count, brief[HOLD].burst)


def _says_where(brief: Brief) -> bool:
    output = brief[OUTPUT]
    return output.use is not None or output.width_px is not None


def _over_stops(brief: Brief, file_format: FileFormat) -> float:
    """How far the brightest detail to keep passes clipping, with the subject where it is wanted."""
    bright = [reading.clips_as_ev100 for reading in brief.readings if reading.role == KEEP_BRIGHT]
    bright += _brightest_of_frame(brief)
    subjects = [_set_for(reading) for reading in brief.readings if reading.role == SUBJECT]
    if not bright or not subjects or not keeps_brightest(brief):
        return NOTHING_BRIGHT
    return max(bright) - min(subjects) - brief.mode.headroom_stops(file_format)


def _brightest_of_frame(brief: Brief) -> list[float]:
    """EV100 above which no more of the frame is than may clip; none without a picture."""
    tones = brief.tones
    if tones is None:
        return []
    edges, shares = tones.edges, tones.brighter_shares
    inside = shares <= brief[STRATEGY].white_share
    return [float(edges[np.argmax(inside)])] if inside.any() else []


def _set_for(reading: PlacedReading) -> float:
    return reading.ev100 - (reading.place_stops or 0.0)
