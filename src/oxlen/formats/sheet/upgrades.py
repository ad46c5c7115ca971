"""Sheets kept by earlier versions, brought up to date step by step when they are read."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any

from pydantic import ValidationError

from oxlen.core.errors import UnreadableSheet
from oxlen.formats.refusal import refusal
from oxlen.formats.sheet.file import SheetBody

Body = dict[str, Any]
FIRST, CURRENT = 1, 3
PREFIX = "oxlen-sheet/"


def from_1_to_2(body: Body) -> Body:
    """Steps chosen by hand say what they are; numbers next to nothing become the least allowed."""
    steps = body.pop("held", None)
    moving = {
        name: [_at_least(item, LEAST_BY_2) for item in body.get(name, ())]
        for name in ("motion", "looks")
    }
    school = _at_least(body.get("school", {}), {"iso_cap": 1.0})
    return {**body, **moving, "school": school, "steps_by_hand": steps}


LEAST_BY_2 = {"speed_m_s": 0.001, "share_min": 0.001, "share_max": 0.001, "width_m": 0.001}


def _at_least(fields: Body, least: Mapping[str, float]) -> Body:
    """Fields with none of some numbers under its least; what is open or no number stays."""
    raised = {
        name: max(low, fields[name])
        for name, low in least.items()
        if isinstance(fields.get(name), int | float)
    }
    return {**fields, **raised}


def from_2_to_3(body: Body) -> Body:
    """What was called a school is a strategy: of the exposure, colour, focus and file."""
    asks = {
        name: _renamed(body[name], "school", "strategy")
        for name in ("light_colour", "focus", "saving")
        if isinstance(body.get(name), dict)
    }
    return _renamed({**body, **asks}, "school", "strategy")


def _renamed(fields: Body, before: str, now: str) -> Body:
    """Fields in their order, one of them under another name; the newer one wins."""
    if before not in fields:
        return fields
    return {now if name == before else name: value for name, value in fields.items()}


UPGRADES: Mapping[int, Callable[[Body], Body]] = {1: from_1_to_2, 2: from_2_to_3}
"""From which version each step starts; a step is never changed once it is merged."""


def read_sheet(text: str) -> SheetBody:
    """A kept sheet's body, upgraded; UnreadableSheet, with the text, when it cannot be read."""
    try:
        return SheetBody.model_validate(upgraded(json.loads(text)))
    except ValidationError as error:
        raise UnreadableSheet(refusal(error, "This sheet cannot be read").message, text) from None
    except (ValueError, TypeError, AttributeError, RecursionError) as error:
        raise UnreadableSheet(f"This sheet cannot be read: {error}.", text) from None


def upgraded(body: Body) -> Body:
    """A body in today's form. ValueError for one from a newer version, or of none."""
    version = version_of(body)
    if version > CURRENT:
        raise ValueError(f"a newer Oxlen wrote it, as {PREFIX}{version}")
    for step in range(version, CURRENT):
        body = UPGRADES[step](dict(body))
    return {**body, "written_as": f"{PREFIX}{CURRENT}"}


def version_of(body: Body) -> int:
    """Which version a body was written in; the first ones did not say."""
    stated = body.get("written_as", f"{PREFIX}{FIRST}")
    if not isinstance(stated, str) or not stated.removeprefix(PREFIX).isdecimal():
        raise ValueError(f"its format {stated!r} is not a sheet")
    return int(stated.removeprefix(PREFIX))
