"""A sheet made of a night's plan."""

from __future__ import annotations

import math
from datetime import datetime
from typing import Any

from oxlen.core.errors import BadInput
from oxlen.core.sky.brightness import AIRGLOW_MAG, STOPS_A_MAGNITUDE
from oxlen.formats.outing.hours import NightFile

SKY_WHY = "predicted from sky darkness, Moon and time. A test shot shows the real value"
FOREGROUND_WHY = "predicted from the sky at that time, if clear"
FOREGROUND_PLUS_MINUS_STOPS = 0.7
"""Half a stop of a clear sky's light, and as much again of what the foreground reflects."""


def night_sheet(
    planned: NightFile,
    way_id: str,
    *,
    title: str,
    where: tuple[str, str],
    rule: str,
    trail_px: float,
    land: str = "silhouette",
) -> dict[str, Any]:
    """A sheet's body for a way of a night, on a phone and lens.

    BadInput for no such way, and for the phone's own mode, in which nothing is dialled.
    """
    way = next((night_way for night_way in planned.ways if night_way.id == way_id), None)
    if way is None or way_id == "phone":
        raise BadInput("This lens does not allow that method.", "way")
    phone_id, lens_id = where
    body: dict[str, Any] = {
        "title": title[:120],
        "intent": f"{planned.date}: {way.name.lower()}, {way.label}.",
        "phone": phone_id,
        "lens": lens_id,
        "support": "tripod",
        "format": "raw",
        "strategy": {"exposure": "dark"},
        "sky": {**_sky(way_id, rule, trail_px), "land": land},
        "focus": {"strategy": "by_hand"},
        "readings": [_sky_reading(planned, way.sky_stops or 0.0)],
    }
    if not way.reaches or way_id == "trails":
        # Chosen in the knowledge of its grain: it is no reason to have no slip.
        body["output"] = {"snr": "any"}
    if way.frames > 1:
        combine = "series" if way_id == "trails" else "average"
        body["frames"] = {"count": way.frames, "gap_s": way.gap_s, "combine": combine}
    return body


def foreground_sheet(
    planned: NightFile, land: str, *, title: str, where: tuple[str, str]
) -> dict[str, Any] | None:
    """A sheet's body for the foreground's own frames; None where it is to have none."""
    way = next((frame for frame in planned.land if frame.id == land), None)
    if way is None or way.ev100 is None or not way.reaches:
        return None
    phone_id, lens_id = where
    at = "" if way.at is None else f" at {datetime.fromisoformat(way.at):%H:%M}"
    body: dict[str, Any] = {
        "title": title[:120],
        "intent": f"{planned.date}{at}: foreground only, {way.label}, to blend under the stars. "
        "Do not move anything in between.",
        "phone": phone_id,
        "lens": lens_id,
        "support": "tripod",
        "format": "raw",
        "land": {"shot": land},
        "focus": {"strategy": "by_hand"},
        "output": {"snr": "any"},
        "readings": [
            {
                "id": "land",
                "name": "Foreground",
                "role": "subject",
                "place": round(way.lands_stops, 2),
                "source": _predicted(way.ev100, FOREGROUND_PLUS_MINUS_STOPS, FOREGROUND_WHY),
            }
        ],
    }
    if way.frames > 1:
        gap_s = (way.elapsed_s - way.frames * (way.shutter_s or 0.0)) / (way.frames - 1)
        frames = {"count": way.frames, "gap_s": round(gap_s, 3), "combine": "average"}
        body["frames"] = frames
    return body


def _sky_reading(planned: NightFile, place_stops: float) -> dict[str, Any]:
    """The sky between the stars as a reading, placed where the way puts it."""
    doubt_stops = STOPS_A_MAGNITUDE * math.hypot(planned.plus_minus_magnitude, AIRGLOW_MAG)
    return {
        "id": "sky",
        "name": "Sky between the stars",
        "role": "keep-dark",
        "place": round(place_stops, 2),
        "source": _predicted(planned.sky_ev100, doubt_stops, SKY_WHY),
    }


def _predicted(ev100: float, plus_minus_stops: float, why: str) -> dict[str, Any]:
    return {
        "kind": "predicted",
        "ev100": round(ev100, 2),
        "plus_minus_stops": round(plus_minus_stops, 2),
        "why": why,
    }


def _sky(way_id: str, rule: str, trail_px: float) -> dict[str, Any]:
    """What is asked of the stars: points by the rule, or trails as long as they like."""
    sky: dict[str, Any] = {"kind": "stars", "declination_deg": 0.0}
    if way_id == "trails":
        return {**sky, "trail_px": 1000.0}
    return {**sky, **({"trail_px": trail_px} if rule == "pixels" else {"rule": rule})}
