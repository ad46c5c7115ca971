"""Sheets that ask for anything: random, from a seed, anywhere in the ranges of every ask."""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

Body = dict[str, Any]
CHANGED, FILLED = 0.14, 0.4
"""How often an ask is changed, and a field of it."""


def any_readings(draw: np.random.Generator, roles: Sequence[str]) -> list[Body]:
    """One to three readings, some without a name."""
    light = draw.uniform(-10, 17)
    return [
        {
            "id": f"r{place}",
            "name": f"place {place}" if draw.random() < 0.7 else "",
            "role": roles[int(draw.integers(len(roles)))] if place else "subject",
            "source": {"kind": "ev", "ev100": float(np.clip(light + off, -12, 24))},
        }
        for place, off in enumerate((0.0, *draw.uniform(-8, 8, int(draw.integers(0, 3)))))
    ]


def edited(draw: np.random.Generator, body: Body, asks: Sequence[Mapping[str, Any]]) -> Body:
    """A body with some of its asks begun and their fields anywhere in their ranges."""
    body = copy.deepcopy(body)
    for ask in asks:
        now, entry = body.get(ask["name"]), ask.get("entry")
        first = entry[0] if isinstance(entry, list) and entry else entry
        if draw.random() > CHANGED or isinstance(first, list):
            continue
        if isinstance(now, list):
            body[ask["name"]] = [copy.deepcopy(first)] if isinstance(first, dict) else now
        elif now is None:
            body[ask["name"]] = copy.deepcopy(entry)
        for field in ask["fields"]:
            if draw.random() < FILLED:
                put(body, field["path"], anything(draw, field))
    return body


def put(body: Body, path: Sequence[str], value: Any) -> None:
    """Set a field by its path, in the first of a list; nothing where its ask is not begun."""
    place: Any = body
    for key in path[:-1]:
        place = place.get(key) if isinstance(place, dict) else None
        place = place[0] if isinstance(place, list) and place else place
    if isinstance(place, dict) and value is not None:
        place[path[-1]] = value


def anything(draw: np.random.Generator, field: Mapping[str, Any]) -> Any:
    """A value a field may have: one of its choices, or a number of its range or at its ends."""
    if field["choices"]:
        return field["choices"][int(draw.integers(len(field["choices"])))]["value"]
    low, high = field["low"], field["high"]
    if low is None or high is None:
        return None
    even = draw.uniform(low, high)
    value = even if low <= 0 else float(np.exp(draw.uniform(np.log(low), np.log(high))))
    value = (low, high, value, value, value)[int(draw.integers(5))]
    return round(value) if field["whole"] else float(value)
