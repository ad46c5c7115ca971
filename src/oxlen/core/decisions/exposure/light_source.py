"""What lights a scene, as far as a brief tells: it decides what can be done about its light."""

from __future__ import annotations

from enum import Enum

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.ask import DRAWING, LAMPS, LAND, SKY

DAYLIGHT_FROM_EV100 = 4.0
"""Darker than this it is night, or a room: another hour changes nothing for the better."""


class LightSource(Enum):
    """Where the light comes from."""

    DAY = "sun and sky"
    LAMP = "lamps of one's own"
    NIGHT = "what there is at night"
    STARS = "stars"
    DUSK = "the last light"
    DRAWING = "a lamp that draws"


def light_source(brief: Brief) -> LightSource:
    """What lights the scene: pulsing lamps say so, else the level of the light does."""
    if brief[SKY] is not None:
        return LightSource.STARS
    land = brief[LAND]
    if land is not None:
        return LightSource.DUSK if land.shot == "dusk" else LightSource.STARS
    if brief[DRAWING] is not None:
        return LightSource.DRAWING
    if brief[LAMPS] is not None:
        return LightSource.LAMP
    brightest = max((one.ev100 for one in brief.readings), default=0.0)
    return LightSource.DAY if brightest >= DAYLIGHT_FROM_EV100 else LightSource.NIGHT
