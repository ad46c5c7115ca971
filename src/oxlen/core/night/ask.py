"""What a picture of the night sky is to be, and how long its rule allows the shutter to be open."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.kit.uses import use_of
from oxlen.core.sky.foreground import GRASS_SHARE
from oxlen.core.sky.frame_trails import corner_trail_px
from oxlen.core.sky.trailing import exact_trail_time_s, npf_time_s, rule_500_s
from oxlen.core.units import require_between

NightRule = Literal["npf", "500", "pixels"]
_SCREEN = use_of("screen")
PIXELS_OUT = float(_SCREEN.width_px * _SCREEN.height_px)
"""A large screen, the size that a sheet is judged at where nothing else is asked."""


@dataclass(frozen=True)
class NightAsk:
    """What a picture of the night sky is to be.

    `sky_magnitude` is the sky's brightness (mag/arcsec²), `declination_deg` of the frame's middle;
    trails by a rule, or in pixels, corners counted too. The sky between stars is to land
    `sky_place_stops` from mid, with an SNR at the size it is seen at. `window_s` is the dark there
    is for it, None where that is not known. Trails on purpose are to turn by `arc_deg`.
    A foreground that is lit, or shot by itself, is to be `land_stops` lighter than the sky; it
    reflects the share `land_reflects` of its light.
    """

    sky_magnitude: float = 21.0
    declination_deg: float = 0.0
    rule: NightRule = "npf"
    trail_px: float = 4.0
    sky_place_stops: float = -3.0
    snr: float = 20.0
    pixels_out: float = PIXELS_OUT
    window_s: float | None = None
    arc_deg: float = 15.0
    gap_s: float | None = None
    land_stops: float = 0.0
    land_reflects: float = GRASS_SHARE

    def __post_init__(self) -> None:
        require_between("sky_magnitude", self.sky_magnitude, low=10, high=24, unit="mag/arcsec²")
        require_between("declination_deg", self.declination_deg, low=-89, high=89, unit="°")
        require_between("trail_px", self.trail_px, low=0.2, high=1000, unit="px")
        require_between("snr", self.snr, low=0.5, high=200)
        require_between("arc_deg", self.arc_deg, low=0.5, high=180, unit="°")
        require_between("land_stops", self.land_stops, low=-4, high=6, unit="stops")
        require_between("land_reflects", self.land_reflects, low=0.01, high=1)


def longest_s(lens: Lens, mode: Mode, asked: NightAsk) -> float:
    """The longest shutter (s) by the rule asked for; in pixels it holds for the corners too."""
    dec = asked.declination_deg
    if asked.rule == "500":
        return float(rule_500_s(lens.focal35_mm))
    if asked.rule == "npf":
        return float(
            npf_time_s(lens.f_number, lens.focal_mm, mode.pixel_pitch_um, declination_deg=dec)
        )
    a_second = corner_trail_px(lens, mode, 1.0, axis_dec_deg=dec)
    centre_s = exact_trail_time_s(
        lens.focal_mm, mode.pixel_pitch_um, asked.trail_px, declination_deg=dec
    )
    return min(float(centre_s), asked.trail_px / a_second)
