"""How the stars of a frame trail, everywhere in it: one turn of the camera against the sky."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.star_points import MAD_SIGMA
from oxlen.core.frames.star_shapes import StarShapes

Points = NDArray[np.float64]
LEAST_STARS = 6
STAR_WIDER = 1.25
"""What is so much wider than most is a lamp or a glint of the foreground."""
USUAL_FOCAL_SHARE = 0.6
"""Focal length of a phone's main lens, as a share of the frame's diagonal."""
BRIGHT_QUANTILE = 0.8
LEAST_SCALE = 0.02
"""What is off the others by more (px² of spread), and by more than most are, counts for less."""


@dataclass(frozen=True)
class TrailField:
    """A turn while the shutter was open, in radians about x, y and the axis of the lens.

    Its sign is not known from one frame. `size` is width and height in pixels.
    """

    turn: tuple[float, float, float]
    focal_px: float
    size: tuple[int, int]

    def lengths_px(self, places: Points) -> NDArray[np.float64]:
        """Length of the trail (n,) of stars at places (n, 2) in pixels of the frame."""
        across, down = _flow(np.array(self.turn), self.focal_px, _from_middle(places, self.size))
        return np.asarray(np.hypot(across, down))

    @property
    def middle_px(self) -> float:
        """Length in the middle of the frame."""
        width, height = self.size
        return float(self.lengths_px(np.array([[width / 2, height / 2]]))[0])

    @property
    def corner_px(self) -> float:
        """Length in the corner in which it is the longest."""
        width, height = self.size
        corners = np.array([[0, 0], [width, 0], [0, height], [width, height]], dtype=float)
        return float(self.lengths_px(corners).max())


def trail_field(
    shapes: StarShapes, size: tuple[int, int], *, focal_px: float | None = None
) -> TrailField | None:
    """The turn that explains the shapes of stars best; None for fewer than six.

    A turned camera moves a star at (x, y) from the middle, focal length f, by
    (−ωy·(f + x²/f) + ωx·x·y/f + ωz·y, ωx·(f + y²/f) − ωy·x·y/f − ωz·x), and an even line of that
    length spreads the star by a twelfth of its square: fitted robustly, all stars at once.
    Bright stars count for more: grain draws faint ones long. Without a focal length a phone's usual
    one is taken. `size` is width and height in pixels. [LONGUET1980]
    """
    if len(shapes.centres) < LEAST_STARS:
        return None
    held = shapes.widths_px <= STAR_WIDER * np.median(shapes.widths_px)
    if held.sum() < LEAST_STARS:
        return None
    from scipy.optimize import least_squares

    places, tensors = _from_middle(shapes.centres[held], size), shapes.tensors[held]
    focal = focal_px or USUAL_FOCAL_SHARE * math.hypot(*size)
    light = shapes.light[held]
    weight = np.minimum(1.0, light / np.quantile(light, BRIGHT_QUANTILE))[:, None]

    def off(moved_px: NDArray[np.float64]) -> NDArray[np.float64]:
        across, down = _flow(moved_px / focal, focal, places)
        reported = np.column_stack([across**2 - down**2, 2 * across * down]) / 12
        return np.asarray((weight * (reported - tensors)).ravel())

    usual = MAD_SIGMA * float(np.median(np.abs(weight * (tensors - np.median(tensors, axis=0)))))
    scale = max(LEAST_SCALE, usual)
    tries = [least_squares(off, start, loss="cauchy", f_scale=scale) for start in _starts(tensors)]
    x, y, z = (
        float(part) / focal for part in min(tries, key=lambda attempt: float(attempt.cost)).x
    )
    return TrailField((x, y, z), focal, size)


def _starts(tensors: NDArray[np.float64]) -> list[NDArray[np.float64]]:
    """Where to begin: stars all moved alike, with no turn about the axis and with some."""
    straight, slanted = np.median(tensors, axis=0)
    length = max(0.3, float(np.sqrt(12 * np.hypot(straight, slanted))))
    angle = 0.5 * math.atan2(float(slanted), float(straight))
    across, down = length * math.cos(angle), length * math.sin(angle)
    return [np.array([down, -across, share * length]) for share in (0.0, 1.0, -1.0)]


def _flow(
    turn: NDArray[np.float64], focal_px: float, places: Points
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """How far stars at places (n, 2) from the middle move on the sensor, across and down."""
    (x, y), (about_x, about_y, about_z) = places.T, turn
    across = about_x * x * y / focal_px - about_y * (focal_px + x**2 / focal_px) + about_z * y
    down = about_x * (focal_px + y**2 / focal_px) - about_y * x * y / focal_px - about_z * x
    return across, down


def _from_middle(places: Points, size: tuple[int, int]) -> Points:
    return np.asarray(places - np.array(size) / 2 + 0.5, dtype=float)
