"""Where to focus, and how it is known."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from oxlen.core.decisions.exposure.ask import CLOSEUP, DRAWING, LAND, MOTION, SKY
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.focus.depths import reach_of
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.lens.ask import FRAMING
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.focus.depth import focus_between_m
from oxlen.core.labels import distance_label

INFINITY_FROM_M = 1000.0
"""A thousand metres and the Moon are the same to a phone's lens: infinity."""


@dataclass(frozen=True)
class Target:
    """What is focused on: its name within a sentence, and its distance (m), None if unknown.

    `moves_in` marks what is not there yet: it is focused for beforehand.
    """

    name: str
    distance_m: float | None
    moves_in: bool = False


def focus_target(brief: Brief) -> Target:
    """The distance asked for, else the one that what is asked of the scene gives."""
    found = _target(brief)
    if found.distance_m is not None and found.distance_m >= INFINITY_FROM_M:
        return replace(found, distance_m=math.inf)
    return found


def _target(brief: Brief) -> Target:
    asked = brief[FOCUS]
    name = asked.on or _subject_name(brief)
    moves_in = _moves_in(brief)
    if asked.distance_m is not None:
        return Target(name, asked.distance_m, moves_in)
    if asked.near_m is not None and asked.far_m is not None:
        return Target(name, focus_between_m(asked.near_m, asked.far_m), moves_in)
    if brief[SKY] is not None:
        return Target(asked.on or "the stars", math.inf)
    if brief[LAND] is not None:
        # Another focus would change how large everything is: the frames would not meet.
        return Target(asked.on or "the stars, as for their own frames", math.inf)
    if "sky" in scene_facts(brief).traits:
        return Target(name, math.inf)
    closeup, framing, drawing = brief[CLOSEUP], brief[FRAMING], brief[DRAWING]
    if closeup is not None:
        return Target(name, closeup.distance_m)
    if drawing is not None:
        return Target(asked.on or "the drawing", drawing.distance_m, moves_in)
    if brief[MOTION]:
        mover = brief[MOTION][0]
        return Target(asked.on or mover.spoken, float(mover.mover.distance_m), moves_in)
    if framing is not None:
        return Target(name, framing.distance_m)
    return Target(name, None, moves_in)


def within_reach(brief: Brief, target: Target) -> Target:
    """The target, or the nearest or farthest the lens can be focused at in its place."""
    if target.distance_m is None:
        return target
    reach = reach_of(brief)
    if reach.near_m - 1e-9 <= target.distance_m <= reach.far_m + 1e-9:
        return target
    return replace(target, distance_m=min(max(target.distance_m, reach.near_m), reach.far_m))


def focus_short_dioptres(brief: Brief) -> float:
    """How far (dioptres) the distance to focus at is outside what the lens reaches; 0 inside."""
    target = focus_target(brief)
    if target.distance_m is None:
        return 0.0
    reach = reach_of(brief)
    wanted, near = 1 / target.distance_m, 1 / reach.near_m
    far = 0.0 if math.isinf(reach.far_m) else 1 / reach.far_m
    short = max(wanted - near, far - wanted, 0.0)
    return 0.0 if short < 1e-6 else short


def reach_words(brief: Brief) -> str:
    """From where or up to where the lens focuses, whichever is the limit."""
    reach, target = reach_of(brief), focus_target(brief)
    if target.distance_m is not None and target.distance_m > reach.far_m:
        return f"no farther than {distance_label(reach.far_m)}"
    return f"no nearer than {distance_label(reach.near_m)}"


def _moves_in(brief: Brief) -> bool:
    """Whether what must be sharp is not there before the shutter opens."""
    if brief[DRAWING] is not None:
        return True
    # What is in the sky is there already, however fast it moves.
    in_sky = "sky" in scene_facts(brief).traits
    return not in_sky and any(motion.pan is None for motion in brief[MOTION])


def _subject_name(brief: Brief) -> str:
    named = [reading.name for reading in brief.readings if reading.role == SUBJECT and reading.name]
    if not named:
        return "the subject"
    name = named[0]
    return name if name[:1].islower() else f"“{name}”"
