"""The answer to a sheet: its light, the plan, the slip as lines to dial, the map, the ways out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any, Literal

from pydantic import BaseModel

from oxlen.core.decisions.exposure.auto import auto_choice
from oxlen.core.decisions.brief import Brief, School
from oxlen.core.decisions.lens.comparison import on_lens
from oxlen.core.decisions.plan import Plan, plan
from oxlen.core.decisions.exposure.search import Slip
from oxlen.core.kit.phone import Phone
from oxlen.core.labels import ev_label, shutter_label, steps_label
from oxlen.core.light.patterns import patterns
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.plan_file import LensOptionFile, PlanFile, plan_file
from oxlen.formats.wishes_file import GlassFile
from oxlen.sheets.body import SheetBody
from oxlen.sheets.exposure_map import ExposureMap, exposure_map
from oxlen.sheets.light import (
    LightReading,
    PictureLight,
    light_readings,
    mid_ev100,
    picture_light,
    placed_readings,
    scene_tones,
)
from oxlen.sheets.limit_settings import LimitSettings, limit_settings
from oxlen.sheets.metering import MeterRoom
from oxlen.sheets.trading import Patch, lens_patch, patch_of

LINE_NAMES = {"lens": "Lens", "iso": "ISO", "shutter_s": "Shutter"}


class SlipLine(BaseModel):
    """One line of the slip, in dialling order: what to set, to what, and the one reason."""

    field: Literal["lens", "iso", "shutter_s"]
    name: str
    value: str
    reason: str
    because: str


class PatternReading(BaseModel):
    """What a metering pattern reads on the picture, and what auto would set by it."""

    id: str
    name: str
    ev100: float
    slip: str
    brighter_stops: float
    words: str


class WayFile(BaseModel):
    """Fields of the sheet to change for a trade or a lens, and the slip it leads to in words."""

    slip: str
    patch: dict[str, Any]


class Answer(BaseModel):
    """All that follows from a sheet; `plan` is None when there is no light to go by.

    `trades` and `lenses` go with those of the plan, by id.
    """

    phone_name: str
    picture: PictureLight | None
    readings: list[LightReading]
    plan: PlanFile | None
    lines: list[SlipLine]
    wanted_label: str | None
    map: ExposureMap | None
    patterns: list[PatternReading]
    trades: dict[str, WayFile]
    lenses: dict[str, WayFile]
    settings: dict[str, LimitSettings]
    why_no_plan: str | None


def answer(
    body: SheetBody,
    find_phone: Callable[[str], PhoneProfile],
    room: MeterRoom,
    at_hand: Sequence[GlassFile] = (),
) -> Answer:
    """Meter, decide and explain a sheet. NotFound for an unknown phone, lens, mode or picture."""
    profile = find_phone(body.phone)
    light = picture_light(body, profile, room)
    readings = light_readings(body, profile, light, room=room)
    brief = brief_of_sheet(body, profile.to_phone(), readings, light)
    brief = replace(
        brief,
        glass_at_hand=tuple(glass.to_glass() for glass in at_hand),
        tones=scene_tones(body, profile, light, room=room),
    )
    decision = plan(brief, ask=True) if brief.readings else None
    planned = plan_file(decision, ask=True) if decision else None
    return Answer(
        phone_name=profile.name,
        picture=light,
        readings=readings,
        plan=planned,
        lines=slip_lines(decision) if decision else [],
        wanted_label=ev_label(decision.search.aim.ev100) if decision else None,
        map=exposure_map(decision) if decision else None,
        patterns=_patterns(decision, mid_ev100(body, profile, light), body, room)
        if decision
        else [],
        trades=_trades(decision, body) if decision else {},
        lenses=_lenses(decision, body, planned.lenses) if decision and planned else {},
        settings=limit_settings(decision, body) if decision else {},
        why_no_plan=None if decision else _why_no_plan(light),
    )


def brief_of_sheet(
    body: SheetBody, phone: Phone, readings: list[LightReading], light: PictureLight | None
) -> Brief:
    """The brief a sheet amounts to."""
    mean = light.mean_ev100 if light else _auto_ev100(readings)
    shift = body.light_shift_stops
    return Brief(
        phone=phone,
        lens_id=body.lens,
        mode_id=body.mode,
        support=body.support,
        readings=placed_readings(readings, shift),
        school=School(**body.school.model_dump()),
        file_format=body.format,
        scene_mean_ev100=None if mean is None else mean + shift,
        hold=body.hold.to_hold(),
        freeze=tuple(motion.to_freeze() for motion in body.motion),
        show=tuple(look.to_show() for look in body.looks),
        flicker=body.flicker.to_flicker() if body.flicker else None,
        output=body.output.to_output(),
        glass_on=tuple(glass.to_glass() for glass in body.glass),
        frames=body.frames.to_frames(),
        framing=body.framing.to_framing() if body.framing else None,
    )


def slip_lines(decision: Plan) -> list[SlipLine]:
    """The slip as lines in dialling order, each with the one reason that decided it."""
    slip = decision.slip
    if slip is None:
        return []
    reasons = {reason.value: reason for reason in decision.reasons}
    values = {
        "lens": decision.brief.lens.name,
        "iso": f"{slip.iso:g}",
        "shutter_s": shutter_label(slip.shutter_s),
    }
    return [
        SlipLine(
            field=field,  # type: ignore[arg-type]
            name=LINE_NAMES[field],
            value=values[field],
            reason=reasons[field].text,
            because=reasons[field].because,
        )
        for field in slip.order
    ]


def _auto_ev100(readings: list[LightReading]) -> float | None:
    """The light auto went by, when its numbers were read off the phone."""
    return next((reading.ev100 for reading in readings if reading.kind == "auto"), None)


def _patterns(
    decision: Plan, mid: float | None, body: SheetBody, room: MeterRoom
) -> list[PatternReading]:
    frame = None if mid is None or body.picture is None else room.frame_light(body.picture)
    if frame is None or mid is None:
        return []
    brief, found = decision.brief, []
    headroom = brief.mode.headroom_stops(brief.file_format)
    for pattern in patterns(frame, headroom):
        ev100 = mid + pattern.stops_from_mid
        choice = auto_choice(brief, decision.search.aim.ev100, ev100)
        found.append(
            PatternReading(
                id=pattern.id,
                name=pattern.name,
                ev100=ev100,
                slip=steps_label(choice.iso, choice.shutter_s),
                brighter_stops=choice.brighter_stops,
                words=choice.words,
            )
        )
    return found


def _trades(decision: Plan, body: SheetBody) -> dict[str, WayFile]:
    def way(patch: Patch, slip: Slip) -> WayFile:
        return WayFile(slip=steps_label(slip.iso, slip.shutter_s), patch=patch)

    return {
        trade.id: way(patch_of(trade, decision.brief, body), trade.slip)
        for trade in decision.trades
    }


def _lenses(decision: Plan, body: SheetBody, options: list[LensOptionFile]) -> dict[str, WayFile]:
    brief, found = decision.brief, {}
    for option in options:
        after = on_lens(brief, option.lens_id)
        slip = "" if option.slip is None else steps_label(option.slip.iso, option.slip.shutter_s)
        found[option.lens_id] = WayFile(slip=slip, patch=lens_patch(brief, after, body))
    return found


def _why_no_plan(light: PictureLight | None) -> str:
    if light is None:
        return "Drop a picture, or give a reading, and the slip appears here."
    if light.missing:
        missing = " and ".join(light.missing)
        return f"The picture does not say its {missing}. Give the exposure by hand to go on."
    return "The picture's pixels could not be metered. Give a reading by hand to go on."
