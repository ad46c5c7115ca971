"""What may be asked for: every ask with its fields, and the roles a reading may have."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from oxlen.core import decisions
from oxlen.core.decisions.framework.brief import (
    NEUTRAL,
    ROLE_NAMES,
    SPOT_ROLE_NAMES,
    SUBJECT,
    TONE_ONLY,
    Role,
    SpotRole,
)
from oxlen.core.decisions.framework.dial import SeriesPart
from oxlen.formats.sheet.file import SPOT_RADIUS
from oxlen.server.permits import FOR_PHONES
from oxlen.views.fields import AskView, ask_views

router = APIRouter(prefix="/api", tags=["asks"], dependencies=[FOR_PHONES])


class RoleView(BaseModel):
    """A role a reading may have."""

    id: SpotRole
    name: str


class SpotRules(BaseModel):
    """How a spot begins and how large it may be, as shares of the shorter side; its role."""

    r: float
    smallest: float
    largest: float
    first_role: Role
    later_role: Role
    new_role: SpotRole


class PlaceRules(BaseModel):
    """Ends and step of the slider for a wanted tone, in stops from mid."""

    low: float
    high: float
    step: float


class Asks(BaseModel):
    """Everything a sheet may say, with ranges, units, choices and defaults.

    `instruments` name the drawing that shows a line of the slip at work, by the line's field.
    """

    roles: list[RoleView]
    spot_roles: list[RoleView]
    spot: SpotRules
    place: PlaceRules
    asks: list[AskView]
    instruments: dict[str, str]
    series_parts: list[SeriesPart]


@router.get("/asks")
def asks() -> Asks:
    """Everything that may be asked for, in the order of the decisions."""
    roles = [RoleView(id=role, name=name) for role, name in ROLE_NAMES.items()]
    spot_roles = [RoleView(id=role, name=name) for role, name in SPOT_ROLE_NAMES.items()]
    spot = SpotRules(
        r=SPOT_RADIUS,
        smallest=0.004,
        largest=0.4,
        first_role=SUBJECT,
        later_role=NEUTRAL,
        new_role=TONE_ONLY,
    )
    place = PlaceRules(low=-6, high=4, step=0.1)
    return Asks(
        roles=roles,
        spot_roles=spot_roles,
        spot=spot,
        place=place,
        asks=ask_views(),
        instruments=dict(decisions.instruments()),
        series_parts=list(decisions.series_parts()),
    )
