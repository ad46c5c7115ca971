"""The steps a phone really offers, and snapping to them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.units import require_positive, stops_between


@dataclass(frozen=True)
class Snap:
    """A ladder's value and how it errs: positive = the phone's value is larger than wanted."""

    value: float
    residual_stops: float


@dataclass(frozen=True)
class Ladder:
    """ISO and shutter (s) steps of one range, each ascending."""

    iso: tuple[float, ...]
    shutter_s: tuple[float, ...]

    @cached_property
    def iso_array(self) -> NDArray[np.float64]:
        """ISO steps as an array."""
        return np.asarray(self.iso, dtype=float)

    @cached_property
    def shutter_array(self) -> NDArray[np.float64]:
        """Shutter steps in seconds as an array."""
        return np.asarray(self.shutter_s, dtype=float)

    @cached_property
    def log_iso(self) -> NDArray[np.float64]:
        """log2 of the ISO steps."""
        return np.log2(self.iso_array)

    @cached_property
    def log_shutter(self) -> NDArray[np.float64]:
        """log2 of the shutter steps in seconds."""
        return np.log2(self.shutter_array)

    @cached_property
    def pair_places(self) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Row and column of every pair, row by row: flat arrays, ISO steps × shutter steps."""
        rows, columns = len(self.iso), len(self.shutter_s)
        return np.repeat(np.arange(rows), columns), np.tile(np.arange(columns), rows)

    @cached_property
    def pair_logs(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """log2 of ISO and of shutter (s) of every pair, in the order of `pair_places`."""
        row, column = self.pair_places
        return self.log_iso[row], self.log_shutter[column]

    @cached_property
    def half_step_stops(self) -> float:
        """Half the widest gap of the shutter ladder: the residual one must accept.

        With ISO held anywhere there is then always a shutter within reach, so that more light
        never pushes the lowest ISO out.
        """
        return 0.5 * widest_gap_stops(self.shutter_s)


def widest_gap_stops(ladder: Sequence[float]) -> float:
    """Widest gap between neighbouring steps, in stops; a single step counts as one stop.

    Takes positive steps, each above the one before. By definition.

    >>> widest_gap_stops([1, 2, 8])
    2.0
    """
    if len(ladder) < 2:
        return 1.0
    return float(np.max(np.diff(np.log2(ladder))))


def snap(wanted: float, ladder: Sequence[float]) -> Snap:
    """The ladder's step nearest to `wanted` in stops, with the residual log2(step/wanted).

    Beyond an end the end is taken. Raises BadInput on an empty ladder, OutOfRange otherwise.

    >>> snap(45, [13, 15, 20, 25, 30]).value
    30
    """
    if not len(ladder):
        raise BadInput("A ladder needs at least one step.", "ladder")
    require_positive("wanted", wanted)
    require_positive("ladder", np.asarray(ladder, dtype=float))
    distance = np.abs(stops_between(np.asarray(ladder, dtype=float), wanted))
    value = ladder[int(np.argmin(distance))]
    return Snap(value, float(stops_between(value, wanted)))
