"""Frames moved onto the reference: where each place of it is in a frame, and its levels there."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Protocol

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.frames.feature_alignment import FrameAlignment
from oxlen.core.frames.star_alignment import SkyLens, SkyTurn

HALF = 0.5
GRID_PX = 16
"""Places are worked out so far apart and drawn straight between: lenses bend far more slowly."""


class Placed(Protocol):
    """Gives where places (n, 2) of the reference are in a frame."""

    def places(self, places: NDArray[np.float64]) -> NDArray[np.float64]:
        """Places (n, 2) in the frame, in pixels."""


@dataclass(frozen=True)
class Moved:
    """Rows of a frame aligned with the reference, and which of them the frame holds."""

    levels: NDArray[np.uint16]
    held: NDArray[np.bool_]


@dataclass(frozen=True)
class PlaceMap:
    """Where each pixel of the reference is in a frame, on a grid: (rows, columns, 2)."""

    grid: NDArray[np.float64]
    size: tuple[int, int]

    def moved(self, levels: NDArray[np.uint16], first: int, last: int, *, sharp: bool) -> Moved:
        """Levels (h, w[, 3]) of a whole frame on rows of the reference.

        `sharp` keeps points of light points.
        """
        rows = _between(self.grid.shape[0], np.arange(first, last))
        x, y = (_across(rows @ self.grid[..., axis], self.size[0]) for axis in (0, 1))
        how = cv2.INTER_LANCZOS4 if sharp else cv2.INTER_CUBIC
        seen = cv2.remap(levels, x, y, how, borderMode=cv2.BORDER_REPLICATE)
        height, width = levels.shape[:2]
        # Half a pixel past the middle of the outermost is still theirs.
        held = (x > -HALF) & (y > -HALF) & (x < width - HALF) & (y < height - HALF)
        return Moved(np.asarray(seen, dtype=np.uint16), held)


def _across(nodes: NDArray[np.float64], width: int) -> NDArray[np.float32]:
    """Rows (h, nodes) drawn straight between nodes `GRID_PX` apart: (h, width)."""
    share = (np.arange(GRID_PX) / GRID_PX).astype(np.float32)
    # Single precision is a quarter of a thousandth of a pixel at the far end of a large frame.
    firsts, apart = nodes[:, :-1].astype(np.float32), np.diff(nodes, axis=1).astype(np.float32)
    steps = apart[..., None] * share
    steps += firsts[..., None]
    return np.ascontiguousarray(steps.reshape(len(nodes), -1)[:, :width])


def place_map(placed: Placed, size: tuple[int, int]) -> PlaceMap:
    """The grid of a placement for a reference of a size (width, height)."""
    columns = np.arange(0, size[0] + GRID_PX, GRID_PX, dtype=float)
    rows = np.arange(0, size[1] + GRID_PX, GRID_PX, dtype=float)
    x, y = np.meshgrid(columns, rows)
    found = placed.places(np.column_stack([x.ravel(), y.ravel()]))
    return PlaceMap(found.reshape(len(rows), len(columns), 2), size)


def with_foreground(
    moved: Moved, still: NDArray[np.uint16], land: NDArray[np.float32] | None, *, first: int
) -> Moved:
    """Rows from `first` on with the foreground as it is in the frame itself, softly at its edge."""
    if land is None:
        return moved
    weight = land[first : first + len(still)]
    share = weight if still.ndim == 2 else weight[..., None]
    mixed = share * still + (1 - share) * moved.levels
    # What is past the frame's edge in the sky is foreground that is kept all the same.
    held = moved.held | (weight > HALF)
    return Moved(np.asarray(np.rint(mixed), dtype=np.uint16), held)


def _between(nodes: int, places: NDArray[np.int64]) -> NDArray[np.float64]:
    """Weights (places, nodes) that draw straight between nodes `GRID_PX` apart."""
    weights = np.zeros((len(places), nodes))
    node, share = places // GRID_PX, (places % GRID_PX) / GRID_PX
    which = np.arange(len(places))
    weights[which, node] = 1 - share
    weights[which, np.minimum(node + 1, nodes - 1)] += share
    return weights


def placed_as_json(placed: Placed) -> dict[str, Any]:
    """A placement as plain data."""
    if isinstance(placed, SkyTurn):
        lens = placed.lens
        return {
            "turn": placed.vector,
            "focal_px": lens.focal_px,
            "bend": lens.bend,
            "size": lens.size,
        }
    if isinstance(placed, FrameAlignment):
        return {"matrix": placed.matrix.tolist(), "left_px": placed.left_px}
    raise TypeError(type(placed).__name__)


def placed_from_json(data: dict[str, Any]) -> Placed:
    """A placement from plain data."""
    if "turn" in data:
        x, y, z = data["turn"]
        width, height = data["size"]
        return SkyTurn((x, y, z), SkyLens(data["focal_px"], data["bend"], (width, height)))
    return FrameAlignment(np.array(data["matrix"], dtype=float), data["left_px"])
