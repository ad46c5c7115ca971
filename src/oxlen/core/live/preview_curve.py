"""The tone curve of a phone's preview, measured by stepping the exposure of a still scene."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import BSpline

from oxlen.core.errors import BadInput
from oxlen.core.light.tone import srgb_to_linear, stops_from_mid

Floats = NDArray[np.float64]
CODES = np.arange(256.0)
MID_CODE = 118.0
"""The code a usual preview gives mid: 18 % of white by the sRGB curve. [IEC61966-2-1]"""
DARKEST_CODE, BRIGHTEST_CODE = 4.0, 248.0
"""Own choice: codes beyond are too near black or clipping to tell a tone."""
LEAST_STEPS, LEAST_REACH_STOPS, LEAST_CELLS = 5, 3.0, 12
"""Own choice: fewer steps leave no redundancy, a smaller reach leaves ends of the curve open."""
KNOTS = np.array([4, 10, 20, 35, 55, 80, 110, 145, 180, 205, 225, 240, 248], dtype=float)
"""Own choice: closer where a curve bends, at the foot and at the shoulder."""
SMOOTH = 0.02
"""Own choice: weight of an even bend, small beside a hundred readings."""
CODE_NOISE = 0.6
"""Codes by which a cell's mean may be off: rounding, compression, grain. Rule of thumb, 0.3 to 1:
off by up to a factor of 2."""
COVERED = 2.0
"""± is so many standard deviations: about 95 of 100 true values are within. [JCGM100]"""
STEP_DOUBT_STOPS = 0.015
"""Rule of thumb: a phone's shutter keeps its times to 1 % (0.5 to 2 %), off by up to a factor of 2.
All cells of a step share it."""
GENERIC_DOUBT_STOPS = 0.5
"""Rule of thumb: a preview of unknown curve follows sRGB to half a stop within two stops of mid,
off by up to a factor of 2 at its ends."""


@dataclass(frozen=True)
class PreviewCurve:
    """Stops from mid of every 8-bit code of a preview, and how far each may be off (256 each)."""

    stops: tuple[float, ...]
    doubt_stops: tuple[float, ...]

    def linear(self) -> NDArray[np.float32]:
        """Linear light of every code as a share of white, mid at 0.18."""
        return np.asarray(0.18 * np.exp2(np.array(self.stops)), dtype=np.float32)

    def plus_minus_stops(self, stops: float) -> float:
        """How far a tone so many stops from mid may be off."""
        return float(np.interp(stops, self.stops, self.doubt_stops))


@dataclass(frozen=True)
class CurveStep:
    """One exposure of the still scene: stops more light than the first, and its cells' codes."""

    stops: float
    codes: Sequence[float]


def generic_curve() -> PreviewCurve:
    """The sRGB curve, for a preview that was never measured. [IEC61966-2-1]

    >>> f"{generic_curve().stops[118]:.2f}"
    '0.01'
    """
    stops = np.maximum(stops_from_mid(srgb_to_linear(CODES / 255)), -12.0)
    return PreviewCurve(tuple(stops.tolist()), (GENERIC_DOUBT_STOPS,) * 256)


def measured_curve(steps: Sequence[CurveStep]) -> PreviewCurve:
    """Fit the curve by which cells of a still scene follow known steps of exposure. [DEBEVEC1997]

    Each cell's light is unknown and the same in every step: stops(code) is one smooth curve, 0 at
    the code of mid. Its ± comes from what the fit leaves over. Steps within half an hour of one
    light; BadInput for too few steps or cells, a reach of under 3 stops, or a scene that moved.
    """
    offsets = np.array([step.stops for step in steps], dtype=float)
    codes = np.array([step.codes for step in steps], dtype=float)
    _check(offsets, codes)
    usable = (codes >= DARKEST_CODE) & (codes <= BRIGHTEST_CODE)
    usable &= usable.sum(axis=0) >= 2
    step, cell = np.nonzero(usable)
    if cell.size < 3 * KNOTS.size:
        raise BadInput("Too few readable cells. Point at something with light and dark.", "steps")
    seen = codes[step, cell]
    bases, slopes = _bases(seen), _bases(seen, slope=True)
    weights = 1 / np.maximum(_slope_of(seen), 1e-3) / CODE_NOISE
    for _ in range(3):
        fit = _solved(bases, cell, offsets[step], weights=weights)
        slope = np.maximum(slopes @ fit.knots, 1e-3)
        weights = 1 / (slope * CODE_NOISE + 0.01)
    return _curve(fit, left=fit.left * weights, steps=offsets.size)


@dataclass(frozen=True)
class _Fit:
    """Heights of the curve's bases, their covariance, and what each reading is off (stops)."""

    knots: Floats
    covariance: Floats
    left: Floats


def _check(offsets: Floats, codes: Floats) -> None:
    if offsets.size < LEAST_STEPS:
        raise BadInput(f"A curve needs at least {LEAST_STEPS} steps of exposure.", "steps")
    if codes.ndim != 2 or codes.shape[1] < LEAST_CELLS:
        raise BadInput("Every step needs the same cells.", "steps")
    if np.ptp(offsets) < LEAST_REACH_STOPS:
        raise BadInput("The steps cover under 3 stops. Step further.", "steps")
    rising = np.median(np.diff(codes[np.argsort(offsets)], axis=0), axis=1)
    if np.any(rising < -2):
        raise BadInput("The light changed or the phone moved. Rest it and step again.", "steps")


_SPLINE_KNOTS = np.concatenate([[KNOTS[0]] * 3, KNOTS, [KNOTS[-1]] * 3])


def _bases(codes: Floats, *, slope: bool = False) -> Floats:
    """Cubic B-spline bases (n, k) at codes, or their slopes by code."""
    inside = np.clip(codes, KNOTS[0], KNOTS[-1])
    count = _SPLINE_KNOTS.size - 4
    spline = BSpline(_SPLINE_KNOTS, np.eye(count), 3)
    return np.asarray((spline.derivative() if slope else spline)(inside))


def _slope_of(codes: Floats) -> Floats:
    """Stops a code of the generic curve."""
    stops = np.array(generic_curve().stops)
    return np.asarray(np.interp(codes, CODES, np.gradient(stops)))


def _solved(bases: Floats, cell: NDArray[np.intp], offsets: Floats, *, weights: Floats) -> _Fit:
    """Least squares for the curve and every cell's light at once."""
    names, place = np.unique(cell, return_inverse=True)
    count = bases.shape[1]
    rows = np.zeros((bases.shape[0], count + names.size))
    rows[:, :count] = bases
    rows[np.arange(bases.shape[0]), count + place] = -1.0
    bend = SMOOTH * weights.mean() * np.diff(np.eye(count), n=2, axis=0)
    anchor = np.zeros((1, rows.shape[1]))
    anchor[0, :count] = 1e4 * _bases(np.array([MID_CODE]))[0]
    whole = np.vstack(
        [
            rows * weights[:, None],
            np.hstack([bend, np.zeros((bend.shape[0], names.size))]),
            anchor,
        ]
    )
    wanted = np.concatenate([offsets * weights, np.zeros(bend.shape[0] + 1)])
    found, *_ = np.linalg.lstsq(whole, wanted, rcond=None)
    covariance = np.linalg.pinv(whole.T @ whole)[:count, :count]
    return _Fit(found[:count], covariance, offsets - rows @ found)


def _curve(fit: _Fit, *, left: Floats, steps: int) -> PreviewCurve:
    """The curve over all codes; beyond those that were seen it goes on ever less surely."""
    free = max(left.size - fit.knots.size, 1)
    scatter = max(1.0, float(np.sum(left**2) / free))
    bases = _bases(CODES)
    stops = np.maximum.accumulate(bases @ fit.knots)
    spread = np.sqrt(np.maximum(np.einsum("nk,kl,nl->n", bases, fit.covariance, bases), 0))
    doubt = COVERED * np.hypot(np.sqrt(scatter) * spread, STEP_DOUBT_STOPS / np.sqrt(steps))
    beyond = np.maximum(KNOTS[0] - CODES, 0) * 0.4 + np.maximum(CODES - KNOTS[-1], 0) * 0.15
    stops = stops + np.where(KNOTS[0] > CODES, -beyond, beyond)
    return PreviewCurve(tuple(stops.tolist()), tuple((doubt + beyond).tolist()))
