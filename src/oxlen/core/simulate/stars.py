"""Stars over a scene: catalogue directions, turning with the sky while the shutter is open."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from oxlen.core.simulate.scene import Floats, Scene, StarField

SIDEREAL_RAD_S = float(np.radians(15.041 / 3600))
MAG_0_ARCSEC2_CD_M2 = 10.8e4
"""Luminance (cd/m²) of a sky of 0 mag in each square arcsecond."""
ARCSEC2_PER_SR = (180 / np.pi * 3600) ** 2
SPREAD_PX = 0.55
TRAIL_STEP_PX, LEAST_STEPS = 0.5, 2


def star_light(scene: Scene, shutter_s: float) -> Floats:
    """Mean luminance the stars add to each pixel over an exposure, shape (h, w, 3), cd/m².

    A star of magnitude m over one pixel of solid angle Ω lights it like a sky of
    m + 2.5·log10(Ω) magnitudes a square arcsecond. Behind things (nearer than the sky) none shows.
    """
    field = scene.star_field
    light = np.zeros(scene.radiance.shape, dtype=np.float32)
    if field is None:
        return light
    steps = _steps(scene, shutter_s)
    sky = scene.objects == 255
    pixel_arcsec2 = ARCSEC2_PER_SR / scene.pixels_per_radian**2
    for star in field.stars:
        level = MAG_0_ARCSEC2_CD_M2 * 10 ** (-0.4 * star.magnitude) / pixel_arcsec2
        tint = _tint(star.colour_index) * level / steps
        # The middle of each step: from end to end the few steps of a short trail would be too long.
        for after_s in (np.arange(steps) + 0.5) / steps * shutter_s:
            place = star_place_px(
                scene,
                field,
                star.right_ascension_deg,
                dec_deg=star.declination_deg,
                after_s=float(after_s),
            )
            if place is not None:
                _dab(light, sky, place, tint=tint)
    return light


def _steps(scene: Scene, shutter_s: float) -> int:
    length = scene.pixels_per_radian * SIDEREAL_RAD_S * shutter_s
    return int(np.ceil(length / TRAIL_STEP_PX)) + LEAST_STEPS


def _direction(ra_deg: float, dec_deg: float) -> NDArray[np.float64]:
    ra, dec = np.radians(ra_deg), np.radians(dec_deg)
    return np.array([np.cos(dec) * np.cos(ra), np.cos(dec) * np.sin(ra), np.sin(dec)])


def star_place_px(
    scene: Scene, field: StarField, ra_deg: float, *, dec_deg: float, after_s: float
) -> tuple[float, float] | None:
    """Place (x, y) in pixels of a direction after some seconds; None behind or far outside."""
    turned = ra_deg + np.degrees(SIDEREAL_RAD_S) * -after_s
    star = _direction(turned, dec_deg)
    axis = _direction(field.axis_ra_deg, field.axis_dec_deg)
    north = np.array([0.0, 0.0, 1.0]) - axis[2] * axis
    north /= np.linalg.norm(north)
    west = np.cross(axis, north)
    roll = np.radians(field.roll_deg)
    up = north * np.cos(roll) + west * np.sin(roll)
    right = np.cross(axis, up)
    ahead = float(star @ axis)
    if ahead < 0.2:
        return None
    f = scene.pixels_per_radian
    x = scene.width_px / 2 + f * float(star @ right) / ahead
    y = scene.height_px / 2 - f * float(star @ up) / ahead
    inside = -4 < x < scene.width_px + 4 and -4 < y < scene.height_px + 4
    return (x, y) if inside else None


def _dab(
    light: Floats,
    sky: NDArray[np.bool_],
    place: tuple[float, float],
    *,
    tint: NDArray[np.float64],
) -> None:
    """A small round spot of light, all of it on the pixels about a place."""
    cx, cy = int(place[0]), int(place[1])
    y0, y1 = max(0, cy - 2), min(light.shape[0], cy + 3)
    x0, x1 = max(0, cx - 2), min(light.shape[1], cx + 3)
    if y0 >= y1 or x0 >= x1:
        return
    dy = np.arange(y0, y1) + 0.5 - place[1]
    dx = np.arange(x0, x1) + 0.5 - place[0]
    spot = np.exp(-(dy[:, None] ** 2 + dx[None, :] ** 2) / (2 * SPREAD_PX**2))
    spot *= sky[y0:y1, x0:x1] / max(1e-6, float(spot.sum()))
    light[y0:y1, x0:x1] += (spot[..., None] * tint).astype(np.float32)


def _tint(colour_index: float) -> NDArray[np.float64]:
    """Colour of a star of a B−V index, of luminance 1: blue-white to orange, gently."""
    warm = float(np.clip((colour_index - 0.4) / 1.2, -0.5, 1))
    rgb = np.array([1 + 0.45 * warm, 1.0, 1 - 0.5 * warm])
    return np.asarray(rgb / (rgb @ np.array([0.2126, 0.7152, 0.0722])))
