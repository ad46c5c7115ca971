"""Which frame the others are aligned with, and where each of them is."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor

import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import PictureError
from oxlen.core.frames.feature_alignment import FrameAlignment, aligned_by_features, base_of
from oxlen.core.frames.misfit import SmallLook, middle_of
from oxlen.core.frames.star_alignment import (
    Matched,
    SkyLens,
    SkyTurn,
    matched_stars,
    sky_lens,
    sky_turn,
)
from oxlen.core.frames.star_points import star_points
from oxlen.core.kit.file_optics import FULL_FRAME_DIAGONAL_MM
from oxlen.pictures.container import container_of
from oxlen.pictures.whole import WholeFrame, whole_frame
from oxlen.stacking.ask import THREADS, FrameFile
from oxlen.stacking.kept import Kept
from oxlen.stacking.looks import luminance, quick_look, small_look

LOOKED_AT, KEPT_AT_HAND = 8, 3
USUAL_FOCAL35_MM = 26.0
LENS_FRAMES = 6
CHUNK = 8
MOST_LEFT_PX = 0.8
NOT_ALIGNED = "it has too little in common with the others"
NO_STARS = "too few of its stars match the others"


def reference_of(
    frames: Sequence[FrameFile], at_hand: dict[str, WholeFrame], *, by_stars: bool
) -> FrameFile:
    """A frame that is not the odd one: of the sky the middle in time, else what is most alike.

    The first of those read for it are kept at hand, so that they are not read again.
    """
    if by_stars:
        return frames[len(frames) // 2]
    looked_at = spread(frames, LOOKED_AT)
    kept = {frame_file.name for frame_file in frames[:KEPT_AT_HAND]}

    def look(file: FrameFile) -> SmallLook | None:
        try:
            if container_of(file.path, file.name) == "JPEG":
                return quick_look(file.path)
            frame = whole_frame(file.path, file.name)
        except PictureError:  # it is named when its turn comes
            return None
        if file.name in kept:
            at_hand[file.name] = frame
        return small_look(frame)

    with ThreadPoolExecutor(THREADS) as pool:
        read = list(zip(looked_at, pool.map(look, looked_at), strict=True))
    looks = [(frame_file, found) for frame_file, found in read if found is not None]
    return looks[middle_of([found for _, found in looks])][0] if looks else frames[0]


def spread(frames: Sequence[FrameFile], most: int) -> list[FrameFile]:
    """At most so many frames, evenly over the stack: a few bad ones in a row are no majority."""
    if len(frames) <= most:
        return list(frames)
    return [frames[round(at)] for at in np.linspace(0, len(frames) - 1, most)]


def lay_by_features(
    frames: Sequence[FrameFile], reference: FrameFile, kept: Kept
) -> Iterator[float]:
    """Align each frame with the reference by what both show; reports the share done."""
    base = base_of(_light(reference))

    def lay(file: FrameFile) -> FrameAlignment | str:
        try:
            return aligned_by_features(base, _light(file)) or NOT_ALIGNED
        except PictureError as error:
            return error.cause

    known = {*kept.placed, *kept.left_out, reference.name}
    waiting = [frame for frame in frames if frame.name not in known]
    for at in range(0, len(waiting), CHUNK):
        part = waiting[at : at + CHUNK]
        with ThreadPoolExecutor(THREADS) as pool:
            for frame_file, alignment in zip(part, pool.map(lay, part), strict=True):
                if isinstance(alignment, str):
                    kept.left_out[frame_file.name] = alignment
                else:
                    kept.placed[frame_file.name] = alignment
        yield (at + len(part)) / len(waiting)


def lay_on_stars(frames: Sequence[FrameFile], reference: FrameFile, kept: Kept) -> Iterator[float]:
    """Align each frame's sky with the reference's; reports the share done.

    From the reference forth and back, as the sky turns a little more with each frame; the lens is
    then fitted by those that turned most, and every frame's turn by that lens.
    """
    base = star_points(_light(reference))
    size = _size(reference)
    lens = SkyLens(_focal_px(reference, size), 0.0, size)
    matches: dict[str, Matched] = {}
    at = frames.index(reference)
    done = 0
    for side in (frames[at + 1 :], frames[:at][::-1]):
        last: SkyTurn | None = None
        for frame in side:
            found = _matched(frame, base, last)
            if isinstance(found, str):
                kept.left_out[frame.name] = found
            else:
                matches[frame.name] = found
                last = sky_turn(lens, found)[0]
            done += 1
            yield 0.95 * done / len(frames)
    if not matches:
        return
    fitted = sky_lens(_most_turned(matches, lens), size, lens.focal_px)
    for name, found_stars in matches.items():
        turn, left_px = sky_turn(fitted, found_stars)
        if left_px > MOST_LEFT_PX:
            kept.left_out[name] = NO_STARS
        else:
            kept.placed[name] = turn
    yield 1.0


def _matched(file: FrameFile, base: NDArray[np.float64], last: SkyTurn | None) -> Matched | str:
    try:
        points = star_points(_light(file))
    except PictureError as error:
        return error.cause
    found = matched_stars(base, points, base if last is None else last.places(base))
    return NO_STARS if found is None else found


def _most_turned(matches: dict[str, Matched], lens: SkyLens) -> list[Matched]:
    def turned(match: Matched) -> float:
        return math.hypot(*sky_turn(lens, match)[0].vector)

    return sorted(matches.values(), key=turned, reverse=True)[:LENS_FRAMES]


def _light(file: FrameFile) -> NDArray[np.float32]:
    return luminance(whole_frame(file.path, file.name, mosaic=False))


def _size(file: FrameFile) -> tuple[int, int]:
    """Width and height as stored."""
    width, height = file.kind.size
    return (height, width) if file.orientation >= 5 else (width, height)


def _focal_px(file: FrameFile, size: tuple[int, int]) -> float:
    return (file.focal35_mm or USUAL_FOCAL35_MM) / FULL_FRAME_DIAGONAL_MM * math.hypot(*size)
