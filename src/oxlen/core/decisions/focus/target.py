"""Where to focus, and how it is known."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.decisions.brief import SUBJECT, Brief
from oxlen.core.decisions.exposure.ask import CLOSEUP, DRAWING, MOTION, SKY
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.lens.ask import FRAMING
from oxlen.core.focus.depth import focus_between_m


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
    asked = brief[FOCUS]
    name = asked.on or _subject_name(brief)
    moves_in = _moves_in(brief)
    if asked.distance_m is not None:
        return Target(name, asked.distance_m, moves_in)
    if asked.near_m is not None and asked.far_m is not None:
        return Target(name, focus_between_m(asked.near_m, asked.far_m), moves_in)
    if brief[SKY] is not None:
        return Target(asked.on or "the stars", math.inf)
    closeup, framing = brief[CLOSEUP], brief[FRAMING]
    if closeup is not None:
        return Target(name, closeup.distance_m)
    if brief[MOTION]:
        one = brief[MOTION][0]
        return Target(asked.on or one.spoken, float(one.mover.distance_m), moves_in)
    if framing is not None:
        return Target(name, framing.distance_m)
    return Target(name, None, moves_in)


def _moves_in(brief: Brief) -> bool:
    """Whether what must be sharp is not there before the shutter opens."""
    return brief[DRAWING] is not None or any(one.pan is None for one in brief[MOTION])


def _subject_name(brief: Brief) -> str:
    named = [one.name for one in brief.readings if one.role == SUBJECT and one.name]
    if not named:
        return "the subject"
    name = named[0]
    return name if name[:1].islower() else f"“{name}”"
