"""Development notes of takes, previews and files developed by a recipe, recipes kept."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.decisions.framework.brief import NEUTRAL, SPOT_ROLE_NAMES, SUBJECT
from oxlen.core.light.meter import Spot
from oxlen.formats.sheet.file import SheetBody, SpotBody
from oxlen.formats.sheet.recipe import RecipeFile, recipe_file
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Strict
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.waiting import while_asked_for
from oxlen.store.sheets import sheet
from oxlen.store.takes import Take, keep_recipe, recipes, take
from oxlen.takes.developing import DevelopmentAsk, Ending
from oxlen.workers.worker_tasks import developed_take, development_of

router = APIRouter(prefix="/api", tags=["development"], dependencies=[FOR_PHONES])

PREVIEW_PX = 1400
USUAL_ISO = 100.0
KINDS = {"jpg": "image/jpeg", "tif": "image/tiff"}


class DevelopmentView(BaseModel):
    """What a take suggests for its development; `kept` is the recipe chosen for it, if any.

    `from_raw` says whether the RAW is developed or, for want of one, the processed file.
    """

    recipe: RecipeFile
    kept: RecipeFile | None
    noise: str
    lift_bears_stops: float
    sentences: list[str]
    from_raw: bool


class KeptRecipe(BaseModel):
    """A recipe kept with a take, to be used for another."""

    take_id: int
    name: str
    recipe: RecipeFile


class RecipeChange(Strict):
    """The recipe to keep with a take; null forgets it."""

    recipe: RecipeFile | None


@router.get("/takes/{take_id}/development")
async def development(take_id: RowId, request: Request, context: Shared) -> DevelopmentView:
    """What the take's light, noise and frame suggest, as numbers and sentences."""
    kept_take, asked = await run_in_threadpool(_asked, context, take_id)
    job = context.pool.begin(
        "bench", development_of, context.library.folder, _developed_from(kept_take), asked
    )
    notes = await while_asked_for(request, job)
    kept = None if kept_take.recipe is None else RecipeFile.model_validate_json(kept_take.recipe)
    return DevelopmentView(
        recipe=recipe_file(notes.recipe),
        kept=kept,
        noise=notes.noise,
        lift_bears_stops=notes.lift_bears_stops,
        sentences=list(notes.sentences),
        from_raw=kept_take.raw_sha256 is not None or asked.is_raw,
    )


@router.post("/takes/{take_id}/developed", response_class=Response)
async def developed(
    take_id: RowId,
    recipe: RecipeFile,
    request: Request,
    *,
    context: Shared,
    ending: Annotated[Ending, Query()] = "jpg",
    whole: bool = False,
) -> Response:
    """The take developed: small for the screen, or whole, as JPEG or TIFF of 16 bits."""
    kept_take = await run_in_threadpool(_take, context, take_id)
    job = context.pool.begin(
        "bench",
        developed_take,
        context.library.folder,
        _developed_from(kept_take),
        recipe.to_recipe(),
        side_px=100_000 if whole else PREVIEW_PX,
        ending=ending,
    )
    made: bytes = await while_asked_for(request, job)
    headers = {"content-disposition": f'attachment; filename="take-{take_id}.{ending}"'}
    return Response(made, media_type=KINDS[ending], headers=headers if whole else {})


@router.put("/takes/{take_id}/recipe")
def change_recipe(take_id: RowId, change: RecipeChange, context: Shared) -> RecipeChange:
    """Keep how a take is developed; its files stay as they are."""
    text = None if change.recipe is None else change.recipe.model_dump_json()
    with context.library.writer() as connection:
        keep_recipe(connection, take_id, text)
    return change


@router.get("/recipes")
def kept_recipes(context: Shared) -> list[KeptRecipe]:
    """Recipes kept with takes, the newest first, to be used for others."""
    with context.library.reader() as connection:
        found = recipes(connection)
    return [
        KeptRecipe(take_id=take_id, name=name, recipe=RecipeFile.model_validate_json(text))
        for take_id, name, text in found
    ]


def _take(context: Context, take_id: int) -> Take:
    with context.library.reader() as connection:
        return take(connection, take_id)


def _developed_from(kept: Take) -> str:
    return kept.raw_sha256 or kept.sha256


def _asked(context: Context, take_id: int) -> tuple[Take, DevelopmentAsk]:
    with context.library.reader() as connection:
        kept_take = take(connection, take_id)
        body = read_sheet(sheet(connection, kept_take.sheet_id).body)
    phone = context.find_phone(body.phone).to_phone()
    asked = body.asked()
    lens = phone.lens(asked["lens"] if asked["lens"] in {x.id for x in phone.lenses} else None)
    iso = json.loads(kept_take.settings).get("iso") or USUAL_ISO
    subject = _spot(body, SUBJECT)
    neutral = _spot(body, NEUTRAL)
    return kept_take, DevelopmentAsk(
        lens.modes[0],
        float(iso),
        None if subject is None else _as_spot(subject),
        wanted_stops=None if subject is None else _wanted(subject),
        neutral=None if neutral is None else _as_spot(neutral),
        is_raw=context.pictures.report(kept_take.sha256).file.kind == "raw",
        is_night=asked["sky"] is not None,
    )


def _spot(body: SheetBody, role: str) -> SpotBody | None:
    return next((spot for spot in body.spots if spot.role == role), None)


def _as_spot(spot: SpotBody) -> Spot:
    return Spot(spot.name or SPOT_ROLE_NAMES[spot.role], spot.x, spot.y, r=spot.r)


def _wanted(spot: SpotBody) -> float:
    return 0.0 if spot.place is None else spot.place
