"""The sheets of the Kettle Reach demo planned at the desk, with no picture yet."""

from __future__ import annotations

from typing import Any

from oxlen.demo.sheets import PHONE
from oxlen.formats.sheet.file import ReadingBody, SheetBody, UsualLevel


def _planned(title: str, intent: str, level: str, **asked: Any) -> SheetBody:
    """A sheet planned at the desk, from the table of usual light."""
    role = asked.pop("role", "subject")
    source = UsualLevel(level=level)
    guess = ReadingBody(id="guess", name=asked.pop("name"), role=role, source=source)
    given = {"title": title, "intent": intent, "phone": PHONE, "readings": [guess], **asked}
    return SheetBody.model_validate(given)


UNMETERED_SHEETS = (
    _planned(
        "Sail trials from the jetty",
        "Planned the evening before. Meter it there.",
        "hazy-sun",
        name="hazy sun on the creek",
        lens="long",
        motion=[{"subject": "dinghy", "sharp": {"by": "pixel", "value": 2}}],
        hold={"burst": 8},
    ),
    _planned(
        "Sluice as a veil",
        "Soft water, sharp boards. Stay off the wet sill.",
        "overcast",
        name="overcast over the sluice",
        lens="main",
        support="tripod",
        format="raw",
        looks=[{"look": "soft", "subject": "sluice"}],
    ),
)
BENCH_SHEETS = (
    _planned(
        "Loaf and butter at tea break",
        "Soft window light, crumb readable, true colours.",
        "window",
        name="the tea table by the window",
        lens="main",
        support="braced",
        light_colour={"usual": "window", "ground": "neutral", "neutral_in_frame": True},
        focus={"on": "the crust", "distance_m": 0.45, "background_m": 1.6},
        output={"use": "web", "snr": "acceptable"},
    ),
    _planned(
        "Bronze screw thread, close",
        "The thread sharp from crest to root.",
        "workshop",
        name="the thread under the bench lamp",
        lens="main",
        support="tripod",
        light_colour={"lamps": [{"name": "Bench panel", "cct_k": 4000, "duv": 0.001, "cri": 92}]},
        flicker={"driver_hz": 480},
        closeup={"distance_m": 0.08},
        focus={
            "distance_m": 0.08,
            "near_m": 0.076,
            "far_m": 0.086,
            "thing_mm": 18,
            "clip_on": {"name": "Ten dioptres", "dioptres": 10, "lens": "main"},
        },
    ),
)
SHOP_SHEET = _planned(
    "Tins and fittings for the shop",
    "Twelve things alike, true colours, plain background.",
    "window",
    name="the loft window",
    lens="long",
    support="tripod",
    light_colour={"usual": "window", "ground": "neutral", "neutral_in_frame": True},
)
DRAWING_SHEETS = (
    _planned(
        "Kettle drawn with a lamp",
        "One line of light, the shed wall barely visible.",
        "starlight",
        name="the shed wall in the dark",
        role="keep-dark",
        output={"snr": "any"},
        lens="main",
        support="tripod",
        drawing={"time_s": 12, "ambient_black_stops": -4},
        focus={"distance_m": 3.5, "stand_in": "the oar stood at the mark, lit by a torch"},
    ),
)
