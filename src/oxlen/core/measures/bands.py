"""How long the rolling shutter takes down a frame: from the bands of a pulsing lamp."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.measures.measured import Figure, Measured, Plot, Series

LEAST_BANDS, LEAST_DEPTH = 0.7, 0.01
SHORTEST_S, LONGEST_S = 0.001, 0.15
PER_BAND, NEAR_BANDS, EVEN_ROUNDS = 40, 0.3, 4
WALL_DOUBT = 0.008
"""What is left of an uneven wall moves the count by about this share."""
Floats = NDArray[np.float64]


def row_profile(luminance: NDArray[np.floating], rows: int = 600) -> tuple[float, ...]:
    """Brightness of each row over the frame's own slow change, about 0, in at most 600 rows.

    Rows are those of the sensor: read along the frame's short side as stored.
    """
    means = np.asarray(luminance, dtype=np.float64).mean(axis=1)
    if means.size > rows:
        edges = np.linspace(0, means.size, rows + 1).astype(int)
        means = np.add.reduceat(means, edges[:-1]) / np.diff(edges)
    return tuple((means / max(float(means.mean()), 1e-9)).tolist())


@dataclass(frozen=True)
class Bands:
    """Bands down the frame, how sure their number is, and their depth as a share."""

    count: float
    plus_minus: float
    depth: float


def bands_in(profiles: Sequence[Sequence[float]]) -> Bands:
    """The number of bands that fits the rows of all frames best, each with a phase of its own.

    The wall's own slow change, the same in all frames, is divided out. BadInput where nothing
    waves.
    """
    frames = [np.asarray(profile, dtype=float) for profile in profiles]
    counts = np.arange(LEAST_BANDS, min(frame.size for frame in frames) / 6, 1 / PER_BAND)

    def misfit(count: float) -> float:
        return sum(_wave(frame, count).left_over for frame in frames)

    # The first guess is made without the wall's own change: it is often more than the bands are.
    as_they_are, frames = frames, _over_their_slow(frames, frames)
    count = float(min(counts[:: PER_BAND // 8], key=lambda tried: misfit(float(tried))))
    frames = as_they_are
    for _ in range(EVEN_ROUNDS):
        frames = _evened(frames, count)
        near = counts[np.abs(counts - count) <= NEAR_BANDS]
        costs = np.array([misfit(float(star)) for star in near])
        count, doubt = _lowest(near, costs, sum(frame.size for frame in frames))
    depth = float(np.mean([np.hypot(*_wave(frame, count).wave) for frame in frames]))
    if depth < LEAST_DEPTH:
        raise BadInput("No flicker bands. Use a pulsing lamp and a shorter shutter.", "files")
    return Bands(count, doubt, depth)


def _evened(frames: list[Floats], count: float) -> list[Floats]:
    """The frames without the wall's own slow change: what they share once their waves are off."""
    return _over_their_slow(frames, [frame / (1 + _wave(frame, count).model) for frame in frames])


def _over_their_slow(frames: list[Floats], flat: list[Floats]) -> list[Floats]:
    """Frames over the slow change that others of them share."""
    place = _places(frames[0].size)
    slow = np.polyval(np.polyfit(place, np.mean(flat, axis=0), 2), place)
    return [frame / slow for frame in frames]


def _places(rows: int) -> Floats:
    """Where each row's middle is down the frame, about 0."""
    return (np.arange(rows) + 0.5) / rows - 0.5


@dataclass(frozen=True)
class _Wave:
    """A wave fitted to rows: what it leaves over, its two amplitudes, and itself."""

    left_over: float
    wave: tuple[float, float]
    model: Floats


def _wave(rows: Floats, count: float) -> _Wave:
    """The wave of so many bands that fits the rows best, beside their mean."""
    turn = 2 * np.pi * count * _places(rows.size)
    design = np.stack([turn**0, np.sin(turn), np.cos(turn)], axis=1)
    found, *_ = np.linalg.lstsq(design, rows, rcond=None)
    rest = rows - design @ found
    model = design[:, 1:] @ found[1:] / max(float(found[0]), 1e-9)
    return _Wave(float(rest @ rest), (float(found[1]), float(found[2])), model)


def _lowest(counts: Floats, costs: Floats, rows: int) -> tuple[float, float]:
    """Where the misfit is lowest, between its samples, and twice the standard error of that."""
    at = min(max(int(np.argmin(costs)), 1), len(costs) - 2)
    step = float(counts[1] - counts[0])
    bend = max(float(costs[at - 1] - 2 * costs[at] + costs[at + 1]) / step**2, 1e-12)
    slope = float(costs[at + 1] - costs[at - 1]) / (2 * step)
    noise = float(costs[at]) / rows
    count = float(counts[at]) - slope / bend
    return count, 2 * math.sqrt(2 * noise / bend) + WALL_DOUBT * count


def readout(profiles: Sequence[Sequence[float]], pulse_hz: float) -> Measured:
    """Readout time (s) from frames of a wall lit by a lamp that pulses so often a second.

    Bands over pulse rate; the shutter must be shorter than a pulse. [IEEE1789]
    """
    if not profiles:
        raise BadInput("Add frames that show flicker bands.", "files")
    bands = bands_in(profiles)
    found, doubt = bands.count / pulse_hz, bands.plus_minus / pulse_hz
    doubts = []
    if not SHORTEST_S <= found <= LONGEST_S:
        doubts.append(
            f"{1000 * found:.1f} ms is not a possible readout time. Does the lamp pulse "
            f"{pulse_hz:g} times a second (twice the mains)?"
        )
    rows = profiles[0]
    places = tuple((k + 0.5) / len(rows) for k in range(len(rows)))
    return Measured(
        (Figure("readout_s", found, doubt, unit="s"),),
        f"The sensor reads a frame in {1000 * found:.1f} ms ({bands.count:.2f} bands).",
        plot=Plot(
            "down the frame",
            "brightness of the rows",
            (Series("rows", places, tuple(rows), is_line=True),),
        ),
        doubts=tuple(doubts),
    )
