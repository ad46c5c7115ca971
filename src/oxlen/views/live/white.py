"""The colour of the light on grey or white patches of the live preview."""

from __future__ import annotations

from dataclasses import replace

from pydantic import BaseModel

from oxlen.core.decisions.colour.ask import LIGHT_COLOUR, MeasuredPatch
from oxlen.core.decisions.framework.brief import NEUTRAL, Brief
from oxlen.core.errors import BadInput
from oxlen.core.light.meter import Spot
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.sheet.file import SpotBody
from oxlen.metering.live_frame import LiveFrame
from oxlen.metering.white import OwnDial, WhiteReading

NO_KELVIN = (
    "The light’s colour needs a fixed white balance. Dial it first, or measure the patch in a "
    "picture."
)


class LiveWhite(BaseModel):
    """The light on a patch; `cct_k` is None where it could not be measured, and `words` why."""

    id: str
    words: str
    cct_k: float | None = None
    duv: float = 0.0
    plus_minus_mired: float = 0.0


def live_whites(spots: list[SpotBody], profile: PhoneProfile, frame: LiveFrame) -> list[LiveWhite]:
    """The light on every grey or white patch among the spots."""
    dial = profile.white
    own = None if dial is None else OwnDial(profile.make, profile.model, dial.offset_mired)
    return [_white(spot, own, frame) for spot in spots if spot.role == NEUTRAL]


def lit_as_measured(brief: Brief, whites: list[LiveWhite]) -> Brief:
    """The brief with the light's colour from the first patch; one measured before goes first."""
    asked = brief[LIGHT_COLOUR]
    first = next((white for white in whites if white.cct_k is not None), None)
    if first is None or first.cct_k is None or asked.patch is not None:
        return brief
    patch = MeasuredPatch(first.cct_k, first.duv, plus_minus_mired=first.plus_minus_mired)
    return brief.asking(LIGHT_COLOUR, replace(asked, patch=patch))


def _white(spot: SpotBody, own: OwnDial | None, frame: LiveFrame) -> LiveWhite:
    try:
        found = frame.white(Spot(spot.id, spot.x, spot.y, r=spot.r), own)
    except BadInput as error:
        return LiveWhite(id=spot.id, words=error.message)
    if found.light is None:
        return LiveWhite(id=spot.id, words=NO_KELVIN)
    return _measured(spot.id, found)


def _measured(spot_id: str, found: WhiteReading) -> LiveWhite:
    assert found.light is not None
    light = found.light.temperature
    words = f"Light {round(light.cct_k, -2):.0f} K ± {found.plus_minus_mired:.0f} mired."
    return LiveWhite(
        id=spot_id,
        words=f"{words} {found.warning}" if found.warning else words,
        cct_k=round(light.cct_k),
        duv=round(light.duv, 4),
        plus_minus_mired=round(found.plus_minus_mired, 1),
    )
