"""What a pair of steps will give: blur, noise, clipping, as figures."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.ask import FORMAT, LOOKS, MOTION, SUPPORT, is_panned
from oxlen.core.decisions.framework.brief import Brief, SceneTones
from oxlen.core.decisions.sequence.ask import FRAMES, frames_averaged, is_median
from oxlen.core.decisions.solver.frozen import off_axis_mm, towards_m_s
from oxlen.core.decisions.solver.grid import Numbers, Pairs
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.snr import (
    darkest_tone_stops,
    judged_tone_stops,
    tone_snr,
)
from oxlen.core.decisions.solver.steadiness import held_limit_s
from oxlen.core.light.placement import headroom_at_iso
from oxlen.core.motion.sharpness import circle_of_confusion_um
from oxlen.core.motion.subject import blur_rate_um_s


@dataclass(frozen=True)
class Prediction:
    """Figures of pairs, arrays of one shape.

    Blur in pixels of the file: the hand's, the fastest frozen mover's, both together, and that as
    a share of the short side. `streak_share` is the first shown motion's. SNR is at the output.
    What had clipped in the picture that was read may clip again: `clipped_share_most` counts
    it. None where nothing in the brief says.
    """

    hand_px: Numbers
    motion_px: Numbers
    blur_px: Numbers
    blur_share: Numbers
    streak_share: Numbers | None
    snr_subject: Numbers
    snr_dark: Numbers | None
    clipped_share: Numbers | None
    clipped_share_most: Numbers | None


def predict(problem: ExposureProblem, pairs: Pairs) -> Prediction:
    """Predict blur, noise and clipping of each pair."""
    brief, mode = problem.brief, problem.brief.mode
    shutter_s = pairs.shutter_s
    hand, motion = hand_blur_px(brief, shutter_s), motion_blur_px(brief, shutter_s)
    blur = np.hypot(hand, motion)
    clipped = clipped_share(brief, pairs)
    lost = 0.0 if brief.tones is None else brief.tones.lost_share
    return Prediction(
        hand,
        motion,
        blur,
        blur_share=blur / min(mode.width_px, mode.height_px),
        streak_share=_streak_share(brief, shutter_s),
        snr_subject=_snr(problem, pairs, judged_tone_stops(problem)),
        snr_dark=_snr_dark(problem, pairs),
        clipped_share=clipped,
        clipped_share_most=np.maximum(clipped, lost) if clipped is not None and lost > 0 else None,
    )


def hand_blur_px(brief: Brief, shutter_s: Numbers) -> Numbers:
    """Blur (px) of the hand: one circle of confusion at the hand limit, growing with time.

    Our own reading of the handheld rule; none on a tripod, nor while panning, where the residual of
    the pan replaces it.
    """
    if brief[SUPPORT] == "tripod" or is_panned(brief):
        return np.zeros_like(shutter_s)
    mode = brief.mode
    circle = circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um)
    longest = held_limit_s(brief)
    return np.asarray(circle / mode.pixel_pitch_um * shutter_s / longest, dtype=float)


def motion_blur_px(brief: Brief, shutter_s: Numbers) -> Numbers:
    """Blur (px) of the fastest mover that must be sharp, across the frame or by its growth."""
    blurs = [np.zeros_like(shutter_s)]
    for motion in brief[MOTION]:
        crossing = blur_rate_um_s(motion.followed, brief.lens.focal_mm) * shutter_s
        distance_m = motion.mover.distance_m
        travelled = np.minimum(towards_m_s(motion) * shutter_s, 0.99 * distance_m)
        grown = 1000 * off_axis_mm(brief, motion) * travelled / (distance_m - travelled)
        blurs.append(np.maximum(crossing, grown) / brief.mode.pixel_pitch_um)
    return np.asarray(np.max(blurs, axis=0), dtype=float)


def clipped_share(brief: Brief, pairs: Pairs) -> Numbers | None:
    """Share of the frame brighter than clipping at each pair; None when no picture was read."""
    if brief.tones is None:
        return None
    mode = brief.mode
    headroom = headroom_at_iso(
        mode.headroom_stops(brief[FORMAT]), iso=pairs.iso, base_iso=mode.sensor.base_iso
    )
    return share_brighter(brief.tones, pairs.ev100 + headroom)


def share_brighter(tones: SceneTones, ev100: Numbers) -> Numbers:
    """Share of a frame brighter than each EV100."""
    return np.asarray(np.interp(ev100, tones.edges, tones.brighter_shares), dtype=float)


def _snr(problem: ExposureProblem, pairs: Pairs, stops_at_aim: float) -> Numbers:
    return tone_snr(problem.brief, pairs.iso, stops_at_aim + pairs.residual_stops)


def _snr_dark(problem: ExposureProblem, pairs: Pairs) -> Numbers | None:
    darkest = darkest_tone_stops(problem)
    return None if darkest is None else _snr(problem, pairs, darkest)


def _streak_share(brief: Brief, shutter_s: Numbers) -> Numbers | None:
    if not brief[LOOKS] or is_median(brief):
        return None
    mode, count = brief.mode, frames_averaged(brief)
    rate = float(blur_rate_um_s(brief[LOOKS][0].mover, brief.lens.focal_mm))
    elapsed = count * shutter_s + (count - 1) * brief[FRAMES].gap_s
    short_side = min(mode.width_px, mode.height_px)
    return np.asarray(rate * elapsed / (mode.pixel_pitch_um * short_side), dtype=float)
