"""The correction: a brief changed by what a take showed, so that the next slip follows from it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, MeasuredPatch
from oxlen.core.decisions.exposure.ask import FORMAT, HOLD, LAMPS, MOTION, SUPPORT, Lamps
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.solver.steadiness import stabiliser_stops
from oxlen.core.review.take_changes import BLUR_SEEN_PX
from oxlen.core.review.take_seen import Change

MOST_LESS_STOPS = 2.0
"""One shaky take does not speak for the hand: so much steadiness it may cost at most."""
TAKE_DOUBT_MIRED = 8.0


@dataclass(frozen=True)
class Shown:
    """What a take showed that its change builds on; blur in pixels of the phone's own file.

    `motion_px` is the motion that the plan expected at the shutter of the take.
    """

    change: Change
    blur_px: float = 0.0
    motion_px: float = 0.0
    white_k: float | None = None


def corrected(brief: Brief, shown: Shown) -> Brief:
    """The brief with the one thing changed that a take asks for; as it is where nothing is to be.

    What was set differently, a lean, and a take as planned change no brief.
    """
    change = CHANGES.get(shown.change.what)
    return brief if change is None else change(brief, shown)


def _lit(brief: Brief, shown: Shown) -> Brief:
    return brief.lit(shown.change.light_stops)


def _steadied(brief: Brief, shown: Shown) -> Brief:
    """Held by less: on a rest the shutter counts, handheld its steadiness does."""
    if brief[SUPPORT] == "tripod":
        return brief
    over = math.log2(max(1.0, shown.blur_px / BLUR_SEEN_PX))
    left = max(0.0, stabiliser_stops(brief) - min(over, MOST_LESS_STOPS))
    return brief.asking(HOLD, replace(brief[HOLD], stabiliser_stops=round(left, 1)))


def _frozen(brief: Brief, shown: Shown) -> Brief:
    """What moves is faster across the frame than planned, by what it smeared."""
    if not brief[MOTION] or shown.motion_px <= 0:
        return brief
    faster = max(1.0, shown.blur_px / shown.motion_px)
    moving = tuple(
        replace(motion, speed_m_s=round(float(motion.mover.speed_m_s) * faster, 2))
        for motion in brief[MOTION]
    )
    return brief.asking(MOTION, moving)


def _focused(brief: Brief, _: Shown) -> Brief:
    """The distance was wrong: what the phone itself finds on the subject goes before it."""
    return brief.asking(FOCUS, replace(brief[FOCUS], strategy="tap", distance_m=None))


def _whitened(brief: Brief, shown: Shown) -> Brief:
    if shown.white_k is None:
        return brief
    patch = MeasuredPatch(round(shown.white_k), 0.0, plus_minus_mired=TAKE_DOUBT_MIRED)
    return brief.asking(LIGHT_COLOUR, replace(brief[LIGHT_COLOUR], strategy="patch", patch=patch))


def _in_raw(brief: Brief, _: Shown) -> Brief:
    return brief.asking(FORMAT, "raw")


def _in_whole_pulses(brief: Brief, _: Shown) -> Brief:
    """Lamp flicker was not planned for: on the mains, until it is measured."""
    return brief if brief[LAMPS] is not None else brief.asking(LAMPS, Lamps(mains_hz=50))


CHANGES: dict[str, Callable[[Brief, Shown], Brief]] = {
    "light": _lit,
    "raw": _in_raw,
    "steady": _steadied,
    "freeze": _frozen,
    "focus": _focused,
    "white": _whitened,
    "bands": _in_whole_pulses,
}
