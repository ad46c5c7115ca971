"""How the sky of one frame aligns with that of another: it turns as a whole about the camera."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

Points = NDArray[np.float64]
Floats = NDArray[np.float64]
REACH_PX = 60.0
"""Stars are looked for so far from where they were expected."""
VOTE_PX = 2.0
NEAR_PX, SURE_PX = 6.0, 1.5
LEAST_STARS = 8
OFF_PX = 1.0
DRAWN_BY = 0.35
"""A lens bends at most so much at the corner: more is a wrong match."""
FITTED = 60
"""Stars that the lens is fitted by, of a frame."""


@dataclass(frozen=True)
class SkyLens:
    """What a lens makes of directions: focal length in pixels, and how it bends the frame.

    `size` is (width, height). A place at the radius r of half the diagonal is at
    r·(1 + bend·r²). [BROWN1966]
    """

    focal_px: float
    bend: float
    size: tuple[int, int]

    def directions(self, places: Points) -> Points:
        """Unit vectors (n, 3) of places (n, 2) in pixels."""
        half = self._half
        off = (places - self._middle) / half
        bent = np.hypot(off[:, 0], off[:, 1])
        straight = bent.copy()
        for _ in range(8):
            straight = bent / (1 + self.bend * straight**2)
        scale = np.divide(straight, bent, out=np.ones_like(bent), where=bent > 1e-9)
        plane = off * scale[:, None] * half / self.focal_px
        rays = np.column_stack([plane, np.ones(len(plane))])
        return np.asarray(rays / np.linalg.norm(rays, axis=1, keepdims=True))

    def places(self, directions: Points) -> Points:
        """Places (n, 2) in pixels of directions (n, 3) in front of the camera."""
        half = self._half
        plane = directions[:, :2] / directions[:, 2:] * self.focal_px / half
        radius2 = (plane**2).sum(axis=1, keepdims=True)
        return np.asarray(plane * (1 + self.bend * radius2) * half + self._middle)

    @property
    def _middle(self) -> Points:
        return (np.array(self.size, dtype=float) - 1) / 2

    @property
    def _half(self) -> float:
        return float(np.hypot(*self.size)) / 2


@dataclass(frozen=True)
class SkyTurn:
    """How a frame's sky aligns with the reference: a turn of the whole sphere, seen by one lens.

    `vector` is the turn's axis times its angle in radians, from the reference to the frame.
    """

    vector: tuple[float, float, float]
    lens: SkyLens

    def places(self, places: Points) -> Points:
        """Where places (n, 2) of the reference are in the frame."""
        turn = cv2.Rodrigues(np.array(self.vector))[0]
        return self.lens.places(self.lens.directions(places) @ np.asarray(turn).T)


@dataclass(frozen=True)
class Matched:
    """Stars of the reference (n, 2) and the same ones in a frame (n, 2)."""

    reference: Points
    frame: Points


def matched_stars(reference: Points, frame: Points, expected: Points) -> Matched | None:
    """Stars of the reference found again in a frame, `expected` (n, 2) where they may be there.

    First the shift that most of them agree on, then the nearest to each by the homography of those.
    None where fewer than eight agree. [FISCHLER1981]
    """
    if len(reference) < LEAST_STARS or len(frame) < LEAST_STARS:
        return None
    from scipy.spatial import cKDTree  # slow to load, and of use for stars alone

    tree = cKDTree(frame)
    shifted = expected + _voted_shift(expected, frame, tree)
    pairs = _pairs(tree, shifted, NEAR_PX)
    for near in (NEAR_PX, SURE_PX):
        if len(pairs) < LEAST_STARS:
            return None
        found, _ = cv2.findHomography(
            reference[pairs[:, 0]], frame[pairs[:, 1]], cv2.RANSAC, 2 * OFF_PX, maxIters=4000
        )
        if found is None:
            return None
        seen = np.asarray(cv2.perspectiveTransform(reference[:, None], found)[:, 0], dtype=float)
        # A lens that bends is no homography: what is left of it is more at the corners.
        pairs = _pairs(tree, seen, near)
    if len(pairs) < LEAST_STARS:
        return None
    return Matched(reference[pairs[:, 0]], frame[pairs[:, 1]])


def sky_lens(matches: Sequence[Matched], size: tuple[int, int], focal_px: float) -> SkyLens:
    """The lens by which the skies of frames that turned most fit best, from a focal length near it.

    Fits the focal length, the bend and a turn for each. [BROWN1966]
    """
    from scipy.optimize import least_squares  # slow to load, and of use for stars alone

    lens = SkyLens(focal_px, 0.0, size)
    used = [_fewer(match) for match in matches]
    turns = [np.array(_turn_of(lens, star).vector) for star in used]

    def off(figures: Floats) -> Floats:
        tried = _lens_of(figures, focal_px, size)
        rest = zip(used, figures[2:].reshape(-1, 3), strict=True)
        return np.concatenate([_off(tried, other, turn) for other, turn in rest])

    begin = np.concatenate([[0.0, 0.0], *turns])
    low, high = np.full(begin.size, -np.inf), np.full(begin.size, np.inf)
    low[:2], high[:2] = (-0.35, -DRAWN_BY), (0.35, DRAWN_BY)
    found = least_squares(off, begin, bounds=(low, high), loss="soft_l1", x_scale="jac")
    return _lens_of(found.x, focal_px, size)


def sky_turn(lens: SkyLens, matched: Matched) -> tuple[SkyTurn, float]:
    """The turn that lays a frame's stars on the reference's, and what is left, a median in px."""
    turn = _turn_of(lens, matched)
    left = np.hypot(*(turn.places(matched.reference) - matched.frame).T)
    return turn, float(np.median(left))


def _turn_of(lens: SkyLens, matched: Matched) -> SkyTurn:
    """The best turn of one set of directions onto another, by those that fit. [KABSCH1976]"""
    first, second = lens.directions(matched.reference), lens.directions(matched.frame)
    kept = np.ones(len(first), dtype=bool)
    turn = SkyTurn((0.0, 0.0, 0.0), lens)
    for _ in range(3):
        left, _, right = np.linalg.svd(second[kept].T @ first[kept])
        sign = np.diag([1.0, 1.0, np.sign(np.linalg.det(left @ right))])
        vector = cv2.Rodrigues(left @ sign @ right)[0].ravel()
        turn = replace(turn, vector=(float(vector[0]), float(vector[1]), float(vector[2])))
        off = np.hypot(*(turn.places(matched.reference) - matched.frame).T)
        kept = off <= max(3 * float(np.median(off)), 0.05)
    return turn


def _off(lens: SkyLens, matched: Matched, turn: Floats) -> Floats:
    vector = (float(turn[0]), float(turn[1]), float(turn[2]))
    return (SkyTurn(vector, lens).places(matched.reference) - matched.frame).ravel()


def _lens_of(figures: Floats, focal_px: float, size: tuple[int, int]) -> SkyLens:
    return SkyLens(focal_px * float(np.exp(figures[0])), float(figures[1]), size)


def _fewer(matched: Matched) -> Matched:
    """Stars spread over the frame, fewer of them: every so-and-so-many by distance from middle."""
    order = np.argsort(np.hypot(*(matched.reference - matched.reference.mean(axis=0)).T))
    kept = order[:: max(1, len(order) // FITTED)]
    return Matched(matched.reference[kept], matched.frame[kept])


def _voted_shift(expected: Points, frame: Points, tree: Any) -> Points:
    """The shift that most pairs within reach agree on, as (x, y)."""
    near = tree.query_ball_point(expected, REACH_PX)
    counts = [len(star) for star in near]
    if not sum(counts):
        return np.zeros(2)
    ends = frame[np.concatenate([star for star in near if star]).astype(int)]
    off = ends - np.repeat(expected, counts, axis=0)
    bins = int(2 * REACH_PX / VOTE_PX)
    votes, xs, ys = np.histogram2d(
        off[:, 0], off[:, 1], bins=bins, range=[[-REACH_PX, REACH_PX]] * 2
    )
    # A shift on the border of two bins votes in both.
    votes = cv2.blur(votes, (3, 3), borderType=cv2.BORDER_CONSTANT)
    x, y = np.unravel_index(int(np.argmax(votes)), votes.shape)
    return np.array([xs[x] + VOTE_PX / 2, ys[y] + VOTE_PX / 2])


def _pairs(tree: Any, seen: Points, near_px: float) -> NDArray[np.int64]:
    """Each star with the nearest of the frame, each of those once, as (n, 2) numbers."""
    off, other = tree.query(seen, distance_upper_bound=near_px)
    mine = np.nonzero(np.isfinite(off))[0]
    mine = mine[np.argsort(off[mine])]
    _, once = np.unique(other[mine], return_index=True)
    return np.column_stack([mine[once], other[mine[once]]])
