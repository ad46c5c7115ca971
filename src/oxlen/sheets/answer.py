"""The answer to a sheet: its light, the plan, the slip as lines to dial, the map."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal

from pydantic import BaseModel

from oxlen.core.decide.brief import Brief, School
from oxlen.core.decide.plan import Plan, plan
from oxlen.core.kit.phone import Phone
from oxlen.core.labels import ev_label, shutter_label
from oxlen.formats.phone_profile import PhoneProfile
from oxlen.formats.plan_file import PlanFile, plan_file
from oxlen.sheets.body import SheetBody
from oxlen.sheets.exposure_map import ExposureMap, exposure_map
from oxlen.sheets.light import (
    LightReading,
    PictureLight,
    light_readings,
    picture_light,
    placed_readings,
)
from oxlen.sheets.metering import MeterRoom

LINE_NAMES = {"lens": "Lens", "iso": "ISO", "shutter_s": "Shutter"}


class SlipLine(BaseModel):
    """One line of the slip, in dialling order: what to set, to what, and the one reason."""

    field: Literal["lens", "iso", "shutter_s"]
    name: str
    value: str
    reason: str
    because: str


class Answer(BaseModel):
    """All that follows from a sheet; `plan` is None when there is no light to go by."""

    phone_name: str
    picture: PictureLight | None
    readings: list[LightReading]
    plan: PlanFile | None
    lines: list[SlipLine]
    wanted_label: str | None
    map: ExposureMap | None
    why_no_plan: str | None


def answer(body: SheetBody, find_phone: Callable[[str], PhoneProfile], room: MeterRoom) -> Answer:
    """Meter, decide and explain a sheet. NotFound for an unknown phone, lens, mode or picture."""
    profile = find_phone(body.phone)
    phone = profile.to_phone()
    light = picture_light(body, profile, room)
    readings = light_readings(body, profile, light, room=room)
    brief = brief_of_sheet(body, phone, readings, light)
    decision = plan(brief) if brief.readings else None
    return Answer(
        phone_name=phone.name,
        picture=light,
        readings=readings,
        plan=plan_file(decision) if decision else None,
        lines=slip_lines(decision) if decision else [],
        wanted_label=ev_label(decision.aim.ev100) if decision else None,
        map=exposure_map(decision) if decision else None,
        why_no_plan=None if decision else _why_no_plan(light),
    )


def brief_of_sheet(
    body: SheetBody, phone: Phone, readings: list[LightReading], light: PictureLight | None
) -> Brief:
    """The brief a sheet amounts to."""
    return Brief(
        phone=phone,
        lens_id=body.lens,
        mode_id=body.mode,
        support=body.support,
        readings=placed_readings(readings),
        school=School(**body.school.model_dump()),
        file_format=body.format,
        scene_mean_ev100=light.mean_ev100 if light else None,
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


def _why_no_plan(light: PictureLight | None) -> str:
    if light is None:
        return "Drop a picture, or give a reading, and the slip appears here."
    if light.missing:
        missing = " and ".join(light.missing)
        return f"The picture does not say its {missing}. Give the exposure by hand to go on."
    return "The picture's pixels could not be metered. Give a reading by hand to go on."
