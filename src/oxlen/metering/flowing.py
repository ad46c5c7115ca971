"""Speed and ripples of water read from two pictures that were taken a known time apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.errors import BadInput
from oxlen.core.frames.alignment import aligned
from oxlen.core.light.meter import Spot, disc_box
from oxlen.core.motion.measured_flow import flow_between, ripple_length_px
from oxlen.pictures.camera_tags import camera_tags
from oxlen.pictures.opening import open_picture

SIDE_PX = 2000
TOO_LONG_S = 10.0
Floats = NDArray[np.float32]


@dataclass(frozen=True)
class Flowing:
    """What two pictures show: speed and its ± in widths of the frame a second, its way, ripples.

    `ripple_share` is the ripples’ length as a share of the frame’s width, None where none are
    out; `apart_s` the time between the pictures.
    """

    widths_s: float
    plus_minus_widths_s: float
    angle_deg: float
    ripple_share: float | None
    apart_s: float


def flowing(
    files: Sequence[tuple[Path, str]],
    spot: Spot,
    *,
    apart_s: float | None = None,
    is_held: bool = False,
) -> Flowing:
    """Read two pictures of the same water, within a disc of them.

    Handheld, the second is aligned with the first by what is still. BadInput where the files
    have no times, are too far apart in time, or the place shows no flow; PictureError for a file
    that is no use.
    """
    (first, began), (second, ended) = (_read(path, name) for path, name in files)
    apart_s = _apart_s(began, ended) if apart_s is None else apart_s
    if apart_s > TOO_LONG_S:
        raise BadInput(
            "The water changed completely after 10 s. Use two frames closer in time.", "apart_s"
        )
    if first.shape != second.shape:
        raise BadInput("Both pictures must have the same size.", "pictures")
    left, top, right, bottom = disc_box(spot, first.shape[1], first.shape[0])
    region = np.s_[top:bottom, left:right]
    other = _frame_alignment(first, second) if is_held else second
    found = flow_between(first[region], other[region])
    if found is None:
        raise BadInput("The flow cannot be measured here: too little texture.", "spot")
    width = first.shape[1]
    ripple = ripple_length_px(first[region])
    forth = 1 if began is None or ended is None or ended >= began else -1
    return Flowing(
        found.px / width / apart_s,
        found.plus_minus_px / width / apart_s,
        angle_deg=found.angle_deg if forth > 0 else (found.angle_deg + 180) % 360,
        ripple_share=None if ripple is None else ripple / width,
        apart_s=apart_s,
    )


def _apart_s(began: float | None, ended: float | None) -> float:
    if began is None or ended is None or began == ended:
        raise BadInput("These files have no times. Enter the time between them.", "apart_s")
    return abs(ended - began)


def _read(path: Path, name: str) -> tuple[Floats, float | None]:
    with open_picture(path, name) as picture:
        light = picture.luminance()
        taken_s = camera_tags(picture.tags, is_raw=picture.facts.kind == "raw").taken_s
    scale = min(1.0, SIDE_PX / max(light.shape))
    size = (round(light.shape[1] * scale), round(light.shape[0] * scale))
    small = light if scale == 1 else cv2.resize(light, size, interpolation=cv2.INTER_AREA)
    return np.asarray(small, dtype=np.float32), taken_s


def _frame_alignment(first: Floats, second: Floats) -> Floats:
    """The second picture on the first’s places, where what is still shows how it aligns."""
    where = aligned(first, second)
    if where is None:
        return second
    size = (first.shape[1], first.shape[0])
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    moved = cv2.warpAffine(second, where.matrix, size, flags=how, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(moved, dtype=np.float32)
