"""A picture already taken, exposed anew: what other settings would have made of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray

from oxlen.core.light.linear_picture import LinearPicture
from oxlen.core.light.tone import LUMA
from oxlen.core.sensor.noise import mid_signal_e, snr
from oxlen.core.simulate.exposing import Camera, CaptureSettings
from oxlen.core.simulate.randomness import RandomSource
from oxlen.core.simulate.readout import RawFrame, read_out
from oxlen.core.simulate.scene import Floats

NOISY_SNR = 10.0


@dataclass(frozen=True)
class Source:
    """A picture as light: linear colours in multiples of its own mid, and what it cannot tell.

    `lost` marks pixels that were clipped, `noisy` those whose light was under its noise. White
    balance is already in the colours of a source that `is_balanced`.
    """

    colour: Floats
    ev100_set: float
    lost: NDArray[np.bool_]
    noisy: NDArray[np.bool_]
    is_balanced: bool = True


def source_of(
    light: LinearPicture, ev100_set: float, camera: Camera | None = None, *, iso: float = 100.0
) -> Source:
    """A source from a picture's light, h and w even, and the exposure it was made with."""
    noisy = np.zeros(light.lost.shape, dtype=bool)
    if camera is not None:
        mode = camera.mode
        level = np.maximum(light.colour @ LUMA.astype(np.float32), 1e-6)
        signal = float(mid_signal_e(mode.sensor, iso)) * level
        read = float(mode.read_noise_at(float(iso)))
        noisy = np.asarray(snr(signal, read, mode.sensor.prnu_share) < NOISY_SNR)
    return Source(light.colour, ev100_set, light.lost, noisy=noisy, is_balanced=light.is_balanced)


def coarser(source: Source, step: int) -> Source:
    """The source with one row and column for every `step`, for a quick look; sides stay even."""
    height, width = (max(2, size // (2 * step) * 2) for size in source.lost.shape)

    def small(values: NDArray[Any]) -> Floats:
        shrunk = cv2.resize(
            values.astype(np.float32), (width, height), interpolation=cv2.INTER_AREA
        )
        return np.asarray(shrunk, dtype=np.float32)

    return replace(
        source,
        colour=small(source.colour),
        lost=small(source.lost) > 0.5,
        noisy=small(source.noisy) > 0.5,
    )


def re_exposed(
    source: Source, camera: Camera, settings: CaptureSettings, *, random: RandomSource
) -> RawFrame:
    """The raw frame other settings would have made of a source; its own noise stays in it."""
    stops = source.ev100_set - settings.ev100_set(camera.lens.f_number)
    gathered = source.colour * np.float32(2.0**stops)
    even = np.ones(gathered.shape[:2], dtype=np.float32)
    return read_out(gathered, camera.mode, settings.iso, falloff=even, random=random)
