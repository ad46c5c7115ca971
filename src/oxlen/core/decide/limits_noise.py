"""Limits of noise: the highest ISO at which a tone is still clean enough where it will be seen."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.decide.brief import Brief
from oxlen.core.decide.limits import Limit, Situation
from oxlen.core.sensor.noise import mid_signal_e, signal_needed_e, snr

CEILING_ROUNDS = 30
NO_ISO = 1e-6
"""Stands for a ceiling where no ISO is low enough."""
CEILING_SAME = 1e-7


def output_gain(brief: Brief) -> float:
    """How much SNR grows by shrinking the file to the output, at least 1: see `snr_at_output`."""
    mode = brief.mode
    return math.sqrt(max(1.0, mode.width_px * mode.height_px / brief.output.pixels))


def tone_snr(
    brief: Brief, iso: NDArray[np.float64], stops: NDArray[np.float64] | float
) -> NDArray[np.float64]:
    """SNR at the output of a tone so many stops from mid at each ISO; at most that of clipping."""
    mode = brief.mode
    tone = np.minimum(stops, mode.sensor.headroom_raw_stops)
    signal = mid_signal_e(mode.sensor, iso) * np.exp2(tone)
    per_pixel = snr(signal, mode.read_noise_at(iso), mode.sensor.prnu_share, brief.frames.count)
    return np.asarray(per_pixel * output_gain(brief), dtype=float)


def iso_ceiling(brief: Brief, stops_from_mid: float, snr_floor: float) -> float:
    """Highest ISO at which a tone still reaches an SNR at the output; may lie off the ladder.

    The signal needed depends on the read noise, and that on the ISO found, so it is worked in
    rounds; `NO_ISO` when fixed pattern keeps the SNR out of reach at any ISO.
    """
    mode, sensor = brief.mode, brief.mode.sensor
    tone = min(stops_from_mid, sensor.headroom_raw_stops)
    signal_at_iso_1 = float(mid_signal_e(sensor, 1.0)) * 2.0**tone
    per_pixel = snr_floor / output_gain(brief)
    iso = float(sensor.base_iso)
    for _ in range(CEILING_ROUNDS):
        read_noise = float(mode.read_noise_at(iso))
        needed = signal_needed_e(per_pixel, read_noise, sensor.prnu_share, brief.frames.count)
        if needed is None:
            return NO_ISO
        last, iso = iso, signal_at_iso_1 / needed
        if abs(iso - last) <= CEILING_SAME * iso:
            break
    return iso


def subject_tone_stops(situation: Situation) -> float | None:
    """Where the darkest subject lands at the wanted exposure; None when it is meant as a shape."""
    if situation.brief.school.exposure == "silhouette":
        return None
    subjects = [r.ev100 for r in situation.brief.readings if r.role in ("subject", "neutral")]
    return min(subjects) - situation.aim.ev100 if subjects else 0.0


def darkest_tone_stops(situation: Situation) -> float | None:
    """Where the darkest detail to keep lands at the wanted exposure; None without one."""
    dark = [r.ev100 for r in situation.brief.readings if r.role == "keep-dark"]
    return min(dark) - situation.aim.ev100 if dark else None


def noise_limits(situation: Situation) -> Iterable[Limit]:
    """ISO ceilings of the subject and of the darkest detail to keep. [ISO12232]

    The subject is held to the SNR asked for; the darkest detail to no more than *acceptable*.
    """
    floor = situation.brief.output.snr_floor
    if floor is None:
        return
    subject, darkest = subject_tone_stops(situation), darkest_tone_stops(situation)
    if subject is not None:
        yield _ceiling(situation.brief, "noise", "the subject", subject, floor)
    if darkest is not None:
        lower = min(floor, SNR_ACCEPTABLE)
        yield _ceiling(situation.brief, "noise_dark", "the darkest detail", darkest, lower)


def _ceiling(brief: Brief, limit_id: str, what: str, stops: float, floor: float) -> Limit:
    ceiling = iso_ceiling(brief, stops, floor)
    sensor = brief.mode.sensor
    output = brief.output
    name = "clean subject" if limit_id == "noise" else "clean darks"
    return Limit(
        limit_id,
        "iso",
        None,
        ceiling,
        name,
        f"{what[0].upper()}{what[1:]} keeps SNR {floor:g} at {output.width_px:g} × "
        f"{output.height_px:g} {_iso_words(ceiling)}",
        "ISO 12232 noise criteria",
        computation="snr_mid_and_tone",
        inputs={
            "full_well": sensor.full_well_e,
            "base_iso": sensor.base_iso,
            "iso": ceiling,
            "headroom": sensor.headroom_raw_stops,
            "read_noise": float(brief.mode.read_noise_at(ceiling)),
            "prnu": sensor.prnu_share,
            "k": min(stops, sensor.headroom_raw_stops),
            "M": brief.frames.count,
        },
    )


def _iso_words(iso: float) -> str:
    if iso <= NO_ISO:
        return "at no ISO: the sensor's fixed pattern alone is more"
    return f"up to ISO {iso:.2g}" if iso < 100 else f"up to ISO {round(iso, -1):g}"
