"""A place as nights are planned at it."""

from __future__ import annotations

from dataclasses import dataclass, field
from zoneinfo import ZoneInfo

from oxlen.core.sky.dark_windows import Wanted
from oxlen.core.sky.horizon import Glow
from oxlen.core.sky.place import Place


@dataclass(frozen=True)
class NightPlace:
    """Where the night is spent: the place, its sky (mag/arcsec² and how sure), its clock.

    `lamps` are at hand, by name and the least light they give (lm).
    """

    place: Place
    zone: ZoneInfo
    magnitude: float = 21.0
    plus_minus: float = 0.5
    wanted: Wanted = field(default_factory=Wanted)
    towns: tuple[Glow, ...] = ()
    lamps: tuple[tuple[str, float], ...] = ()
