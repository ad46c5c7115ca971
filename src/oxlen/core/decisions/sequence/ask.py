"""What may be asked of a sequence: how many frames, how far apart, and what becomes of them."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from oxlen.core.ask import Ask, Checked, Choices, Quantity, Several, Text
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.lens_filter import LensFilter

Combine = Literal["average", "phone", "bracket", "series", "median", "blend"]
MOST_FRAMES = 2000
MEDIAN_SHARE = 0.637


@dataclass(frozen=True)
class Frames(Checked):
    """Frames made into one picture, `gap_s` seconds between them.

    *average*: `count` frames of one exposure; *phone*: the same, which a computed mode of the phone
    shoots and averages by itself. *bracket*: as many exposures as the range between
    the brightest and the darkest detail to keep takes, whatever `count` says, merged afterwards.
    *series*: each frame a picture of its own, while light changes by `ramp_stops_min`.
    *median*: the middle of every place, so that what passes is gone. *blend*: two frames for two
    wishes that exclude each other, masked into one afterwards: `each_for` names the limit that the
    first and the second is shot for, and `second_filters` go on before the second.
    """

    count: Annotated[int, Quantity(1, MOST_FRAMES, "frames", label="Frames")] = 1
    gap_s: Annotated[float, Quantity(0, 3600, "s", label="Gap")] = 0.3
    combine: Annotated[
        Combine,
        Choices(
            {
                "average": "averaged",
                "phone": "phone averages",
                "bracket": "bracketed",
                "series": "separate files",
                "median": "median: passers-by disappear",
                "blend": "two frames, blended",
            },
            "Stacking",
        ),
    ] = "average"
    ramp_stops_min: Annotated[float, Quantity(-3, 3, "stops/min", label="Light change")] = 0.0
    each_for: Annotated[tuple[Annotated[str, Text(40)], ...], Several(2)] = ()
    second_filters: Annotated[tuple[LensFilter, ...], Several(6)] = ()


FRAMES: Ask[Frames] = Ask("frames", Frames, Frames(), label="Frames")


def with_phone_gap(brief: Brief) -> Brief:
    """The brief with the phone's own gap between frames, where it is known and none was asked."""
    gap_s = brief.mode.files.frame_gap_s
    if gap_s is None or (FRAMES.name in brief.asked and brief[FRAMES].gap_s != Frames().gap_s):
        return brief
    return brief.asking(FRAMES, replace(brief[FRAMES], gap_s=gap_s))


def is_bracketed(brief: Brief) -> bool:
    """Whether several exposures cover a range that one does not."""
    return brief[FRAMES].combine == "bracket"


def is_blended(brief: Brief) -> bool:
    """Whether two frames, each for a wish of its own, make the picture."""
    return brief[FRAMES].combine == "blend" and len(brief[FRAMES].each_for) == 2


def is_median(brief: Brief) -> bool:
    """Whether the middle of several frames is kept."""
    return brief[FRAMES].combine == "median" and brief[FRAMES].count > 1


def frames_shot(brief: Brief) -> int:
    """Frames of one exposure that make the picture; 1 for a single frame and each of a bracket."""
    frames = brief[FRAMES]
    return 1 if frames.combine in ("bracket", "series", "blend") else frames.count


def frames_averaged(brief: Brief) -> int:
    """Frames that count as averaged against noise; 1 for a single frame and each of a bracket.

    The median of many keeps 2/π of what their mean gains. [ROUSSEEUW1993]
    """
    count = frames_shot(brief)
    return max(1, int(MEDIAN_SHARE * count)) if is_median(brief) else count
