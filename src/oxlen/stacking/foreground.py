"""Foreground from frames of its own, blended under a sky that was stacked."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.frames.feature_alignment import FrameAlignment
from oxlen.core.frames.foreground import foreground_weight
from oxlen.core.frames.skyline import foreground_over_line, sky_under_line, skylines_aligned
from oxlen.pictures.upright import upright_array, upright_size
from oxlen.pictures.whole import WholeFrame, whole_frame
from oxlen.stacking.ask import FrameFile, StackAsk
from oxlen.stacking.looks import luminance

UNTURNED = {6: 8, 8: 6}
"""Orientations that turn an upright picture back to how it is stored, where another does."""
ROWS = 96
RIM_PX, RIM_FROM, LEAST_MOVED_PX = 2, 0.02, 0.3
Levels = NDArray[np.float32]
Named = tuple[Path, str]


def split_files(
    files: Sequence[Named], asked: StackAsk
) -> tuple[list[Named], Path | None, list[Named]]:
    """The frames to be stacked, the dark frame, and those of the foreground.

    BadInput where a named file is missing, or a foreground is to be blended without a horizon.
    """
    for name, what in (
        (asked.dark, "the dark frame"),
        *((frame, "foreground") for frame in asked.land),
    ):
        if name is not None and name not in {given for _, given in files}:
            raise BadInput(f"There is no frame named {name} to be {what}.", "files")
    if asked.land and len(asked.horizon) < 2:
        words = "Draw the horizon line. Below it the foreground frame is used."
        raise BadInput(words, "horizon")
    aside = {asked.dark, *asked.land}
    dark = next((path for path, name in files if name == asked.dark), None)
    foreground = [file for file in files if file[1] in asked.land]
    return [file for file in files if file[1] not in aside], dark, foreground


def drawn_land(asked: StackAsk, frame: FrameFile) -> Levels:
    """How much of each pixel, as stored, is below the line that was drawn."""
    weight = foreground_weight(asked.horizon, upright_size(*frame.kind.size, 1))
    return upright_array(weight, UNTURNED.get(frame.orientation, frame.orientation))


@dataclass(frozen=True)
class OwnForeground:
    """Frames foreground, how much of each pixel of the reference it is, and how they align with it.

    `alignment` is None where they align with the reference already, or nothing shows how.
    `sky_share` is how much of what is just below the line is as light as the sky.
    """

    frames: Sequence[Named]
    weight: Levels
    alignment: FrameAlignment | None
    sky_share: float = 0.0

    @property
    def moved_px(self) -> float:
        """How far the phone was moved between foreground and sky; 0 where that is not known."""
        return 0.0 if self.alignment is None else self.alignment.left_px


def own_foreground(drawn: Levels, frames: Sequence[Named], reference: Levels) -> OwnForeground:
    """Foreground by its own frames, what rises above the line too, on the reference's skyline.

    `reference` is the luminance of the sky's frame. BadInput where sizes differ.
    """
    light = luminance(_frame(frames[0], drawn.shape))
    seen, found = foreground_over_line(reference, drawn), foreground_over_line(light, drawn)
    if found is None:
        return OwnForeground(frames, drawn, None)
    share = sky_under_line(light, drawn)
    alignment = None if seen is None else skylines_aligned(seen, found)
    if alignment is None or alignment.left_px < LEAST_MOVED_PX:
        return OwnForeground(frames, found, None, sky_share=share)
    return OwnForeground(frames, _onto(found, alignment), alignment, sky_share=share)


def with_own_foreground(
    sky: Levels, top: float, foreground: OwnForeground, *, lift_stops: float
) -> Levels:
    """The sky's levels (h, w, 3) with the mean foreground's frames where foreground is, in place.

    Along its edge it is used without the light of its own sky, which would draw a bright rim.
    """
    weight = foreground.weight
    rows = np.flatnonzero(weight.max(axis=1) > 0)
    if not rows.size:
        return sky
    first, last = int(rows[0]), int(rows[-1]) + 1
    mean: Levels = np.zeros((last - first, *sky.shape[1:]), dtype=np.float32)
    for named in foreground.frames:
        frame = _frame(named, weight.shape)
        levels = frame.levels(0, len(weight))
        if foreground.alignment is not None:
            levels = _onto(levels, foreground.alignment)
        scale = np.float32(top / frame.top * 2.0**lift_stops / len(foreground.frames))
        for row in range(first, last, ROWS):
            end = min(row + ROWS, last)
            mean[row - first : end - first] += scale * _without_rim(levels, weight, row, end=end)
    for row in range(first, last, ROWS):
        end = min(row + ROWS, last)
        share = weight[row:end] if sky.ndim == 2 else weight[row:end, :, None]
        sky[row:end] += share * (mean[row - first : end - first] - sky[row:end])
    return sky


def _onto(values: NDArray[Any], alignment: FrameAlignment) -> NDArray[Any]:
    """Values (h, w[, 3]) of a frame aligned with the reference."""
    how = cv2.INTER_CUBIC | cv2.WARP_INVERSE_MAP
    matrix, size = alignment.matrix[:2], values.shape[1::-1]
    return np.asarray(
        cv2.warpAffine(values, matrix, size, flags=how, borderMode=cv2.BORDER_REPLICATE)
    )


def _without_rim(whole: NDArray[Any], weight: Levels, row: int, *, end: int) -> Levels:
    """Levels of rows; along the edge foreground those of its darkest neighbours."""
    above, below = max(0, row - RIM_PX), min(len(weight), end + RIM_PX)
    levels = np.asarray(whole[above:below], dtype=np.float32)
    around = weight[above:below]
    mixed = ((around > RIM_FROM) & (around < 1 - RIM_FROM)).astype(np.uint8)
    edge = cv2.dilate(mixed, np.ones((3, 3), dtype=np.uint8)) > 0
    side = 2 * RIM_PX + 1
    darkest = cv2.erode(levels, np.ones((side, side), dtype=np.uint8))
    mask = edge if levels.ndim == 2 else edge[..., None]
    kept = slice(row - above, row - above + end - row)
    return np.asarray(np.where(mask, darkest, levels)[kept], dtype=np.float32)


def _frame(named: Named, shape: tuple[int, ...]) -> WholeFrame:
    frame = whole_frame(*named, mosaic=False)
    if frame.values.shape[:2] != shape[:2]:
        raise BadInput(f"{named[1]} has another size than the sky frames.", "land")
    return frame
