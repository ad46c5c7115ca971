"""Lamps in motion: suspended ones swing, carried ones draw trails and shine in the water."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.blur import disc_kernel, filtered, kernel_from_rest
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import Carried, Floats, Scene, Swing
from oxlen.core.simulate.water import GRAVITY_M_S2, wave_hz

STEPS_PER_PX = 4
MOST_STEPS = 600
MOST_SWINGS = 4
RIPPLE_SLOPE = 0.018
"""Root mean square slope of a sheltered creek's ripples towards the eye, in light air."""
COLUMN_REACH = 3.0
RIPPLES = ((3.4, 0.75), (5.9, 0.5), (11.0, 0.35))
"""Bands of a mirrored lamp: how far apart (px at 660 px a radian), and how deep."""
RIPPLE_LENGTH_M = 0.5
ASIDE_PX = 1.6
GRAZING = 0.15
"""How much narrower the image is drawn out across the view: the sine of a low line of sight."""
PX_PER_RADIAN = 660.0


def swing_period_s(string_m: float) -> float:
    """Time of a small swing there and back: 2π·√(l/g). [LANDAU1976]

    >>> f"{swing_period_s(0.24):.3f}"
    '0.983'
    """
    return float(2 * np.pi * np.sqrt(string_m / GRAVITY_M_S2))


def swing_path_px(
    swing: Swing, pixels_per_radian: float, shutter_s: float, *, begin: float
) -> NDArray[np.float64]:
    """Path (n, 2) of a swinging lamp's picture, right and down, from where it is at rest.

    `begin` is the share of a swing passed at mid exposure. Of an exposure of many swings only
    whole ones are drawn: each goes the same way.
    """
    swings = shutter_s / swing_period_s(swing.string_m)
    swings = swings if swings < MOST_SWINGS else 1.0
    scale = swing.string_m / swing.distance_m * pixels_per_radian
    furthest = np.radians(swing.amplitude_deg)
    travelled_px = 4 * scale * furthest * swings
    steps = int(np.clip(STEPS_PER_PX * travelled_px, 8, MOST_STEPS))
    passed = begin + (np.arange(steps) + 0.5 - steps / 2) / steps * swings
    angle = furthest * np.cos(2 * np.pi * passed)
    return np.stack([scale * np.sin(angle), scale * (np.cos(angle) - 1)], axis=-1)


def swing_kernel(
    swing: Swing, pixels_per_radian: float, shutter_s: float, *, begin: float
) -> tuple[Floats, tuple[int, int]]:
    """What a swinging lamp's picture is filtered with for one exposure, and its shift before.

    The kernel adds up to 1; the shift is in whole pixels (right, down) from where it is at rest.
    """
    path = swing_path_px(swing, pixels_per_radian, shutter_s, begin=begin)
    shift = np.rint((path.min(axis=0) + path.max(axis=0)) / 2)
    kernel = kernel_from_rest(path - shift)
    # Filters correlate; a path convolves.
    return np.ascontiguousarray(kernel[::-1, ::-1]), (int(shift[0]), int(shift[1]))


def shine(
    gathered: Floats,
    scene: Scene,
    lamp: Carried,
    *,
    way_px: NDArray[np.float64],
    shutter_s: float,
    random: RandomSource,
) -> None:
    """Light of a carried lamp and of its image in the water added along its way, in place.

    `way_px` (2,) is how far right and down its picture goes during the exposure. Things nearer
    hide it; its image shows on the water alone, drawn out towards the eye as the ripples tilt.
    """
    colour = np.asarray(lamp.colour, dtype=np.float32)
    trail = _trail(scene, lamp, lamp.y_px, way_px=way_px)
    if trail is not None:
        box, cover = trail
        seen = cover * (scene.distance_m[box] > 0.98 * lamp.distance_m)
        gathered[box] += seen[..., None] * colour
    if lamp.water is None:
        return
    tilted_px = 2 * RIPPLE_SLOPE * scene.pixels_per_radian
    spread_px = (GRAZING * tilted_px, tilted_px)
    mirrored = _trail(scene, lamp, lamp.mirror_y_px, way_px=way_px, spread_px=spread_px)
    if mirrored is not None:
        box, cover = mirrored
        shown = scene.mask_of((lamp.water,))[box]
        # The lamp is over the line midway between itself and its image: nearer water only.
        shown[: max(0, round((lamp.y_px + lamp.mirror_y_px) / 2) - box[0].start)] = 0
        cover = _rippled(cover, box[0], scene.pixels_per_radian, shutter_s=shutter_s, random=random)
        gathered[box] += (cover * shown)[..., None] * (lamp.mirror_share * colour)


def _trail(
    scene: Scene,
    lamp: Carried,
    y_px: float,
    *,
    way_px: NDArray[np.float64],
    spread_px: tuple[float, float] = (0.0, 0.0),
) -> tuple[tuple[slice, slice], Floats] | None:
    """Where in the frame a lamp's trail is and its mean cover there; None outside the frame."""
    diameter_px = lamp.diameter_m / lamp.distance_m * scene.pixels_per_radian
    pad = np.ceil(diameter_px + 3 + COLUMN_REACH * np.array(spread_px)).astype(int)
    size = np.array([scene.width_px, scene.height_px])
    middle, half = np.array([lamp.x_px, y_px]), np.abs(way_px) / 2 + pad
    # SeededRandom a little beyond the frame, so that light from just outside reaches its edge.
    low = np.maximum(np.floor(middle - half), -pad).astype(int)
    high = np.minimum(np.ceil(middle + half), size + pad).astype(int)
    inside_low, inside_high = np.maximum(low, 0), np.minimum(high, size)
    if (inside_high <= inside_low).any():
        return None
    places = middle + np.linspace(-0.5, 0.5, _steps_along(way_px))[:, None] * way_px
    canvas = _dabbed(places - low, tuple(high - low))
    canvas = filtered(canvas, disc_kernel(diameter_px)) * np.float32(np.pi / 4 * diameter_px**2)
    if any(spread_px):
        across, down = 2 * pad + 1
        drawn = cv2.GaussianBlur(
            canvas,
            (int(across), int(down)),
            spread_px[0],
            sigmaY=spread_px[1],
            borderType=cv2.BORDER_CONSTANT,
        )
        canvas = np.asarray(drawn, dtype=np.float32)
    box, within = (
        (slice(from_[1], to[1]), slice(from_[0], to[0]))
        for from_, to in ((inside_low, inside_high), (inside_low - low, inside_high - low))
    )
    return box, np.ascontiguousarray(canvas[within])


def _steps_along(way_px: NDArray[np.float64]) -> int:
    return int(max(1, np.ceil(2 * np.hypot(*way_px))))


def _dabbed(places: NDArray[np.float64], size: tuple[int, ...]) -> Floats:
    """A point's time at each place of a canvas (width, height), shared among four pixels."""
    canvas = np.zeros(size[::-1], dtype=np.float32)
    whole = np.floor(places - 0.5).astype(int)
    part = places - 0.5 - whole
    for dy in (0, 1):
        for dx in (0, 1):
            x, y = whole[:, 0] + dx, whole[:, 1] + dy
            weight = np.abs(1 - dx - part[:, 0]) * np.abs(1 - dy - part[:, 1]) / len(places)
            inside = (x >= 0) & (x < size[0]) & (y >= 0) & (y < size[1])
            np.add.at(canvas, (y[inside], x[inside]), weight[inside].astype(np.float32))
    return canvas


def _rippled(
    cover: Floats, rows: slice, pixels_per_radian: float, *, shutter_s: float, random: RandomSource
) -> Floats:
    """A mirrored lamp broken into stripes, each a little aside of the next; mean 1.

    Ripples that pass while the shutter is open even them out.
    """
    scale = pixels_per_radian / PX_PER_RADIAN
    y = np.arange(rows.start, rows.stop) / scale
    kept = abs(float(np.sinc(wave_hz(RIPPLE_LENGTH_M) * shutter_s)))
    bright, aside = np.zeros(y.size), np.zeros(y.size)
    for apart, depth in RIPPLES:
        phase = 2 * np.pi * (y / apart + random.share())
        bright += depth * np.sin(phase)
        aside += ASIDE_PX * depth * np.cos(phase * 0.7)
    x = np.arange(cover.shape[1], dtype=np.float32)[None, :] - (kept * scale * aside)[:, None]
    own = np.repeat(np.arange(y.size, dtype=np.float32)[:, None], cover.shape[1], axis=1)
    moved = cv2.remap(cover, x.astype(np.float32), own, cv2.INTER_LINEAR)
    return np.asarray(moved * np.maximum(1 + kept * bright, 0)[:, None], dtype=np.float32)
