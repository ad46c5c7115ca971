"""A phone as a person would describe it: how wide it sees, what it is good for, what to measure."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from oxlen.core.constants import SNR_ACCEPTABLE
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.labels import time_label
from oxlen.core.light.exposure import ev100
from oxlen.core.sensor.noise import mid_signal_e, snr, snr_at_output, usable_range
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.views.worth_measuring import WorthMeasuring, worth_measuring

SCREEN_PX = 8.3e6
"""Pixels of the large screen that a phone's pictures are judged on here."""
LIGHT_NAMES = (
    (-6.0, "starlight"),
    (-2.0, "a full moon"),
    (1.0, "a lane with a far lamp"),
    (4.0, "a street by lantern"),
    (7.0, "a lit room"),
    (10.0, "a window in the room"),
    (20.0, "daylight"),
)


@dataclass(frozen=True)
class LensPortrait:
    """A lens: the angle it sees (degrees), and what it is good for, in words and figures."""

    lens: str
    mode: str
    name: str
    hfov_deg: float
    vfov_deg: float
    longest_hand_s: float
    longest_hand: str
    darkest_ev100: float
    darkest: str
    range_stops: float | None


@dataclass(frozen=True)
class PhonePortrait:
    """A phone's lenses, widest first, and the measurements that would sharpen it most."""

    lenses: list[LensPortrait]
    measure: list[WorthMeasuring]


def portrait(profile: PhoneProfile) -> PhonePortrait:
    """How a phone is described."""
    lenses = [lens_portrait(lens, lens.modes[0]) for lens in profile.to_phone().lenses]
    ordered = sorted(lenses, key=lambda view: -view.hfov_deg)
    return PhonePortrait(ordered, worth_measuring(profile))


def lens_portrait(lens: Lens, mode: Mode) -> LensPortrait:
    """What a lens in a mode is good for."""
    width_mm, height_mm = mode.sensor_mm
    hand_s = float(hand_limit_s(lens.focal35_mm, lens.stabiliser_stops))
    darkest = darkest_ev100(lens, mode, hand_s)
    found = usable_range(
        mode.sensor,
        iso=mode.manual.iso[0],
        read_noise_e=float(mode.read_noise_at(float(mode.manual.iso[0]))),
        pixels_in=mode.width_px * mode.height_px,
        pixels_out=SCREEN_PX,
    )
    return LensPortrait(
        lens.id,
        mode.id,
        lens.name,
        hfov_deg=_angle(width_mm, lens.focal_mm),
        vfov_deg=_angle(height_mm, lens.focal_mm),
        longest_hand_s=hand_s,
        longest_hand=time_label(hand_s),
        darkest_ev100=darkest,
        darkest=next(words for level, words in LIGHT_NAMES if darkest <= level or level >= 20),
        range_stops=None if found is None else found.range_stops,
    )


def darkest_ev100(lens: Lens, mode: Mode, shutter_s: float) -> float:
    """EV100 of the darkest scene held still with a mid tone of SNR 10 on a large screen."""
    return float(ev100(lens.f_number, shutter_s, highest_clean_iso(mode)))


def highest_clean_iso(mode: Mode) -> float:
    """The highest ISO by hand whose mid tone has SNR 10 on a large screen; else the lowest."""
    isos = np.asarray(mode.manual.iso, dtype=float)
    clean = [iso for iso in isos if screen_snr(mode, float(iso)) >= SNR_ACCEPTABLE]
    return float(clean[-1] if clean else isos[0])


def screen_snr(mode: Mode, iso: float) -> float:
    """SNR of a mid tone on a large screen."""
    signal = float(mid_signal_e(mode.sensor, iso))
    pixel = float(snr(signal, float(mode.read_noise_at(iso)), mode.sensor.prnu_share))
    return float(snr_at_output(pixel, mode.width_px * mode.height_px, SCREEN_PX))


def _angle(side_mm: float, focal_mm: float) -> float:
    return float(np.degrees(2 * np.arctan(side_mm / 2 / focal_mm)))
