"""The photographer's own hand: keeper share against shutter, from past takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive

NEWTON_STEPS = 100
CONVERGED = 1e-12
"""Own choice: a step of the fit far under what any count of takes decides."""
SINGULAR = 1e-12
"""Keeps the curvature solvable where every take is at one end of the curve. Own choice."""
LOG_ODDS_OF_90_PERCENT = float(np.log(9.0))
"""Exact: ln(0.9/0.1)."""


@dataclass(frozen=True)
class KeeperFit:
    """P(kept) = 1/(1 + exp(−(a + b·x))), x = log2(t·f35); `x90` is where P = 0.9."""

    a: float
    b_per_stop: float
    x90: float

    def limit_s(self, focal35_mm: float) -> float:
        """Shutter (s) at which nine takes in ten are kept, for a focal length in mm."""
        return float(np.exp2(self.x90) / focal35_mm)


def fit_keepers(
    shutter_s: Sequence[float], focal35_mm: Sequence[float], kept: Sequence[int]
) -> KeeperFit | None:
    """Logistic fit of kept (0/1) against log2(t·f35) by maximum likelihood. [COX1958]

    None when the takes give no answer: all kept or none, separable, or longer shutters kept
    more often than short ones. The hand rule then stays in force.
    """
    if not (len(shutter_s) == len(focal35_mm) == len(kept)) or not kept:
        raise BadInput("Every take needs a shutter, a focal length and kept or not.", "kept")
    if not set(kept) <= {0, 1}:
        raise BadInput("kept is 1 for a keeper and 0 otherwise.", "kept")
    t = require_positive("t", np.asarray(shutter_s, dtype=float), "s")
    f35 = require_positive("f35", np.asarray(focal35_mm, dtype=float), "mm")
    x, y = np.log2(t * f35), np.asarray(kept, dtype=float)
    if _separable(x, y):
        return None
    a, b = _maximum_likelihood(x, y)
    return KeeperFit(a, b, (LOG_ODDS_OF_90_PERCENT - a) / b) if b < 0 else None


def _separable(x: NDArray[np.float64], y: NDArray[np.float64]) -> bool:
    """True when one cut on x splits kept from lost, so that likelihood has no maximum."""
    kept, lost = x[y == 1], x[y == 0]
    if not kept.size or not lost.size:
        return True
    return bool(kept.max() <= lost.min() or lost.max() <= kept.min())


def _maximum_likelihood(x: NDArray[np.float64], y: NDArray[np.float64]) -> tuple[float, float]:
    """Newton's method on the log-likelihood, halving every step that would lower it."""
    design = np.column_stack([np.ones_like(x), x - x.mean()])
    beta = np.zeros(2)
    for _ in range(NEWTON_STEPS):
        p = 1 / (1 + np.exp(-design @ beta))
        curvature = design.T @ (design * (p * (1 - p))[:, None])
        step = np.linalg.solve(curvature + SINGULAR * np.eye(2), design.T @ (y - p))
        reached = _log_likelihood(design, y, beta)
        while np.abs(step).max() > CONVERGED and _log_likelihood(design, y, beta + step) < reached:
            step = step / 2
        beta = beta + step
        if np.abs(step).max() <= CONVERGED:
            break
    return float(beta[0] - beta[1] * x.mean()), float(beta[1])


def _log_likelihood(
    design: NDArray[np.float64], y: NDArray[np.float64], beta: NDArray[np.float64]
) -> float:
    odds = design @ beta
    return float(np.sum(y * odds - np.logaddexp(0.0, odds)))
