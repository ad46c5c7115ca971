"""From light to numbers: photons, wells, read noise, gain, and the mosaic of a raw file."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.kit.phone import Mode
from oxlen.core.sensor.noise import mid_signal_e
from oxlen.core.simulate.scene import Floats

BLACK_DN, WHITE_DN = 256, 16380
PATTERN: tuple[tuple[int, int, int], ...] = ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2))
"""Row, column and channel (0 R, 1 G, 2 B) of the mosaic's tile."""
# XYZ to the bench phone's sensor: sRGB's own matrix (IEC 61966-2-1) with gains that make its green
# the strongest channel, as on real sensors.
XYZ_TO_SRGB = np.array(
    [[3.2406, -1.5372, -0.4986], [-0.9689, 1.8758, 0.0415], [0.0557, -0.2040, 1.0570]]
)
CHANNEL_GAIN = np.array([0.52, 1.0, 0.64])
FIXED_PATTERN_SEED = 20_261


@dataclass(frozen=True)
class RawFrame:
    """A raw mosaic in DN with its levels; `mid_share` is where mid lies between black and white."""

    mosaic: NDArray[np.uint16]
    black_dn: int
    white_dn: int
    mid_share: float

    @property
    def baseline_exposure_stops(self) -> float:
        """BaselineExposure of a DNG of it: mid at 0.18·2^−BE of white. [DNG1.7]"""
        return float(np.log2(0.18 / self.mid_share))


def mid_share_at(mode: Mode, iso: float) -> float:
    """Where mid lies between black and white; below base ISO the well clips first. [ISO12232]"""
    return float(2.0**-mode.sensor.headroom_raw_stops * max(1.0, mode.sensor.base_iso / iso))


def read_out(
    gathered: Floats, mode: Mode, iso: float, *, falloff: Floats, generator: np.random.Generator
) -> RawFrame:
    """A raw frame of light in multiples of mid, shape (h, w, 3); h and w even. [EMVA1288]

    Shot noise on what the lens let through, fixed pattern, the well's end, read noise, then the
    falloff made good in the numbers, as phones do in their raw files, and whole DN.
    """
    mid_e = float(mid_signal_e(mode.sensor, iso))
    signal = _mosaiced(gathered) * falloff
    electrons = signal * np.float32(mid_e)
    pattern = fixed_pattern(electrons.shape, mode.sensor.prnu_share)
    read = np.float32(mode.read_noise_at(float(iso)))
    spread = np.sqrt(np.maximum(electrons, 0) + read**2, dtype=np.float32)
    electrons = electrons * pattern
    electrons += spread * generator.standard_normal(electrons.shape, dtype=np.float32)
    full = np.float32(mode.sensor.full_well_e * min(1.0, mode.sensor.base_iso / iso))
    share = mid_share_at(mode, iso)
    to_dn = np.float32((WHITE_DN - BLACK_DN) * share / mid_e)
    np.minimum(electrons, full, out=electrons)
    levels = electrons / falloff * to_dn + np.float32(BLACK_DN)
    mosaic = np.clip(np.rint(levels), 0, WHITE_DN).astype(np.uint16)
    return RawFrame(mosaic, BLACK_DN, WHITE_DN, share)


def gain_dn_per_e(mode: Mode, iso: float) -> float:
    """DN an electron is worth at an ISO, before the falloff is made good."""
    share = mid_share_at(mode, iso)
    return (WHITE_DN - BLACK_DN) * share / float(mid_signal_e(mode.sensor, iso))


def fixed_pattern(shape: tuple[int, ...], prnu_share: float) -> Floats:
    """How each pixel of this sensor differs from its neighbours: always the same."""
    key = (shape, round(prnu_share, 9))
    if key not in _PATTERNS:
        draw = np.random.default_rng(FIXED_PATTERN_SEED)
        _PATTERNS.clear()
        _PATTERNS[key] = 1 + np.float32(prnu_share) * draw.standard_normal(shape, np.float32)
    return _PATTERNS[key]


_PATTERNS: dict[tuple[tuple[int, ...], float], Floats] = {}


def _mosaiced(gathered: Floats) -> Floats:
    """One channel at each site, through the sensor's own colour response."""
    height, width = gathered.shape[:2]
    signal = np.empty((height, width), dtype=np.float32)
    for row, column, channel in PATTERN:
        gain = np.float32(CHANNEL_GAIN[channel])
        signal[row::2, column::2] = gathered[row::2, column::2, channel] * gain
    return signal
