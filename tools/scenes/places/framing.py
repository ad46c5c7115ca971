"""Where a point of a place is seen in the frame, for truths written beside it."""

from __future__ import annotations

import numpy as np
from tools.scenes.render import HEIGHT, WIDTH

Point = tuple[float, float, float]


class View:
    """A camera's view: eye, target, and the angle of the frame's width."""

    def __init__(self, eye: Point, target: Point, hfov_deg: float) -> None:
        self.eye, self.target, self.hfov_deg = eye, target, hfov_deg

    def seen(self, point: Point) -> tuple[float, float]:
        """Place of a point in shares of width and height."""
        ahead = np.subtract(self.target, self.eye)
        ahead = ahead / np.linalg.norm(ahead)
        right = np.cross(ahead, [0, 0, 1])
        right /= np.linalg.norm(right)
        down = np.cross(ahead, right)
        d = np.subtract(point, self.eye)
        half = np.tan(np.radians(self.hfov_deg) / 2)
        x = d @ right / (d @ ahead) / half
        y = d @ down / (d @ ahead) / half * WIDTH / HEIGHT
        return float(0.5 + x / 2), float(0.5 + y / 2)

    def spot(self, name: str, point: Point, r: float = 0.02, **more: object) -> dict[str, object]:
        """A named disc of the frame about a point."""
        x, y = self.seen(point)
        return {"name": name, "x": round(x, 4), "y": round(y, 4), "r": r, **more}


MAIN_HFOV = 71.6  # 24 mm on the 35 mm frame, 4:3
LONG_HFOV = 27.0  # 72 mm
