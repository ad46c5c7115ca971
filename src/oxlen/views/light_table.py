"""The slip for light that has changed: what to dial when the meter says so many stops more or less.

For whoever has the sheet at hand and nothing to compute with.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.words.cost import cost_words
from oxlen.core.decisions.exposure.words.slip import residual_words
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.plan import figures_of, solved
from oxlen.core.decisions.solver.frontier import Figures
from oxlen.core.decisions.solver.solution import Solution
from oxlen.core.labels import ev_label, steps_label

REACH_STOPS = 3
LEAST_STOPS = 0.25
"""What a phone's steps leave an exposure off by less than this is not worth a word."""
FINEST_A_STOP = 3
"""More rows than thirds of a stop nobody finds their way in."""


@dataclass(frozen=True)
class ChangedLight:
    """A slip for light that is so many stops stronger (negative: weaker), or why there is none.

    `meter` is what the subject then reads, `misses` how far the phone's steps leave it off, and
    `costs` what is worse or better than by the slip for the light as it was read.
    """

    shift_stops: float
    meter: str
    iso: float | None
    shutter_s: float | None
    label: str
    misses: str
    costs: str


def light_table(
    brief: Brief, as_read: Solution | None = None, *, for_card: bool = False
) -> list[ChangedLight]:
    """The slips of a brief for light from three stops weaker to three stronger.

    It uses the steps of the phone's own shutter: thirds, halves or whole stops; `for_card` from one
    stop off only whole ones. None without a reading. `as_read` is the brief's solution, where it is
    known already.
    """
    if not brief.readings:
        return []
    as_read = as_read or solved(brief)
    # The lens is on the phone's screen already, and the frame composed by it.
    lens = as_read.search.brief.lens
    brief = brief.asking(LENS, lens.id)
    a_stop = steps_a_stop(lens.mode(None).manual.shutter_s)
    count = REACH_STOPS * a_stop
    steps = [step for step in range(-count, count + 1) if not for_card or _is_on_card(step, a_stop)]
    figures = figures_of(as_read)
    return [
        changed_light(brief, step / a_stop, figures, decided=as_read if step == 0 else None)
        for step in steps
    ]


def _is_on_card(step: int, a_stop: int) -> bool:
    return abs(step) <= a_stop or step % a_stop == 0


def steps_a_stop(shutter_s: Sequence[float]) -> int:
    """How many steps of a shutter's ladder make a stop, from 1 to 3; most of them count.

    >>> steps_a_stop([1 / 100, 1 / 80, 1 / 60, 1 / 50])
    3
    """
    if len(shutter_s) < 2:
        return 1
    usual = float(np.median(np.diff(np.log2(np.asarray(shutter_s, dtype=float)))))
    return min(FINEST_A_STOP, max(1, round(1 / abs(usual))))


def changed_light(
    brief: Brief,
    shift_stops: float,
    as_read: Figures | None = None,
    *,
    decided: Solution | None = None,
) -> ChangedLight:
    """The result of a brief in light that is so many stops stronger; its cost beside `as_read`.

    `decided` is its solution in that light, where it is known already.
    """
    decided = decided or solved(brief.lit(shift_stops))
    meter = ev_label(subject_ev100(brief) + shift_stops)
    slip = decided.slip
    if slip is None:
        sentence = "Nothing fits" if decided.conflict is None else decided.conflict.sentence
        label, _, why = sentence.partition(": ")
        return ChangedLight(
            shift_stops, meter, None, shutter_s=None, label=label, misses="", costs=why
        )
    is_near = abs(slip.residual_stops) < LEAST_STOPS
    costs = ""
    figures = figures_of(decided)
    if as_read is not None and figures is not None:
        costs = cost_words(as_read, figures)
    return ChangedLight(
        shift_stops,
        meter,
        slip.iso,
        shutter_s=slip.shutter_s,
        label=steps_label(slip.iso, slip.shutter_s),
        misses=residual_words(0.0 if is_near else slip.residual_stops),
        costs=costs,
    )


def subject_ev100(brief: Brief) -> float:
    """EV100 of the subject's reading, else of the first one."""
    return next(
        (reading for reading in brief.readings if reading.role == SUBJECT), brief.readings[0]
    ).ev100
