"""How still a hand holds: a curve through the blur measured in some forty shots."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import Support
from oxlen.core.labels import counted
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

KEPT = 2.197
"""Log odds of nine in ten, in units of the curve's own width."""
LEAST_SHOTS, LEAST_BLURRED = 12, 6
USUAL_WIDTH_STOPS, WIDTH_SPREAD = 0.5, 0.2
"""Widths of the curve before anything is measured, as a natural logarithm's spread."""
MOST_STABILISER_STOPS = 7.0
LONGEST_PX = 16.0
MIDDLE_REACH, GRID_STOPS, WIDTHS = 2.0, 0.03, 41
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class HandShot:
    """A shot's shutter (s) and its blur as the length of an even smear, in pixels."""

    shutter_s: float
    blur_px: float


@dataclass(frozen=True)
class HandCurve:
    """The shutter (s) at which nine in ten are sharp, the curve's width, and their ± in stops."""

    limit_s: float
    width_stops: float
    plus_minus_stops: float


def hand_curve(shots: Sequence[HandShot], *, sharp_px: float, floor_px: float) -> HandCurve:
    """Fit blur against shutter: blur grows with time, shot by shot more or less. [COX1958]

    log2 of blur over `sharp_px` is log2(t/limit) less 2.197 widths, plus logistic scatter of that
    width, so that nine in ten are sharp at the limit. Blur under `floor_px` counts as no more than
    that, and blur over 16 px as no less: what eats all detail is measured badly. BadInput for fewer
    than 12 shots, or too few that show blur.
    """
    times = np.array([shot.shutter_s for shot in shots], dtype=float)
    blurs = np.array([shot.blur_px for shot in shots], dtype=float)
    if len(times) < LEAST_SHOTS:
        raise BadInput(
            f"{counted(len(times), 'shot')} is too few. Take at least {LEAST_SHOTS}.", "files"
        )
    seen = blurs > floor_px
    if int(seen.sum()) < LEAST_BLURRED:
        raise BadInput("Nearly all shots are sharp. Continue with longer times.", "files")
    if bool(seen.all()) and float(np.log2(blurs / sharp_px).min()) > 0:
        raise BadInput("Every shot is blurred. Continue with shorter times.", "files")
    # Of a shot at one second: how many stops its blur is past what counts as sharp.
    level = np.log2(np.clip(blurs, floor_px, LONGEST_PX) / sharp_px) - np.log2(times)
    return _likeliest(level, ~seen, blurs > LONGEST_PX)


def _likeliest(level: Floats, is_under: NDArray[np.bool_], is_over: NDArray[np.bool_]) -> HandCurve:
    """Mean and spread of the limit over all curves, each weighed by how likely it is.

    Of some shots all that is known is that their level is under, or over, the one given.
    """
    middles = np.arange(-MIDDLE_REACH, MIDDLE_REACH, GRID_STOPS) + float(np.median(level))
    widths = np.exp(np.linspace(-2.5, 2.5, WIDTHS) * WIDTH_SPREAD) * USUAL_WIDTH_STOPS
    z = (level[:, None, None] - middles[None, :, None]) / widths[None, None, :]
    under, over = np.logaddexp(0.0, -z), np.logaddexp(0.0, z)
    known = under + over + np.log(widths)
    unlikely = np.select(
        [is_under[:, None, None], is_over[:, None, None]], [under, over], known
    ).sum(axis=0)
    unlikely += (np.log(widths / USUAL_WIDTH_STOPS) / WIDTH_SPREAD) ** 2 / 2
    weight = np.exp(unlikely.min() - unlikely)
    weight /= weight.sum()
    limit = -(middles[:, None] + KEPT * widths[None, :])
    mean = float((weight * limit).sum())
    spread = float(np.sqrt((weight * (limit - mean) ** 2).sum()))
    return HandCurve(2.0**mean, float((weight * widths).sum()), plus_minus_stops=2 * spread)


def hand_measured(
    shots: Sequence[HandShot],
    *,
    support: Support,
    focal35_mm: float,
    stabiliser_stops: float,
    sharp_px: float,
    floor_px: float,
) -> Measured:
    """The hand's figure as stops over the bare rule: of the lens, or what a rest adds to it."""
    if support == "tripod" and _is_still(shots, sharp_px):
        return _still(shots, sharp_px)
    curve = hand_curve(shots, sharp_px=sharp_px, floor_px=floor_px)
    stops = math.log2(curve.limit_s * focal35_mm)
    name, value, held = "stabiliser_stops", stops, "Handheld"
    if support == "braced":
        name, value, held = "braced_stops", stops - stabiliser_stops, "Braced"
    if support == "tripod":
        name, value, held = "tripod_stops", stops, "On this tripod"
    doubts = []
    most = math.inf if support == "tripod" else MOST_STABILISER_STOPS
    if not -2 <= stops <= most:
        doubts.append(
            f"{stops:.1f} stops better than the handheld rule is not possible. Was the phone on "
            "a support, or did the wall's pattern change?"
        )
    low, high = (curve.limit_s * 2.0 ** (k * curve.plus_minus_stops) for k in (-1, 1))
    return Measured(
        (Figure(name, value, curve.plus_minus_stops, unit="stops"),),
        f"{held} 9 of 10 shots are sharp to {_time(curve.limit_s)} ({_time(low)} to "
        f"{_time(high)}).",
        plot=_plot(shots, curve, sharp_px),
        doubts=tuple(doubts),
    )


def _is_still(shots: Sequence[HandShot], sharp_px: float) -> bool:
    """Whether so few shots are blurred that no limit shows."""
    if len(shots) < LEAST_SHOTS:
        raise BadInput(
            f"{counted(len(shots), 'shot')} is too few. Take at least {LEAST_SHOTS}.", "files"
        )
    return sum(shot.blur_px > sharp_px for shot in shots) < LEAST_BLURRED


def _still(shots: Sequence[HandShot], sharp_px: float) -> Measured:
    """A support that holds still through every time that was tried: nothing to keep but that."""
    longest_s = max(shot.shutter_s for shot in shots)
    sharp = sum(shot.blur_px <= sharp_px for shot in shots)
    times = tuple(shot.shutter_s for shot in shots)
    series = Series("shots", times, tuple(max(shot.blur_px, 0.1) for shot in shots))
    return Measured(
        (),
        f"{sharp} of {len(shots)} shots are sharp, up to {_time(longest_s)}. This tripod sets no "
        "limit.",
        plot=Plot("shutter, s", "blur, px", (series,), x_is_log=True, y_is_log=True),
    )


def _time(seconds: float) -> str:
    return f"1/{1 / seconds:.0f} s" if seconds < 0.3 else f"{seconds:.2g} s"


def _plot(shots: Sequence[HandShot], curve: HandCurve, sharp_px: float) -> Plot:
    ordered = sorted(shots, key=lambda shot: shot.shutter_s)
    times = tuple(entry.shutter_s for entry in ordered)
    ends = (times[0], times[-1])
    middle = tuple(sharp_px * t / curve.limit_s * 2.0 ** (-KEPT * curve.width_stops) for t in ends)
    return Plot(
        "shutter, s",
        "blur, px",
        (
            Series("shots", times, tuple(max(entry.blur_px, 0.1) for entry in ordered)),
            Series("usual blur", ends, middle, is_line=True),
            Series("counts as sharp", ends, (sharp_px, sharp_px), is_line=True),
        ),
        x_is_log=True,
        y_is_log=True,
    )
