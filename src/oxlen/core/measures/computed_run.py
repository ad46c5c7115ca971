"""A phone's computed mode seen from outside: frames and gaps of a moving light, noise it wins."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

COLUMNS = 1200
BRIGHT_SHARE, LEAST_DASHES = 0.5, 3
STANDS_OUT = 4.0
EDGE_DOUBT_PX, GAP_DOUBT = 0.2, 0.015
"""A dash's ends are known this finely, and hands do not move a lamp more evenly."""


@dataclass(frozen=True)
class ComputedPicture:
    """The brightest of each column, and the noise of the middle over its mean."""

    columns: tuple[float, ...]
    noise_share: float


def column_tops(luminance: NDArray[np.floating]) -> tuple[float, ...]:
    """The brightest of each column along the longer side, in at most 1200 columns."""
    picture = np.asarray(luminance, dtype=np.float64)
    along = picture if picture.shape[1] >= picture.shape[0] else picture.T
    tops = along.max(axis=0)
    if tops.size > COLUMNS:
        edges = np.linspace(0, tops.size, COLUMNS + 1).astype(int)[:-1]
        tops = np.add.reduceat(tops, edges) / np.diff([*edges, tops.size])
    return tuple(tops.tolist())


def dashes(columns: Sequence[float]) -> list[tuple[float, float]]:
    """Where a light that moved across was being photographed: starts and ends of its dashes.

    In columns and parts of one, where the light is half as bright as at its brightest.
    """
    tops = np.asarray(columns)
    top, dark = float(tops.max()), float(np.quantile(tops, 0.05))
    if top < STANDS_OUT * max(dark, 1e-4):
        return []
    over = np.concatenate([[-1.0], (tops - dark) / (top - dark) - BRIGHT_SHARE, [-1.0]])
    before = np.flatnonzero((over[1:] > 0) != (over[:-1] > 0))
    edges = before + over[before] / (over[before] - over[before + 1]) - 0.5
    return [(float(a), float(b)) for a, b in zip(edges[0::2], edges[1::2], strict=True)]


def computed_run(pictures: Sequence[ComputedPicture], mode_id: str, *, took_s: float) -> Measured:
    """Frames, gap (s) and noise of a computed mode that ran for `took_s` by the watch. [EMVA1288]

    One picture holds a light that moved evenly across; two of an even wall, one ordinary, show
    the noise. BadInput without the dashes.
    """
    found = [(dashes(computed_picture.columns), computed_picture) for computed_picture in pictures]
    trails = [
        (runs, computed_picture) for runs, computed_picture in found if len(runs) >= LEAST_DASHES
    ]
    if not trails:
        raise BadInput(
            "No dashes of a moving light found. Move a small lamp evenly across a dark frame "
            "while the mode runs.",
            "files",
        )
    runs, picture = max(trails, key=lambda pair: len(pair[0]))
    words = f"It stacks {len(runs)} frames, like a {math.log2(len(runs)):.1f}-stop filter"
    walls = sorted(
        computed_picture.noise_share for runs, computed_picture in found if len(runs) < LEAST_DASHES
    )
    if len(walls) >= 2 and walls[0] > 0:
        won = 2 * math.log2(walls[-1] / walls[0])
        words += f"; noise falls as {won:.1f} stops more light would make it"
    places = tuple(float(k) for k in range(len(picture.columns)))
    return Measured(
        _figures(runs, mode_id, took_s),
        words + ".",
        plot=Plot(
            "across the frame",
            "brightest of the column",
            (Series("", places, picture.columns, is_line=True),),
        ),
    )


def _figures(runs: list[tuple[float, float]], mode_id: str, took_s: float) -> tuple[Figure, ...]:
    """Frames and the gap between them from the lengths of dashes and of what is between."""
    count = len(runs)
    inner = runs[1:-1] if count > LEAST_DASHES else runs
    lit = float(np.mean([end - start for start, end in inner]))
    dark = float(np.mean([b[0] - a[1] for a, b in pairwise(runs)]))
    period_s = took_s / (count - 1 + lit / (lit + dark))
    gap_s = period_s * dark / (lit + dark)
    doubt = EDGE_DOUBT_PX * period_s / (lit + dark) + GAP_DOUBT * gap_s
    place = f"computed.{mode_id}"
    return (
        Figure(f"{place}.frames", float(count), 0.5, unit="frames"),
        Figure(f"{place}.gap_s", gap_s, doubt, unit="s"),
        Figure(f"{place}.longest_s", took_s, 0.3, unit="s"),
    )
