"""A scene of the night under another sky: its darkness, a town's glow, the Moon, a lamp's light."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import LUMA_BLUE, LUMA_GREEN, LUMA_RED
from oxlen.core.simulate.scene import Floats, Scene
from oxlen.core.sky.brightness import moonlit_luminance_cd_m2, sky_luminance_cd_m2
from oxlen.core.sky.daylight import moonlight_lx

SKY = 255
"""The object number of what is sky."""
LUMA_F = np.array([LUMA_RED, LUMA_GREEN, LUMA_BLUE], dtype=np.float32)
GLOW_COLOUR = np.array([1.5, 0.95, 0.45], dtype=np.float32)
MOON_COLOUR = np.array([0.95, 1.0, 1.12], dtype=np.float32)
LAMP_COLOUR = np.array([1.35, 0.95, 0.5], dtype=np.float32)
GLOW_HIGH, GLOW_WIDE = 0.12, 0.35
"""Town glow falls to a third so high over the horizon, and so far aside, in shares of the frame."""
BRIGHTEST_SHARE = 0.6
"""Nothing throws back more than this of what falls on it."""
MOON_APART_DEG, SKY_UP_DEG = 80.0, 40.0
NEAREST_M = 1.0


@dataclass(frozen=True)
class NightSky:
    """What the sky of a night is like: its own brightness (mag/arcsec²), and what is added.

    `glow_stops` at the foot of the sky at `glow_at` of the frame's width; the Moon behind the
    camera at a height (°) and angle from the Sun (°); a lamp of so many lumens beside the camera.
    """

    magnitude: float
    glow_stops: float = 0.0
    glow_at: float = 0.5
    moon_altitude_deg: float = -10.0
    moon_elongation_deg: float = 180.0
    lamp_lm: float = 0.0


def under_night(scene: Scene, night: NightSky) -> Scene:
    """The scene under that sky: its sky as bright between the stars, its foreground lit by it.

    The foreground keeps its own colours; light on it grows as the sky's does, and a lamp's falls
    with the square of the distance.
    """
    sky = scene.objects == SKY
    luminance = scene.radiance @ LUMA_F
    # The darkest part is the sky's own light: its foot glows already.
    own = float(np.quantile(luminance[sky], 0.1))
    wanted = float(sky_luminance_cd_m2(night.magnitude))
    moon = float(
        moonlit_luminance_cd_m2(
            moon_altitude_deg=night.moon_altitude_deg,
            sky_altitude_deg=SKY_UP_DEG,
            apart_deg=MOON_APART_DEG,
            elongation_deg=night.moon_elongation_deg,
        )
    )
    radiance = scene.radiance * np.float32(wanted / own)
    added = wanted * _glow(scene, night)[..., None] * _even(GLOW_COLOUR) + moon * _even(MOON_COLOUR)
    lit = _foreground_light(scene, night, radiance, wanted=wanted)
    seen = np.where(sky[..., None], radiance + added, lit)
    return replace(scene, radiance=np.asarray(seen, dtype=np.float32))


def _glow(scene: Scene, night: NightSky) -> NDArray[np.float32]:
    """What a town adds to each place of the sky, in multiples of the sky's own light."""
    height, width = scene.objects.shape
    foot = float(np.nonzero((scene.objects == SKY).any(axis=1))[0].max())
    up = np.maximum(foot - np.arange(height)[:, None], 0) / height
    aside = (np.arange(width) / width - night.glow_at)[None, :] / GLOW_WIDE
    share = np.exp(-up / GLOW_HIGH) * np.exp(-(aside**2))
    return np.asarray((2.0**night.glow_stops - 1) * share, dtype=np.float32)


def _foreground_light(scene: Scene, night: NightSky, radiance: Floats, *, wanted: float) -> Floats:
    """The foreground lit by sky, Moon and lamp; its reflectance follows from the sky on it."""
    from_sky_lx = np.pi * wanted
    moon_lx = float(moonlight_lx(night.moon_altitude_deg, night.moon_elongation_deg))
    distance = np.maximum(scene.distance_m, NEAREST_M)
    lamp_lx = night.lamp_lm / (4 * np.pi * distance**2)
    # An edge against the sky holds some of the sky's light: what is beside it is more exact.
    own = cv2.erode(np.asarray(radiance, dtype=np.float32), np.ones((5, 5), dtype=np.uint8))
    back = np.minimum(np.pi * own / from_sky_lx, BRIGHTEST_SHARE)
    light = moon_lx * _even(MOON_COLOUR) + lamp_lx[..., None] * _even(LAMP_COLOUR)
    return np.asarray(radiance + back * light / np.pi, dtype=np.float32)


def _even(colour: NDArray[np.float32]) -> NDArray[np.float32]:
    """A colour of luminance 1."""
    return np.asarray(colour / (colour @ LUMA_F), dtype=np.float32)
