"""A focus ladder: where along the slider a patch is sharpest, from a few pictures of it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput

GoOn = Literal["lower", "higher"]


@dataclass(frozen=True)
class Peak:
    """Where a parabola through the logarithms of three samples has its top, and how high (ln)."""

    value: float
    ln_height: float


def focus_peak(values: Sequence[float], sharpness: Sequence[float]) -> Peak | None:
    """The top of the parabola through the sharpest sample and its neighbours; None at an end.

    `values` ascend, the spacing may be uneven; `sharpness` is above 0, its noise floor removed.
    BadInput otherwise. [PERTUZ2013]

    >>> f"{focus_peak([0.2, 0.3, 0.4], [100, 500, 100]).value:.2f}"
    '0.30'
    """
    x, y = np.asarray(values, dtype=float), np.asarray(sharpness, dtype=float)
    if len(x) != len(y) or len(x) < 1:
        raise BadInput("A focus ladder needs a sharpness for each value.", "sharpness")
    if np.any(np.diff(x) <= 0):
        raise BadInput("Slider values must increase.", "slider")
    if np.any(y <= 0):
        raise BadInput("Sharpness must be above 0.", "sharpness")
    top = int(np.argmax(y))
    if top in (0, len(x) - 1):
        return None
    return _vertex(x[top - 1 : top + 2], np.log(y[top - 1 : top + 2]))


def _vertex(x: NDArray[np.float64], ln: NDArray[np.float64]) -> Peak:
    """Top of the parabola through three points, by divided differences."""
    first, second = (ln[1] - ln[0]) / (x[1] - x[0]), (ln[2] - ln[1]) / (x[2] - x[1])
    bend = (second - first) / (x[2] - x[0])
    if bend >= 0:
        return Peak(float(x[1]), float(ln[1]))
    at = (x[0] + x[1]) / 2 - first / (2 * bend)
    height = ln[0] + first * (at - x[0]) + bend * (at - x[0]) * (at - x[1])
    return Peak(float(at), float(height))


@dataclass(frozen=True)
class Rung:
    """One picture of a ladder: slider value, sharpness over the noise floor, and its doubt."""

    value: float
    sharpness: float
    sigma: float


@dataclass(frozen=True)
class LadderResult:
    """The slider value of best focus with its ±, or which way to `go_on` when it is at an end.

    Both None where the patch shows no more than noise, or its sharpness rises and falls more than
    once: another patch is needed then.
    """

    value: float | None
    plus_minus: float | None
    go_on: GoOn | None


NO_PEAK_WORDS = (
    "No clear peak. Choose a patch with more detail and more light, and keep the phone still."
)


def ladder_words(found: LadderResult) -> str:
    """What a ladder says, and what to do next where it has not found the top.

    >>> ladder_words(LadderResult(0.62, 0.012, None))
    'Sharpest at 0.62, ± 0.01.'
    """
    if found.value is not None and found.plus_minus is not None:
        return f"Sharpest at {found.value:.3g}, ± {found.plus_minus:.1g}."
    if found.go_on is not None:
        return (
            f"No peak yet. It gets sharper towards {found.go_on} values. Add a few more pictures "
            "that way."
        )
    return NO_PEAK_WORDS


def at_sliders_end(
    found: LadderResult, values: Sequence[float], *, reach: tuple[float, float]
) -> LadderResult:
    """A ladder that rises to the end of the slider: there is nothing beyond, so that is the peak.

    `values` are the rungs', ascending; `reach` is the slider's lowest and highest value. By
    definition of a maximum on a closed range; the ± is half the last step.

    >>> found = at_sliders_end(LadderResult(None, None, "lower"), (0.0, 0.5, 1.0), reach=(0.0, 1.0))
    >>> found.value, found.plus_minus
    (0.0, 0.25)
    """
    if found.go_on is None:
        return found
    end, beside = (0, 1) if found.go_on == "lower" else (-1, -2)
    if not math.isclose(values[end], reach[end], rel_tol=1e-6, abs_tol=1e-6):
        return found
    return LadderResult(values[end], abs(values[end] - values[beside]) / 2, None)


NEAR_TOP = 0.2
"""Samples this close to the highest (as a share of it) belong to the top that is fitted. Own
choice: enough samples on a curve's round top, none of its flanks."""
MODEL_DOUBT = 0.05
"""How far a parabola misses the top of a real curve, in steps of the ladder. Measured on rendered
ladders, by tests/devices/test_ladders.py."""
OWN_DOUBT = 1.4
"""Samples stray so much more than their noise alone says: found on ladders of known focus. Measured
by tests/devices/test_ladders.py."""
CLEAR = 6.0
"""The highest sample rises so many of its own doubts above the lowest, or it is no peak. Own
choice: one false peak in some 10⁸ of plain noise."""
SECOND_RISE, SECOND_SIGMAS = 0.15, 3.0
"""Away from the top a rise of so much of its height, and of so many doubts, is a second one. Own
choice."""
CLOSEST_SIGMA = 1e-3
"""Own choice: no ladder places its peak closer, as a share of its span."""


def best_focus(rungs: Sequence[Rung]) -> LadderResult:
    """Where along the slider a patch is sharpest: a weighted parabola through ln sharpness.

    Rungs ascend in value, three at least (BadInput). With the highest at an end the answer is which
    way to go on. The ± is two standard deviations: the samples' own doubt, and how far a parabola
    is from a real curve at this step. [PERTUZ2013]

    >>> hill = [Rung(0.1 * k, 100 / (1 + (k - 4.2) ** 2), 0.5) for k in range(9)]
    >>> found = best_focus(hill)
    >>> f"{found.value:.2f}"
    '0.42'
    """
    if len(rungs) < 3:
        raise BadInput("A focus ladder needs at least three pictures.", "values")
    x = np.array([rung.value for rung in rungs])
    if np.any(np.diff(x) <= 0):
        raise BadInput("Slider values must increase, each used once.", "values")
    s = np.array([rung.sharpness for rung in rungs])
    sigma = np.array([rung.sigma for rung in rungs])
    top = int(np.argmax(s))
    if s[top] - s.min() < CLEAR * math.hypot(sigma[top], sigma[int(np.argmin(s))]):
        return LadderResult(None, None, None)
    if _rises_again(s, sigma, top):
        return LadderResult(None, None, None)
    found = _fitted(x, s, sigma, used=_near_top(s, top))
    if found is not None and x[0] + found[1] / 2 < found[0] < x[-1] - found[1] / 2:
        return LadderResult(*found, None)
    if 0 < top < len(x) - 1:
        return LadderResult(float(x[top]), float(x[top + 1] - x[top - 1]) / 2, None)
    return LadderResult(None, None, "lower" if top == 0 else "higher")


def _rises_again(s: NDArray[np.float64], sigma: NDArray[np.float64], top: int) -> bool:
    """Whether sharpness rises a second time on either side of the top."""
    height = float(s[top] - s.min())
    for side in (np.arange(top, len(s)), np.arange(top, -1, -1)):
        lowest = np.minimum.accumulate(s[side])
        doubt = OWN_DOUBT * math.sqrt(2) * np.maximum.accumulate(sigma[side])
        if np.any(s[side] - lowest > np.maximum(SECOND_RISE * height, SECOND_SIGMAS * doubt)):
            return True
    return False


def _near_top(s: NDArray[np.float64], top: int) -> slice:
    """The samples about the highest that are fitted: as many on both sides where there are.

    A curve steeper on one side would else pull the top over.
    """
    low, high = top, top
    while low > 0 and s[low - 1] > NEAR_TOP * s[top]:
        low -= 1
    while high < len(s) - 1 and s[high + 1] > NEAR_TOP * s[top]:
        high += 1
    if top in (0, len(s) - 1):  # noise alone may have put it there: all that is near it counts
        return slice(low, high + 1)
    reach = max(1, min(top - low, high - top))
    return slice(top - reach, top + reach + 1)


def _fitted(
    x: NDArray[np.float64], s: NDArray[np.float64], sigma: NDArray[np.float64], *, used: slice
) -> tuple[float, float] | None:
    """Top of a weighted parabola through ln sharpness, with its ±; None where it opens upwards."""
    x, s, sigma = x[used], s[used], sigma[used]
    if len(x) < 3:
        return None
    level = np.maximum(s, 0.02 * s.max())
    doubt = np.maximum(sigma / level, CLOSEST_SIGMA)
    weight = level / s.max() / doubt
    middle, scale = (x[0] + x[-1]) / 2, (x[-1] - x[0]) / 2
    place = (x - middle) / scale
    design = np.stack([place**2, place, np.ones_like(place)], 1)
    fit, *_ = np.linalg.lstsq(design * weight[:, None], np.log(level) * weight, rcond=None)
    if fit[0] >= 0:
        return None
    value = float(middle - scale * fit[1] / (2 * fit[0]))
    # How the top moves with each sample: the parabola's vertex by the rule of small errors.
    pull = np.linalg.pinv(design * weight[:, None]) * weight
    slope = np.array([fit[1] / (2 * fit[0] ** 2), -1 / (2 * fit[0])]) @ pull[:2]
    random = OWN_DOUBT * scale * float(np.sqrt(np.sum((slope * doubt) ** 2)))
    gap = 2 * scale / (len(x) - 1)
    return value, 2 * math.hypot(random, MODEL_DOUBT * gap)
