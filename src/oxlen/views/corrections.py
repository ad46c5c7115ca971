"""What was put to the light that was read, in words: a filter on the picture, another hour."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from pydantic import BaseModel

from oxlen.core.labels import ev_label, stops_label
from oxlen.formats.sheet.file import SheetBody
from oxlen.metering.light import SheetLight
from oxlen.views.patch import LIGHT_SHIFT

BRIGHTEST_MEAN_EV100 = 16.5
"""The mean of a frame of nothing but sunlit white; a brighter one is a slip of the pen."""
PICTURE_GLASS = "picture_glass_stops"


class Correction(BaseModel):
    """One correction: what it did to the reading, what makes it doubtful, how to take it back."""

    id: str
    words: str
    doubt: str | None
    patch: dict[str, Any]


def corrections(body: SheetBody, light: SheetLight) -> list[Correction]:
    """Every correction of a sheet that changed its readings."""
    return [*_glass(body, light), *_hour(body, light)]


def _glass(body: SheetBody, light: SheetLight) -> Iterator[Correction]:
    stops, mean = body.picture_glass_stops, None if light.picture is None else light.mean_ev100
    if stops == 0 or mean is None:
        return
    words = (
        f"Shot through a {stops:.1f}-stop filter: the scene is {stops_label(stops)} brighter, "
        f"mean {ev_label(mean)} "
        f"instead of {ev_label(mean - stops)}."
    )
    yield Correction(id="glass", words=words, doubt=_doubt(mean), patch={PICTURE_GLASS: 0.0})


def _hour(body: SheetBody, light: SheetLight) -> Iterator[Correction]:
    shift = body.light_shift_stops
    read = [reading for reading in light.readings if reading.counts]
    if shift == 0 or not read or read[0].ev100 is None:
        return
    side, first = "stronger" if shift > 0 else "weaker", read[0]
    was, name = read[0].ev100, first.name or "the light"
    words = (
        f"Planned for light {stops_label(shift)} {side} than measured: {name} at "
        f"{ev_label(was + shift)} instead of {ev_label(was)}."
    )
    mean = light.mean_ev100
    doubt = _doubt(mean + shift) if mean is not None and shift > 0 else None
    yield Correction(id="light", words=words, doubt=doubt, patch={LIGHT_SHIFT: 0.0})


def _doubt(mean_ev100: float) -> str | None:
    if mean_ev100 <= BRIGHTEST_MEAN_EV100:
        return None
    return f"{ev_label(mean_ev100)} is brighter than a white hull in full sun. Check the figure."
