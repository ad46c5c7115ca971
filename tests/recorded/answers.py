"""What Oxlen answers to sheets, nights and formulas drawn from seeds, in sections.

`answers.json` beside this file holds a digest of each section as it was when it was recorded. A
section that differs is either a fault or a change somebody wanted; which of them, only a person can
say: `tools/recorded.py --against HEAD` prints both, `tools/recorded.py --anew` records it.
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Mapping
from datetime import date
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import ValidationError

from oxlen.core.decisions.framework.brief import ROLE_NAMES
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import OxlenError
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.night.ask import NightAsk
from oxlen.core.sky.dark_windows import Wanted
from oxlen.formats.outing.place import PlaceBody
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.sheet.file import SheetBody
from oxlen.light_plan.day import hours_of_day
from oxlen.light_plan.night import night_plan
from oxlen.metering.picture_cache import NoPictures
from oxlen.phones.briefed_sheet import BriefedSheet, KitAtHand, briefed_sheet
from oxlen.server.place_light import night_place
from oxlen.views.answer import answer_to
from oxlen.views.fields import ask_views
from oxlen.views.light_table import light_table
from oxlen.views.long_time import long_time
from tests.any_sheet import any_readings, edited

RECORD = Path(__file__).with_name("answers.json")
SHEETS, NIGHTS = range(160), range(24)
KIT = KitAtHand(
    (LensFilter("ND 64", 64.0), LensFilter("ND 1000", 1000.0)), (ClipOn("close-up", 10.0, ""),)
)
TODAY = date(2027, 6, 1)
DIGITS = 4
"""Significant digits compared: further ones may differ between processors."""
DRAWN = ("map", "tones", "warmth", "depth", "saving", "patterns", "picture")
Sections = Mapping[str, Any]


@cache
def asks() -> list[dict[str, Any]]:
    """Everything a sheet may ask for."""
    return [view.model_dump(mode="json") for view in ask_views()]


def any_sheet(seed: int) -> BriefedSheet | None:
    """A sheet that asks for a few things at random; None where they contradict each other."""
    draw = np.random.default_rng(1_000 + seed)
    bare = SheetBody.model_validate(
        {
            "title": "Any",
            "phone": "wherry-3" if draw.random() < 0.8 else "dabber",
            "readings": any_readings(draw, list(ROLE_NAMES)),
        }
    )
    try:
        body = SheetBody.model_validate(edited(draw, bare.model_dump(mode="json"), asks()))
        return briefed_sheet(body, shipped_profile(body.phone), NoPictures(), kit=KIT)
    except (OxlenError, ValidationError):
        return None


@cache
def sheet_sections(seed: int) -> Sections:
    """The answer to a sheet, with ways out, other light and long exposure."""
    sheet = any_sheet(seed)
    if sheet is None:
        return {"refused": True}
    decided = plan(sheet.brief, ask=True)
    reported = answer_to(sheet.profile, sheet.light, decided, by_hand=None, today=TODAY)
    whole = reported.model_dump(mode="json")
    planned = whole.pop("plan")
    drawn = {name: whole.pop(name) for name in DRAWN}
    steps = {name: whole.pop(name) for name in ("run", "set_up", "put_back")}
    return {
        "plan": planned,
        "drawn": drawn,
        "steps": steps,
        "slip": whole,
        "light": [vars(row) for row in light_table(sheet.brief)],
        "long": long_time(sheet.brief)[0].model_dump(mode="json"),
    }


@cache
def night_sections(seed: int) -> Sections:
    """A day and a night at a place, and what a phone does with it."""
    draw = np.random.default_rng(2_000 + seed)
    place = PlaceBody.model_validate(
        {
            "name": "Reach",
            "latitude_deg": float(draw.uniform(-65, 65)),
            "longitude_deg": float(draw.uniform(-180, 180)),
            "dark_sky_class": int(draw.integers(1, 10)),
        }
    )
    where = night_place(place, Wanted(moon=str(draw.choice(("down", "thin", "any")))))  # type: ignore[arg-type]
    day = date(2027, int(draw.integers(1, 13)), int(draw.integers(1, 29)))
    asked = NightAsk(
        where.magnitude,
        float(draw.uniform(-80, 80)),
        rule=str(draw.choice(("npf", "500", "pixels"))),  # type: ignore[arg-type]
        snr=float(draw.uniform(1, 20)),
        arc_deg=float(draw.uniform(2, 120)),
        land_stops=float(draw.uniform(-4, 2)),
    )
    phone = shipped_profile(str(draw.choice(("wherry-3", "dabber")))).to_phone()
    return {
        "day": hours_of_day(where.place, day, where.zone).model_dump(mode="json"),
        "night": night_plan(where, day, phone=phone, asked=asked).model_dump(mode="json"),
    }


KINDS: Mapping[str, tuple[range, Callable[[int], Sections]]] = {
    "sheet": (SHEETS, sheet_sections),
    "night": (NIGHTS, night_sections),
}


def plain(value: Any) -> Any:
    """A value with its numbers cut to the digits that are compared."""
    if isinstance(value, Mapping):
        return {str(key): plain(part) for key, part in value.items()}
    if isinstance(value, (list, tuple)):
        return [plain(part) for part in value]
    if isinstance(value, float):
        return float(f"{value:.{DIGITS}g}") + 0.0
    return value


def text(value: Any) -> str:
    """A section as text, to be compared and read."""
    return json.dumps(plain(value), indent=1, sort_keys=True, ensure_ascii=False)


def digests(kind: str, seed: int) -> dict[str, str]:
    """A digest of each section."""
    sections = KINDS[kind][1](seed)
    return {
        name: hashlib.sha256(text(section).encode()).hexdigest()[:10]
        for name, section in sections.items()
    }


def recorded() -> dict[str, dict[str, str]]:
    """The digests as they were recorded, by kind and seed."""
    found: dict[str, dict[str, str]] = json.loads(RECORD.read_text("utf-8"))
    return found
