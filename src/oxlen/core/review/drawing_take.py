"""A take of a drawing with a lamp: its background, its line, and what to change."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.decisions.exposure.scene_ask import Drawing
from oxlen.core.labels import stops_label
from oxlen.core.motion.drawing import SHOWS_STOPS

Floats = NDArray[np.float32]
LINE_OVER_STOPS = 3.0
"""What is so much brighter than the background is line."""
LEAST_LINE = MID_LINEAR * 2.0**-3
WHITE = 0.97
THIN_STOPS, BURNT_SHARE = -0.5, 0.6
EDGE_PX_SHARE = 0.004
STRAY_SHARE = 0.06
"""So much of the line outside of the drawing is a tail."""
SPARE_STOPS = 0.5
MOST_DIM_STOPS, WANTED_STOPS = 6.0, 1.5
SMALLER, MOST_PARTS = 0.8, 12


@dataclass(frozen=True)
class SeenDrawing:
    """The background and the line’s middle in stops from mid, shares of the line.

    `white_share` of it is white, `outside_share` is outside of where the drawing was to be;
    `edges` names the sides it is cut by. `line_stops` is None where no line is seen.
    """

    ground_stops: float
    line_stops: float | None
    white_share: float
    outside_share: float
    edges: tuple[str, ...]


@dataclass(frozen=True)
class DrawingCorrection:
    """What to change, the first thing first, in words; `drawing` is what is asked with it."""

    words: tuple[str, ...]
    drawing: Drawing


def seen_drawing(light: Floats, box: tuple[float, float, float, float]) -> SeenDrawing:
    """A take’s linear luminance (h, w), white = 1, against a box where the drawing was to be.

    The box is left, top, right and bottom in shares of the frame’s sides.
    """
    ground = max(float(np.median(light)), 1e-6)
    least = max(ground * 2.0**LINE_OVER_STOPS, LEAST_LINE)
    line = np.asarray(light > least)
    # A speck is a hot pixel, no line.
    kept = cv2.morphologyEx(line.astype(np.uint8), cv2.MORPH_OPEN, np.ones((2, 2), np.uint8)) > 0
    line = kept if kept.sum() > 0.2 * max(1, line.sum()) else line
    if line.sum() < 20:
        return SeenDrawing(_stops(ground), None, white_share=0.0, outside_share=0.0, edges=())
    levels = light[line]
    height, width = light.shape
    rows, columns = np.nonzero(line)
    left, top, right, bottom = (
        side * n for side, n in zip(box, (width, height, width, height), strict=True)
    )
    outside = (columns < left) | (columns > right) | (rows < top) | (rows > bottom)
    return SeenDrawing(
        _stops(ground),
        _stops(float(np.median(levels))),
        white_share=float(np.mean(levels >= WHITE)),
        outside_share=float(outside.mean()),
        edges=tuple(_edges(line)),
    )


def _stops(linear: float) -> float:
    return math.log2(linear / MID_LINEAR)


def _edges(line: NDArray[np.bool_]) -> Iterator[str]:
    sides = {"left": line[:, :2], "right": line[:, -2:], "top": line[:2], "bottom": line[-2:]}
    for name, strip in sides.items():
        if strip.any(axis=1 if name in ("left", "right") else 0).mean() > EDGE_PX_SHARE:
            yield name


def corrected_drawing(seen: SeenDrawing, drawing: Drawing) -> DrawingCorrection:
    """What to change for the next try, in the order in which it spoils the picture."""
    if seen.line_stops is None:
        return DrawingCorrection(
            ("No line visible. Was the lamp on and facing the phone?",), drawing
        )
    words: list[str] = []
    changed = drawing
    for change in (_inside, _ground, _line, _tail):
        reported = change(seen, changed)
        if reported is not None:
            words.append(reported[0])
            changed = reported[1]
    if not words:
        words.append("As planned: dark background, clear line. Keep it.")
    return DrawingCorrection(tuple(words), changed)


Change = tuple[str, Drawing]


def _inside(seen: SeenDrawing, drawing: Drawing) -> Change | None:
    if not seen.edges:
        return None
    smaller = replace(drawing, height_m=round(SMALLER * drawing.height_m, 3))
    sides = " and ".join(seen.edges)
    words = f"The lamp left the frame at the {sides}. Draw {smaller.height_m:g} m high or step back"
    return words, smaller


def _ground(seen: SeenDrawing, drawing: Drawing) -> Change | None:
    if seen.ground_stops <= SHOWS_STOPS:
        return None
    over = seen.ground_stops - drawing.ambient_black_stops
    words = (
        f"The background is visible, {stops_label(-seen.ground_stops)} under mid. Make the room "
        f"{stops_label(over)} darker, lower the ISO, or use more frames"
    )
    parts = min(MOST_PARTS, max(drawing.frames + 1, math.ceil(drawing.frames * 2.0**over)))
    return words, replace(drawing, parts=parts)


def _line(seen: SeenDrawing, drawing: Drawing) -> Change | None:
    """Burnt or thin; how far over white it is a take does not tell, so it changes in steps."""
    level = seen.line_stops or 0.0
    if seen.white_share > BURNT_SHARE:
        more = min(MOST_DIM_STOPS, max(SPARE_STOPS, level - WANTED_STOPS))
        dimmed = replace(drawing, dim_stops=min(12.0, round(drawing.dim_stops + more, 1)))
        words = f"The line clips. Dim the lamp by {stops_label(more)} or draw faster"
        return words, dimmed
    if level >= THIN_STOPS:
        return None
    less = SPARE_STOPS - level
    bright = max(0.0, drawing.dim_stops - less)
    slower = 2.0 ** -(less - (drawing.dim_stops - bright))
    hand = max(0.02, round(drawing.hand_m_s * slower, 3))
    words = f"The line is {stops_label(less)} too thin. Use a brighter lamp or draw slower"
    return words, replace(drawing, dim_stops=round(bright, 1), hand_m_s=hand)


def _tail(seen: SeenDrawing, drawing: Drawing) -> Change | None:
    if seen.edges or seen.outside_share <= STRAY_SHARE:
        return None
    words = "A tail is visible. Turn the lamp off before you lower the arm and wait 0.5 s"
    return words, replace(drawing, margin_s=drawing.margin_s + 0.5)
