"""A phone as the core knows it: lenses with fixed apertures, modes, ladders, noise."""

from __future__ import annotations

import math
from bisect import bisect_right
from dataclasses import dataclass, field
from functools import cached_property
from typing import TypeVar

import numpy as np

from oxlen.core.errors import NotFound
from oxlen.core.hold.hand import BRACED_STOPS
from oxlen.core.kit.automatic import Automatic
from oxlen.core.kit.computed_mode import ComputedMode
from oxlen.core.kit.doubt import FigureDoubt
from oxlen.core.kit.file_cost import WrittenFiles
from oxlen.core.kit.focus_drive import FocusDrive
from oxlen.core.kit.handling import Handling
from oxlen.core.kit.ladder import Ladder
from oxlen.core.kit.phone_words import FileFormat
from oxlen.core.kit.white_dial import WhiteDial
from oxlen.core.sensor.noise import Sensor
from oxlen.core.units import Real


@dataclass(frozen=True)
class Mode:
    """One way a lens writes files: pixels as written, their noise, and the ladders it offers.

    `readout_s` is how long the rolling shutter takes from the first row to the last, and
    `readout_plus_minus_s` how far that may be off.
    """

    id: str
    name: str
    width_px: int
    height_px: int
    pixel_pitch_um: float
    sensor: Sensor
    read_noise_e: tuple[tuple[float, float], ...]
    headroom_processed_stops: float
    manual: Ladder
    auto: Ladder
    readout_s: float | None = None
    readout_plus_minus_s: float = 0.0
    files: WrittenFiles = field(default_factory=WrittenFiles)
    doubts: tuple[FigureDoubt, ...] = ()

    @property
    def megapixels(self) -> float:
        """Millions of pixels it writes."""
        return self.width_px * self.height_px / 1e6

    @property
    def sensor_mm(self) -> tuple[float, float]:
        """Width and height (mm) of the part of the sensor that is used."""
        pitch_mm = self.pixel_pitch_um / 1000
        return self.width_px * pitch_mm, self.height_px * pitch_mm

    @cached_property
    def _read_noise_table(self) -> tuple[list[float], list[float]]:
        return [math.log2(iso) for iso, _ in self.read_noise_e], [r for _, r in self.read_noise_e]

    def read_noise_at(self, iso: Real) -> Real:
        """Read noise (e⁻) at an ISO: between measured ISOs straight in log2 ISO, flat beyond."""
        log_isos, noise = self._read_noise_table
        if isinstance(iso, float):
            return _between(math.log2(iso), log_isos, noise)
        return np.interp(np.log2(iso), log_isos, noise)

    def headroom_stops(self, file_format: FileFormat) -> float:
        """Stops from mid to clipping in the format written; for both, the smaller."""
        raw, processed = self.sensor.headroom_raw_stops, self.headroom_processed_stops
        return {"raw": raw, "processed": processed, "both": min(raw, processed)}[file_format]


@dataclass(frozen=True)
class Lens:
    """A lens with its one aperture: true and 35 mm-equivalent focal length in mm.

    `braced_stops` is what an improvised rest adds to the hand's limit; `tripod_stops` how far a
    tripod holds over the bare rule, None where it sets no limit.
    """

    id: str
    name: str
    focal_mm: float
    focal35_mm: float
    f_number: float
    stabiliser_stops: float
    modes: tuple[Mode, ...]
    focus: FocusDrive | None = None
    braced_stops: float = BRACED_STOPS
    tripod_stops: float | None = None
    doubts: tuple[FigureDoubt, ...] = ()

    def mode(self, mode_id: str | None) -> Mode:
        """The mode of that id, the first when None; NotFound names it and what there is."""
        if mode_id is None:
            return self.modes[0]
        return _by_id(self.modes, mode_id, "mode", owner=self.name)


def _between(x: float, xs: list[float], ys: list[float]) -> float:
    """Straight between points, flat beyond: numpy's interp for one number, many times faster."""
    at = bisect_right(xs, x)
    if at in (0, len(xs)):
        return ys[min(at, len(xs) - 1)]
    share = (x - xs[at - 1]) / (xs[at] - xs[at - 1])
    return ys[at - 1] + share * (ys[at] - ys[at - 1])


Part = TypeVar("Part", Mode, Lens)


@dataclass(frozen=True)
class Phone:
    """A phone of the kit; `meter_offset_stops` is how its meter differs from the standard."""

    id: str
    name: str
    meter_offset_stops: float
    meter_plus_minus_stops: float
    lenses: tuple[Lens, ...]
    automatic: Automatic = field(default_factory=Automatic)
    white: WhiteDial | None = None
    computed: tuple[ComputedMode, ...] = ()
    handling: Handling = field(default_factory=Handling)

    def lens(self, lens_id: str | None) -> Lens:
        """The lens of that id, the first when None; NotFound names it and what there is."""
        if lens_id is None:
            return self.lenses[0]
        return _by_id(self.lenses, lens_id, "lens", owner=self.name)


def _by_id(things: tuple[Part, ...], wanted: str, kind: str, *, owner: str) -> Part:
    for thing in things:
        if thing.id == wanted:
            return thing
    known = ", ".join(thing.id for thing in things)
    raise NotFound(f"{owner} has no {kind} named {wanted}. It has {known}.", **{kind: wanted})
