"""What may be asked of special scenes: stars, a lamp that draws, a close-up, a moving camera."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Checked, Choices, Quantity
from oxlen.core.motion.drawing import BLACK_STOPS

SkyKind = Literal["stars"]
StarRule = Literal["npf", "500"]


@dataclass(frozen=True)
class Sky(Checked):
    """Stars that shall be points: by a rule of thumb, or by the longest trail taken in pixels.

    `declination_deg` is the smallest in the frame: stars near the celestial equator run fastest.
    """

    kind: Annotated[SkyKind, Choices({"stars": "Stars as points"}, "Sky")] = "stars"
    declination_deg: Annotated[float, Quantity(-89, 89, "°", label="Declination")] = 0.0
    trail_px: Annotated[float, Quantity(0.1, 1000, "px", label="Trail", usual=4.0)] | None = None
    rule: Annotated[StarRule, Choices({"npf": "NPF", "500": "500"}, "Rule")] = "npf"


@dataclass(frozen=True)
class Drawing(Checked):
    """A lamp that draws in the dark: how long it takes, and how dark its ground must stay."""

    time_s: Annotated[float, Quantity(0.1, 3600, "s", label="Drawing takes")] = 8.0
    ambient_black_stops: Annotated[
        float, Quantity(-12, 0, "stops", label="Ground no brighter than")
    ] = BLACK_STOPS


@dataclass(frozen=True)
class Closeup(Checked):
    """A subject so near that the hand's drift sideways counts; None takes the support's usual."""

    distance_m: Annotated[float, Quantity(0.01, 10, "m", label="Close-up from")] = 0.1
    sway_mm_s: Annotated[float, Quantity(0, 100, "mm/s", label="Sway", usual=5.0)] | None = None


@dataclass(frozen=True)
class Travel(Checked):
    """A camera that moves along: what stands still at a distance runs through its frame.

    Speeds of movers are then relative to the camera.
    """

    speed_m_s: Annotated[float, Quantity(0.1, 100, "m/s", label="You travel at")] = 4.0
    ground_m: Annotated[float, Quantity(0.3, 1e5, "m", label="Nearest that shall be sharp")] = 10.0
