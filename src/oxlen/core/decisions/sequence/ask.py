"""What may be asked of a sequence: how many frames, how far apart, and what becomes of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Quantity
from oxlen.core.decisions.brief import Brief

Combine = Literal["average", "bracket"]


@dataclass(frozen=True)
class Frames(Checked):
    """Frames made into one picture, `gap_s` seconds between them.

    *average*: `count` frames of one exposure. *bracket*: as many exposures as the range between
    the brightest and the darkest detail to keep takes, whatever `count` says, merged afterwards.
    """

    count: Annotated[int, Quantity(1, 2000, "frames", label="Frames")] = 1
    gap_s: Annotated[float, Quantity(0, 60, "s", label="Gap between them")] = 0.3
    combine: Annotated[
        Combine, Choices({"average": "averaged", "bracket": "bracketed"}, "Put together")
    ] = "average"


FRAMES: Ask[Frames] = Ask("frames", Frames, Frames(), label="Frames")


def is_bracketed(brief: Brief) -> bool:
    """Whether several exposures take in a range that one does not."""
    return brief[FRAMES].combine == "bracket"


def frames_averaged(brief: Brief) -> int:
    """Frames that are averaged into one; 1 for a single frame and for each of a bracket."""
    frames = brief[FRAMES]
    return 1 if frames.combine == "bracket" else frames.count
