"""What a pixel collects at night, and how clean that is once frames are averaged."""

from __future__ import annotations

import math

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.light.exposure import ev100
from oxlen.core.sensor.noise import mid_signal_e, snr, snr_at_output

MOST = 500
"""More frames nobody shoots."""


def collected_e(lens: Lens, mode: Mode, ev100_of: float, *, shutter_s: float) -> float:
    """Electrons a pixel collects of something of an EV100; the ISO changes nothing of it."""
    base = mode.sensor.base_iso
    lands = ev100_of - float(ev100(lens.f_number, shutter_s, base))
    return float(float(mid_signal_e(mode.sensor, base)) * 2.0**lands)


def snr_seen(
    mode: Mode, pixels_out: float, signal_e: float, *, read_noise_e: float, frames: int
) -> float:
    """SNR of what gives a pixel so many electrons a frame, at the size it is seen at."""
    a_pixel = snr(signal_e, read_noise_e, mode.sensor.prnu_share, frames=frames)
    return float(snr_at_output(float(a_pixel), mode.megapixels * 1e6, pixels_out))


def frames_for(
    mode: Mode, pixels_out: float, wanted_snr: float, *, signal_e: float, read_noise_e: float
) -> int:
    """How many frames an SNR takes, 1 to 500; the most where none would do."""
    a_pixel = wanted_snr / float(snr_at_output(1.0, mode.megapixels * 1e6, pixels_out))
    left = (signal_e / a_pixel) ** 2 - (mode.sensor.prnu_share * signal_e) ** 2
    if left <= 0:
        return MOST
    return min(MOST, max(1, math.ceil((signal_e + read_noise_e**2) / left)))
