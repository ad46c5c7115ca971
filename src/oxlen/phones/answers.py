"""A profile completed by the photographer's answers; what was skipped stays assumed."""

from __future__ import annotations

from typing import Any

from oxlen.core.kit.nominal_steps import Spacing, iso_steps, shutter_steps
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.phone.parts import FocusProfile, WhiteProfile
from oxlen.formats.phone.profile import LadderProfile, LensProfile, PhoneProfile
from oxlen.phones.origins import Origins

WHITE = {"low_k": "kelvin_low", "high_k": "kelvin_high", "step_k": "kelvin_step"}
SLIDER = ("slider_low", "slider_high", "slider_step")


def answered(profile: PhoneProfile, answers: PhoneAnswers, *, date: str) -> PhoneProfile:
    """The profile after the answers, each of whose figures is marked as typed on that date."""
    origins = Origins(date, profile.origins)
    ladders = {name: ladder.model_dump() for name, ladder in profile.ladders.items()}
    for name in sorted({mode.manual for lens in profile.lenses for mode in lens.modes}):
        ladders[name] = _ladder(
            profile.ladders[name], answers, path=f"ladders.{name}", origins=origins
        )
    white = (profile.white or WhiteProfile()).model_dump()
    for figure, question in WHITE.items():
        if (stated := getattr(answers, question)) is not None:
            white[figure] = stated
            origins.typed(f"white.{figure}")
    lenses = [_lens(lens, answers, origins) for lens in profile.lenses]
    changed = {"ladders": ladders, "white": white, "lenses": lenses}
    reported = {path: origin.model_dump() for path, origin in origins.found.items()}
    return PhoneProfile.model_validate({**profile.model_dump(), **changed, "origins": reported})


def _ladder(
    ladder: LadderProfile, answers: PhoneAnswers, *, path: str, origins: Origins
) -> dict[str, list[float]]:
    """Its steps anew between the ends that were given; unchanged where none were."""
    spacing: Spacing = answers.steps or "thirds"
    isos, times = ladder.iso, ladder.shutter_s
    low, high = answers.iso_low or isos[0], answers.iso_high or isos[-1]
    fast, slow = answers.shutter_fastest_s or times[0], answers.shutter_slowest_s or times[-1]
    if answers.steps or (low, high) != (isos[0], isos[-1]):
        isos = list(iso_steps(low, high, spacing))
    if answers.steps or (fast, slow) != (times[0], times[-1]):
        times = list(shutter_steps(fast, slow, spacing))
    if answers.iso_low or answers.iso_high or answers.steps:
        origins.typed(f"{path}.iso")
    if answers.shutter_fastest_s or answers.shutter_slowest_s or answers.steps:
        origins.typed(f"{path}.shutter_s")
    return {"iso": isos, "shutter_s": times}


def _lens(lens: LensProfile, answers: PhoneAnswers, origins: Origins) -> dict[str, Any]:
    """With its slider, its base ISO, and no RAW where none is offered."""
    data = lens.model_dump()
    for mode in data["modes"]:
        path = f"lenses.{lens.id}.{mode['id']}"
        if answers.iso_low is not None:
            # The well was worked for another base ISO: what it holds at a given ISO stays.
            mode["full_well_e"] *= mode["base_iso"] / answers.iso_low
            mode["base_iso"] = answers.iso_low
            origins.typed(f"{path}.base_iso")
        if answers.raw_on is not None and lens.id not in answers.raw_on:
            mode["files"]["raw_mb"] = None
            origins.typed(f"{path}.files.raw_mb")
    given = {name: getattr(answers, name) for name in SLIDER if getattr(answers, name) is not None}
    if given:
        data["focus"] = {**(lens.focus or FocusProfile()).model_dump(), **given}
        for name in given:
            origins.typed(f"lenses.{lens.id}.focus.{name}")
    return data
