"""Phone profiles of other versions brought to the plain form that Oxlen keeps."""

from __future__ import annotations

import copy
from typing import Any

FIGURE_FIELDS = {"value", "plus_minus", "origin", "date"}
PLAIN, WITH_ORIGINS = "oxlen-phone/1", "oxlen-phone/2"
METER, METER_DOUBT = "meter_offset_stops", "meter_plus_minus_stops"


def plain_profile(data: object) -> object:
    """`oxlen-phone/2` as plain values with their origins apart; anything else as it is."""
    if not isinstance(data, dict) or data.get("format") != WITH_ORIGINS:
        return data
    from oxlen.formats.phone.figures import figure_places  # which knows the profile itself

    plain: dict[str, Any] = {**copy.deepcopy(data), "format": PLAIN}
    origins = dict(plain.get("origins") or {})
    for place in list(figure_places(plain)):
        figure = place.holder[place.key]
        if not isinstance(figure, dict) or "value" not in figure or set(figure) - FIGURE_FIELDS:
            continue
        place.holder[place.key] = figure["value"]
        doubt = figure.get("plus_minus")
        if place.path == METER and doubt is not None:
            plain[METER_DOUBT] = doubt
        if stated := figure.get("origin"):
            origins[place.path] = {
                "origin": stated,
                "plus_minus": doubt,
                "date": figure.get("date"),
            }
    return {**plain, "origins": origins}
