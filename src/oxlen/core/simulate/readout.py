"""From light to numbers: photons, wells, read noise, gain, and the mosaic of a raw file."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oxlen.core.kit.phone import Mode
from oxlen.core.sensor.noise import mid_signal_e
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.scene import Floats

BLACK_DN, WHITE_DN = 256, 16380
MOSAIC_TILE: tuple[tuple[int, int, int], ...] = ((0, 0, 0), (0, 1, 1), (1, 0, 1), (1, 1, 2))
"""Row, column and channel (0 R, 1 G, 2 B) of the mosaic's tile."""
# The bench phone's sensor sees linear sRGB with gains that make its green the strongest channel, as
# on real sensors.
CHANNEL_GAIN = np.array([0.52, 1.0, 0.64])
FIXED_PATTERN_SEED = 20_261


@dataclass(frozen=True)
class RawFrame:
    """A raw mosaic in DN with its levels; `mid_share` is where mid is between black and white."""

    mosaic: NDArray[np.uint16]
    black_dn: int
    white_dn: int
    mid_share: float

    @property
    def baseline_exposure_stops(self) -> float:
        """BaselineExposure of a DNG of it: mid at 0.18·2^−BE of white. [DNG1.7]"""
        return float(np.log2(0.18 / self.mid_share))


def mid_share_at(mode: Mode, iso: float) -> float:
    """Where mid is between black and white; below base ISO the well clips first. [ISO12232]"""
    return float(2.0**-mode.sensor.headroom_raw_stops * max(1.0, mode.sensor.base_iso / iso))


def read_out(
    gathered: Floats, mode: Mode, iso: float, *, falloff: Floats, random: RandomSource
) -> RawFrame:
    """A raw frame of light in multiples of mid, shape (h, w, 3); h and w even. [EMVA1288]

    Shot noise on the light through the lens, fixed pattern, the well's end, read noise, then the
    falloff made good in the numbers, as phones do in their raw files, and whole DN.
    """
    mid_e = float(mid_signal_e(mode.sensor, iso))
    electrons = _mosaiced(gathered, mid_e)
    electrons *= falloff
    read = float(mode.read_noise_at(float(iso)))
    spread = np.maximum(electrons, np.float32(0))
    spread += np.float32(read**2)
    np.sqrt(spread, out=spread)
    spread *= random.normals(electrons.shape)
    electrons *= fixed_pattern(electrons.shape, mode.sensor.prnu_share)
    electrons += spread
    full = mode.sensor.full_well_e * min(1.0, mode.sensor.base_iso / iso)
    share = mid_share_at(mode, iso)
    np.minimum(electrons, np.float32(full), out=electrons)
    electrons /= falloff
    electrons *= np.float32((WHITE_DN - BLACK_DN) * share / mid_e)
    electrons += np.float32(BLACK_DN + 0.5)
    np.clip(electrons, 0, np.float32(WHITE_DN), out=electrons)
    return RawFrame(electrons.astype(np.uint16), BLACK_DN, WHITE_DN, mid_share=share)


def gain_dn_per_e(mode: Mode, iso: float) -> float:
    """DN an electron is worth at an ISO, before the falloff is made good."""
    share = mid_share_at(mode, iso)
    return (WHITE_DN - BLACK_DN) * share / float(mid_signal_e(mode.sensor, iso))


@lru_cache(maxsize=2)
def fixed_pattern(shape: tuple[int, ...], prnu_share: float) -> Floats:
    """How each pixel of a sensor differs from its neighbours: always the same, and read-only."""
    draw = np.random.default_rng(FIXED_PATTERN_SEED)
    pattern = 1 + np.float32(prnu_share) * draw.standard_normal(shape, np.float32)
    pattern.setflags(write=False)
    return pattern


def _mosaiced(gathered: Floats, scale: float) -> Floats:
    """One channel at each site, through the sensor's own colour response."""
    signal = np.empty(gathered.shape[:2], dtype=np.float32)
    for row, column, channel in MOSAIC_TILE:
        gain = np.float32(CHANNEL_GAIN[channel] * scale)
        np.multiply(gathered[row::2, column::2, channel], gain, out=signal[row::2, column::2])
    return signal
