"""What lights a scene, as far as a brief tells: it decides what can be done about its light."""

from __future__ import annotations

from enum import Enum

from oxlen.core.decisions.exposure.ask import DRAWING, LAND, SKY
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.scene.unfit import has_lamps_of_its_own, is_lit_by_others
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS

DAYLIGHT_FROM_EV100 = 4.0
"""Darker than this it is night, or a room: another hour changes nothing for the better."""


BRIGHTEST_DAY_EV100, DARKEST_DUSK_EV100 = 16.5, -2.0
"""Full sun on white, and the last of the twilight in which anything but stars is lit by it."""
MOST_SHIFT_STOPS = 20.0
"""So far a sheet may expect its light to differ from what was read."""


class LightSource(Enum):
    """Where the light comes from."""

    DAY = "sun and sky"
    LAMP = "your own lamps"
    VENUE = "lamps of others"
    NIGHT = "night light"
    STARS = "stars"
    DUSK = "dusk"
    DRAWING = "a drawing lamp"


def light_source(brief: Brief) -> LightSource:
    """What lights the scene: as given, else by its lamps, its names, and its level."""
    if brief[SKY] is not None:
        return LightSource.STARS
    land = brief[LAND]
    if land is not None:
        return LightSource.DUSK if land.shot == "dusk" else LightSource.STARS
    if brief[DRAWING] is not None:
        return LightSource.DRAWING
    if has_lamps_of_its_own(brief):
        return LightSource.LAMP
    if is_lit_by_others(brief):
        return LightSource.VENUE
    if brief[SURROUNDINGS].lit_by == "night":
        return LightSource.NIGHT
    is_day = _brightest_ev100(brief) >= DAYLIGHT_FROM_EV100
    return LightSource.DAY if is_day else LightSource.NIGHT


def falls_so_far(brief: Brief, stops: float) -> bool:
    """Whether waiting takes so much light away: lamps do not fade, and no dusk is so dark."""
    if light_source(brief) in (LightSource.LAMP, LightSource.VENUE):
        return False
    in_reach = brief.light_shift_stops - stops >= -MOST_SHIFT_STOPS
    return in_reach and _brightest_ev100(brief) - stops >= DARKEST_DUSK_EV100


def rises_so_far(brief: Brief, stops: float) -> bool:
    """Whether another hour of the day brings so much more light, up to full sun."""
    is_lit_by_day = light_source(brief) in (LightSource.DAY, LightSource.DUSK)
    in_reach = brief.light_shift_stops + stops <= MOST_SHIFT_STOPS
    return in_reach and is_lit_by_day and _brightest_ev100(brief) + stops <= BRIGHTEST_DAY_EV100


def _brightest_ev100(brief: Brief) -> float:
    return max((reading.ev100 for reading in brief.readings), default=0.0)
