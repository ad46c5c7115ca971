"""Less light, longer time: neutral-density filters, and its substitute by averaging frames."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.units import Real, require_between, require_positive


@dataclass(frozen=True)
class AveragedFrames:
    """What averaging frames amounts to: light gathered, span of a streak, stops, noise."""

    gathered_s: Real
    elapsed_s: Real
    virtual_stops: Real
    duty_share: Real
    noise_gain: Real


def nd_stops(factor: Real) -> Real:
    """Stops a filter of factor F takes: log2 F; OutOfRange below 1. [ISO5-1]

    The factor is a ratio, in stops as powers of 2.

    >>> f"{nd_stops(64.0):.0f}"
    '6'
    """
    return np.log2(require_between("factor", factor, low=1, high=1e9))


def nd_density(factor: Real) -> Real:
    """Optical density of a filter of factor F: log10 F. [ISO5-1]

    Takes a factor of at least 1.

    >>> f"{nd_density(1000.0):.1f}"
    '3.0'
    """
    return np.log10(require_between("factor", factor, low=1, high=1e9))


def averaged_frames(frames: Real, sub_s: Real, gap_s: Real, *, base_s: Real) -> AveragedFrames:
    """M sub-frames of `sub_s` with gaps, averaged, against the single shutter `base_s`.

    Light as T = M·t, a streak spans M·t + (M − 1)·gap, virtual stops log2(T/base), duty
    t/(t + gap), shot and read noise fall by √M. [EMVA1288]

    >>> averaged_frames(16, 0.25, 0.0, base_s=0.25).gathered_s
    4.0
    """
    require_between("frames", frames, low=1, high=1e6)
    require_positive("t_sub", sub_s, "s")
    require_between("gap", gap_s, low=0, high=1e6, unit="s")
    gathered = frames * np.asarray(sub_s, dtype=float)
    return AveragedFrames(
        float(gathered) if gathered.ndim == 0 else gathered,
        gathered + (np.asarray(frames) - 1) * gap_s,
        np.log2(gathered / require_positive("t_base", base_s, "s")),
        duty_share=sub_s / (np.asarray(sub_s) + gap_s),
        noise_gain=np.sqrt(frames),
    )
