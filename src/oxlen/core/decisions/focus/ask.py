"""What may be asked of focus: how, how far, from where to where, through which clip-on."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Formerly, Quantity, Text
from oxlen.core.errors import BadInput
from oxlen.core.kit.clip_on import ClipOn

FocusStrategy = Literal["advise", "tap", "by_hand", "preset"]
FOCUS_STRATEGIES = {
    "advise": "Recommended",
    "tap": "Tap, then lock",
    "by_hand": "Manual",
    "preset": "Preset",
}
SharpAt = Literal["output", "frame", "pixel"]
SHARP_AT = {
    "output": "output",
    "frame": "the frame's diagonal over 1500",
    "pixel": "two pixels of the file",
}
FocusDistance = Annotated[float, Quantity(0.005, 1e6, "m", label="Focus at", usual=1.0)]


@dataclass(frozen=True)
class Focus(Checked):
    """How focus is found and what must be sharp; distances in metres from the lens.

    `near_m` to `far_m` shall be sharp at once; `background_m` is how far away the background is.
    `on` names what is focused on, `stand_in` what is there until it comes. `thing_mm` is how
    wide a small subject is.
    """

    strategy: Annotated[FocusStrategy, Choices(FOCUS_STRATEGIES, "Focus"), Formerly("school")] = (
        "advise"
    )
    on: Annotated[str, Text(60, "Focus on")] = ""
    distance_m: FocusDistance | None = None
    near_m: Annotated[float, Quantity(0.005, 1e6, "m", label="Sharp from", usual=1.0)] | None = None
    far_m: Annotated[float, Quantity(0.005, 1e6, "m", label="Sharp to", usual=3.0)] | None = None
    background_m: (
        Annotated[float, Quantity(0.005, 1e6, "m", label="Background at", usual=5.0)] | None
    ) = None
    sharp_at: Annotated[SharpAt, Choices(SHARP_AT, "Sharp by")] = "output"
    stand_in: Annotated[str, Text(60, "Stand-in")] = ""
    thing_mm: (
        Annotated[float, Quantity(0.1, 1e5, "mm", label="Subject's width", usual=40.0)] | None
    ) = None
    clip_on: ClipOn | None = None

    def check(self) -> None:
        """From near to far."""
        if self.near_m is not None and self.far_m is not None and self.far_m < self.near_m:
            raise BadInput("far_m must be at least near_m", "far_m")


FOCUS: Ask[Focus] = Ask("focus", Focus, Focus(), label="Focus")
