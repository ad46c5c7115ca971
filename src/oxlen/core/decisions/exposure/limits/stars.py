"""Stars: the longest shutter at which they are still points."""

from __future__ import annotations

import math
from collections.abc import Iterable

from oxlen.core.decisions.exposure.ask import SKY
from oxlen.core.decisions.exposure.scene_ask import Sky
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.labels import time_label
from oxlen.core.sky.trailing import exact_trail_time_s, npf_time_s, rule_500_s, star_trail_px

LONGEST_S = 20_000.0
"""Longer than any phone's shutter; trails of hours are no points."""


def _points(problem: ExposureProblem) -> Iterable[Limit]:
    """By a trail chosen in pixels, else by the rule of thumb chosen."""
    brief, sky = problem.brief, problem.brief[SKY]
    if sky is None:
        return
    lens, pitch = brief.lens, brief.mode.pixel_pitch_um
    declination_deg = _counted_deg(brief, sky)
    longest, computation, inputs = _longest(brief, sky, declination_deg)
    longest = min(longest, LONGEST_S)
    trail = float(star_trail_px(lens.focal_mm, pitch, longest, declination_deg=declination_deg))
    yield Limit(
        STARS,
        SHUTTER,
        None,
        high=longest,
        name="stars as points",
        high_words=f"stars stay points up to {time_label(longest)}",
        reason=f"Stars stay points up to {time_label(longest)} on this lens ({trail:.1f} px trail)",
        source="the sky turns 15″ a second",
        computation=computation,
        inputs=inputs,
    )


def _counted_deg(brief: Brief, sky: Sky) -> float:
    """The declination that counts: aimed at the pole, the frame's edge is still far from it."""
    to_edge_deg = math.degrees(math.atan2(brief.mode.sensor_mm[0] / 2, brief.lens.focal_mm))
    return min(abs(sky.declination_deg), 90.0 - to_edge_deg)


def _longest(brief: Brief, sky: Sky, dec: float) -> tuple[float, str, dict[str, float | str]]:
    lens, pitch = brief.lens, brief.mode.pixel_pitch_um
    optics: dict[str, float | str] = {"f": lens.focal_mm, "p": pitch, "dec": dec}
    if sky.trail_px is not None:
        longest = exact_trail_time_s(lens.focal_mm, pitch, sky.trail_px, declination_deg=dec)
        return float(longest), "exact_trail_time", {**optics, "px": sky.trail_px}
    if sky.rule == "500":
        return float(rule_500_s(lens.focal35_mm)), "rule_500", {"f35": lens.focal35_mm}
    longest = npf_time_s(lens.f_number, lens.focal_mm, pitch, declination_deg=dec)
    return float(longest), "npf", {**optics, "N": lens.f_number}


STARS = LimitKind(
    "stars",
    Concern.SKY,
    _points,
    edited_by=(
        EditedField(SKY, ("declination_deg",)),
        EditedField(SKY, ("rule",), when=lambda brief, _: _by_rule(brief)),
        EditedField(SKY, ("trail_px",), when=lambda brief, _: not _by_rule(brief)),
    ),
    dropped=lambda brief, _: brief.asking(SKY, None),
)


def _by_rule(brief: Brief) -> bool:
    sky = brief[SKY]
    return sky is not None and sky.trail_px is None
