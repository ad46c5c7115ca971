"""What frames put together amount to: light, time, noise, and the dark glass they stand for."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from oxlen.core.frames.combine import LEAST_TO_CLIP, Combine

MEDIAN_EFFICIENCY = 2 / math.pi
"""Of the median of many frames against their mean, for normal noise. [ROUSSEEUW1993]"""
CLIP_EFFICIENCY = 0.98
"""Of a mean that leaves out what lies past three standard deviations; measured."""


@dataclass(frozen=True)
class SetGain:
    """What a set of frames gives.

    `light_s` is the light of the result as seconds of one frame's exposure, `time_s` what the set
    took from first to last, `noise_gain_stops` how much farther noise lies under the light,
    `virtual_nd_stops` the dark glass that one frame of that time would need.
    """

    light_s: float
    time_s: float
    noise_gain_stops: float
    virtual_nd_stops: float


def noise_gain_stops(how: Combine, frames: int) -> float:
    """Stops by which the signal gains on shot and read noise, against one frame. [EMVA1288]

    Half a stop for each doubling of frames that are averaged or added; less for a median; none
    where the lighter or darker is kept. PRNU does not fall.

    >>> noise_gain_stops("mean", 16)
    2.0
    """
    if how in ("lighten", "darken") or frames <= 1:
        return 0.0
    gained = 0.5 * math.log2(frames)
    if how == "median" or (how == "sigma-clip" and frames < LEAST_TO_CLIP):
        # The median of three is its middle one: the loss grows with the count.
        loss = 0.5 * math.log2(MEDIAN_EFFICIENCY)
        return max(0.0, gained + loss * (1 - 1 / frames))
    return gained + (0.5 * math.log2(CLIP_EFFICIENCY) if how == "sigma-clip" else 0.0)


def set_gain(
    how: Combine, shutters_s: Sequence[float], *, gap_s: float = 0.0, elapsed_s: float | None = None
) -> SetGain:
    """What frames of these shutters (s) give, `gap_s` seconds apart.

    `elapsed_s` is the time from the first to the end of the last where it is known. A mean stands
    for one frame of the whole light, made darker by glass; a sum is that much brighter instead.

    >>> found = set_gain("mean", [0.5] * 16, gap_s=0.1)
    >>> f"{found.light_s:.0f} s in {found.time_s:.1f} s, {found.virtual_nd_stops:.0f} stops"
    '8 s in 9.5 s, 4 stops'
    """
    count, light_s = len(shutters_s), math.fsum(shutters_s)
    time_s = light_s + max(0, count - 1) * gap_s if elapsed_s is None else elapsed_s
    averaged = how in ("mean", "median", "sigma-clip")
    return SetGain(
        light_s if averaged or how == "add" else max(shutters_s, default=0.0),
        max(time_s, light_s),
        noise_gain_stops(how, count),
        virtual_nd_stops=math.log2(count) if averaged and count else 0.0,
    )
