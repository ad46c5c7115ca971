"""How clean a tone is at an ISO, and the highest ISO at which it is clean enough."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from oxlen.core.decisions.exposure.ask import (
    OUTPUT,
    STRATEGY,
)
from oxlen.core.decisions.framework.brief import KEEP_DARK, NEUTRAL, SUBJECT, Brief
from oxlen.core.decisions.sequence.ask import frames_averaged
from oxlen.core.decisions.solver.kept import (
    kept_readings,
)
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.tones import is_backdrop
from oxlen.core.sensor.noise import mid_signal_e, signal_needed_e, snr

CEILING_ROUNDS = 30
NO_ISO = 1e-6
"""In place of a ceiling where no ISO is low enough."""
CEILING_SAME = 1e-7


def output_gain(brief: Brief) -> float:
    """How much SNR grows by shrinking the file to the output, at least 1: see `snr_at_output`."""
    mode = brief.mode
    return math.sqrt(max(1.0, mode.width_px * mode.height_px / brief[OUTPUT].pixels))


def tone_snr(
    brief: Brief, iso: NDArray[np.float64], stops: NDArray[np.float64] | float
) -> NDArray[np.float64]:
    """SNR at the output of a tone so many stops from mid at each ISO; at most that of clipping."""
    mode = brief.mode
    tone = np.minimum(stops, mode.sensor.headroom_raw_stops)
    signal = mid_signal_e(mode.sensor, iso) * np.exp2(tone)
    per_pixel = snr(
        signal, mode.read_noise_at(iso), mode.sensor.prnu_share, frames=frames_averaged(brief)
    )
    return np.asarray(per_pixel * output_gain(brief), dtype=float)


def iso_ceiling(brief: Brief, stops_from_mid: float, snr_floor: float) -> float:
    """Highest ISO at which a tone still reaches an SNR at the output; may be off the ladder.

    The signal needed depends on the read noise, and that on the ISO found, so it is worked in
    rounds; `NO_ISO` when fixed pattern keeps the SNR out of reach at any ISO.
    """
    mode, sensor = brief.mode, brief.mode.sensor
    tone = min(stops_from_mid, sensor.headroom_raw_stops)
    signal_at_iso_1 = float(mid_signal_e(sensor, 1.0)) * 2.0**tone
    per_pixel, frames = snr_floor / output_gain(brief), frames_averaged(brief)
    iso = float(sensor.base_iso)
    for _ in range(CEILING_ROUNDS):
        read_noise = float(mode.read_noise_at(iso))
        needed = signal_needed_e(per_pixel, read_noise, sensor.prnu_share, frames=frames)
        if needed is None:
            return NO_ISO
        last, iso = iso, signal_at_iso_1 / needed
        if abs(iso - last) <= CEILING_SAME * iso:
            break
    return iso


def subject_tone_stops(problem: ExposureProblem) -> float | None:
    """Where the darkest subject lands at the wanted exposure; None when it is meant as a shape."""
    if problem.brief[STRATEGY].exposure == "silhouette":
        return None
    brief = problem.brief
    subjects = [
        reading.ev100
        for reading in kept_readings(brief)
        if reading.role in (SUBJECT, NEUTRAL) and not is_backdrop(brief, reading)
    ]
    return min(subjects) - problem.aim.ev100 if subjects else 0.0


def judged_tone_stops(problem: ExposureProblem) -> float:
    """Where what a picture's noise is judged by lands: the darkest subject, without one the darkest
    detail to keep, without either mid. A shape without detail is judged at mid.
    """
    subject, darkest = subject_tone_stops(problem), darkest_tone_stops(problem)
    if subject is None:
        return 0.0
    has_subject = any(
        reading.role in (SUBJECT, NEUTRAL) for reading in kept_readings(problem.brief)
    )
    return subject if has_subject or darkest is None else darkest


def darkest_tone_stops(problem: ExposureProblem) -> float | None:
    """Where the darkest detail to keep lands at the wanted exposure; None without one.

    The background of a drawing is meant to be black, and keeps nothing.
    """
    brief = problem.brief
    dark = [
        reading.ev100
        for reading in kept_readings(brief)
        if reading.role == KEEP_DARK and not is_backdrop(brief, reading)
    ]
    return min(dark) - problem.aim.ev100 if dark else None
