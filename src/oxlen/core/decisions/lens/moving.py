"""Another lens for the same picture: where to stand with it, and what that changes in the brief."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from oxlen.core.decisions.exposure.ask import LOOKS, MOTION
from oxlen.core.decisions.exposure.motion_ask import Moving
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import FRAMING, LENS, MODE, Framing
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.lens.imaging import distance_for_size_m, drawn_size_mm

NEAREST_M, FARTHEST_M = 0.05, 1e6
"""Distances a brief may hold: nearer, another lens cannot draw the subject so large."""


def on_lens(brief: Brief, lens_id: str) -> Brief:
    """The brief on another lens: moved to keep the subject's size when the framing says how far."""
    lens = brief.phone.lens(lens_id)
    used, framing = brief.lens, brief[FRAMING]
    mode_id = brief[MODE] if lens.id == used.id else None
    moved = brief.asking(LENS, lens_id).asking(MODE, mode_id)
    if framing is None or lens.id == used.id:
        return moved
    old, new = standing_m(framing, used, brief.mode), standing_m_on(brief, lens)
    shifted = moved.asking(FRAMING, replace(framing, distance_m=_kept_m(new)))
    shifted = shifted.asking(MOTION, tuple(_shifted(motion, new - old) for motion in brief[MOTION]))
    return shifted.asking(LOOKS, tuple(_shifted(look, new - old) for look in brief[LOOKS]))


def standing_m(framing: Framing, lens: Lens, mode: Mode) -> float:
    """Distance (m) at which a lens gives the subject its share of the frame's height.

    Without a size the framing's own distance.
    """
    if framing.subject_m is None or framing.subject_share is None:
        return framing.distance_m
    drawn_mm = framing.subject_share * _height_mm(mode)
    return distance_for_size_m(lens.focal_mm, framing.subject_m, drawn_mm)


def standing_m_on(brief: Brief, lens: Lens) -> float:
    """Distance (m) for another lens that keeps the subject's size on the picture."""
    framing, used = brief[FRAMING] or Framing(), brief.lens
    if framing.subject_m is not None and framing.subject_share is not None:
        return standing_m(framing, lens, lens.mode(None))
    # Size on the picture goes with the true focal length over the height of its own sensor.
    ratio = (lens.focal_mm / _height_mm(lens.mode(None))) / (used.focal_mm / _height_mm(brief.mode))
    return _kept_m(framing.distance_m * ratio)


def background_share(
    framing: Framing, lens: Lens, mode: Mode, *, distance_m: float
) -> float | None:
    """Share of the frame's height that the background thing takes; None without its size."""
    if framing.background_size_m is None:
        return None
    away_m = distance_m + framing.background_m
    return drawn_size_mm(lens.focal_mm, framing.background_size_m, away_m) / _height_mm(mode)


Motion = TypeVar("Motion", bound=Moving)


def _shifted(motion: Motion, shift_m: float) -> Motion:
    distance_m = float(motion.in_force("distance_m")) + shift_m
    return replace(motion, distance_m=_kept_m(distance_m))


def _kept_m(distance_m: float) -> float:
    return min(max(distance_m, NEAREST_M), FARTHEST_M)


def _height_mm(mode: Mode) -> float:
    return min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000
