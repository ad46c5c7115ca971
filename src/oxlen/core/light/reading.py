"""Readings of light that do not come from a picture, all turned into EV100 with a ±."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.errors import NotFound
from oxlen.core.light.exposure import ExposureSettings, ev100_from_illuminance
from oxlen.core.units import require_between


@dataclass(frozen=True)
class Reading:
    """Light at EV100 ± `plus_minus_stops`, with the words that say why it is no surer."""

    ev100: float
    plus_minus_stops: float
    why: str


@dataclass(frozen=True)
class LightLevel:
    """A usual level of light, for when nothing can be metered."""

    id: str
    name: str
    ev100: float
    plus_minus_stops: float


# Typical levels, rounded from illuminance tables in CIE S 008, EN 12464-1 and the exposure
# guide that used to come with film (ANSI PH2.7); the ± is the spread those tables give.
LIGHT_LEVELS: tuple[LightLevel, ...] = (
    LightLevel("sun-on-white", "Full sun on white hull, snow or sand", 16.0, plus_minus_stops=0.5),
    LightLevel("sun", "Full sun, clear shadows", 15.0, plus_minus_stops=0.5),
    LightLevel("hazy-sun", "Hazy sun, soft shadows", 14.0, plus_minus_stops=0.5),
    LightLevel("bright-cloud", "Bright cloud, no shadows", 13.0, plus_minus_stops=0.7),
    LightLevel("overcast", "Heavy overcast or open shade", 12.0, plus_minus_stops=0.7),
    LightLevel("tree-shade", "Under a tree on a bright day", 11.0, plus_minus_stops=1.0),
    LightLevel("sunset", "Just after sunset", 9.5, plus_minus_stops=1.0),
    LightLevel("woodland", "In woodland, in full leaf", 9.0, plus_minus_stops=1.5),
    LightLevel("window", "Indoors beside a window by day", 8.5, plus_minus_stops=1.5),
    LightLevel("lit-box", "A lit box for small goods", 8.5, plus_minus_stops=1.5),
    LightLevel("workshop", "Workshop or office under lamps", 7.0, plus_minus_stops=1.0),
    LightLevel("room", "A room in the evening", 5.0, plus_minus_stops=1.0),
    LightLevel("lantern-street", "Under a street lamp", 5.0, plus_minus_stops=1.0),
    LightLevel("dusk", "Half an hour after sunset", 5.0, plus_minus_stops=1.5),
    LightLevel("street", "Lit street at night", 3.5, plus_minus_stops=1.5),
    LightLevel("lantern", "By lantern light, at arm's length", 1.5, plus_minus_stops=1.5),
    LightLevel("full-moon", "Ground under a full Moon", -2.5, plus_minus_stops=0.7),
    LightLevel("dark-room", "A room with the lights out", -6.0, plus_minus_stops=2.0),
    LightLevel("starlight", "Ground under stars, far from towns", -7.0, plus_minus_stops=1.5),
)
"""Rule of thumb, each with its ±: off by up to that."""

AUTO_NUMBERS_PLUS_MINUS = 0.5
"""Rule of thumb: what the phone chose for an evenly lit scene is off by up to 0.5 stop."""
LOWEST_EV100, HIGHEST_EV100 = -18.0, 24.0
"""Derived: land that reflects 1 % under a moonless sky of 23 mag/arcsec² is at EV −17.5, and the
Sun's disc low in haze at 24. What is outside is a typing error."""
HAND_METER_PLUS_MINUS = 0.3
"""Rule of thumb, for two meters of one kind: off by up to 0.3 stop. [ISO2720]"""
LUX_PLUS_MINUS = 0.4
"""Derived: K with C imply a card of 15.7 %, 0.2 stop off, and the meter's own 0.3. [ISO2720]"""


def reading_from_auto(settings: ExposureSettings) -> Reading:
    """Light as the phone's auto mode judged it: its settings expose that light as mid.

    >>> reading_from_auto(ExposureSettings(100, 0.01, 1.8)).plus_minus_stops
    0.5
    """
    return Reading(
        settings.ev100,
        AUTO_NUMBERS_PLUS_MINUS,
        "auto meters the whole frame and shows rounded steps",
    )


def reading_from_lux(lux: float) -> Reading:
    """Light from an incident reading in lux (positive).

    >>> f"{reading_from_lux(2560.0).ev100:.1f}"
    '10.0'
    """
    return Reading(
        float(ev100_from_illuminance(lux)),
        LUX_PLUS_MINUS,
        "a hand meter is accurate to 0.3 stop, and incident and spot scales differ by 0.2",
    )


def reading_from_ev(ev100: float) -> Reading:
    """Light as an EV at ISO 100 read off a hand meter (−18 to 24)."""
    require_between("ev100", ev100, low=LOWEST_EV100, high=HIGHEST_EV100, unit="EV100")
    return Reading(
        float(ev100), HAND_METER_PLUS_MINUS, "a hand meter is accurate to about 0.3 stop"
    )


def reading_predicted(ev100: float, plus_minus_stops: float, why: str) -> Reading:
    """Light worked out beforehand, as by place, date and hour, with how far it may be off.

    >>> reading_predicted(-8.3, 0.33, "by the darkness of this place").plus_minus_stops
    0.33
    """
    require_between("ev100", ev100, low=LOWEST_EV100, high=HIGHEST_EV100, unit="EV100")
    require_between("plus_minus", plus_minus_stops, low=0, high=6, unit="stops")
    return Reading(float(ev100), float(plus_minus_stops), why)


def reading_from_level(level_id: str) -> Reading:
    """Light from the table of usual levels; NotFound when the table has no such level."""
    for level in LIGHT_LEVELS:
        if level.id == level_id:
            return Reading(level.ev100, level.plus_minus_stops, f"usual level: {level.name}")
    raise NotFound(f"Unknown light level {level_id}. Choose one of the table.", level=level_id)


def combined_plus_minus(*parts_stops: float) -> float:
    """Independent uncertainties in stops, combined as the root of the sum of squares.

    Takes any number of parts of at least 0 stops. [JCGM100]

    >>> combined_plus_minus(0.3, 0.4)
    0.5
    """
    return float(np.sqrt(np.sum(np.square(parts_stops))))
