"""Focus: the slider's value and the distance, or what to tap."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import DRAWING, MOTION, under_stars
from oxlen.core.decisions.focus.ask import FOCUS, FocusStrategy
from oxlen.core.decisions.focus.depths import (
    FocusPlace,
    background_disc_mm,
    circle_mm,
    depth_at,
    focus_place,
    optics_of,
    reach_of,
)
from oxlen.core.decisions.focus.target import Target, focus_target, within_reach
from oxlen.core.decisions.focus.words import focus_notes
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.decision import Decision
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.limit import LimitKind
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.lens.ask import ANY_LENS, LENS
from oxlen.core.decisions.upstream import Upstream
from oxlen.core.focus.depth import hyperfocal_mm
from oxlen.core.labels import distance_label, sentence_case

BY_HAND_UNDER_M = 0.2
"""Nearer than this a phone's own focus hunts, and the depth is thinner than its steps."""
FINDS_NOTHING_EV100 = 0.0
"""In less light than this a phone's own focus finds nothing to hold on to."""


def fill(brief: Brief, _: tuple[LimitKind, ...]) -> Brief:
    """A clip-on goes over one lens: where any lens will do, that one."""
    clip_on = brief[FOCUS].clip_on
    goes_over = clip_on is not None and any(lens.id == clip_on.lens for lens in brief.phone.lenses)
    if clip_on is None or not goes_over or brief[LENS] not in (None, ANY_LENS):
        return brief
    return brief.asking(LENS, clip_on.lens)


def strategy_in_force(brief: Brief, target: Target) -> FocusStrategy:
    """How focus is found: as asked, or what serves the scene."""
    asked, distance_m = brief[FOCUS].strategy, target.distance_m
    drive = brief.lens.focus
    if drive is not None and not drive.by_hand:
        return "tap"
    if asked != "advise":
        return asked
    if target.moves_in:
        return "preset"
    dark = max((reading.ev100 for reading in brief.readings), default=0.0) < FINDS_NOTHING_EV100
    close = distance_m is not None and distance_m < BY_HAND_UNDER_M
    far_out = under_stars(brief)
    return "by_hand" if close or dark or far_out or brief[FOCUS].clip_on else "tap"


def decide(_: Brief, upstream: Upstream) -> tuple[Setting, ...]:
    """The line of focus."""
    brief = upstream.solution.search.brief
    asked = focus_target(brief)
    target = within_reach(brief, asked)
    strategy = strategy_in_force(brief, target)
    place = None if target.distance_m is None else focus_place(brief, target.distance_m)
    line = Setting(
        FOCUS.name,
        "Focus",
        "tap",
        label=f"Tap {target.name}, lock",
        unit="",
        reason=_tap_reason(target),
        because="tap",
        notes=focus_notes(brief, asked, place),
        figures=_figures(brief, target, place),
        formula="dof" if _has_depth(target) else None,
        inputs=_inputs(brief, target),
    )
    if strategy != "tap":
        line = _by_hand(line, brief, target, strategy=strategy, place=place)
    if target != asked:
        line = replace(line, reason=_out_of_reach_reason(brief, target), because="reach")
    return (line,)


def _by_hand(
    line: Setting,
    brief: Brief,
    target: Target,
    *,
    strategy: FocusStrategy,
    place: FocusPlace | None,
) -> Setting:
    """The line where focus is set by hand, or beforehand."""
    reason = _hand_reason(brief, target) if strategy == "by_hand" else _preset_reason(brief, target)
    if target.distance_m is None:
        label = (
            f"On {brief[FOCUS].stand_in or 'a focus target'}" if strategy == "preset" else "Manual"
        )
        return replace(line, value=strategy, label=label, reason=reason, because=strategy)
    distance = distance_label(target.distance_m)
    if place is None:
        label = sentence_case(distance)
        value: float | str = "infinity" if math.isinf(target.distance_m) else target.distance_m
        unit = "" if math.isinf(target.distance_m) else "m"
        return replace(line, value=value, label=label, unit=unit, reason=reason, because=strategy)
    return replace(
        line,
        value=place.value,
        label=f"{place.value:g} ({distance})",
        unit="slider",
        reason=reason,
        because=strategy,
        plus_minus=place.plus_minus,
        plus_minus_unit="slider",
        why_plus_minus="" if place.plus_minus is None else "how accurate the nearest points are",
    )


def _out_of_reach_reason(brief: Brief, target: Target) -> str:
    """Where to hold the phone when the distance asked for cannot be focused."""
    assert target.distance_m is not None
    at, clip_on = distance_label(target.distance_m), brief[FOCUS].clip_on
    if target.distance_m <= reach_of(brief).near_m:
        return f"Nearest focus of {brief.lens.name}: hold it {at} away"
    name = "the clip-on" if clip_on is None else f"“{clip_on.name}”"
    return f"Sharp through {name} only from {at}"


def _tap_reason(target: Target) -> str:
    if target.distance_m is None:
        return "Lock focus before recomposing"
    return f"About {distance_label(target.distance_m)}. Lock it, then recompose"


def _hand_reason(brief: Brief, target: Target) -> str:
    if under_stars(brief):
        return "Measured: the slider's end is not infinity"
    if target.distance_m is not None and target.distance_m < BY_HAND_UNDER_M:
        return "Autofocus hunts this close: move the phone"
    return f"Set for {target.name}, so focus stays there"


def _preset_reason(brief: Brief, target: Target) -> str:
    asked = brief[FOCUS]
    if brief[DRAWING] is not None:
        stand_in = asked.stand_in or "a torch"
        return f"Focus on {stand_in} at the lamp's place"
    if asked.stand_in:
        return f"Focus on {asked.stand_in} beforehand"
    coming = brief[MOTION][0].spoken if brief[MOTION] else target.name
    return f"Focus where {coming} will pass"


def _has_depth(target: Target) -> bool:
    return target.distance_m is not None and math.isfinite(target.distance_m)


def _inputs(brief: Brief, target: Target) -> dict[str, float | str]:
    if target.distance_m is None or not _has_depth(target):
        return {}
    optics, s_mm = optics_of(brief), 1000 * target.distance_m
    if optics.clip_on_dioptres or s_mm <= optics.focal_mm:
        return {}
    return {"f": optics.focal_mm, "N": optics.f_number, "c": circle_mm(brief), "s": s_mm}


def _figures(brief: Brief, target: Target, place: FocusPlace | None) -> dict[str, float | None]:
    """What the depth strip draws."""
    if target.distance_m is None:
        return {}
    depth, disc = depth_at(brief, target.distance_m), background_disc_mm(brief, target.distance_m)
    return {
        "distance_m": target.distance_m,
        "near_m": None if depth is None else depth.near_m,
        "far_m": None if depth is None else depth.far_m,
        "hyperfocal_m": hyperfocal_mm(optics_of(brief), circle_mm(brief)) / 1000,
        "circle_mm": circle_mm(brief),
        "background_disc_mm": disc,
        "slider": None if place is None else place.value,
        "slider_gives_m": None if place is None else place.gives_m,
        "slider_step_m": None if place is None else place.step_m,
    }


def values(lines: Mapping[str, Setting]) -> Mapping[str, float | str | None]:
    """The slider where it is dialled by number, and the distance where it is finite."""
    focus = lines.get(FOCUS.name)
    if focus is None:
        return {}
    distance_m = focus.figures.get("distance_m")
    return {
        "focus_slider": focus.value if focus.unit == "slider" else None,
        "focus_m": distance_m if distance_m is not None and math.isfinite(distance_m) else None,
    }


DECISION = Decision(
    "focus",
    (FOCUS,),
    decide,
    fill=fill,
    instrument="focus",
    dials=(Dial(FOCUS.name, "Focus"),),
    values=values,
    series_part=SeriesPart("focus", "Focus"),
    locked=(FOCUS,),
)
