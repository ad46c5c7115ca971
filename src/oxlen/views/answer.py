"""The answer to a sheet: its light, the plan, the slip as lines to dial, the map, the ways out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date
from typing import Any

from pydantic import BaseModel

from oxlen.core.checklist.set_up import put_back_steps, set_up_steps
from oxlen.core.checklist.step import RunStep
from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions import dials, instruments
from oxlen.core.decisions.chance import Chance, chance_of
from oxlen.core.decisions.focus.ask import FOCUS
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.lens.moving import on_lens
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.decisions.surroundings.cautions import cautions
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.ladder import snap
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.labels import ev_label, steps_label
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.plan.plan import LensOptionFile, PlanFile
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.sheet.file import SheetBody, StepsByHand
from oxlen.metering.light import LightReading, PictureLight, SheetLight
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.phones.briefed_sheet import KitAtHand, briefed_sheet
from oxlen.views.corrections import Correction, corrections
from oxlen.views.depth import DepthStrip, depth_strip
from oxlen.views.exposure_map import ExposureMap, exposure_map
from oxlen.views.fields import LimitFields, limit_fields
from oxlen.views.metering_patterns import PatternReading, pattern_readings
from oxlen.views.patch import changes, trade_patch
from oxlen.views.recheck import recheck_words
from oxlen.views.saving_bars import SavingBars, saving_bars
from oxlen.views.tones import ToneScale, tone_scale
from oxlen.views.warmth import ShownTone, WarmthRibbon, warmth_ribbon

CHOSEN_BY_HAND = "your choice on the map"


class SlipLine(BaseModel):
    """One line of the slip, in dialling order: what to set, to what, and the one reason.

    `reason_by_hand` takes the reason's place for what is moved on the map by hand. `notes` must be
    known besides; `instrument` is what shows the line at work.
    """

    field: str
    name: str
    value: str
    reason: str
    because: str
    on_map: bool
    reason_by_hand: str
    notes: list[str]
    plus_minus: str
    instrument: str


class WayOut(BaseModel):
    """Fields of the sheet to change for a trade or a lens, and the slip it leads to in words."""

    slip: str
    patch: dict[str, Any]


class CautionView(BaseModel):
    """What to mind there; what is grave comes before the slip."""

    words: str
    is_grave: bool


class Answer(BaseModel):
    """All that follows from a sheet; `plan` is None when there is no light to use.

    `phone_note` says where a picture came from a phone that is not in the kit. `trades` and
    `lenses` go with those of the plan, by id.
    """

    phone_name: str
    phone_note: str | None
    picture: PictureLight | None
    readings: list[LightReading]
    corrections: list[Correction]
    plan: PlanFile | None
    lines: list[SlipLine]
    cautions: list[CautionView]
    wanted_label: str | None
    map: ExposureMap | None
    tones: ToneScale | None
    patterns: list[PatternReading]
    trades: dict[str, WayOut]
    lenses: dict[str, WayOut]
    fields: dict[str, LimitFields]
    warmth: WarmthRibbon | None
    depth: DepthStrip | None
    saving: SavingBars | None
    set_up: list[str]
    put_back: list[str]
    run: list[RunStep]
    chance: Chance | None
    why_no_plan: str | None


def answer(
    body: SheetBody,
    find_phone: Callable[[str], PhoneProfile],
    cache: MeteredPictures,
    *,
    filters_at_hand: Sequence[LensFilter] = (),
    clip_ons_at_hand: Sequence[ClipOn] = (),
    today: date | None = None,
) -> Answer:
    """Measure, decide and explain a sheet. NotFound for an unknown phone, lens, mode or picture.

    `today` is for telling what was measured too long ago.
    """
    kit = KitAtHand(filters_at_hand, clip_ons_at_hand)
    briefed = briefed_sheet(body, find_phone(body.phone), cache, kit=kit)
    decision = plan(briefed.brief, ask=True) if briefed.brief.readings else None
    found = answer_to(
        briefed.profile, briefed.light, decision, by_hand=body.steps_by_hand, today=today
    )
    corrected = corrections(briefed.body, briefed.light)
    return found.model_copy(update={"phone_note": briefed.note, "corrections": corrected})


def phone_words(profile: PhoneProfile) -> str:
    """A phone's name; one that ships with Oxlen is called an example: nobody owns it."""
    is_shipped = profile == shipped_profiles().get(profile.id)
    return f"{profile.name} (example phone)" if is_shipped else profile.name


def answer_to(
    profile: PhoneProfile,
    light: SheetLight,
    decision: Plan | None,
    *,
    by_hand: StepsByHand | None,
    today: date | None = None,
) -> Answer:
    """The answer that a plan amounts to; None where there was no light to decide by."""
    planned = plan_file(decision, ask=True) if decision else None
    return Answer(
        phone_name=phone_words(profile),
        phone_note=None,
        picture=light.picture,
        readings=list(light.readings),
        corrections=[],
        plan=planned,
        lines=slip_lines(decision, by_hand) if decision else [],
        cautions=caution_views(decision) if decision else [],
        wanted_label=ev_label(decision.search.aim.ev100) if decision else None,
        map=exposure_map(decision, by_hand) if decision else None,
        tones=tone_scale(decision, light.readings) if decision else None,
        patterns=pattern_readings(decision, light) if decision else [],
        trades=_trades(decision) if decision else {},
        lenses=_lenses(decision, planned.lenses) if decision and planned else {},
        fields=limit_fields(decision) if decision else {},
        **_instruments(decision, light, today),
        chance=_chance(decision),
        why_no_plan=None if decision else why_no_plan(light.picture),
    )


def _instruments(decision: Plan | None, light: SheetLight, today: date | None) -> dict[str, Any]:
    """What the instruments of white, focus and saving draw, and how the phone is set up."""
    if decision is None:
        return {
            "warmth": None,
            "depth": None,
            "saving": None,
            "set_up": [],
            "put_back": [],
            "run": [],
        }
    brief, slip = decision.brief, decision.slip
    steps = set_up_steps(brief, None if slip is None else slip.shutter_s)
    iso = brief.mode.manual.iso[0] if slip is None else slip.iso
    return {
        "warmth": warmth_ribbon(brief, [ShownTone(*colour) for colour in light.colours]),
        "depth": depth_strip(brief, _recheck(brief, light, today)),
        "saving": saving_bars(brief, iso),
        "set_up": [step.text for step in steps],
        "put_back": list(put_back_steps(steps)),
        "run": list(run_list(decision)),
    }


def _recheck(brief: Brief, light: SheetLight, today: date | None) -> str:
    """Why the slider's scale in use should be measured again."""
    drive, clip_on = brief.lens.focus, brief[FOCUS].clip_on
    named = None if drive is None else drive.named_scale("" if clip_on is None else clip_on.name)
    if named is None or today is None:
        return ""
    software = None if light.picture is None else light.picture.report.camera.software
    return recheck_words(named, today, software or "")


def slip_lines(decision: Plan, by_hand: StepsByHand | None = None) -> list[SlipLine]:
    """The slip as lines in dialling order, each with the one reason that decided it.

    Steps chosen by hand are on the lines of what the map moves.
    """
    chosen = {} if by_hand is None else _chosen_labels(decision, by_hand)
    shown_by = instruments()
    return [
        _line(setting, chosen.get(setting.field), shown_by.get(setting.field, ""))
        for setting in decision.dialled.settings
    ]


def _line(setting: Setting, chosen: str | None, instrument: str) -> SlipLine:
    return SlipLine(
        field=setting.field,
        name=setting.name,
        value=setting.label if chosen is None else chosen,
        reason=setting.reason if chosen is None else CHOSEN_BY_HAND,
        because=setting.because,
        on_map=setting.on_map,
        reason_by_hand=CHOSEN_BY_HAND if setting.on_map else setting.reason,
        notes=list(setting.notes),
        plus_minus=_doubt_words(setting),
        instrument=instrument,
    )


def _doubt_words(setting: Setting) -> str:
    if setting.plus_minus is None:
        return ""
    unit = "stop" if setting.plus_minus_unit == "stops" else setting.plus_minus_unit
    digits = "g" if unit == "slider" else ".1f" if unit == "stop" else ".0f"
    return f"± {setting.plus_minus:{digits}} {'' if unit == 'slider' else unit}".strip()


def _chosen_labels(decision: Plan, by_hand: StepsByHand) -> dict[str, str]:
    """Steps chosen by hand as the phone has them, by the field they are dialled in."""
    return {
        dial.field: dial.label(snap(getattr(by_hand, dial.field), dial.steps(decision.brief)).value)
        for dial in dials().values()
        if dial.steps is not None
    }


def caution_views(decision: Plan) -> list[CautionView]:
    """What to mind there, grave or not."""
    found = cautions(decision.brief)
    return [CautionView(words=caution.words, is_grave=caution.is_grave) for caution in found]


def _trades(decision: Plan) -> dict[str, WayOut]:
    return {
        trade.id: WayOut(
            slip=steps_label(trade.slip.iso, trade.slip.shutter_s),
            patch=trade_patch(trade, decision.brief),
        )
        for trade in decision.trades
    }


def _lenses(decision: Plan, options: list[LensOptionFile]) -> dict[str, WayOut]:
    brief, found = decision.brief, {}
    for option in options:
        slip = "" if option.slip is None else steps_label(option.slip.iso, option.slip.shutter_s)
        patch = {**changes(brief, on_lens(brief, option.lens_id)), LENS.name: option.lens_id}
        found[option.lens_id] = WayOut(slip=slip, patch=patch)
    return found


def _chance(decision: Plan | None) -> Chance | None:
    found = None if decision is None else chance_of(decision)
    return None if found is None else found


def why_no_plan(picture: PictureLight | None) -> str:
    """Why a sheet without a reading has no plan, and what gives it one."""
    if picture is None:
        return "Drop a picture or add a reading to get a slip."
    if picture.missing:
        missing = " and ".join(picture.missing)
        return f"The picture has no {missing}. Enter the exposure."
    return "The picture could not be metered. Add a reading."
