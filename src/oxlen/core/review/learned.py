"""What many takes say together: the hand, the meter, the noise put up with, the usual mistakes."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oxlen.core.hold.hand import Support
from oxlen.core.hold.keeper import fit_keepers
from oxlen.core.measures.measured import Plot, Series
from oxlen.core.review.blur_cause import Kind

LEAST_HELD, LEAST_OF_EACH = 20, 4
"""Takes by hand that a limit is fitted from, and of both the sharp and the shaken."""
LEAST_READ, LEAST_KEPT = 8, 8
MAD_SIGMA = 1.4826
BINS = (0.0, 0.5, 0.7, 0.85, 0.95, 1.0001)
TWO_SIGMA_SHARE = 0.95
"""A ± is meant to hold for so many."""


@dataclass(frozen=True)
class TakeLesson:
    """What one take taught: how it was shot, what became of it, and what was predicted.

    `off` are spots' stops off what was predicted, each with the ± stated (None = none stated),
    where neither light nor settings explain them; the meter had been corrected by `taught_stops`
    before. `chance` is what was predicted.
    """

    kept: bool | None = None
    support: Support = "handheld"
    shutter_s: float | None = None
    focal35_mm: float | None = None
    blur: Kind | None = None
    change: str = "nothing"
    light: str = "as_planned"
    off: tuple[tuple[float, float | None], ...] = ()
    snr: float | None = None
    chance: float | None = None
    taught_stops: float = 0.0

    @property
    def is_sharp(self) -> bool | None:
        """Whether the hand held still: by what was measured, else by whether it was kept."""
        return self.kept if self.blur is None else self.blur != "shake"


@dataclass(frozen=True)
class HoldLearned:
    """The hand's own limit: stops over the bare handheld rule at which nine in ten are sharp."""

    stops: float
    plus_minus: float
    takes: int
    plot: Plot


@dataclass(frozen=True)
class MeterLearned:
    """How much brighter takes are than predicted, which the meter's reading is to make up."""

    stops: float
    plus_minus: float
    takes: int
    plot: Plot


@dataclass(frozen=True)
class Calibration:
    """How many of the ± stated held, and how often takes worked for each chance stated.

    `chances` are (lowest, highest, takes, kept).
    """

    stated: int
    held: int
    chances: tuple[tuple[float, float, int, int], ...]


def hold_learned(lessons: Sequence[TakeLesson]) -> HoldLearned | None:
    """The limit fitted from takes by hand; None before there are enough. [COX1958]

    Its ± is twice the standard error, by the curvature of the likelihood at its highest.
    """
    held = [
        lesson
        for lesson in lessons
        if lesson.support == "handheld"
        and lesson.shutter_s
        and lesson.focal35_mm
        and lesson.is_sharp is not None
    ]
    sharp = [take_lesson for take_lesson in held if take_lesson.is_sharp]
    if len(held) < LEAST_HELD or min(len(sharp), len(held) - len(sharp)) < LEAST_OF_EACH:
        return None
    times = [take_lesson.shutter_s or 1.0 for take_lesson in held]
    focals = [take_lesson.focal35_mm or 1.0 for take_lesson in held]
    kept = [int(bool(take_lesson.is_sharp)) for take_lesson in held]
    fit = fit_keepers(times, focals, kept)
    if fit is None:
        return None
    x = np.log2(np.asarray(times) * np.asarray(focals))
    curve = np.linspace(float(x.min()) - 0.5, float(x.max()) + 0.5, 40)
    shares = 1 / (1 + np.exp(-(fit.a + fit.b_per_stop * curve)))
    plot = Plot(
        "stops better than the handheld rule",
        "sharp",
        (
            Series("takes", tuple(x.tolist()), tuple(float(value) for value in kept)),
            Series("fitted", tuple(curve.tolist()), tuple(shares.tolist()), is_line=True),
        ),
    )
    return HoldLearned(fit.x90, _x90_doubt(x, fit.a, b=fit.b_per_stop), len(held), plot=plot)


def _x90_doubt(x: NDArray[np.float64], a: float, *, b: float) -> float:
    """Twice the standard error of (ln 9 − a)/b, by the delta method."""
    p = 1 / (1 + np.exp(-(a + b * x)))
    design = np.column_stack([np.ones_like(x), x])
    curvature = design.T @ (design * (p * (1 - p))[:, None])
    covariance = np.linalg.inv(curvature + 1e-9 * np.eye(2))
    slope = np.array([-1 / b, -(math.log(9.0) - a) / b**2])
    return 2 * math.sqrt(max(float(slope @ covariance @ slope), 0.0))


def meter_learned(lessons: Sequence[TakeLesson]) -> MeterLearned | None:
    """The bias of readings, from kept takes whose light had not changed; None before enough."""
    off = [
        float(np.median([stops for stops, _ in lesson.off])) + lesson.taught_stops
        for lesson in lessons
        if lesson.kept and lesson.off and lesson.light in ("as_planned", "read_wrongly")
    ]
    if len(off) < LEAST_READ:
        return None
    middle = float(np.median(off))
    spread = MAD_SIGMA * float(np.median(np.abs(np.asarray(off) - middle)))
    doubt = max(2 * 1.25 * spread / math.sqrt(len(off)), 0.05)
    numbers = tuple(float(place + 1) for place in range(len(off)))
    ends = (numbers[0], numbers[-1])
    series = (
        Series("takes", numbers, tuple(off)),
        Series("middle", ends, (middle, middle), is_line=True),
    )
    return MeterLearned(middle, doubt, len(off), plot=Plot("take", "stops off", series))


def accepted_snr(lessons: Sequence[TakeLesson]) -> tuple[float, int] | None:
    """The SNR under which one in ten kept takes is, and the number of kept takes."""
    kept = [lesson.snr for lesson in lessons if lesson.kept and lesson.snr]
    return (float(np.quantile(kept, 0.1)), len(kept)) if len(kept) >= LEAST_KEPT else None


def usual_mistakes(lessons: Sequence[TakeLesson]) -> list[tuple[str, int]]:
    """What had to be changed first, the most frequent first; what was well is left out."""
    found = Counter(lesson.change for lesson in lessons if lesson.change != "nothing")
    return found.most_common()


def calibration(lessons: Sequence[TakeLesson]) -> Calibration:
    """Every ± and chance that was stated, compared with the takes."""
    # Light that changed was never predicted: its takes say nothing of a ±.
    stated = [
        (abs(stops), doubt)
        for lesson in lessons
        if lesson.light != "light_changed"
        for stops, doubt in lesson.off
        if doubt is not None
    ]
    chances = []
    for low, high in pairwise(BINS):
        given = [
            lesson
            for lesson in lessons
            if lesson.kept is not None and lesson.chance is not None and low <= lesson.chance < high
        ]
        if given:
            chances.append(
                (
                    low,
                    min(high, 1.0),
                    len(given),
                    sum(bool(take_lesson.kept) for take_lesson in given),
                )
            )
    held = sum(off <= doubt for off, doubt in stated)
    return Calibration(len(stated), held, tuple(chances))
