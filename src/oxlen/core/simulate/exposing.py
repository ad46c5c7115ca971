"""Light on the sensor: exposure, focus, the hand, the lens's falloff, pulsing lamps."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.focus.defocus import airy_px, defocus_px
from oxlen.core.hold.hand import Support, hand_limit_s, steadied_stops
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.light.exposure import ev100, luminance_cd_m2
from oxlen.core.motion.sharpness import circle_of_confusion_um
from oxlen.core.simulate.blur import (
    SHARPEST_PX,
    disc_kernel,
    filtered,
    path_kernel,
    shake_path_px,
)
from oxlen.core.simulate.moving import moved
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import FAR_M, Floats, Scene
from oxlen.core.simulate.stars import star_light

FALLOFF_POWER = 2.0
"""Phone lenses lose about cos² towards the corners: less than the cos⁴ of a simple one."""
FOCUS_LEVELS = 4


@dataclass(frozen=True)
class Camera:
    """A lens and a mode whose pixels are those of the scene's picture."""

    lens: Lens
    mode: Mode


@dataclass(frozen=True)
class CaptureSettings:
    """What a picture is taken with; `focused_m` is the distance the lens is set to.

    `white_k` is the colour temperature dialled, `tint_duv` how far its tint shifts that white; None
    leaves white balance to the phone. `slider` is what focus was dialled to, where it was.
    """

    iso: float
    shutter_s: float
    focused_m: float = FAR_M
    support: Support = "handheld"
    pan_with: str | None = None
    glass_stops: float = 0.0
    white_k: float | None = None
    tint_duv: float = 0.0
    slider: float | None = None

    def ev100_set(self, f_number: float) -> float:
        """EV100 exposed for, filter counted."""
        return float(ev100(f_number, self.shutter_s, self.iso)) + self.glass_stops


def binned_mode(mode: Mode, width_px: int, height_px: int) -> Mode:
    """The mode as if it wrote a picture of another size from the same sensor area.

    Pixels added together gather in proportion to area; read noise and fixed pattern grow, and
    fall, with the square root of their number. [EMVA1288]
    """
    ratio = mode.width_px * mode.height_px / (width_px * height_px)
    sensor = replace(
        mode.sensor,
        full_well_e=mode.sensor.full_well_e * ratio,
        prnu_share=mode.sensor.prnu_share / np.sqrt(ratio),
    )
    noise = tuple((iso, float(r * np.sqrt(ratio))) for iso, r in mode.read_noise_e)
    return Mode(
        mode.id,
        mode.name,
        width_px,
        height_px=height_px,
        pixel_pitch_um=float(mode.pixel_pitch_um * np.sqrt(ratio)),
        sensor=sensor,
        read_noise_e=noise,
        headroom_processed_stops=mode.headroom_processed_stops,
        manual=mode.manual,
        auto=mode.auto,
        readout_s=mode.readout_s,
    )


def light_on_sensor(
    scene: Scene, camera: Camera, settings: CaptureSettings, *, random: RandomSource
) -> Floats:
    """What each pixel gathers, as multiples of mid, shape (h, w, 3), before any noise."""
    gathered = moved(
        scene,
        settings.shutter_s,
        readout_s=camera.mode.readout_s or 0.0,
        pan_with=settings.pan_with,
        random=random,
    )
    gathered = _focused(gathered, scene, camera, settings=settings)
    gathered = _shaken(gathered, camera, settings, random=random)
    if scene.star_field is not None:
        gathered = gathered + star_light(scene, settings.shutter_s)
    scale = 1 / float(luminance_cd_m2(settings.ev100_set(camera.lens.f_number)))
    rows = _flicker(scene, camera, settings, random=random)
    # Nothing of the scene itself is written over: only what was made on the way here.
    out = None if gathered is scene.radiance else gathered
    return np.asarray(np.multiply(gathered, (scale * rows)[:, None, None].astype(np.float32), out))


def falloff(scene: Scene) -> Floats:
    """Share of the light that reaches each pixel through the lens, 1 on the axis, shape (h, w)."""
    return _falloff(scene.height_px, scene.width_px, round(scene.pixels_per_radian, 3))


@lru_cache(maxsize=8)
def _falloff(height: int, width: int, focal_px: float) -> Floats:
    y, x = np.arange(height) + 0.5 - height / 2, np.arange(width) + 0.5 - width / 2
    cos2 = 1 / (1 + (y[:, None] ** 2 + x[None, :] ** 2) / focal_px**2)
    return np.asarray(cos2 ** (FALLOFF_POWER / 2), dtype=np.float32)


def _focused(image: Floats, scene: Scene, camera: Camera, *, settings: CaptureSettings) -> Floats:
    """The image with each distance blurred by its own disc, in a few steps of blur."""
    mode = camera.mode

    def discs(distance_m: Floats) -> Floats:
        found = defocus_px(
            distance_m,
            focused_m=settings.focused_m,
            focal_mm=camera.lens.focal_mm,
            f_number=camera.lens.f_number,
            pitch_um=mode.pixel_pitch_um,
        )
        return np.asarray(found, dtype=np.float32)

    airy = airy_px(camera.lens.f_number, mode.pixel_pitch_um)
    largest = float(np.hypot(np.quantile(discs(scene.distance_m[::8, ::8]), 0.995), airy))
    if largest < SHARPEST_PX:
        return image
    # Compared by their squares, which spares a root for every pixel.
    square = discs(scene.distance_m)
    square *= square
    square += np.float32(airy**2)
    steps = np.geomspace(min(2 * SHARPEST_PX, largest), largest, FOCUS_LEVELS)
    between = np.sqrt(steps[:-1] * steps[1:])
    result = image.copy()
    lows, highs = [steps[0] / 1.3, *between], [*between, np.inf]
    for step, low, high in zip(steps, lows, highs, strict=True):
        chosen = np.asarray(
            cv2.inRange(square, float(low**2), float(min(high, 1e9) ** 2)), dtype=np.uint8
        )
        _blur_where(image, chosen, disc_kernel(float(step)), result=result)
    return result


def _blur_where(
    image: Floats, chosen: NDArray[np.uint8], kernel: Floats, *, result: Floats
) -> None:
    """Write the image through a kernel over the result where chosen, worked only about there."""
    left, top, width, height = cv2.boundingRect(chosen)
    if not width:
        return
    reach = kernel.shape[0] // 2
    x, y = max(0, left - reach), max(0, top - reach)
    box = (slice(y, top + height + reach), slice(x, left + width + reach))
    cv2.copyTo(filtered(image[box], kernel), chosen[box], result[box])


def _shaken(
    image: Floats, camera: Camera, settings: CaptureSettings, *, random: RandomSource
) -> Floats:
    """The image along the hand's path: a circle of confusion wide at the hand limit."""
    if settings.support == "tripod":
        return image
    blur = shake_blur_px(camera, settings)
    if blur < 2 * SHARPEST_PX:
        return image
    return filtered(image, path_kernel(shake_path_px(min(blur, 60.0), random)))


def shake_blur_px(camera: Camera, settings: CaptureSettings) -> float:
    """Usual extent (px) of the hand's path over an exposure."""
    mode, lens = camera.mode, camera.lens
    circle = float(circle_of_confusion_um(mode.width_px, mode.height_px, mode.pixel_pitch_um))
    steady = steadied_stops(lens.stabiliser_stops, settings.support, lens.braced_stops)
    limit_s = float(hand_limit_s(lens.focal35_mm, steady))
    return circle / mode.pixel_pitch_um * settings.shutter_s / limit_s


def _flicker(
    scene: Scene, camera: Camera, settings: CaptureSettings, *, random: RandomSource
) -> NDArray[np.float64]:
    """Light of each row while lamps pulse and the shutter rolls down the frame. [IEEE1789]"""
    level = np.ones(scene.height_px)
    readout_s = camera.mode.readout_s or 0.0
    for lamp in scene.lamps:
        if lamp.pulse_hz is None:
            continue
        start = random.share() / lamp.pulse_hz
        at = start + np.arange(scene.height_px) / scene.height_px * readout_s
        left = np.sinc(lamp.pulse_hz * settings.shutter_s)
        middle = at + settings.shutter_s / 2
        level += lamp.depth * left * np.sin(2 * np.pi * lamp.pulse_hz * middle)
    return level
