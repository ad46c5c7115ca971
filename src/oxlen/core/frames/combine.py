"""Rules that put several frames together, pixel by pixel in linear light."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.frames.passing import LEAST_FRAMES

Combine = Literal["mean", "add", "lighten", "darken", "median", "sigma-clip"]
Floats = NDArray[Any]
CLIP_SIGMAS = 3.0
MAD_SIGMA = 1.4826
"""Standard deviation of a normal spread over its median absolute deviation. [ROUSSEEUW1993]"""
LEAST_TO_CLIP = 4
"""With fewer frames nothing tells the odd one out: the median is taken."""
COMBINE_WORDS: Mapping[Combine, str] = {
    "mean": "averaged",
    "add": "added",
    "lighten": "lighten",
    "darken": "darken",
    "median": "median",
    "sigma-clip": "outliers rejected",
}


OUTCOME_WORDS: Mapping[Combine, str] = {
    "mean": "It fades",
    "add": "Its light adds up",
    "lighten": "It leaves light trails",
    "darken": "It leaves dark trails",
    "median": "It vanishes",
    "sigma-clip": "It vanishes, least noise",
}
"""What becomes of something that moves, by the rule."""
FROM_FRAMES = f"from {LEAST_FRAMES} frames on"
MOVERS_WORDS: Mapping[Combine, str] = {
    "mean": "Lowers noise and smooths water. What passes stays as a ghost.",
    "add": "Adds the light of all frames: for lamps and dark frames.",
    "lighten": "Keeps trails of lamps and stars. Dark movers disappear.",
    "darken": "Lamps and bright movers disappear. Dark ones stay.",
    "median": f"Removes what is in at most a third of the frames, {FROM_FRAMES}.",
    "sigma-clip": f"Removes what differs in a few frames and averages the rest, {FROM_FRAMES}.",
}


def combined(frames: Floats, how: Combine, *, least_spread: Floats | float = 0.0) -> Floats:
    """Frames (n, ...) of linear light, white = 1, as one (...): the rules of `combine_modes`.

    `least_spread` is the smallest standard deviation that counts for *sigma-clip*: what rounding
    leaves. BadInput without a frame or for a rule that is not known.

    >>> combined(np.array([[0.02, 0.3], [1.0, 0.3]]), "darken").tolist()
    [0.02, 0.3]
    """
    if len(frames) == 0:
        raise BadInput("There are no frames to stack.", "frames")
    if how == "sigma-clip":
        return sigma_clipped(frames, least_spread)
    rule = _RULES.get(how)
    if rule is None:
        known = ", ".join(COMBINE_WORDS)
        raise BadInput(f"Unknown rule {how}. Use one of {known}.", "combine")
    return rule(frames)


def sigma_clipped(frames: Floats, least_spread: Floats | float = 0.0) -> Floats:
    """Mean (...) of those frames (n, ...) that are near their median.

    Near is within three standard deviations as the median absolute deviation tells them: those of
    the frames themselves reject nothing below eleven. [ROUSSEEUW1993]

    >>> frames = np.array([[0.10], [0.11], [0.09], [0.10], [0.90]])
    >>> f"{float(sigma_clipped(frames)[0]):.2f}"
    '0.10'
    """
    middle: Floats = np.asarray(np.median(frames, axis=0), dtype=frames.dtype)
    if len(frames) < LEAST_TO_CLIP:
        return middle
    off = np.abs(frames - middle)
    spread = np.maximum(MAD_SIGMA * np.median(off, axis=0), least_spread)
    kept = off <= CLIP_SIGMAS * spread + 1e-12
    return np.asarray((frames * kept).sum(axis=0) / kept.sum(axis=0), dtype=frames.dtype)


def _added(frames: Floats) -> Floats:
    return np.asarray(np.minimum(1.0, frames.sum(axis=0)))


_RULES: Mapping[str, Callable[[Floats], Floats]] = {
    "mean": lambda frames: np.asarray(frames.mean(axis=0)),
    "add": _added,
    "lighten": lambda frames: np.asarray(frames.max(axis=0)),
    "darken": lambda frames: np.asarray(frames.min(axis=0)),
    "median": lambda frames: np.asarray(np.median(frames, axis=0)),
}
