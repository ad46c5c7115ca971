"""What may be asked of special scenes: stars, a lamp that draws, a close-up, a moving camera."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Checked, Choices, Quantity, Several, Text
from oxlen.core.errors import BadInput
from oxlen.core.motion.drawing import BLACK_STOPS, LampColour, drawing_time_s
from oxlen.core.motion.strokes import Strokes, strokes_of

SkyKind = Literal["stars"]
StarRule = Literal["npf", "500"]
ForegroundTreatment = Literal["silhouette", "lit", "dusk", "dark"]
LandHour = Literal["dusk", "dark"]


@dataclass(frozen=True)
class Sky(Checked):
    """Stars that shall be points: by a rule of thumb, or by the longest trail, given in pixels.

    `declination_deg` is the smallest in the frame: stars near the celestial equator run fastest.
    """

    kind: Annotated[SkyKind, Choices({"stars": "Stars as points"}, "Sky")] = "stars"
    declination_deg: Annotated[float, Quantity(-89, 89, "°", label="Declination")] = 0.0
    trail_px: Annotated[float, Quantity(0.1, 1000, "px", label="Trail", usual=4.0)] | None = None
    rule: Annotated[StarRule, Choices({"npf": "NPF", "500": "500"}, "Rule")] = "npf"
    land: Annotated[
        ForegroundTreatment,
        Choices(
            {
                "silhouette": "Silhouette",
                "lit": "Lamp lit",
                "dusk": "Dusk frame",
                "dark": "Night frames",
            },
            "Foreground",
        ),
    ] = "silhouette"


@dataclass(frozen=True)
class Land(Checked):
    """The foreground of a night picture by itself, to be blended under its sky afterwards."""

    shot: Annotated[
        LandHour, Choices({"dusk": "At dusk", "dark": "In the dark"}, "Foreground frames")
    ] = "dusk"


@dataclass(frozen=True)
class Drawing(Checked):
    """A lamp that draws in the dark: how long it takes, and how dark its background must stay.

    With `what` to draw, a word or a shape, the time follows from its way and the hand's speed
    instead. In `parts` it is drawn over several frames, of which the lighter is kept; each colour
    needs a frame of its own, and they follow each other in turn.
    """

    time_s: Annotated[float, Quantity(0.1, 3600, "s", label="Drawing time")] = 8.0
    ambient_black_stops: Annotated[float, Quantity(-12, 0, "stops", label="Background at most")] = (
        BLACK_STOPS
    )
    what: Annotated[str, Text(24, "Word or shape")] = ""
    height_m: Annotated[float, Quantity(0.02, 20, "m", label="Height")] = 0.5
    distance_m: Annotated[float, Quantity(0.2, 200, "m", label="Distance from phone")] = 4.0
    hand_m_s: Annotated[float, Quantity(0.02, 10, "m/s", label="Hand speed")] = 0.6
    margin_s: Annotated[float, Quantity(0, 60, "s", label="Spare time")] = 1.0
    lamp_lm: Annotated[float, Quantity(0.01, 1e5, "lm", label="Lamp")] = 20.0
    lamp_mm: Annotated[float, Quantity(0.5, 500, "mm", label="Lamp size")] = 20.0
    dim_stops: Annotated[float, Quantity(0, 12, "stops", label="Dimmed by")] = 0.0
    parts: Annotated[int, Quantity(1, 12, "frames", label="Frames")] = 1
    colours: Annotated[tuple[LampColour, ...], Several(12)] = ("white",)

    def check(self) -> None:
        """A word whose letters can all be drawn, in a colour at least."""
        if not self.colours:
            raise BadInput("Choose the lamp's colour, or white.", "colours")
        if self.what.strip():
            strokes_of(self.what)

    @property
    def takes_s(self) -> float:
        """How long the longest frame of it takes: the shutter."""
        if not self.what.strip():
            return self.time_s / self.frames
        return max(self.part_s(part) for part in self.in_parts)

    @property
    def frames(self) -> int:
        """In how many frames it is drawn."""
        return max(self.parts, len(self.colours))

    @property
    def in_parts(self) -> tuple[Strokes, ...]:
        """What is drawn in each frame."""
        return strokes_of(self.what).in_parts(self.frames)

    def part_s(self, part: Strokes) -> float:
        """How long a part of it takes, with the time before and after."""
        margin = self.margin_s
        path_m = part.length * self.height_m
        return float(drawing_time_s(path_m, self.hand_m_s, margin, stop_s=margin))


@dataclass(frozen=True)
class Closeup(Checked):
    """A subject so near that the hand's drift sideways counts; None takes the support's usual."""

    distance_m: Annotated[float, Quantity(0.01, 10, "m", label="Close-up distance")] = 0.1
    sway_mm_s: Annotated[float, Quantity(0, 100, "mm/s", label="Sway", usual=5.0)] | None = None


@dataclass(frozen=True)
class Travel(Checked):
    """A camera that moves along: what is still at a distance runs through its frame.

    Speeds of movers are then relative to the camera.
    """

    speed_m_s: Annotated[float, Quantity(0.1, 100, "m/s", label="Your speed")] = 4.0
    ground_m: Annotated[float, Quantity(0.3, 1e5, "m", label="Nearest sharp distance")] = 10.0
