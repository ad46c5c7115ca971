"""Shop series: checked, looked at as they will be, and handed over."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, Query
from fastapi.responses import FileResponse, Response

from oxlen.core.errors import BadInput, NotFound
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.import_jobs import soon
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.outing.imports import ImportView, import_view
from oxlen.shop.codes import code_text
from oxlen.shop.export import HandOver, SeriesPicture, refuse_same_names
from oxlen.shop.in_library import (
    TakeToHandOver,
    check_shop_series,
    hand_over_shop_series,
    matched_look,
)
from oxlen.shop.kept_series import KeptShopSeries, kept_series
from oxlen.shop.uses import use_of
from oxlen.store.sheets import sheet
from oxlen.views.summary import summary_of

router = APIRouter(prefix="/api", tags=["shop series"], dependencies=[FOR_PHONES])
JPEG: dict[str, Any] = {"content": {"image/jpeg": {}}}
PDF: dict[str, Any] = {"content": {"application/pdf": {}}}
LookSide = Annotated[int, Query(ge=100, le=2000)]


@router.post("/sheets/{sheet_id}/shop/check")
async def check_shop(sheet_id: RowId, context: Shared) -> ImportView:
    """Compare every picture that is not measured yet with the reference.

    A long series goes on after the answer: `/imports/{id}` tells how far it is, and stops it.
    """
    kept = _kept(context, sheet_id)
    grey = None if kept.options.grey is None else kept.options.grey.spot
    source = context.library.incoming_path()
    job = context.import_jobs.begin(
        check_shop_series, context.library.folder, source, takes=kept.to_check(), grey=grey
    )
    return import_view(await soon(job))


@router.post("/sheets/{sheet_id}/shop/zip")
async def make_shop_zip(sheet_id: RowId, context: Shared) -> ImportView:
    """Make the zip that is handed over: matched pictures, a list and a contact sheet."""
    kept = _kept(context, sheet_id)
    takes = kept.to_hand_over()
    if not takes:
        raise BadInput("No thing has a picture yet.", "takes")
    if kept.to_check():
        raise BadInput("Check the series first.", "takes")
    _refuse_names(kept, takes)
    source = context.library.incoming_path()
    job = context.import_jobs.begin(
        hand_over_shop_series,
        context.library.folder,
        source,
        takes=takes,
        options=kept.options,
        target=context.library.shop_zip_path(sheet_id),
    )
    return import_view(await soon(job))


@router.get("/sheets/{sheet_id}/shop/zip", response_class=FileResponse)
def shop_zip(sheet_id: RowId, context: Shared) -> FileResponse:
    """The zip that was made last; NotFound before the first."""
    path = context.library.shop_zip_path(sheet_id)
    if not path.is_file():
        raise NotFound("Make the zip first.", sheet=sheet_id)
    name = f"{_file_stem(context, sheet_id)}.zip"
    return FileResponse(path, media_type="application/zip", filename=name)


@router.get(
    "/sheets/{sheet_id}/shop/takes/{take_id}/matched",
    response_class=Response,
    responses={200: JPEG},
)
def matched_take(
    sheet_id: RowId, take_id: RowId, context: Shared, *, side_px: LookSide = 900
) -> Response:
    """A picture as it will be handed over, small."""
    kept = _kept(context, sheet_id)
    chosen = list(kept.chosen.values())
    if take_id not in chosen:
        raise NotFound("This take shows no thing of the list.", take=take_id)
    drawn = context.pool.do(
        "bench",
        matched_look,
        context.library.folder,
        kept.to_hand_over(),
        place=chosen.index(take_id),
        options=kept.options,
        side_px=side_px,
    )
    return Response(drawn, media_type="image/jpeg", headers={"Cache-Control": "no-store"})


@router.get("/sheets/{sheet_id}/shop/labels", response_class=Response, responses={200: PDF})
def code_labels(sheet_id: RowId, context: Shared) -> Response:
    """Labels with a code for each thing, to print and hold into the first frame of it."""
    from oxlen.cards.code_labels import CodeLabel, code_labels_pdf  # slow to load

    kept = _kept(context, sheet_id)
    labels = [
        CodeLabel(thing.number or str(position), thing.name, code_text(thing.uid))
        for position, thing in enumerate(kept.things, start=1)
        if not thing.skipped
    ]
    if not labels:
        raise BadInput("The list is empty.", "things")
    name = f"{_file_stem(context, sheet_id)}-labels.pdf"
    return Response(
        code_labels_pdf(labels),
        media_type="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


def _kept(context: Context, sheet_id: int) -> KeptShopSeries:
    with context.library.reader() as connection:
        return kept_series(connection, sheet_id)


def _refuse_names(kept: KeptShopSeries, takes: list[TakeToHandOver]) -> None:
    """A pattern that cannot be filled is refused before anything is begun."""
    uses = tuple(use_of(use_id) for use_id in kept.options.uses)
    names = [
        SeriesPicture(
            path=Path(take.source),
            source=take.source,
            position=take.position,
            recipe=None,
            number=take.number,
            name=take.name,
            view=take.view,
        )
        for take in takes
    ]
    refuse_same_names(names, HandOver(pattern=kept.options.pattern, uses=uses))


def _file_stem(context: Context, sheet_id: int) -> str:
    with context.library.reader() as connection:
        title = summary_of(sheet(connection, sheet_id)).title
    return re.sub(r"[^a-z0-9]+", "-", title.casefold()).strip("-") or "series"
