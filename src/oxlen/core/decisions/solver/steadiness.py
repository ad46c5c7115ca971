"""How steady the phone is held, in stops over the bare handheld rule."""

from __future__ import annotations

from oxlen.core.decisions.exposure.ask import CLOSEUP, HOLD, SUPPORT
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import FRAMING
from oxlen.core.focus.optics import Optics
from oxlen.core.hold.close import held_close_s, magnification, usual_sway_mm_s
from oxlen.core.hold.hand import hand_limit_s, steadied_stops
from oxlen.core.motion.sharpness import circle_of_confusion_um

CLOSE_M = 0.5
"""Nearer than this the hand's drift counts, also where nobody called it a close-up."""


def steady_stops(brief: Brief) -> float:
    """Stops the stabiliser and a rest add to the bare handheld rule."""
    return steadied_stops(stabiliser_stops(brief), brief[SUPPORT], brief.lens.braced_stops)


def stabiliser_stops(brief: Brief) -> float:
    """Stops of the stabiliser: one's own figure, else the lens's."""
    own = brief[HOLD].stabiliser_stops
    return brief.lens.stabiliser_stops if own is None else own


def closeup_m(brief: Brief) -> float | None:
    """Distance (m) of a subject so near that drift counts; None when it is not."""
    close, framing = brief[CLOSEUP], brief[FRAMING]
    if close is not None:
        return close.distance_m
    focused_m = brief[FOCUS].distance_m
    if focused_m is None and framing is not None:
        focused_m = framing.distance_m
    return focused_m if focused_m is not None and focused_m <= CLOSE_M else None


def held_limit_s(brief: Brief, past_stops: float = 0.0) -> float:
    """Longest shutter (s) the hand or a rest holds, and so many stops past it."""
    plain = float(hand_limit_s(brief.lens.focal35_mm, steady_stops(brief)))
    drift = drift_mm_s(brief)
    if drift:
        mode = brief.mode
        circle = circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um)
        plain = held_close_s(plain, drift, float(circle) / 1000)
    return float(plain * 2.0**past_stops)


def drift_mm_s(brief: Brief) -> float:
    """How fast (mm/s on the sensor) the hand drags a near subject across the frame."""
    distance, close = closeup_m(brief), brief[CLOSEUP]
    if distance is None:
        return 0.0
    own = None if close is None else close.sway_mm_s
    sway = usual_sway_mm_s(brief[SUPPORT]) if own is None else own
    clip_on = brief[FOCUS].clip_on
    if clip_on is not None and distance <= 1 / clip_on.dioptres:
        optics = Optics(brief.lens.focal_mm, brief.lens.f_number, clip_on.dioptres)
        return optics.magnification(distance) * sway
    return magnification(brief.lens.focal_mm, distance) * sway
