"""Putting a measured point into a phone's slider scale, and taking one out."""

from __future__ import annotations

import math

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.focus.slider import SliderScale
from oxlen.core.labels import distance_label, listed, sentence_case
from oxlen.formats.phone.parts import FocusProfile, ScaleProfile, SliderPointProfile
from oxlen.formats.phone.profile import LensProfile, PhoneProfile

SAME_DIOPTRES = 1e-3


def with_point(
    profile: PhoneProfile,
    lens_id: str,
    point: SliderPointProfile,
    *,
    clip_on: str = "",
    software: str = "",
) -> PhoneProfile:
    """The phone with a point in the scale of a lens, in place of one at that distance or value.

    NotFound for an unknown lens; BadInput for a value off the slider, or distances that go to and
    fro along it.
    """
    lens = _lens(profile, lens_id)
    focus = lens.focus or FocusProfile()
    if not focus.slider_low <= point.value <= focus.slider_high:
        words = f"This slider has values from {focus.slider_low:g} to {focus.slider_high:g}."
        raise BadInput(words, "value")
    before = next(
        (kept_scale for kept_scale in focus.scales if kept_scale.clip_on == clip_on), None
    )
    kept = (
        []
        if before is None
        else [kept_point for kept_point in before.points if not _same(kept_point, point)]
    )
    points = sorted([*kept, point], key=lambda known: known.value)
    _check_order(points, point)
    runs_on = software or ("" if before is None else before.software)
    scale = ScaleProfile(clip_on=clip_on, software=runs_on, points=points)
    return _with_scale(profile, lens, focus, scale=scale, clip_on=clip_on)


def without_point(
    profile: PhoneProfile, lens_id: str, value: float, *, clip_on: str = ""
) -> PhoneProfile:
    """The phone without the point at a slider value. NotFound where there is none."""
    lens = _lens(profile, lens_id)
    focus = lens.focus or FocusProfile()
    before = next(
        (kept_scale for kept_scale in focus.scales if kept_scale.clip_on == clip_on), None
    )
    points = [] if before is None else [point for point in before.points if point.value != value]
    if before is None or len(points) == len(before.points):
        raise NotFound(f"The scale of {lens.name} has no point at {value:g}.", value=str(value))
    scale = before.model_copy(update={"points": points}) if points else None
    return _with_scale(profile, lens, focus, scale=scale, clip_on=clip_on)


def _with_scale(
    profile: PhoneProfile,
    lens: LensProfile,
    focus: FocusProfile,
    *,
    scale: ScaleProfile | None,
    clip_on: str,
) -> PhoneProfile:
    others = [kept_scale for kept_scale in focus.scales if kept_scale.clip_on != clip_on]
    scales = others if scale is None else [*others, scale]
    scales.sort(key=lambda kept_scale: kept_scale.clip_on)
    changed = lens.model_copy(update={"focus": focus.model_copy(update={"scales": scales})})
    lenses = [
        changed if profile_lens.id == lens.id else profile_lens for profile_lens in profile.lenses
    ]
    return profile.model_copy(update={"lenses": lenses})


def _check_order(points: list[SliderPointProfile], point: SliderPointProfile) -> None:
    """BadInput, naming the neighbours, where the new point does not are between them."""
    if len(points) < 2:
        return
    try:
        SliderScale(tuple(kept_point.to_point() for kept_point in points))
    except BadInput:
        at = points.index(point)
        beside = [
            kept_point
            for kept_point in (points[at - 1] if at else None, *points[at + 1 : at + 2])
            if kept_point
        ]
        known = listed([f"{_at(kept_point)} at {kept_point.value:.4g}" for kept_point in beside])
        raise BadInput(
            f"{sentence_case(_at(point))} at {point.value:.4g} contradicts {known}. Measure "
            "again, or delete the wrong point.",
            "distance_m",
        ) from None


def _at(point: SliderPointProfile) -> str:
    return distance_label(point.to_point().distance_m)


def _lens(profile: PhoneProfile, lens_id: str) -> LensProfile:
    found = next((lens for lens in profile.lenses if lens.id == lens_id), None)
    if found is None:
        raise NotFound(f"{profile.name} has no lens {lens_id}.", lens=lens_id)
    return found


def _same(point: SliderPointProfile, other: SliderPointProfile) -> bool:
    """Whether two points are the same value, or the same distance measured again."""
    near = math.isclose(point.to_point().dioptres, other.to_point().dioptres, abs_tol=SAME_DIOPTRES)
    return point.value == other.value or near
