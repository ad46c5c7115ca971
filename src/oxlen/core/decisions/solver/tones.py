"""Wanted tones: where each spot shall land, and how far off still is what was asked for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import (
    DRAWING,
    FORMAT,
    STRATEGY,
    ExposureAim,
)
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.decisions.framework.brief import (
    KEEP_BRIGHT,
    KEEP_DARK,
    NEUTRAL,
    ROLE_NAMES,
    SUBJECT,
    Brief,
    PlacedReading,
    Role,
)
from oxlen.core.decisions.sequence.ask import is_bracketed
from oxlen.core.decisions.solver.kept import (
    is_given_up,
    keeps_brightest,
)

NIGHT_PLACE_STOPS = -3.0
DARK_SUBJECT_PLACE_STOPS = -2.0
SHAPE_PLACE_STOPS = -4.0
SKY_PLACE_STOPS = 1.0
"""Where a bright background behind a shape, or a sky shared with a foreground, is put."""
OFF_STOPS = 1.0
"""A tone further off than this is not the one that was asked for."""
NEUTRAL_OFF_STOPS = 0.5
"""Grey that should be grey shows an error sooner than a face does."""

NOMINAL_STOPS = 0.05
"""What a phone's steps are rounded by: a tone this little off is no reason for a higher ISO."""


@dataclass(frozen=True)
class WantedTone:
    """Where a spot shall land (stops from mid), and how much darker or brighter still will do.

    None where any amount will: a shape may be as black as it likes.
    """

    reading: PlacedReading
    stops: float
    darker_stops: float | None = OFF_STOPS
    brighter_stops: float | None = OFF_STOPS

    @property
    def ev100(self) -> float:
        """The exposure that puts it just there."""
        return self.reading.ev100 - self.stops

    @property
    def low_ev100(self) -> float | None:
        """Exposures for less than this make it too bright."""
        return None if self.brighter_stops is None else self.ev100 - self.brighter_stops

    @property
    def high_ev100(self) -> float | None:
        """Exposures for more than this make it too dark."""
        return None if self.darker_stops is None else self.ev100 + self.darker_stops

    @property
    def name(self) -> str:
        """What it is called on screen."""
        return spoken_spot(self.reading)


def spot_name(reading: PlacedReading) -> str:
    """A spot's own name, else its role's."""
    return reading.name or ROLE_NAMES[reading.role]


SPOKEN_ROLES: Mapping[Role, str] = {
    SUBJECT: "the subject",
    KEEP_BRIGHT: "the brightest detail",
    KEEP_DARK: "the darkest detail",
    NEUTRAL: "the neutral patch",
}


def spoken_spot(reading: PlacedReading) -> str:
    """What a spot is called within a sentence."""
    return reading.name or SPOKEN_ROLES[reading.role]


def default_place_stops(role: Role, aim: ExposureAim, headroom_stops: float) -> float:
    """Stops from mid for a reading nobody placed.

    Bright detail goes just under clipping, the darkest detail to night, anything else to mid;
    keeping the night dark puts an unplaced subject two stops down; a shape's background and a sky
    shared with its foreground are a stop above mid, and a shape alone four stops under.
    """
    if role == KEEP_BRIGHT:
        return SKY_PLACE_STOPS if aim in ("silhouette", "split") else headroom_stops
    if role == KEEP_DARK:
        return NIGHT_PLACE_STOPS
    if aim == "silhouette" and role == SUBJECT:
        return SHAPE_PLACE_STOPS
    return DARK_SUBJECT_PLACE_STOPS if aim == "dark" else 0.0


def place_stops(brief: Brief, reading: PlacedReading) -> float:
    """Stops from mid that a reading is wanted at, its role's default where none is given."""
    headroom, strategy = brief.mode.headroom_stops(brief[FORMAT]), brief[STRATEGY]
    place = reading.place_stops
    if place is None:
        place = default_place_stops(reading.role, strategy.exposure, headroom)
    # Bright detail only gains by a darker picture.
    return place if reading.role == KEEP_BRIGHT else place - strategy.darker_stops


def wanted_tones(brief: Brief) -> tuple[WantedTone, ...]:
    """Every spot that this one exposure must answer for, with what will do.

    Bright detail nobody placed only has to stay under clipping; the highlight guard sees to it.
    In a bracket the ends of the range have frames of their own.
    """
    return brief.memo.of(_wanted_tones)


def _wanted_tones(brief: Brief) -> tuple[WantedTone, ...]:
    asked = (reading for reading in brief.readings if not _is_left_out(brief, reading))
    found = (_wanted(brief, reading) for reading in asked)
    return tuple(tone for tone in found if tone is not None)


def wanted_of(brief: Brief, reading: PlacedReading) -> WantedTone | None:
    """What is asked of one spot; None where bright detail only has to stay under clipping."""
    return _wanted(brief, reading)


def _is_left_out(brief: Brief, reading: PlacedReading) -> bool:
    return is_given_up(brief, reading) or _has_its_own_frame(brief, reading)


def _has_its_own_frame(brief: Brief, reading: PlacedReading) -> bool:
    if not is_bracketed(brief):
        return False
    main = next((placed for placed in brief.readings if placed.role in (SUBJECT, NEUTRAL)), None)
    return main is not None and reading is not main


def _wanted(brief: Brief, reading: PlacedReading) -> WantedTone | None:
    place = place_stops(brief, reading)
    if is_backdrop(brief, reading):
        black = min(place, (brief[DRAWING] or Drawing()).ambient_black_stops)
        return WantedTone(reading, black, None, brighter_stops=0.0)
    usual = NEUTRAL_OFF_STOPS if reading.role == NEUTRAL else OFF_STOPS
    within = usual if reading.within_stops is None else reading.within_stops
    if reading.role == KEEP_BRIGHT and not _decides_as_bright(brief, reading):
        return None
    if is_shape(brief, reading):
        return WantedTone(reading, SHAPE_PLACE_STOPS, None, brighter_stops=within)
    if reading.role == KEEP_DARK and reading.place_stops is None:
        # Developed RAW shows darker detail than a processed file, as far as noise allows.
        kept = None if brief[FORMAT] == "raw" else within
        return WantedTone(reading, place, kept, brighter_stops=None)
    if _sky_in_raw(brief, reading):
        # Developed RAW brings bright detail down, as long as none of it is clipped.
        return WantedTone(reading, place, within, brighter_stops=None)
    return WantedTone(reading, place, within, brighter_stops=within)


def _sky_in_raw(brief: Brief, reading: PlacedReading) -> bool:
    is_sky = reading.role == KEEP_BRIGHT and reading.place_stops is None
    return is_sky and brief[STRATEGY].exposure == "split" and brief[FORMAT] == "raw"


def is_shape(brief: Brief, reading: PlacedReading) -> bool:
    """Whether a subject is meant to be a shape without detail."""
    if brief[STRATEGY].exposure != "silhouette" or reading.role != SUBJECT:
        return False
    return reading.place_stops is None or reading.place_stops > SHAPE_PLACE_STOPS + OFF_STOPS


def is_backdrop(brief: Brief, reading: PlacedReading) -> bool:
    """Whether a spot is the dark background of a drawing: as black as it likes."""
    if brief[DRAWING] is None:
        return False
    dark = any(placed.role == KEEP_DARK for placed in brief.readings)
    return reading.role == KEEP_DARK if dark else reading.place_stops is None


def _decides_as_bright(brief: Brief, reading: PlacedReading) -> bool:
    """Whether bright detail is wanted at a tone of its own, not just under clipping."""
    if not keeps_brightest(brief):
        return False
    if reading.place_stops is not None:
        return True
    if brief[STRATEGY].exposure not in ("silhouette", "split"):
        return False
    unplaced = [
        placed.ev100
        for placed in brief.readings
        if placed.role == KEEP_BRIGHT and placed.place_stops is None
    ]
    return reading.ev100 == max(unplaced)
