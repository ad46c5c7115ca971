"""A phone's focus slider: its own numbers against distances, as they were measured."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.focus.monotone import monotone_cubic

TABLE_SIZE = 2001


@dataclass(frozen=True)
class SliderPoint:
    """A value of the slider and the distance (m, or infinite) it was found to focus at.

    `found` says how, `date` when (ISO 8601), `plus_minus` how sure the value is.
    """

    value: float
    distance_m: float
    plus_minus: float | None = None
    found: str = ""
    date: str = ""

    @property
    def dioptres(self) -> float:
        """1/distance; 0 at infinity."""
        return 0.0 if math.isinf(self.distance_m) else 1 / self.distance_m


@dataclass(frozen=True)
class SliderScale:
    """A slider's scale: two or more points, ascending in value and monotone in dioptres."""

    points: tuple[SliderPoint, ...]

    def __post_init__(self) -> None:
        values = [point.value for point in self.points]
        if len(values) < 2:
            raise BadInput("A slider scale needs at least two points.", "scale")
        if any(b <= a for a, b in pairwise(values)):
            raise BadInput("Slider values must increase, each used once.", "scale")
        steps = np.diff([point.dioptres for point in self.points])
        if not (np.all(steps >= 0) or np.all(steps <= 0)) or not np.any(steps):
            words = "Distances along the slider must only increase or only decrease."
            raise BadInput(words, "scale")

    @cached_property
    def _arrays(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        values = np.array([point.value for point in self.points], dtype=float)
        return values, np.array([point.dioptres for point in self.points], dtype=float)

    @cached_property
    def _table(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Slider values and dioptres in small even steps, for going backwards."""
        values = np.linspace(self.points[0].value, self.points[-1].value, TABLE_SIZE)
        return values, self.dioptres_at(values.tolist())

    def dioptres_at(self, values: Sequence[float]) -> NDArray[np.float64]:
        """Dioptres at slider values, shape (n,): monotone cubics, flat past the ends. [FRITSCH1980]

        >>> scale = SliderScale((SliderPoint(0, 0.1), SliderPoint(1, math.inf)))
        >>> f"{scale.dioptres_at([0.5])[0]:.1f}"
        '5.0'
        """
        x, y = self._arrays
        at = np.clip(np.asarray(values, dtype=float), x[0], x[-1])
        return np.asarray(np.maximum(monotone_cubic(x, y, at), 0.0), dtype=float)

    def distance_at_m(self, value: float) -> float:
        """Distance (m, or infinite) in focus at one value of the slider. [FRITSCH1980]

        >>> f"{SliderScale((SliderPoint(0, 0.1), SliderPoint(1, 1.0))).distance_at_m(1):.1f}"
        '1.0'
        """
        dioptres = float(self.dioptres_at([value])[0])
        return 1 / dioptres if dioptres > 1e-12 else math.inf

    def value_for(self, distance_m: float) -> float | None:
        """Slider value that focuses at a distance (m, or infinite); None outside what it reaches.

        Where a stretch is flat, as past an infinity mark, the first value that reaches it.
        """
        wanted = 0.0 if math.isinf(distance_m) else 1 / distance_m
        values, dioptres = self._table
        low, high = float(dioptres.min()), float(dioptres.max())
        if not low - 1e-9 <= wanted <= high + 1e-9:
            return None
        if dioptres[0] > dioptres[-1]:
            return float(np.interp(-wanted, -dioptres, values))
        return float(np.interp(wanted, dioptres, values))

    def dioptres_a_step(self, value: float, step: float) -> float:
        """How far (dioptres) one step of the slider moves the focus at a value."""
        two = self.dioptres_at([value - step / 2, value + step / 2])
        return float(abs(two[1] - two[0]))

    @property
    def infinity(self) -> SliderPoint | None:
        """The point measured at infinity; None where there is none."""
        found = [point for point in self.points if math.isinf(point.distance_m)]
        return found[0] if found else None
