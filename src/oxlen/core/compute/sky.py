"""Registry entries of stars that trail."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.sky import brightness, stacked, trailing


def _trail(*, f: float, p: float, t: float, dec: float) -> dict[str, Any]:
    return {"px": trailing.star_trail_px(f, p, t, declination_deg=dec)}


def _exact(*, f: float, p: float, px: float, dec: float) -> dict[str, Any]:
    return {"t": trailing.exact_trail_time_s(f, p, px, declination_deg=dec)}


def _npf(*, N: float, f: float, p: float, dec: float) -> dict[str, Any]:
    return {"t": trailing.npf_time_s(N, f, p, declination_deg=dec)}


def _rule_500(f35: float) -> dict[str, Any]:
    return {"t": trailing.rule_500_s(f35)}


def _projected(
    *, f: float, p: float, t: float, dec0: float, ha: float, dec: float
) -> dict[str, Any]:
    star = trailing.Star(ha, dec)
    return {"px": trailing.projected_trail_px(f, p, t, axis_dec_deg=dec0, star=star)}


def _brightness(m: float) -> dict[str, Any]:
    return {
        "luminance": brightness.sky_luminance_cd_m2(m),
        "ev100": brightness.sky_ev100(m),
    }


def _sub_frame(*, sky_e: float, read_noise: float) -> dict[str, Any]:
    t_min = stacked.shortest_sub_frame_s(sky_e, read_noise)
    return {
        "t_min": t_min,
        "noise_excess": stacked.read_noise_excess(sky_e * t_min, read_noise),
    }


def _drift(*, M: float, t: float, gap: float, dec: float, f: float, p: float) -> dict[str, Any]:
    found = stacked.stack_drift(M, t, gap, declination_deg=dec, focal_mm=f, pitch_um=p)
    return {
        "time": found.time_s,
        "drift_arcsec": found.drift_arcsec,
        "drift_px": found.drift_px,
        "turn_deg": found.turn_deg,
    }


SKY: tuple[Computation, ...] = (
    Computation(
        "star_trail_px",
        "How far a star trails",
        "px = f·10³·tan(15.041″·t·cos δ)/p",
        source="the sky turns once in a sidereal day; near the optical axis",
        inputs={"f": "mm", "p": "um", "t": "s", "dec": "deg"},
        outputs={"px": "px"},
        work=_trail,
    ),
    Computation(
        "exact_trail_time",
        "How long until a star has trailed so far",
        "t = atan(px·p/(f·10³))/(15.041″·cos δ)",
        source="the sky turns once in a sidereal day; near the optical axis",
        inputs={"f": "mm", "p": "um", "px": "px", "dec": "deg"},
        outputs={"t": "s"},
        work=_exact,
    ),
    Computation(
        "npf",
        "Stars sharp by the NPF rule",
        "t = (16.856·N + 0.0997·f + 13.713·p)/(f·cos δ)",
        source="Michaud, the NPF rule",
        inputs={"N": "f-number", "f": "mm", "p": "um", "dec": "deg"},
        outputs={"t": "s"},
        work=_npf,
    ),
    Computation(
        "rule_500",
        "Stars sharp by the rule of 500",
        "t = 500/f35",
        source="rule of thumb, off by up to a factor of 4",
        inputs={"f35": "mm"},
        outputs={"t": "s"},
        work=_rule_500,
    ),
    Computation(
        "star_trail_projected_px",
        "How far a star trails anywhere in the frame",
        "px = f·10³·|s1/(s1·a) − s0/(s0·a)|/p",
        source="the sky turns once in a sidereal day; a lens without distortion",
        inputs={"f": "mm", "p": "um", "t": "s", "dec0": "deg", "ha": "deg", "dec": "deg"},
        outputs={"px": "px"},
        work=_projected,
    ),
    Computation(
        "sky_brightness_ev100",
        "How bright a night sky is as an exposure",
        "L = 10.8·10⁴·10^(−0.4·m); EV100 = log2(L/0.125)",
        source="ISO 2720",
        inputs={"m": "mag/arcsec2"},
        outputs={"luminance": "cd/m2", "ev100": "EV100"},
        work=_brightness,
    ),
    Computation(
        "sub_frame_min",
        "How long a frame of a stack must be",
        "t_min = 10·r²/sky; excess = √(1 + r²/(sky·t_min)) − 1",
        source="Howell, Handbook of CCD Astronomy",
        inputs={"sky_e": "e-/px/s", "read_noise": "e-"},
        outputs={"t_min": "s", "noise_excess": "share"},
        work=_sub_frame,
    ),
    Computation(
        "stack_time_and_drift",
        "How long a stack takes and how far the sky drifts",
        "time = M·(t + gap); drift = 15.041″·cos δ·time; px = f·10³·tan(drift)/p",
        source="the sky turns once in a sidereal day",
        inputs={"M": "frames", "t": "s", "gap": "s", "dec": "deg", "f": "mm", "p": "um"},
        outputs={"time": "s", "drift_arcsec": "arcsec", "drift_px": "px", "turn_deg": "deg"},
        work=_drift,
    ),
)
