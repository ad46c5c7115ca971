"""Two phones or lenses on the same scene, side by side, each line with the better one named."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from oxlen.core.focus.depth import default_circle_mm, depth_of_field
from oxlen.core.focus.optics import Optics
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.labels import ev_label, stops_label
from oxlen.views.phone_portrait import lens_portrait, screen_snr

SUBJECT_M = 1.0
"""Height of what is pictured: a seated person."""


@dataclass(frozen=True)
class ComparedLine:
    """One quality of both, in words; which is better, None where neither is."""

    name: str
    first: str
    second: str
    better: Literal["first", "second"] | None


def compared(
    first: tuple[Lens, Mode], second: tuple[Lens, Mode], *, scene_ev100: float, distance_m: float
) -> list[ComparedLine]:
    """Both lenses on a scene of that light (EV100), handheld, its subject so far away (m)."""
    a, b = (
        _qualities(lens, mode, scene_ev100=scene_ev100, distance_m=distance_m)
        for lens, mode in (first, second)
    )
    return [
        ComparedLine(name, words, b[name][0], better=_better(value, b[name][1], higher))
        for name, (words, value, higher) in a.items()
    ]


Quality = tuple[str, float, bool | None]


def _qualities(
    lens: Lens, mode: Mode, *, scene_ev100: float, distance_m: float
) -> dict[str, Quality]:
    """Each quality's words, its value, and whether more is better; None: a matter of taste."""
    seen = lens_portrait(lens, mode)
    hand_s = float(hand_limit_s(lens.focal35_mm, lens.stabiliser_stops))
    iso = _iso_needed(lens, mode, scene_ev100=scene_ev100, shutter_s=hand_s)
    clean = screen_snr(mode, iso)
    on_subject = _pixels_on(lens, mode, distance_m)
    optics = Optics(lens.focal_mm, lens.f_number)
    depth = depth_of_field(optics, default_circle_mm(*mode.sensor_mm), distance_m)
    near_m, far_m = depth.near_m, depth.far_m
    deep = "to infinity" if math.isinf(far_m) else f"to {far_m:.3g} m"
    return {
        "Angle of view": (f"{seen.hfov_deg:.0f}°", seen.hfov_deg, None),
        "Handheld to": (seen.longest_hand, hand_s, True),
        "ISO needed here": (f"{iso:.0f}", iso, False),
        "Noise, SNR": (f"{clean:.0f}", clean, True),
        "Darkest handheld": (ev_label(seen.darkest_ev100), seen.darkest_ev100, False),
        "Range": (
            "none clean" if seen.range_stops is None else stops_label(seen.range_stops),
            seen.range_stops or 0.0,
            True,
        ),
        "Pixels on a seated person": (f"{on_subject:.0f}", on_subject, True),
        "Sharp from": (f"{near_m:.3g} m {deep}", -near_m, True),
    }


def _iso_needed(lens: Lens, mode: Mode, *, scene_ev100: float, shutter_s: float) -> float:
    """The ISO that a mid tone takes at a shutter, within what the phone offers."""
    wanted = 100 * lens.f_number**2 / shutter_s / 2.0**scene_ev100
    return float(min(max(wanted, mode.manual.iso[0]), mode.manual.iso[-1]))


def _pixels_on(lens: Lens, mode: Mode, distance_m: float) -> float:
    height_mm = lens.focal_mm * SUBJECT_M / distance_m
    return min(1000 * height_mm / mode.pixel_pitch_um, float(mode.height_px))


def _better(a: float, b: float, more_is_better: bool | None) -> Literal["first", "second"] | None:
    if more_is_better is None or math.isclose(a, b, rel_tol=0.02):
        return None
    return "first" if (a > b) is more_is_better else "second"
