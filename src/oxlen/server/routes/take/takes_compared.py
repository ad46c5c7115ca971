"""Takes beside one another: how they differ, and their pixels one to one."""

from __future__ import annotations

import json
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from oxlen.core.review.takes_compared import TakenWith, differences
from oxlen.formats.picture_report import SettingsFacts
from oxlen.formats.strict import Id
from oxlen.server.context import Sha256, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.take.takes import TakeView, take_view
from oxlen.server.waiting import while_asked_for
from oxlen.store.pictures import kept_picture
from oxlen.store.takes import Take, take
from oxlen.workers.worker_tasks import picture_detail

router = APIRouter(prefix="/api", tags=["takes"], dependencies=[FOR_PHONES])

Share = Annotated[float, Query(ge=0, le=1)]


class ComparedTake(BaseModel):
    """A take beside others: how its settings differ from the first's, and its whole size."""

    take: TakeView
    differs: list[str]
    width: int
    height: int


@router.get("/takes-compared")
def compared(
    ids: Annotated[list[Id], Query(min_length=1, max_length=4)], context: Shared
) -> list[ComparedTake]:
    """Two to four takes, in the order they are named."""
    with context.library.reader() as connection:
        takes = [take(connection, number) for number in ids]
        sizes = [json.loads(kept_picture(connection, shot.sha256).report)["file"] for shot in takes]
    first = _with(takes[0])
    return [
        ComparedTake(
            take=take_view(shot),
            differs=differences(first, _with(shot)),
            width=size["width"] or 0,
            height=size["height"] or 0,
        )
        for shot, size in zip(takes, sizes, strict=True)
    ]


@router.get("/pictures/{sha256}/detail", response_class=Response)
async def detail(
    sha256: Sha256,
    request: Request,
    context: Shared,
    *,
    x: Share,
    y: Share,
    side_px: Annotated[int, Query(ge=64, le=1200)] = 480,
) -> Response:
    """A square of a picture's own pixels around a place, one to one, as JPEG."""
    await run_in_threadpool(_known, context, sha256)
    job = context.pool.begin(
        "bench", picture_detail, context.library.folder, sha256, (x, y), side_px=side_px
    )
    made: bytes = await while_asked_for(request, job)
    headers = {"cache-control": "private, max-age=31536000, immutable"}
    return Response(made, media_type="image/jpeg", headers=headers)


def _known(context: Shared, sha256: str) -> None:
    with context.library.reader() as connection:
        kept_picture(connection, sha256)


def _with(kept: Take) -> TakenWith:
    settings = SettingsFacts.model_validate(json.loads(kept.settings))
    return TakenWith(
        settings.iso,
        settings.shutter_s,
        settings.f_number,
        lens=kept.lens,
        is_raw_too=kept.raw_sha256 is not None,
    )
