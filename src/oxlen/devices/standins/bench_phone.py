"""The bench phone: a stand-in that photographs scenes whose light is known.

It has an automatic mode with the failings of real ones (it greys out the night, dulls snow, is
dragged by coloured ground, focuses on what has most contrast), and a manual mode that takes a slip.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from oxlen.core.decide.auto import auto_choice
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.wishes import Glass
from oxlen.core.hold.hand import Support
from oxlen.core.kit.phone import FileFormat, Lens, Mode
from oxlen.core.light.exposure import luminance_cd_m2
from oxlen.core.simulate.capture import Capture, capture, scene_luminance, seen_through
from oxlen.core.simulate.exposing import Settings
from oxlen.core.simulate.luck import Drawn
from oxlen.core.simulate.scene import Scene, SceneLamp
from oxlen.devices.standins.taken_file import TakenAs, dng_bytes, jpeg_bytes
from oxlen.formats.phone_profile import PhoneProfile

FOCUS_GRID = (9, 12)
CENTRE_PULL = 1.6
"""How much more a patch in the middle counts for focus than one at the edge."""
METER_CLIP = 24.0
"""Metering looks at a frame in which nothing is brighter than so many times its median."""


@dataclass(frozen=True)
class Shot:
    """What is dialled in by hand; the support and what is panned with belong to the holder."""

    iso: float
    shutter_s: float
    focused_m: float | None = None
    support: Support = "handheld"
    pan_with: str | None = None
    glass_stops: float = 0.0


@dataclass(frozen=True)
class Take:
    """A picture taken, as its files: JPEG, DNG or both, and the settings they state."""

    settings: Settings
    jpeg: bytes | None
    dng: bytes | None


@dataclass(frozen=True)
class BenchPhone:
    """A phone of the kit with one of its lenses, and the seed of everything random about a take."""

    profile: PhoneProfile
    lens: Lens
    mode: Mode
    seed: int = 0

    def auto_settings(
        self, scene: Scene, support: Support = "handheld", glass_stops: float = 0.0
    ) -> Settings:
        """What its automatic mode sets: the frame's mean at mid, its own ladders and focus.

        `glass_stops` are what glass on the lens takes; it meters through it.
        """
        framed = seen_through(scene, self.lens, self.mode)
        glass = (Glass("on the lens", 2.0**glass_stops),)
        brief = Brief(self.profile.to_phone(), self.lens.id, self.mode.id, support, glass_on=glass)
        choice = auto_choice(brief, 0.0, self.metered_ev100(framed))
        focus = auto_focus_m(framed)
        return Settings(choice.iso, choice.shutter_s, focus, support, glass_stops=glass_stops)

    def metered_ev100(self, framed: Scene) -> float:
        """What its meter reads of the frame: a mean in which lamps do not count without end."""
        light = scene_luminance(framed)
        top = METER_CLIP * float(np.median(light)) + 1e-9
        mean = float(np.minimum(light, top).mean())
        return float(np.log2(mean / float(luminance_cd_m2(0.0)))) + self.profile.meter_offset_stops

    def settings_for(self, scene: Scene, shot: Shot) -> Settings:
        """A slip as settings; focus by hand where it says, else on what has most contrast."""
        framed = seen_through(scene, self.lens, self.mode)
        focus = auto_focus_m(framed) if shot.focused_m is None else shot.focused_m
        return Settings(
            shot.iso, shot.shutter_s, focus, shot.support, shot.pan_with, shot.glass_stops
        )

    def expose(self, scene: Scene, settings: Settings) -> Capture:
        """One frame, with this take's own luck."""
        return capture(scene, self.lens, self.mode, settings, Drawn(self.seed))

    def take(
        self, scene: Scene, settings: Settings, file_format: FileFormat, taken_at: str
    ) -> Take:
        """A frame as files; `taken_at` as EXIF writes it."""
        frame = self.expose(scene, settings)
        framed = seen_through(scene, self.lens, self.mode)
        brightness = self.metered_ev100(framed) - settings.glass_stops - 5
        described = TakenAs(self.profile, self.lens, settings, brightness, taken_at)
        jpeg = None if file_format == "raw" else jpeg_bytes(frame, described)
        dng = None if file_format == "processed" else dng_bytes(frame, described)
        return Take(settings, jpeg, dng)


def auto_focus_m(scene: Scene) -> float:
    """Distance the automatic focus grabs: that of the patch with most contrast, middle preferred.

    Grain behind a smooth subject wins, as it does on real phones.
    """
    light = np.log2(scene_luminance(scene).astype(np.float32) + 1e-6)
    contrast = np.abs(cv2.Laplacian(cv2.blur(light, (3, 3)), cv2.CV_32F))
    rows, columns = FOCUS_GRID
    best, distance = -1.0, 10.0
    for row in range(1, rows - 1):
        for column in range(1, columns - 1):
            part = _patch(scene, row, column)
            off = np.hypot((row + 0.5) / rows - 0.5, (column + 0.5) / columns - 0.5)
            score = float(contrast[part].mean()) * (1 + CENTRE_PULL * (0.5 - off))
            if score > best:
                best, distance = score, float(np.median(scene.distance_m[part]))
    return distance


def focus_on_m(scene: Scene, lens: Lens, mode: Mode, x: float, y: float) -> float:
    """Distance of what lies at a place of the frame (shares), as tapping on it would find."""
    framed = seen_through(scene, lens, mode)
    row = min(framed.height_px - 1, int(y * framed.height_px))
    column = min(framed.width_px - 1, int(x * framed.width_px))
    for layer in framed.layers:
        inside = (row - layer.top, column - layer.left)
        if all(0 <= at < size for at, size in zip(inside, layer.cover.shape, strict=True)):
            mover = next((m for m in framed.movers if m.name == layer.name), None)
            if mover is not None and layer.cover[inside] > 0.5:
                return mover.distance_m
    return float(framed.distance_m[row, column])


def varied(scene: Scene, *, light: float = 1.0, speed: float = 1.0, distance: float = 1.0) -> Scene:
    """The scene on another day: light, and the speed and distance of movers, times a factor."""
    movers = tuple(
        replace(m, speed_m_s=m.speed_m_s * speed, distance_m=m.distance_m * distance)
        for m in scene.movers
    )
    layers = tuple(replace(one, colour=one.colour * np.float32(light)) for one in scene.layers)
    radiance = scene.radiance * np.float32(light)
    lamps = tuple(_dimmed(lamp, light) for lamp in scene.lamps)
    return replace(scene, radiance=radiance, layers=layers, movers=movers, lamps=lamps)


def _dimmed(lamp: SceneLamp, light: float) -> SceneLamp:
    if lamp.carried is None:
        return lamp
    red, green, blue = (light * value for value in lamp.carried.colour)
    return replace(lamp, carried=replace(lamp.carried, colour=(red, green, blue)))


def _patch(scene: Scene, row: int, column: int) -> tuple[slice, slice]:
    rows, columns = FOCUS_GRID
    height, width = scene.height_px // rows, scene.width_px // columns
    return (
        slice(row * height, (row + 1) * height),
        slice(column * width, (column + 1) * width),
    )
