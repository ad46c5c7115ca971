"""Focus by a tap: the distance of what is at a place of the frame."""

from __future__ import annotations

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.simulate.capture import seen_through
from oxlen.core.simulate.scene import Scene


def focus_on_m(scene: Scene, lens: Lens, mode: Mode, *, x: float, y: float) -> float:
    """Distance of what is at a place of the frame (shares), as tapping on it would find."""
    framed = seen_through(scene, lens, mode)
    row = min(framed.height_px - 1, int(y * framed.height_px))
    column = min(framed.width_px - 1, int(x * framed.width_px))
    for layer in framed.layers:
        inside = (row - layer.top, column - layer.left)
        if all(0 <= at < size for at, size in zip(inside, layer.cover.shape, strict=True)):
            mover = next((m for m in framed.movers if m.name == layer.name), None)
            if mover is not None and layer.cover[inside] > 0.5:
                return mover.distance_m
    return float(framed.distance_m[row, column])
