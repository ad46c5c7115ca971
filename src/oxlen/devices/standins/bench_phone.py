"""The bench phone: a simulated phone that photographs scenes whose light is known.

It has an automatic mode with the failings of real ones (it greys out the night, dulls snow, is
dragged by a coloured background, focuses on what has most contrast), and a manual mode that
takes a slip.
"""

from __future__ import annotations

import zlib
from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.exposure.ask import LENS_FILTERS, SUPPORT
from oxlen.core.decisions.exposure.auto.capture import auto_capture
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.errors import BadInput
from oxlen.core.hold.hand import Support
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.simulate.automatic import auto_focus_m, metered_ev100
from oxlen.core.simulate.capture import Capture, capture, seen_through
from oxlen.core.simulate.exposing import CaptureSettings
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import FAR_M, Scene
from oxlen.devices.standins.picture_file import FileDetails, dng_bytes, jpeg_bytes
from oxlen.formats.phone.profile import PhoneProfile

SLIDER_ERROR = 0.015
"""How far a phone's slider may be off its known scale, as a share of its reach."""


@dataclass(frozen=True)
class Shot:
    """What is dialled in by hand; the support and what is panned with belong to the holder.

    Focus by `slider` goes before `focused_m`, the distance that a tap found.
    """

    iso: float
    shutter_s: float
    focused_m: float | None = None
    support: Support = "handheld"
    pan_with: str | None = None
    glass_stops: float = 0.0
    white_k: float | None = None
    tint: float = 0.0
    slider: float | None = None
    clip_on: ClipOn | None = None


@dataclass(frozen=True)
class Take:
    """A picture taken, as its files: JPEG, DNG or both, and the settings they state."""

    settings: CaptureSettings
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
    ) -> CaptureSettings:
        """What its automatic mode sets: the frame's mean at mid, its own ladders and focus.

        `glass_stops` are what a filter on the lens takes; it meters through it.
        """
        worn = (LensFilter("on the lens", 2.0**glass_stops),)
        asked = {LENS.name: self.lens.id, MODE.name: self.mode.id, SUPPORT.name: support}
        brief = Brief(self.profile.to_phone(), asked={**asked, LENS_FILTERS.name: worn})
        return auto_capture(brief, scene)

    def settings_for(self, scene: Scene, shot: Shot) -> CaptureSettings:
        """A slip as settings; focus by hand where it says, else on what has most contrast."""
        framed = seen_through(scene, self.lens, self.mode)
        focus = auto_focus_m(framed) if shot.focused_m is None else shot.focused_m
        if shot.slider is not None:
            focus = self.focus_at_m(shot.slider, shot.clip_on)
        dial = self.profile.white
        return CaptureSettings(
            shot.iso,
            shot.shutter_s,
            focus,
            support=shot.support,
            pan_with=shot.pan_with,
            glass_stops=shot.glass_stops,
            white_k=shot.white_k,
            tint_duv=0.0 if dial is None else shot.tint * dial.tint_duv,
            slider=shot.slider,
        )

    def focus_at_m(self, slider: float, clip_on: ClipOn | None = None) -> float:
        """Distance in focus with the slider at a value: its own scale, a little off the known one.

        BadInput for a lens whose slider has no scale.
        """
        drive = self.lens.focus
        name = "" if clip_on is None else clip_on.name
        scale = None if drive is None else drive.scale(name)
        if drive is None or scale is None:
            raise BadInput(f"{self.lens.name} has no measured focus slider.", "slider")
        reach = drive.slider_high - drive.slider_low
        return min(scale.distance_at_m(slider - self.slider_error * reach), FAR_M)

    @property
    def slider_error(self) -> float:
        """How far this phone's slider is off its known scale, as a share of its reach."""
        seed = zlib.crc32(f"{self.profile.id} {self.lens.id}".encode())
        return float(np.random.default_rng(seed).uniform(-SLIDER_ERROR, SLIDER_ERROR))

    def expose(self, scene: Scene, settings: CaptureSettings) -> Capture:
        """One frame, as this take's seed has it."""
        return capture(
            scene, self.lens, self.mode, settings=settings, random=SeededRandom(self.seed)
        )

    def take(
        self, scene: Scene, settings: CaptureSettings, file_format: FileFormat, *, taken_at: str
    ) -> Take:
        """A frame as files; `taken_at` as EXIF writes it."""
        frame = self.expose(scene, settings)
        framed = seen_through(scene, self.lens, self.mode)
        brightness = (
            metered_ev100(framed, self.profile.meter_offset_stops) - settings.glass_stops - 5
        )
        described = FileDetails(
            self.profile, self.lens, settings, brightness=brightness, taken_at=taken_at
        )
        jpeg = None if file_format == "raw" else jpeg_bytes(frame, described)
        dng = None if file_format == "processed" else dng_bytes(frame, described)
        return Take(settings, jpeg, dng)
