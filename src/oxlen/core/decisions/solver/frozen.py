"""How long a mover may be exposed and still be sharp, on the phone's own sensor."""

from __future__ import annotations

import numpy as np

from oxlen.core.decisions.exposure.ask import OUTPUT
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.motion.sharpness import circle_of_confusion_um, output_blur_um
from oxlen.core.motion.subject import blur_rate_um_s

CROSSING_SINE = 1e-6


def tolerated_blur_um(brief: Brief, motion: FrozenMotion) -> float:
    """Blur (µm on the sensor) that still counts as sharp for a mover."""
    mode, sharp = brief.mode, motion.sharp
    measure = float(sharp.in_force("value"))
    if sharp.by == "pixel":
        return measure * mode.pixel_pitch_um
    if sharp.by == "output":
        short_side, seen = min(mode.width_px, mode.height_px), brief[OUTPUT].short_side_px
        return float(output_blur_um(short_side, mode.pixel_pitch_um, seen, pixels=measure))
    return float(
        circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um, divisor=measure)
    )


def off_axis_mm(brief: Brief, motion: FrozenMotion) -> float:
    """Distance (mm on the sensor) of a mover from the middle of the frame."""
    mode = brief.mode
    short_side_mm = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000
    return motion.off_axis * short_side_mm


def towards_m_s(motion: FrozenMotion) -> float:
    """Speed (m/s) along the view axis, coming or going."""
    mover = motion.mover
    return abs(float(mover.speed_m_s * np.cos(np.radians(mover.angle_deg))))


def crossing_limit_s(brief: Brief, motion: FrozenMotion) -> float:
    """Longest shutter (s) that freezes a mover's motion across the frame; inf without any."""
    mover = motion.followed
    if np.sin(np.radians(mover.angle_deg)) < CROSSING_SINE:
        return float("inf")
    rate = float(blur_rate_um_s(mover, brief.lens.focal_mm))
    return tolerated_blur_um(brief, motion) / rate


def approach_limit_s(brief: Brief, motion: FrozenMotion) -> float:
    """Longest shutter (s) that freezes a mover's growth as it comes on or goes; inf without any.

    From y·v·t/(D − v·t) = c: t = c·D/(v·(y + c)).
    """
    mover, towards = motion.mover, towards_m_s(motion)
    if towards < CROSSING_SINE * mover.speed_m_s:
        return float("inf")
    tolerated_mm = tolerated_blur_um(brief, motion) / 1000
    shifted_mm = off_axis_mm(brief, motion) + tolerated_mm
    return float(tolerated_mm * mover.distance_m / (towards * shifted_mm))
