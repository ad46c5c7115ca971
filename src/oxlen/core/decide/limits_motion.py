"""Limits of motion: what must freeze, what shall streak or vanish, lamps that pulse."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np

from oxlen.core.decide.brief import Brief
from oxlen.core.decide.limits import Limit, Situation
from oxlen.core.decide.wishes import Flicker, Freeze, Show
from oxlen.core.labels import shutter_label
from oxlen.core.motion.flicker import residual_modulation
from oxlen.core.motion.looks import vanishing_shutter_s
from oxlen.core.motion.sharpness import (
    CIRCLE_DIVISOR,
    OUTPUT_PIXELS,
    PIXELS,
    circle_of_confusion_um,
    output_blur_um,
)
from oxlen.core.motion.subject import Mover, blur_rate_um_s

RULE_SOURCE = "Ray, Applied Photographic Optics"
CROSSING_SINE = 1e-6
NO_TIME_S = 1e-6
"""Stands for a shutter where no time is left for one."""


def numbered(kind: str, index: int) -> str:
    """Id of the n-th limit of a kind; the first has no number."""
    return kind if index == 0 else f"{kind}-{index + 1}"


def tolerated_blur_um(brief: Brief, freeze: Freeze) -> float:
    """Blur (µm on the sensor) that still counts as sharp for a mover."""
    mode, tolerance = brief.mode, freeze.tolerance
    short_side = min(mode.width_px, mode.height_px)
    if freeze.sharp_by == "pixel":
        return (tolerance or PIXELS) * mode.pixel_pitch_um
    if freeze.sharp_by == "output":
        pixels = tolerance or OUTPUT_PIXELS
        seen = brief.output.short_side_px
        return float(output_blur_um(short_side, mode.pixel_pitch_um, seen, pixels))
    divisor = tolerance or CIRCLE_DIVISOR
    return float(
        circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um, divisor)
    )


def followed(freeze: Freeze) -> Mover:
    """The mover as the frame sees it: slowed to what a pan leaves of its motion."""
    if freeze.pan_residual_share is None:
        return freeze.mover
    return replace(freeze.mover, speed_m_s=freeze.mover.speed_m_s * freeze.pan_residual_share)


def off_axis_mm(brief: Brief, freeze: Freeze) -> float:
    """Distance (mm on the sensor) of a mover from the middle of the frame."""
    mode = brief.mode
    short_side_mm = min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000
    return freeze.off_axis_share * short_side_mm


def crossing_limit_s(brief: Brief, freeze: Freeze) -> float:
    """Longest shutter (s) that freezes a mover's motion across the frame; inf without any."""
    mover = followed(freeze)
    if np.sin(np.radians(mover.angle_deg)) < CROSSING_SINE:
        return float("inf")
    rate = float(blur_rate_um_s(mover, brief.lens.focal_mm))
    return tolerated_blur_um(brief, freeze) / rate


def approach_limit_s(brief: Brief, freeze: Freeze) -> float:
    """Longest shutter (s) that freezes a mover's growth as it comes on or goes; inf without any.

    From y·v·t/(D − v·t) = c: t = c·D/(v·(y + c)).
    """
    mover = freeze.mover
    towards_m_s = abs(float(mover.speed_m_s * np.cos(np.radians(mover.angle_deg))))
    if towards_m_s < CROSSING_SINE * mover.speed_m_s:
        return float("inf")
    tolerated_mm = tolerated_blur_um(brief, freeze) / 1000
    shifted_mm = off_axis_mm(brief, freeze) + tolerated_mm
    return float(tolerated_mm * mover.distance_m / (towards_m_s * shifted_mm))


def freeze_limits(situation: Situation) -> Iterable[Limit]:
    """Longest shutter for each mover that must be sharp: the tighter of crossing and approach."""
    brief = situation.brief
    for index, freeze in enumerate(brief.freeze):
        crossing, approach = crossing_limit_s(brief, freeze), approach_limit_s(brief, freeze)
        limit_id = numbered("freeze", index)
        if crossing <= approach:
            yield _crossing(brief, freeze, limit_id, crossing)
        else:
            yield _approach(brief, freeze, limit_id, approach)


def _crossing(brief: Brief, freeze: Freeze, limit_id: str, longest: float) -> Limit:
    mover = followed(freeze)
    panned = ", followed with the phone," if freeze.pan_residual_share is not None else ""
    return Limit(
        limit_id,
        "shutter_s",
        None,
        longest,
        f"freeze: {freeze.name}",
        f"{freeze.name}{panned} at {freeze.mover.speed_m_s:g} m/s and "
        f"{freeze.mover.distance_m:g} m stays sharp to about {shutter_label(longest)}",
        RULE_SOURCE,
        computation="max_shutter_sharp",
        inputs={
            "f": brief.lens.focal_mm,
            "v": float(mover.speed_m_s),
            "theta_deg": float(mover.angle_deg),
            "D": float(mover.distance_m),
            "c": tolerated_blur_um(brief, freeze) / 1000,
        },
    )


def _approach(brief: Brief, freeze: Freeze, limit_id: str, longest: float) -> Limit:
    mover = freeze.mover
    return Limit(
        limit_id,
        "shutter_s",
        None,
        longest,
        f"freeze: {freeze.name}",
        f"{freeze.name}, coming on at {mover.speed_m_s:g} m/s from {mover.distance_m:g} m, "
        f"stays sharp to about {shutter_label(longest)}",
        "central projection",
        computation="approach_motion",
        inputs={
            "y": off_axis_mm(brief, freeze),
            "v": abs(float(mover.speed_m_s * np.cos(np.radians(mover.angle_deg)))),
            "t": longest,
            "D": float(mover.distance_m),
        },
    )


def show_limits(situation: Situation) -> Iterable[Limit]:
    """Shortest and longest shutter for each motion that is meant to show."""
    brief = situation.brief
    for index, show in enumerate(brief.show):
        limit_id = numbered("show", index)
        yield (
            _vanish(brief, show, limit_id)
            if show.look.id == "vanish"
            else _streak(brief, show, limit_id)
        )


def exposure_to_shutter_s(brief: Brief, elapsed_s: float) -> float:
    """Shutter (s) of each frame so that all span a time; `NO_TIME_S` where the gaps alone do."""
    count, gap_s = brief.frames.count, brief.frames.gap_s
    return max((elapsed_s - (count - 1) * gap_s) / count, NO_TIME_S)


def _streak(brief: Brief, show: Show, limit_id: str) -> Limit:
    mode = brief.mode
    short_side = min(mode.width_px, mode.height_px)
    # Along the frame or not, a streak is counted by the way its image moves: never at a standstill.
    rate = float(blur_rate_um_s(show.mover, brief.lens.focal_mm))
    low, high = (
        None
        if share is None or rate <= 0
        else exposure_to_shutter_s(brief, share * short_side * mode.pixel_pitch_um / rate)
        for share in show.shares
    )
    share = show.shares[0] or show.shares[1] or 1.0
    look = show.look.name.lower()
    return Limit(
        limit_id,
        "shutter_s",
        low,
        high,
        f"{look}: {show.name}",
        f"{show.name} shows as {look} {_span_words(low, high)}{_in_frames(brief)}",
        RULE_SOURCE,
        computation="shutter_for_streak",
        inputs={
            "f": brief.lens.focal_mm,
            "v": float(show.mover.speed_m_s),
            "theta_deg": float(show.mover.angle_deg),
            "D": float(show.mover.distance_m),
            "p": mode.pixel_pitch_um,
            "H": short_side,
            "share": share,
        },
    )


def _vanish(brief: Brief, show: Show, limit_id: str) -> Limit:
    speed = float(show.mover.speed_m_s)
    elapsed = float(vanishing_shutter_s(show.width_m, speed, show.background_stops))
    low = exposure_to_shutter_s(brief, elapsed)
    return Limit(
        limit_id,
        "shutter_s",
        low,
        None,
        f"vanish: {show.name}",
        f"{show.name}, {show.width_m:g} m long at {speed:g} m/s, leaves no trace "
        f"{_span_words(low, None)}{_in_frames(brief)}",
        "mean over the exposure: w/(v·t)·|2^k − 1| under 0.02, k stops off its background",
    )


def _span_words(low: float | None, high: float | None) -> str:
    if high is not None and high <= NO_TIME_S:
        return "at no shutter: the gaps between its frames alone are longer"
    if low is not None and low <= NO_TIME_S:
        low = None
    if low is not None and high is not None:
        if low > high:
            return f"at no shutter: its least wants {shutter_label(low)}, its most less"
        return f"from {shutter_label(low)} to {shutter_label(high)}"
    if low is not None:
        return f"from {shutter_label(low)} on"
    return "at any shutter" if high is None else f"up to {shutter_label(high)}"


def _in_frames(brief: Brief) -> str:
    count = brief.frames.count
    return "" if count == 1 else f" each, {count} frames averaged"


def flicker_limits(situation: Situation) -> Iterable[Limit]:
    """The phone's shutters that expose evenly under a pulsing lamp. [IEEE1789]

    A step counts when |sin(πft)|/(πft) leaves no more of the pulsing than is accepted.
    """
    brief = situation.brief
    if brief.flicker is None:
        return
    even = even_steps_s(brief, brief.flicker)
    # Without one even step the limit cannot be met: no shutter is short enough.
    low, high = (even[0], even[-1]) if even else (1e9, None)
    yield Limit(
        "flicker",
        "shutter_s",
        low,
        high,
        "no bands",
        f"{brief.flicker.name}: {_even_words(brief.flicker, even)}",
        "lamps pulse; IEEE 1789",
        computation="flicker_safe_ladder" if brief.flicker.mains_hz else None,
        inputs=_flicker_inputs(brief.flicker, brief.mode.manual.shutter_s[-1]),
        only=even,
    )


def even_steps_s(brief: Brief, flicker: Flicker) -> tuple[float, ...]:
    """Steps of the manual shutter ladder that leave little enough of a lamp's pulsing."""
    return _even_steps_s(brief.mode.manual.shutter_s, flicker.pulse_hz, flicker.tolerance)


@lru_cache(maxsize=256)
def _even_steps_s(
    steps_s: tuple[float, ...], pulse_hz: float, tolerance: float
) -> tuple[float, ...]:
    left = residual_modulation(pulse_hz, np.asarray(steps_s))
    return tuple(step for step, share in zip(steps_s, left, strict=True) if share <= tolerance)


def _even_words(flicker: Flicker, even: tuple[float, ...]) -> str:
    if not even:
        return "this phone has no shutter that exposes evenly"
    first = shutter_label(even[0])
    return (
        f"even exposure from {first} in whole pulses of {1000 / flicker.pulse_hz:.3g} ms, "
        f"{len(even)} of this phone's steps"
    )


def _flicker_inputs(flicker: Flicker, longest_s: float) -> dict[str, Any]:
    if flicker.mains_hz is None:
        return {"pulse_hz": flicker.pulse_hz, "tolerance": flicker.tolerance}
    return {"f_mains": flicker.mains_hz, "limit": min(longest_s, 0.5)}
