"""One picture of a scene, from light to raw frame to processed picture."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import MID_LINEAR
from oxlen.core.errors import BadInput
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.light.tone import LUMA
from oxlen.core.sensor.noise import mid_signal_e, snr
from oxlen.core.simulate.develop import (
    Balance,
    auto_balance,
    coded,
    demosaiced,
    dialled_balance,
    processed,
    thumbnail,
)
from oxlen.core.simulate.exposing import (
    Camera,
    CaptureSettings,
    binned_mode,
    falloff,
    light_on_sensor,
)
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.readout import RawFrame, read_out
from oxlen.core.simulate.scene import Scene, shifted

CLEAN_SNR = 60.0
SEEN_ANGLE_SLACK = 1.04


@dataclass(frozen=True)
class Capture:
    """A frame taken: the raw mosaic, and what it was taken with."""

    raw: RawFrame
    camera: Camera
    settings: CaptureSettings

    def developed(self, balance: Balance | None = None) -> NDArray[np.uint8]:
        """The processed picture (h, w, 3); balanced as dialled unless one is given."""
        mode = self.camera.mode
        signal = float(mid_signal_e(mode.sensor, self.settings.iso))
        noise = float(mode.read_noise_at(float(self.settings.iso)))
        quality = float(snr(signal, noise, mode.sensor.prnu_share))
        clean = float(np.clip(np.log2(CLEAN_SNR / quality) / 4, 0, 1))
        linear = demosaiced(self.raw, balance or self.balance, MID_LINEAR)
        return processed(linear, clean=clean, headroom=mode.headroom_processed_stops)

    def neutral(self, balance: Balance | None = None) -> NDArray[np.uint8]:
        """A plain look at the raw frame (h, w, 3): white balance and the sRGB curve alone."""
        return coded(demosaiced(self.raw, balance or self.balance, MID_LINEAR))

    @property
    def balance(self) -> Balance:
        """White balance as dialled, else what the phone's automatic balance picks."""
        white_k, tint_duv = self.settings.white_k, self.settings.tint_duv
        if white_k is None:
            return auto_balance(thumbnail(self.raw))
        return dialled_balance(white_k, tint_duv)


def capture(
    scene: Scene, lens: Lens, mode: Mode, *, settings: CaptureSettings, random: RandomSource
) -> Capture:
    """Photograph a scene through a lens. BadInput when the lens sees more than the scene holds."""
    framed = seen_through(scene, lens, mode)
    even = _even(framed)
    camera = Camera(lens, binned_mode(mode, even.width_px, even.height_px))
    gathered = light_on_sensor(even, camera, settings, random=random)
    raw = read_out(gathered, camera.mode, settings.iso, falloff=falloff(even), random=random)
    return Capture(raw, camera, settings)


def seen_through(scene: Scene, lens: Lens, mode: Mode) -> Scene:
    """The middle of a scene that a lens sees. BadInput when it would see past the scene's edge."""
    half_mm = mode.width_px * mode.pixel_pitch_um / 2000
    hfov = float(np.degrees(2 * np.arctan(half_mm / lens.focal_mm)))
    if hfov > scene.hfov_deg * SEEN_ANGLE_SLACK:
        raise BadInput(
            f"The {lens.name} lens sees {hfov:.0f}° and {scene.name} has {scene.hfov_deg:.0f}°. "
            "Use a longer lens.",
            "lens",
        )
    share = np.tan(np.radians(hfov) / 2) / np.tan(np.radians(scene.hfov_deg) / 2)
    if share > 0.985:
        return scene
    return _cropped(scene, float(share), hfov)


def scene_luminance(scene: Scene) -> NDArray[np.float64]:
    """Luminance of each pixel in cd/m², layers at rest in their place, shape (h, w)."""
    light = scene.radiance.astype(np.float64)
    for layer in scene.layers:
        rows, own_rows = _overlap(layer.top, layer.cover.shape[0], scene.height_px)
        columns, own_columns = _overlap(layer.left, layer.cover.shape[1], scene.width_px)
        cover = layer.cover[own_rows, own_columns, None]
        colour = layer.colour[own_rows, own_columns]
        light[rows, columns] = light[rows, columns] * (1 - cover) + colour * cover
    return np.asarray(light @ LUMA)


def _overlap(first: int, length: int, whole: int) -> tuple[slice, slice]:
    """The part of a layer within the frame along one side: of the frame, and of the layer."""
    begin = min(max(first, 0), whole)
    end = min(max(first + length, begin), whole)
    return slice(begin, end), slice(begin - first, end - first)


def _cropped(scene: Scene, share: float, hfov_deg: float) -> Scene:
    h, w = scene.height_px, scene.width_px
    rows = slice(round(h * (1 - share) / 2), round(h * (1 + share) / 2))
    columns = slice(round(w * (1 - share) / 2), round(w * (1 + share) / 2))
    layers = tuple(
        replace(layer, left=layer.left - columns.start, top=layer.top - rows.start)
        for layer in scene.layers
    )
    return replace(
        scene,
        radiance=np.ascontiguousarray(scene.radiance[rows, columns]),
        distance_m=np.ascontiguousarray(scene.distance_m[rows, columns]),
        objects=np.ascontiguousarray(scene.objects[rows, columns]),
        hfov_deg=hfov_deg,
        layers=layers,
        lamps=shifted(scene.lamps, columns.start, rows.start),
    )


def _even(scene: Scene) -> Scene:
    """The scene with an even number of rows and columns, as a mosaic needs."""
    h, w = scene.height_px // 2 * 2, scene.width_px // 2 * 2
    if (h, w) == (scene.height_px, scene.width_px):
        return scene
    return replace(
        scene,
        radiance=scene.radiance[:h, :w],
        distance_m=scene.distance_m[:h, :w],
        objects=scene.objects[:h, :w],
    )
