"""What several frames can show of a mover: the rule of `frames.passing` for a brief."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from oxlen.core.decisions.exposure.ask import LOOKS
from oxlen.core.decisions.exposure.motion_ask import ShownMotion
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.sequence.ask import FRAMES, frames_shot, is_median
from oxlen.core.frames.passing import (
    GAP_SHARE,
    covered_frames,
    empties,
    frames_to_empty,
)
from oxlen.core.motion.looks import merges

LEAST_GAP_S, MOST_GAP_S = 0.05, 20.0


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


def median_of(brief: Brief) -> Brief | None:
    """The brief as a median of just so many frames that all of its movers are gone.

    None where not all of them are to vanish.
    """
    looks, frames = brief[LOOKS], brief[FRAMES]
    if not looks or any(look.look != "vanish" for look in looks):
        return None
    over_s = max(float(look.in_force("width_m")) / float(look.mover.speed_m_s) for look in looks)
    gap_s = round(max(frames.gap_s, min(GAP_SHARE * over_s, MOST_GAP_S)), 1)
    spaced = brief.asking(FRAMES, replace(frames, gap_s=gap_s, combine="median"))
    count = frames_to_empty(max(covered_by(spaced, look) for look in looks))
    return spaced.asking(FRAMES, replace(spaced[FRAMES], count=count))


def drops_what_passes(asked: Mapping[str, Any]) -> bool:
    """Whether what is asked of a picture is a stack in which movers vanish: a median, no mean."""
    frames, looks = asked.get(FRAMES.name), asked.get(LOOKS.name) or ()
    by_median = frames is not None and frames.combine == "median"
    return by_median or (bool(looks) and all(look.look == "vanish" for look in looks))
