"""Registry entries of stars that trail."""

from __future__ import annotations

from typing import Any

from oxlen.core.compute.computation import Computation
from oxlen.core.sky import trailing


def _trail(*, f: float, p: float, t: float, dec: float) -> dict[str, Any]:
    return {"px": trailing.star_trail_px(f, p, t, declination_deg=dec)}


def _exact(*, f: float, p: float, px: float, dec: float) -> dict[str, Any]:
    return {"t": trailing.exact_trail_time_s(f, p, px, declination_deg=dec)}


def _npf(*, N: float, f: float, p: float, dec: float) -> dict[str, Any]:
    return {"t": trailing.npf_time_s(N, f, p, declination_deg=dec)}


def _rule_500(f35: float) -> dict[str, Any]:
    return {"t": trailing.rule_500_s(f35)}


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
        source="rule of thumb",
        inputs={"f35": "mm"},
        outputs={"t": "s"},
        work=_rule_500,
    ),
)
