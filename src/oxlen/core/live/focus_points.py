"""Where a live camera really focuses: its own dioptres against distances that were measured."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oxlen.core.labels import distance_label, listed


@dataclass(frozen=True)
class FocusPoint:
    """A distance (m; None infinity), and the dioptres the camera was set to when it was sharp."""

    distance_m: float | None
    set_dioptres: float

    @property
    def true_dioptres(self) -> float:
        """The distance in dioptres; 0 at infinity."""
        return 0.0 if self.distance_m is None else 1.0 / self.distance_m


def with_focus_point(points: Sequence[FocusPoint], point: FocusPoint) -> tuple[FocusPoint, ...]:
    """Points with one more, in place of one at the same distance; the farthest first."""
    others = [known for known in points if known.distance_m != point.distance_m]
    return tuple(sorted([*others, point], key=lambda known: known.true_dioptres))


def dioptres_to_set(points: Sequence[FocusPoint], true_dioptres: float) -> float:
    """What to set a camera to for a distance in dioptres; the same where nothing was measured.

    The error between two measured points is interpolated in dioptres, and beyond them it is the
    nearest point's. Own choice: a lens moves in proportion to dioptres, so its errors vary slowly.

    >>> points = (FocusPoint(None, 0.3), FocusPoint(0.5, 2.1))
    >>> f"{dioptres_to_set(points, 1.0):.2f}"
    '1.20'
    """
    error = _error(points, [point.true_dioptres for point in points], true_dioptres)
    return max(0.0, true_dioptres + error)


def dioptres_focused(points: Sequence[FocusPoint], set_dioptres: float) -> float:
    """The reverse: the distance in dioptres that a camera is focused at by its own number.

    >>> points = (FocusPoint(None, 0.3), FocusPoint(0.5, 2.1))
    >>> f"{dioptres_focused(points, 1.2):.2f}"
    '1.00'
    """
    error = _error(points, [point.set_dioptres for point in points], set_dioptres)
    return max(0.0, set_dioptres - error)


def focus_words(points: Sequence[FocusPoint]) -> str:
    """What was measured of a camera's focus, as the kit lists it; empty where nothing was."""
    if not points:
        return ""
    distances = listed([_distance(point) for point in points])
    return f"Focus measured at {distances}."


def _distance(point: FocusPoint) -> str:
    return "infinity" if point.distance_m is None else distance_label(point.distance_m)


def _error(points: Sequence[FocusPoint], at: Sequence[float], dioptres: float) -> float:
    if not points:
        return 0.0
    order = np.argsort(at)
    errors = np.array([point.set_dioptres - point.true_dioptres for point in points])
    return float(np.interp(dioptres, np.asarray(at)[order], errors[order]))
