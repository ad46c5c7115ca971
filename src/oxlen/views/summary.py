"""A sheet as a list shows it."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

from pydantic import BaseModel

from oxlen.core.decisions.exposure.ask import LOOKS, MOTION, SUPPORT, SUPPORT_WORDS
from oxlen.core.decisions.exposure.limits.show import look_name
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import OxlenError, UnreadableSheet
from oxlen.core.labels import ev_label, listed, sentence_case, steps_label
from oxlen.core.light.reading import LIGHT_LEVELS
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SheetBody, SheetState, UsualLevel
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.metering.picture_cache import NoPictures
from oxlen.phones.briefed_sheet import briefed_sheet
from oxlen.store.sheets import Sheet


class PlannedLines(BaseModel):
    """A sheet without a picture in a few words: its light, what is asked, its slip."""

    light: str
    asked: str
    slip: str


class SheetSummary(BaseModel):
    """A sheet in a list; `trouble` says why one cannot be opened, `series` which it is of."""

    id: int
    title: str
    state: SheetState
    picture: str | None
    changed_at: str
    deleted_at: str | None
    trouble: str | None = None
    planned: PlannedLines | None = None
    series: str | None = None


def summary_of(
    sheet: Sheet, find_phone: Callable[[str], PhoneProfile] | None = None
) -> SheetSummary:
    """A sheet's summary; one that cannot be read is listed with its trouble.

    With a way to find phones, a sheet that has no picture to show says what is planned.
    """
    listed_as = SheetSummary(
        id=sheet.id,
        title=f"Sheet {sheet.id}",
        state="planned",
        picture=None,
        changed_at=sheet.changed_at,
        deleted_at=sheet.deleted_at,
    )
    try:
        body = read_sheet(sheet.body)
    except UnreadableSheet as error:
        return listed_as.model_copy(update={"trouble": error.message})
    reported: dict[str, Any] = {"title": body.title, "state": body.state, "picture": body.picture}
    if body.picture is None and body.readings and find_phone is not None:
        reported["planned"] = _planned(sheet.body, find_phone)
    return listed_as.model_copy(update=reported)


def _planned(kept: str, find_phone: Callable[[str], PhoneProfile]) -> PlannedLines | None:
    """The slip of a sheet that rests on readings alone; None where it cannot be answered."""
    try:
        profile = find_phone(read_sheet(kept).phone)
        return _planned_by(kept, profile.model_dump_json())
    except OxlenError:
        return None


@lru_cache(maxsize=1000)
def _planned_by(kept: str, profile_json: str) -> PlannedLines:
    """The same for a sheet as kept and a phone as JSON: a list is asked for far oftener than its
    sheets change, and deciding one takes a while. What it refuses, it refuses again."""
    body, profile = read_sheet(kept), PhoneProfile.model_validate_json(profile_json)
    briefed = briefed_sheet(body, profile, NoPictures())
    decision = plan(briefed.brief)
    slip = "Nothing fits yet" if decision.slip is None else ""
    if decision.slip is not None:
        slip = steps_label(decision.slip.iso, decision.slip.shutter_s)
    reading = briefed.light.readings[0]
    doubt = f"± {reading.plus_minus_stops:.1f}"
    words = f"{_level_name(body)}{ev_label(reading.ev100 or 0.0)} {doubt}"
    return PlannedLines(light=words, asked=_asked(body), slip=slip)


def _level_name(body: SheetBody) -> str:
    source = body.readings[0].source
    if not isinstance(source, UsualLevel):
        return ""
    names = {level.id: level.name for level in LIGHT_LEVELS}
    return f"{names.get(source.level, source.level)}: "


def _asked(body: SheetBody) -> str:
    asked = body.asked()
    wishes = [f"freeze {motion.spoken}" for motion in asked[MOTION.name]]
    wishes += [look_name(look) for look in asked[LOOKS.name]]
    held = sentence_case(SUPPORT_WORDS[asked[SUPPORT.name]])
    return f"{held}; {listed(wishes)}" if wishes else held
