"""Phones as people describe them, and two of them on the same scene."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response

from oxlen.core.kit.phone import Lens, Mode
from oxlen.formats.phone.file import phone_file
from oxlen.formats.strict import Slug, Strict
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_KIT
from oxlen.views.lenses_compared import ComparedLine, compared
from oxlen.views.phone_portrait import PhonePortrait, portrait

router = APIRouter(prefix="/api/kit", tags=["kit"], dependencies=[FOR_KIT])
PAIR = r"^[a-z0-9-]{1,42}/[a-z0-9-]{1,42}$"
LensOf = Annotated[str, Query(pattern=PAIR, description="phone/lens")]


class CompareAsked(Strict):
    """Two lenses, and the scene they are compared with."""

    first: LensOf
    second: LensOf
    ev100: Annotated[float, Query(ge=-6, le=18)] = 5.0
    distance_m: Annotated[float, Query(ge=0.3, le=200)] = 4.0


@router.get("/phones/{phone_id}/portrait")
def phone_portrait(phone_id: Slug, context: Shared) -> PhonePortrait:
    """What a phone is good for, and which measurement would sharpen its slips most."""
    return portrait(context.plain_phone(phone_id))


@router.get("/phones/{phone_id}/file", response_class=Response)
def exported_phone(phone_id: Slug, context: Shared) -> Response:
    """A phone's profile as people exchange it: every figure with its origin, and no owner."""
    name = f'attachment; filename="{phone_id}.phone.json"'
    text = json.dumps(phone_file(context.plain_phone(phone_id)), indent=2, ensure_ascii=False)
    headers = {"content-disposition": name}
    return Response(text, media_type="application/json", headers=headers)


@router.get("/compare")
def compare(asked: Annotated[CompareAsked, Query()], context: Shared) -> list[ComparedLine]:
    """Two phones or lenses on the same scene, handheld."""
    pair = (_lens(context, asked.first), _lens(context, asked.second))
    lines = compared(*pair, scene_ev100=asked.ev100, distance_m=asked.distance_m)
    return list(lines)


def _lens(context: Context, named: str) -> tuple[Lens, Mode]:
    phone_id, lens_id = named.split("/")
    phone = context.find_phone(phone_id).to_phone()
    lens = phone.lens(lens_id)
    return lens, lens.modes[0]
