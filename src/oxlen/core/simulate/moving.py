"""What moves while the shutter is open: layers, water, swinging and carried lamps, and a pan."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.blur import SHARPEST_PX, filtered, sheared, streaked
from oxlen.core.simulate.lamps import shine, swing_kernel
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import Floats, Layer, Scene, SceneMover, in_colour
from oxlen.core.simulate.water import at_another_moment, carried_px, drifted_px

STRAY_SHARE = 0.02
"""Water seen through the gaps of a deck is left as it is: too little of it to look at."""
NARROW_PX = 3.0
"""A smear so short may draw in what is beside: the lens's own blur is about as wide."""
PAN_LEAVES = 0.06
"""Share of a mover's motion that following it with the phone leaves."""


def moved(
    scene: Scene, shutter_s: float, *, readout_s: float, pan_with: str | None, random: RandomSource
) -> Floats:
    """The scene's light (h, w, 3) with what flows smeared and what moves carried across it.

    Rows are read one after another over `readout_s`: lower ones see things later in their way.
    """
    if not scene.movers and not scene.layers:
        return scene.radiance
    panned = _mover_named(scene, pan_with)
    pan = np.zeros(2) if panned is None else way_px(scene, panned, shutter_s)
    later = readout_s / shutter_s / scene.height_px
    if panned is None:
        gathered = _with_water(scene, shutter_s, random)
    else:
        gathered = streaked(scene.radiance, float(np.hypot(*pan)), panned.image_angle_deg)
        gathered = sheared(gathered, -later * pan, scene.height_px / 2).copy()
    for layer in scene.layers:
        own = _mover_named(scene, layer.name)
        way = np.zeros(2) if own is None else way_px(scene, own, shutter_s)
        way = PAN_LEAVES * way if own is not None and own is panned else way - pan
        hung = _hung(scene, layer.name, shutter_s, random=random)
        _lay_over(gathered, layer, way, later=later * way, hung=hung)
        for lamp in scene.lamps:
            if lamp.carried is not None and lamp.carried.mover == layer.name:
                shine(gathered, scene, lamp.carried, way_px=way, shutter_s=shutter_s, random=random)
    return gathered


def speed_px_s(scene: Scene, mover: SceneMover) -> float:
    """Speed of a mover's image in pixels a second."""
    return mover.speed_m_s / mover.distance_m * scene.pixels_per_radian


def way_px(scene: Scene, mover: SceneMover, shutter_s: float) -> NDArray[np.float64]:
    """How far (right, down) a mover's image goes in pixels during an exposure."""
    angle = np.radians(mover.image_angle_deg)
    length = speed_px_s(scene, mover) * shutter_s
    return length * np.array([np.cos(angle), np.sin(angle)])


def _mover_named(scene: Scene, name: str | None) -> SceneMover | None:
    return next((mover for mover in scene.movers if mover.name == name), None)


Hung = tuple[Floats, tuple[int, int]]


def _hung(scene: Scene, layer: str, shutter_s: float, *, random: RandomSource) -> Hung | None:
    """What a layer is filtered with when it swings, and its shift; None when not."""
    for lamp in scene.lamps:
        if lamp.swing is not None and layer in lamp.swing.layers:
            return swing_kernel(
                lamp.swing, scene.pixels_per_radian, shutter_s, begin=random.share()
            )
    return None


def _with_water(scene: Scene, shutter_s: float, random: RandomSource) -> Floats:
    """The scene's light with all that flows as this take finds it."""
    gathered = scene.radiance.copy()
    for mover in scene.movers:
        mask = scene.mask_of(mover.objects) if mover.objects else None
        box = None if mask is None else _body_of(mask)
        if mask is not None and box is not None:
            inside = np.ascontiguousarray(mask[box])
            carried = _carried(scene, mover, box, inside=inside, shutter_s=shutter_s, random=random)
            at_another_moment(gathered[box], inside, carried)
            length = speed_px_s(scene, mover) * shutter_s
            _flow(gathered[box], inside, length, angle_deg=mover.image_angle_deg)
    return gathered


def _carried(
    scene: Scene,
    mover: SceneMover,
    box: tuple[slice, slice],
    *,
    inside: NDArray[np.uint8],
    shutter_s: float,
    random: RandomSource,
) -> tuple[Floats, Floats]:
    """Pixels (right, down) by which waves and its own stream displace what flows, coarsely."""
    away, scale = scene.distance_m[box], scene.pixels_per_radian
    left = box[1].start - scene.width_px // 2
    right, down = carried_px(away, scale, shutter_s, random=random, left=left)
    if mover.speed_m_s <= 0:
        return right, down
    along = drifted_px(
        inside,
        away,
        scale,
        speed_m_s=mover.speed_m_s,
        angle_deg=mover.image_angle_deg,
        random=random,
    )
    return right + along[0], down + along[1]


def _body_of(mask: NDArray[np.uint8]) -> tuple[slice, slice] | None:
    """Rows and columns of what is under a mask, rows of a few stray pixels left out."""
    filled = cv2.reduce(mask, 1, cv2.REDUCE_SUM, dtype=cv2.CV_32S).ravel()
    rows = np.flatnonzero(filled > STRAY_SHARE * filled.max())
    if not rows.size:
        return None
    left, _, width, _ = cv2.boundingRect(mask[rows[0] : rows[-1] + 1])
    return slice(int(rows[0]), int(rows[-1]) + 1), slice(left, left + width)


def _flow(part: Floats, mask: NDArray[np.uint8], length_px: float, *, angle_deg: float) -> None:
    """Smear texture under a mask along its flow, in place; of outside no more than an edge."""
    if length_px < SHARPEST_PX:
        return
    if length_px < NARROW_PX:
        cv2.copyTo(streaked(part, length_px, angle_deg), mask, part)
        return
    inside = mask.astype(np.float32)
    length = min(length_px, 2.0 * max(inside.shape))
    alone = in_colour(inside)
    smeared = streaked(np.multiply(part, alone, out=alone), length, angle_deg)
    cover = np.maximum(streaked(inside, length, angle_deg), np.float32(1e-3))
    cv2.copyTo(cv2.divide(smeared, in_colour(cover)), mask, part)


def _lay_over(
    gathered: Floats,
    layer: Layer,
    way: NDArray[np.float64],
    *,
    later: NDArray[np.float64],
    hung: Hung | None,
) -> None:
    """A layer drawn over the light, smeared about where it is at mid exposure, in place.

    `way` is its motion (right, down) over the exposure, `later` from each row to the next.
    """
    length, angle = float(np.hypot(*way)), float(np.degrees(np.arctan2(way[1], way[0])))
    middle = gathered.shape[0] / 2
    kernel, shift = (None, (0, 0)) if hung is None else hung
    swung = 0 if kernel is None else kernel.shape[0] // 2
    furthest_row = max(abs(layer.top - middle), abs(layer.top + layer.cover.shape[0] - middle))
    reach = np.ceil(np.abs(way) / 2 + np.abs(later) * furthest_row).astype(int) + 2 + swung
    reach = np.minimum(reach, [gathered.shape[1], gathered.shape[0]])
    top, left = layer.top - int(reach[1]), layer.left - int(reach[0])
    sides = (int(reach[1]), int(reach[1]), int(reach[0]), int(reach[0]))
    framed = np.asarray(cv2.copyMakeBorder(layer.covering, *sides, cv2.BORDER_CONSTANT), np.float32)
    there = sheared(streaked(framed, length, angle), later, middle - top)
    if kernel is not None:
        there = filtered(there, kernel)
        top, left = top + shift[1], left + shift[0]
    rows = slice(max(0, top), min(gathered.shape[0], top + there.shape[0]))
    columns = slice(max(0, left), min(gathered.shape[1], left + there.shape[1]))
    if rows.stop <= rows.start or columns.stop <= columns.start:
        return
    part = (
        slice(rows.start - top, rows.stop - top),
        slice(columns.start - left, columns.stop - left),
    )
    seen = there[part]
    behind = gathered[rows, columns]
    behind *= in_colour(np.subtract(1, seen[..., 3]))
    behind += seen[..., :3]
