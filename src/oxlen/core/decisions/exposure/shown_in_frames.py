"""What several frames can show of a mover: the rule of `frames.passing` for a brief."""

from __future__ import annotations

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.sequence.ask import FRAMES, frames_shot, is_median
from oxlen.core.frames.passing import covered_frames, empties
from oxlen.core.motion.looks import merges

LEAST_GAP_S = 0.05


def frames_merge(brief: Brief, motion: ShownMotion) -> bool:
    """Whether the brief's frames of it run together; a single frame always does."""
    if frames_shot(brief) == 1:
        return True
    length_m, speed = float(motion.in_force("width_m")), float(motion.mover.speed_m_s)
    if is_median(brief):
        return False
    return merges(length_m, speed, brief[FRAMES].gap_s)


def shows_in_frames(brief: Brief, motion: ShownMotion) -> bool:
    """Whether the brief's frames can show a look at all: streaks need frames that run together,
    a median needs places that are empty most of the time."""
    if is_median(brief):
        return motion.look == "vanish" and _is_emptied(brief, motion)
    return frames_merge(brief, motion)


def _is_emptied(brief: Brief, motion: ShownMotion) -> bool:
    return empties(brief[FRAMES].count, covered_by(brief, motion))


def covered_by(brief: Brief, motion: ShownMotion) -> int:
    """In how many of the brief's frames one passer covers a place, the shutter left out."""
    width_m, speed = float(motion.in_force("width_m")), float(motion.mover.speed_m_s)
    return covered_frames(width_m, speed, max(brief[FRAMES].gap_s, LEAST_GAP_S))
