"""Whether a take of a known scene has what a good picture of it must have."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from oxlen.core.colour.patch import patch_cast
from oxlen.core.constants import CLIPPED_CODE
from oxlen.core.light.meter import Spot, disc_box, disc_mask
from oxlen.core.light.tone import LUMA, highest_channel, linear_table, stops_from_mid
from oxlen.core.review.blur import measured_blur_px
from oxlen.core.simulate.blur import shake_path_px
from oxlen.core.simulate.capture import Capture
from oxlen.core.simulate.develop import demosaiced
from oxlen.core.simulate.exposing import Camera, CaptureSettings, shake_blur_px
from oxlen.core.simulate.moving import PAN_LEAVES, speed_px_s
from oxlen.core.simulate.randomness import SeededRandom
from oxlen.core.simulate.scene import Scene, SceneMover
from oxlen.core.simulate.stars import SIDEREAL_RAD_S

PICTURE_K = 6504.0
SHARP_RADIUS = 0.035
"""A patch to judge sharpness by is at least so large, in shares of the shorter side."""


class Region(Protocol):
    """A named disc of the frame, in shares of its sides."""

    name: str
    x: float
    y: float
    r: float


class ToneDemand(Region, Protocol):
    """A tone a good picture must have, in stops from mid."""

    low: float
    high: float


class SharpDemand(Region, Protocol):
    """What must be sharp, to so many pixels."""

    max_blur_px: float


class ColourDemand(Region, Protocol):
    """A neutral's cast, in mired, warm positive."""

    low_mired: float
    high_mired: float


class FreezeDemand(Protocol):
    """A mover that must be frozen."""

    mover: str
    max_blur_px: float


class StreakDemand(Protocol):
    """A mover that must draw a streak, as shares of the frame's height."""

    mover: str
    low: float
    high: float


class Acceptance(Protocol):
    """What a good picture must have; scenes that are known say it in their files."""

    bands_max: float | None
    stars_max_trail_px: float | None
    clipped_share_max: float

    @property
    def tones(self) -> Sequence[ToneDemand]:
        """Tones by region."""

    @property
    def sharp(self) -> Sequence[SharpDemand]:
        """Regions that must be sharp."""

    @property
    def colour(self) -> Sequence[ColourDemand]:
        """Neutrals that must be so warm or cool."""

    @property
    def freeze(self) -> Sequence[FreezeDemand]:
        """Movers that must be frozen."""

    @property
    def streak(self) -> Sequence[StreakDemand]:
        """Movers that must streak."""


@dataclass(frozen=True)
class Failing:
    """Something a take lacks: which demand, what it measured, and what was wanted."""

    demand: str
    words: str


@dataclass(frozen=True)
class JudgedTake:
    """A take to be judged: the scene as it was, the frame, and the seed it was taken with."""

    scene: Scene
    frame: Capture
    seed: int
    is_raw: bool = False

    @property
    def camera(self) -> Camera:
        """What it was taken through."""
        return self.frame.camera

    @property
    def settings(self) -> CaptureSettings:
        """What it was taken with."""
        return self.frame.settings


def failings(wanted: Acceptance, taken: JudgedTake) -> list[Failing]:
    """All that a take lacks; none for a good one."""
    picture = _linear(taken)
    return [
        *_tones(wanted, picture),
        *_clipping(wanted, taken),
        *_sharpness(wanted, taken),
        *_colour(wanted, taken),
        *_movers(wanted, taken),
        *_lamps(wanted, taken),
        *_stars(wanted, taken),
    ]


def region_stops(picture: NDArray[np.float32], region: Region) -> float:
    """Mean tone of a region of linear luminance, in stops from mid."""
    height, width = picture.shape
    spot = Spot(region.name, region.x, region.y, r=region.r)
    left, top, right, bottom = disc_box(spot, width, height)
    values = picture[top:bottom, left:right][disc_mask(spot, width, height)]
    return float(stops_from_mid(max(float(values.mean()), 1e-6)))


def _linear(taken: JudgedTake) -> NDArray[np.float32]:
    """Luminance of the picture, mid at 0.18: of the raw frame, or of the processed picture."""
    if taken.is_raw:
        colour = demosaiced(taken.frame.raw) * np.float32(0.18)
        return np.asarray(colour @ LUMA.astype(np.float32))
    codes = taken.frame.developed()
    return np.asarray(np.take(linear_table(255), codes) @ LUMA.astype(np.float32))


def _tones(wanted: Acceptance, picture: NDArray[np.float32]) -> Iterator[Failing]:
    for tone in wanted.tones:
        found = region_stops(picture, tone)
        if not tone.low <= found <= tone.high:
            words = f"{tone.name} at {found:+.1f}, wanted {tone.low:+.1f} to {tone.high:+.1f}"
            yield Failing("tone", words)


def _clipping(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    if taken.is_raw:
        frame = taken.frame.raw
        share = float((frame.mosaic >= 0.99 * frame.white_dn).mean())
    else:
        share = float((highest_channel(taken.frame.developed()) >= CLIPPED_CODE).mean())
    if share > wanted.clipped_share_max:
        yield Failing("clipping", f"{share:.1%} clipped, at most {wanted.clipped_share_max:.1%}")


def hand_px(taken: JudgedTake) -> float:
    """Extent (px) of the hand's own path in this take."""
    if taken.settings.support == "tripod":
        return 0.0
    usual = shake_blur_px(taken.camera, taken.settings)
    path = shake_path_px(usual, SeededRandom(taken.seed))
    return float(np.ptp(path, axis=0).max())


def _sharpness(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    """Blur as it is measured in the frame, against the scene itself."""
    if taken.settings.pan_with is not None or not wanted.sharp:
        return
    luminance = np.asarray(demosaiced(taken.frame.raw) @ LUMA.astype(np.float32))
    shake = hand_px(taken)
    for region in wanted.sharp:
        spot = Spot(region.name, region.x, region.y, r=max(region.r, SHARP_RADIUS))
        blur = measured_blur_px(luminance, taken.scene, spot, shake_px=shake)
        if blur > region.max_blur_px:
            cause = "focus" if blur > shake else "hand"
            yield Failing(cause, f"{region.name} {blur:.1f} px, at most {region.max_blur_px:g}")


def _colour(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    """The cast of neutrals in the processed picture."""
    if not wanted.colour:
        return
    linear = np.take(linear_table(255), taken.frame.developed())
    height, width = linear.shape[:2]
    for region in wanted.colour:
        spot = Spot(region.name, region.x, region.y, r=region.r)
        left, top, right, bottom = disc_box(spot, width, height)
        mean = linear[top:bottom, left:right].reshape(-1, 3).mean(axis=0, dtype=float)
        cast = patch_cast(np.maximum(mean, 1e-5), PICTURE_K).cast_mired
        if not region.low_mired <= cast <= region.high_mired:
            words = (
                f"{region.name} {cast:+.0f} mired, {region.low_mired:g} to {region.high_mired:g}"
            )
            yield Failing("colour", words)


def _mover(scene: Scene, name: str) -> SceneMover:
    return next(mover for mover in scene.movers if mover.name == name)


def _movers(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    shutter_s = taken.settings.shutter_s
    for freeze in wanted.freeze:
        length = speed_px_s(taken.scene, _mover(taken.scene, freeze.mover)) * shutter_s
        length *= PAN_LEAVES if taken.settings.pan_with == freeze.mover else 1.0
        blur = float(np.hypot(length, hand_px(taken)))
        if blur > freeze.max_blur_px:
            yield Failing("motion", f"{freeze.mover} {blur:.1f} px, at most {freeze.max_blur_px:g}")
    for streak in wanted.streak:
        mover = _mover(taken.scene, streak.mover)
        share = speed_px_s(taken.scene, mover) * shutter_s / taken.scene.height_px
        if not streak.low <= share <= streak.high:
            words = f"{streak.mover} {share:.2f} of the height, {streak.low:g} to {streak.high:g}"
            yield Failing("streak", words)


def _lamps(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    if wanted.bands_max is None:
        return
    for lamp in taken.scene.lamps:
        if lamp.pulse_hz is None:
            continue
        left = lamp.depth * abs(float(np.sinc(lamp.pulse_hz * taken.settings.shutter_s)))
        if left > wanted.bands_max:
            yield Failing("bands", f"{left:.0%} flicker, at most {wanted.bands_max:.0%}")


def _stars(wanted: Acceptance, taken: JudgedTake) -> Iterator[Failing]:
    if wanted.stars_max_trail_px is None:
        return
    trail = taken.scene.pixels_per_radian * SIDEREAL_RAD_S * taken.settings.shutter_s
    if trail > wanted.stars_max_trail_px:
        yield Failing("trails", f"stars {trail:.1f} px, at most {wanted.stars_max_trail_px:g}")
