"""What a set of frames costs: storage, time, battery."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.units import require_between, require_positive

SLACK = 1e-9
"""Own choice: what adding up tenths in binary may be off."""


@dataclass(frozen=True)
class FrameCost:
    """What one frame takes: megabytes (10⁶ bytes), and battery in percent a minute of running."""

    megabytes: float
    battery_percent_per_min: float


@dataclass(frozen=True)
class SetCost:
    """Cost of a whole set; `last_close_s` leaves out the gap after the last frame."""

    frames: int
    megabytes: float
    time_s: float
    last_close_s: float
    battery_percent: float
    fits: bool


def set_cost(
    *, open_s: float, sub_s: float, gap_s: float, frame: FrameCost, free_megabytes: float
) -> SetCost:
    """Cost of keeping the shutter open for `open_s` in sub-frames of `sub_s` with gaps.

    >>> set_cost(
    ...     open_s=600, sub_s=15, gap_s=1, frame=FrameCost(25, 0.7), free_megabytes=8000
    ... ).frames
    40
    """
    require_positive("open_time", open_s, "s")
    require_positive("t_sub", sub_s, "s")
    require_between("gap", gap_s, low=0, high=1e6, unit="s")
    frames = max(1, math.ceil(open_s / sub_s * (1 - SLACK)))
    megabytes, time_s = frames * frame.megabytes, frames * (sub_s + gap_s)
    return SetCost(
        frames,
        megabytes,
        time_s,
        last_close_s=time_s - gap_s,
        battery_percent=frame.battery_percent_per_min * time_s / 60,
        fits=megabytes <= free_megabytes,
    )
