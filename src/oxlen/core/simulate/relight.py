"""A picture already taken, exposed anew: what other settings would have made of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import CLIPPED_CODE, MID_LINEAR
from oxlen.core.light.tone import LUMA, highest_channel, linear_table
from oxlen.core.sensor.noise import mid_signal_e, snr
from oxlen.core.simulate.exposing import Camera, Settings
from oxlen.core.simulate.luck import Luck
from oxlen.core.simulate.readout import RawFrame, read_out
from oxlen.core.simulate.scene import Floats

NOISY_SNR = 10.0


@dataclass(frozen=True)
class Source:
    """A picture as light: linear colours in multiples of its own mid, and what it cannot tell.

    `lost` marks pixels that were clipped, `noisy` those whose light was under its noise.
    """

    colour: Floats
    ev100_set: float
    lost: NDArray[np.bool_]
    noisy: NDArray[np.bool_]


def source_of(
    codes: NDArray[np.uint8], ev100_set: float, camera: Camera | None = None, iso: float = 100.0
) -> Source:
    """A source from sRGB codes (h, w, 3), h and w even, and the exposure it was made with."""
    linear = np.take(linear_table(255), codes)
    lost = highest_channel(codes) >= CLIPPED_CODE
    noisy = np.zeros(lost.shape, dtype=bool)
    if camera is not None:
        mode = camera.mode
        level = np.maximum(linear @ LUMA.astype(np.float32), 1e-6) / MID_LINEAR
        signal = float(mid_signal_e(mode.sensor, iso)) * level
        read = float(mode.read_noise_at(float(iso)))
        noisy = np.asarray(snr(signal, read, mode.sensor.prnu_share) < NOISY_SNR)
    return Source(np.asarray(linear / np.float32(MID_LINEAR)), ev100_set, lost, noisy)


def re_exposed(source: Source, camera: Camera, settings: Settings, luck: Luck) -> RawFrame:
    """The raw frame other settings would have made of a source; its own noise stays in it."""
    stops = source.ev100_set - settings.ev100_set(camera.lens.f_number)
    gathered = source.colour * np.float32(2.0**stops)
    even = np.ones(gathered.shape[:2], dtype=np.float32)
    return read_out(gathered, camera.mode, settings.iso, falloff=even, luck=luck)
