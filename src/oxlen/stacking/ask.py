"""What is asked of a set of frames, and the result."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from oxlen.core.frames.combine import COMBINE_WORDS, Combine
from oxlen.core.frames.gain import SetGain
from oxlen.core.frames.misfit import FrameKind

Align = Literal["none", "features", "stars"]
ALIGN_WORDS = {
    "none": "no alignment",
    "features": "aligned on detail",
    "stars": "aligned on stars",
}
LEAST_FRAMES, MOST_FRAMES = 2, 500
THREADS = 2
STREAMED: tuple[Combine, ...] = ("mean", "add", "lighten", "darken")
"""Rules that need one frame at a time; the others need every frame of a place at once."""


@dataclass(frozen=True)
class StackAsk:
    """How frames are stacked. `mixed`: each may have settings of its own, on purpose.

    Below a `horizon`, places in shares of the upright frame, the foreground stays where it is
    while the sky is aligned with its stars. `dark` names the file with the lens covered.
    With `close_gaps` star trails, the lighter of each place kept where frames are, go on through
    pauses. `land` names files of the foreground alone: their mean takes the place of the others
    under the horizon, lifted by `land_lift_stops`.
    """

    combine: Combine = "mean"
    align: Align = "none"
    mixed: bool = False
    horizon: tuple[tuple[float, float], ...] = ()
    dark: str | None = None
    close_gaps: bool = False
    land: tuple[str, ...] = ()
    land_lift_stops: float = 0.0


@dataclass(frozen=True)
class FrameFile:
    """A file of the set and what it says of itself; `taken_s` in seconds of its day.

    `focal35_mm` is as the file states it, `orientation` as Exif has it.
    """

    path: Path
    name: str
    kind: FrameKind
    taken_s: float | None
    focal35_mm: float | None
    orientation: int
    is_raw: bool


@dataclass(frozen=True)
class LeftOut:
    """A file that is not in the result, and why."""

    name: str
    why: str


@dataclass(frozen=True)
class StackDone:
    """What came of a set: how many frames are in it, what was left out, and what it amounts to.

    `path` is the result, `width` and `height` its size as people see it. `land_moved_px` is how far
    frames of the foreground were off those of the sky, `land_sky_share` how much just below the
    line is as light as the sky.
    """

    frames: int
    left_out: tuple[LeftOut, ...]
    gain: SetGain
    width: int
    height: int
    path: Path | None
    used: tuple[str, ...] = ()
    land_moved_px: float = 0.0
    land_sky_share: float = 0.0


@dataclass(frozen=True)
class Progress:
    """How far it is: what is being done, and how much of the whole, 0 to 1."""

    doing: str
    share: float


ProgressReport = Callable[[Progress], None]


class Stopped(Exception):
    """The one who asked has stopped it; what was kept of it can be taken up again."""


def words_of(asked: StackAsk) -> str:
    """How it is stacked, in words."""
    land = f", foreground from {', '.join(asked.land)}" if asked.land else ""
    return f"{COMBINE_WORDS[asked.combine]}, {ALIGN_WORDS[asked.align]}{land}"
