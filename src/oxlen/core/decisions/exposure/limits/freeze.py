"""Freezing: the longest shutter at which something that moves is still sharp."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

import numpy as np

from oxlen.core.decisions.exposure.ask import MOTION, is_panned
from oxlen.core.decisions.exposure.motion_ask import PAN_RESIDUAL_SHARE, FrozenMotion
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict, touches
from oxlen.core.decisions.solver.frozen import (
    approach_limit_s,
    crossing_limit_s,
    off_axis_mm,
    tolerated_blur_um,
    towards_m_s,
)
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.labels import distance_label, sentence_case, time_label, two_digits
from oxlen.core.motion.subject import Mover

CROSSES_SINE = 0.5
"""What runs across by at least this much can be followed with the phone."""
PASSES_M_S, PASSES_FROM_M = 1.2, 2.0
"""A mover of one's own that is slower or nearer goes to and fro rather than by."""


def _longest_frozen(problem: ExposureProblem) -> Iterable[Limit]:
    """For each mover the tighter of crossing and approach."""
    brief = problem.brief
    for index, motion in enumerate(brief[MOTION]):
        crossing, approach = crossing_limit_s(brief, motion), approach_limit_s(brief, motion)
        if crossing <= approach:
            yield _crossing(brief, motion, index, longest=crossing)
        else:
            yield _approach(brief, motion, index, longest=approach)


def _crossing(brief: Brief, motion: FrozenMotion, index: int, *, longest: float) -> Limit:
    seen, mover = motion.followed, motion.mover
    panned = "" if motion.pan is None else ", panned,"
    return Limit(
        FREEZE,
        SHUTTER,
        None,
        high=longest,
        name=f"freeze {motion.spoken}",
        high_words=_frozen_words(motion, longest),
        reason=f"{sentence_case(motion.spoken)}{panned} at {_where(mover, '')} away: "
        f"sharp to about {time_label(longest)}",
        source="Ray, Applied Photographic Optics",
        index=index,
        computation="max_shutter_sharp",
        inputs={
            "f": brief.lens.focal_mm,
            "v": float(seen.speed_m_s),
            "theta_deg": float(seen.angle_deg),
            "D": float(seen.distance_m),
            "c": tolerated_blur_um(brief, motion) / 1000,
        },
    )


def _where(mover: Mover, distance_word: str) -> str:
    speed_m_s, distance_m = float(mover.speed_m_s), float(mover.distance_m)
    return f"{two_digits(speed_m_s)} m/s, {distance_word}{distance_label(distance_m)}"


def _frozen_words(motion: FrozenMotion, longest_s: float) -> str:
    return f"freezing {motion.spoken} needs {time_label(longest_s)} or shorter"


def _approach(brief: Brief, motion: FrozenMotion, index: int, *, longest: float) -> Limit:
    mover = motion.mover
    return Limit(
        FREEZE,
        SHUTTER,
        None,
        high=longest,
        name=f"freeze {motion.spoken}",
        high_words=_frozen_words(motion, longest),
        reason=f"{sentence_case(motion.spoken)}, approaching at {_where(mover, 'from ')}: "
        f"sharp to about {time_label(longest)}",
        source="central projection",
        index=index,
        computation="approach_motion",
        inputs={
            "y": off_axis_mm(brief, motion),
            "v": towards_m_s(motion),
            "t": longest,
            "D": float(mover.distance_m),
        },
    )


def _motion_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Following what passes, or asking someone to hold still."""
    if not touches(conflict, Concern.FREEZING):
        return
    yield from _pan_offers(search.brief)
    yield from _still_offers(search.brief)


def _pan_offers(brief: Brief) -> Iterator[Offer]:
    moving = brief[MOTION]
    loose = any(motion.pan is not None and motion.pan > PAN_RESIDUAL_SHARE for motion in moving)
    if is_panned(brief) and loose:
        text = f"Pan with {moving[0].spoken} more closely"
        cost = f"{PAN_RESIDUAL_SHARE:.0%} of its motion left; more tries miss"
        closer = tuple(motion if motion.pan is None else _followed(motion) for motion in moving)
        still = brief.asking(MOTION, closer)
        yield Offer("pan-closer", text, cost, brief=still, tier=Tier.STEADIER)
    if is_panned(brief) or not moving or not all(map(can_be_followed, moving)):
        return
    panned = tuple(map(_followed, moving))
    text, cost = f"Pan with {moving[0].spoken}", "everything that stands streaks; some tries miss"
    yield Offer("pan", text, cost, brief=brief.asking(MOTION, panned), tier=Tier.STEADIER)


def _followed(motion: FrozenMotion) -> FrozenMotion:
    return replace(motion, pan=PAN_RESIDUAL_SHARE)


def can_be_followed(motion: FrozenMotion) -> bool:
    """Whether a phone can be turned along with it: it passes, and across the view."""
    mover = motion.mover
    if np.sin(np.radians(float(mover.angle_deg))) <= CROSSES_SINE:
        return False
    if motion.usual is not None:
        return motion.usual.passes
    return float(mover.speed_m_s) >= PASSES_M_S and float(mover.distance_m) >= PASSES_FROM_M


def _still_offers(brief: Brief) -> Iterator[Offer]:
    """People can be asked to hold still for the moment."""
    waiting = tuple(
        motion for motion in brief[MOTION] if motion.usual is not None and motion.usual.waits
    )
    if not waiting:
        return
    kept = tuple(motion for motion in brief[MOTION] if motion not in waiting)
    text, cost = f"Ask {waiting[0].spoken} to hold still", "a posed moment"
    still = brief.asking(MOTION, kept)
    yield Offer("still", text, cost, brief=still, tier=Tier.OTHER_LOOK)


def _without(brief: Brief, index: int) -> Brief:
    kept = tuple(motion for at, motion in enumerate(brief[MOTION]) if at != index)
    return brief.asking(MOTION, kept)


FREEZE = LimitKind(
    "freeze",
    Concern.FREEZING,
    _longest_frozen,
    edited_by=(
        EditedField(MOTION, ("speed_m_s",)),
        EditedField(MOTION, ("distance_m",)),
        EditedField(MOTION, ("direction_deg",)),
        EditedField(MOTION, ("sharp", "by")),
    ),
    dropped=_without,
    ways_out=_motion_offers,
)
