"""Noise of a tone: signal in electrons, signal-to-noise ratio, usable range."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.units import Real, require_between, require_positive


@dataclass(frozen=True)
class Sensor:
    """What photon transfer measures of a sensor, per pixel as written to the file."""

    full_well_e: float
    base_iso: float
    headroom_raw_stops: float
    prnu_share: float


@dataclass(frozen=True)
class UsableRange:
    """Darkest tone with SNR 10 (stops from mid) and the stops from there up to clipping."""

    darkest_stops: float
    range_stops: float


def mid_signal_e(sensor: Sensor, iso: Real) -> Real:
    """Electrons a mid tone collects at an ISO: FW·(S0/S)·2^−h. [ISO12232]

    Takes a positive ISO; OutOfRange otherwise.

    >>> f"{mid_signal_e(Sensor(6000, 100, 3, 0.005), 1600):.2f}"
    '46.88'
    """
    require_positive("full_well", sensor.full_well_e, "e-")
    require_positive("base_iso", sensor.base_iso)
    require_positive("iso", iso)
    well_e = sensor.full_well_e * (sensor.base_iso / np.asarray(iso))
    signal_e: Real = well_e * np.exp2(-sensor.headroom_raw_stops)
    return signal_e


def snr(signal_e: Real, read_noise_e: Real, prnu_share: Real, *, frames: Real = 1) -> Real:
    """Signal-to-noise ratio per pixel of `frames` averaged frames. [EMVA1288]

    n / sqrt((n + r²)/M + (PRNU·n)²): shot and read noise average out, fixed pattern does not.
    Takes electrons (e⁻) and a share, none negative, and at least one frame.

    >>> f"{snr(750.0, 2.0, 0.005):.2f}"
    '27.06'
    """
    require_positive("signal", signal_e, "e-")
    require_positive("frames", frames)
    variance = (signal_e + np.square(read_noise_e)) / frames + np.square(prnu_share * signal_e)
    return signal_e / np.sqrt(variance)


def snr_at_output(snr_pixel: Real, pixels_in: Real, pixels_out: Real) -> Real:
    """SNR seen at an output of `pixels_out`: grows by sqrt(P_in/P_out) when that is fewer.

    A ratio of a ratio; pixel counts are positive. Derived: the mean of k pixels with
    independent noise is √k times as clean. [EMVA1288]

    >>> f"{snr_at_output(12.0, 12e6, 3e6):.0f}"
    '24'
    """
    require_positive("pixels_in", pixels_in)
    require_positive("pixels_out", pixels_out)
    return snr_pixel * np.sqrt(np.maximum(1.0, np.asarray(pixels_in) / pixels_out))


def signal_for_snr(target: Real, read_noise_e: Real, prnu_share: Real, *, frames: Real = 1) -> Real:
    """Electrons at which SNR reaches `target`; nan where fixed pattern keeps it out of reach.

    Positive root of n²(1 − T²·PRNU²) − n·T²/M − T²·r²/M = 0. Takes positive electrons (e⁻) and at
    least one frame. [EMVA1288]

    >>> f"{signal_for_snr(10.0, 2.0, 0.005):.1f}"
    '104.1'
    """
    t2 = np.square(target)
    a = 1 - t2 * np.square(prnu_share)
    b = t2 / frames
    root = (b + np.sqrt(np.square(b) + 4 * np.maximum(a, 0) * b * np.square(read_noise_e))) / 2
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(np.asarray(a) > 0, root / np.where(np.asarray(a) > 0, a, 1), np.nan)[()]


def signal_needed_e(
    target: float, read_noise_e: float, prnu_share: float, *, frames: int = 1
) -> float | None:
    """As `signal_for_snr` for one number, without arrays; None where it is out of reach.

    In electrons (e⁻), for a positive SNR. [EMVA1288]

    >>> f"{signal_needed_e(10.0, 2.0, 0.005):.1f}"
    '104.1'
    """
    a = 1 - (target * prnu_share) ** 2
    if a <= 0:
        return None
    b = target**2 / frames
    return (b + math.sqrt(b * b + 4 * a * b * read_noise_e**2)) / (2 * a)


def darkest_usable_stops(
    sensor: Sensor,
    *,
    iso: Real,
    read_noise_e: Real,
    frames: Real = 1,
    output_gain: Real = 1.0,
    criterion: float = SNR_ACCEPTABLE,
) -> Real:
    """Stops from mid of the darkest tone that still has SNR `criterion` at the output. [ISO12232]

    `output_gain` is sqrt(P_in/P_out), at least 1. nan when no tone reaches the criterion. ISO and
    read noise (e⁻) are positive.

    >>> sensor = Sensor(6000, 100, 3, 0.005)
    >>> f"{darkest_usable_stops(sensor, iso=100.0, read_noise_e=2.0):.1f}"
    '-2.8'
    """
    signal = signal_for_snr(criterion / output_gain, read_noise_e, sensor.prnu_share, frames=frames)
    return np.log2(signal / mid_signal_e(sensor, iso))


def usable_range(
    sensor: Sensor,
    *,
    iso: float,
    read_noise_e: float,
    frames: int = 1,
    pixels_in: float,
    pixels_out: float,
) -> UsableRange | None:
    """Usable range at an ISO, from the tone with SNR 10 up to clipping. [ISO12232]

    None when fixed-pattern noise keeps every tone under the criterion.
    """
    require_between("headroom", sensor.headroom_raw_stops, low=0, high=20, unit="stops")
    gain = float(snr_at_output(1.0, pixels_in, pixels_out))
    darkest = float(
        darkest_usable_stops(
            sensor, iso=iso, read_noise_e=read_noise_e, frames=frames, output_gain=gain
        )
    )
    if np.isnan(darkest):
        return None
    return UsableRange(darkest, sensor.headroom_raw_stops - darkest)
