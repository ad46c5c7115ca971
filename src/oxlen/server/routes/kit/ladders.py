"""Focus ladders: pictures at stepped slider values, measured one by one and not kept."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query, Request
from pydantic import Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import BadInput
from oxlen.core.focus.ladder import at_sliders_end, ladder_words
from oxlen.core.focus.sharpness import PatchSharpness
from oxlen.core.light.meter import Spot
from oxlen.formats.phone.parts import Metres, Slider, SliderPointProfile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.slider_points import with_point, without_point
from oxlen.formats.strict import Slug, Strict
from oxlen.metering.ladder import surest
from oxlen.server.context import Context, Shared
from oxlen.server.own_phone import keep_own
from oxlen.server.permits import FOR_KIT, FOR_PHONES
from oxlen.server.routes.kit.kit import KitPhone, kit_phone
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, stream_to
from oxlen.server.waiting import while_asked_for
from oxlen.workers.worker_tasks import ladder_look, ladder_patch

router = APIRouter(prefix="/api", tags=["ladders"], dependencies=[FOR_PHONES])

Finite = Annotated[float, Field(ge=0, le=1e12, allow_inf_nan=False)]
MOST_PICTURES = 200


class LadderLook(Strict):
    """A picture of a ladder for the screen: a small JPEG as a data address, and what it tells."""

    preview: str
    slider: float | None
    software: str | None


class Detail(Strict):
    """Detail of the patch at one scale, its noise, and the doubt about the detail."""

    energy: Finite
    noise: Finite
    sigma: Finite


class PatchDetail(Strict):
    """Detail of the patch in one picture, at one to three scales."""

    scales: Annotated[list[Detail], Field(min_length=1, max_length=3)]


class LadderRung(PatchDetail):
    """The same with the slider value the picture was taken at."""

    value: Slider


class LadderAsked(Strict):
    """The rungs of a ladder; three at least, each with a value of its own.

    `reach` is the slider's lowest and highest value, where the ladder climbs all of it.
    """

    rungs: Annotated[list[LadderRung], Field(min_length=3, max_length=MOST_PICTURES)]
    reach: tuple[Slider, Slider] | None = None


class LadderSample(Strict):
    """Sharpness at a slider value, noise removed, as a share of the sharpest."""

    value: float
    share: float


class LadderFound(Strict):
    """The slider value of best focus with its ±, or which way to go on, and either in words."""

    value: float | None
    plus_minus: float | None
    go_on: str | None
    samples: list[LadderSample]
    words: str


class PatchPlace(Strict):
    """The patch, given on the upright picture: x, y as shares, r of the shorter side."""

    x: Annotated[float, Query(ge=0, le=1)]
    y: Annotated[float, Query(ge=0, le=1)]
    r: Annotated[float, Query(ge=0.002, le=0.5)] = 0.06
    name: FileName


class SliderPointAsked(Strict):
    """A slider value found for a distance (null: infinity), on a lens, bare or with a clip-on."""

    lens: Slug
    clip_on: Annotated[str, Field(max_length=60)] = ""
    software: Annotated[str, Field(max_length=60)] = ""
    value: Slider
    distance_m: Metres | None
    plus_minus: Annotated[float, Field(ge=0, le=1e6)] | None = None
    found: Annotated[str, Field(max_length=120)] = ""


@router.post("/ladder/look", openapi_extra=STREAM)
async def look_at_rung(request: Request, context: Shared, *, name: FileName) -> LadderLook:
    """See a picture of a ladder; the body is the file itself, and it is not kept."""
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, plain_name(name))
        job = context.pool.begin("intake", ladder_look, incoming, plain_name(name))
        return LadderLook(**await while_asked_for(request, job))


@router.post("/ladder/patch", openapi_extra=STREAM)
async def measure_rung(
    request: Request, context: Shared, *, at: Annotated[PatchPlace, Query()]
) -> PatchDetail:
    """Measure the patch in a picture of a ladder; the body is the file, and it is not kept."""
    name, spot = plain_name(at.name), Spot("patch", at.x, at.y, r=at.r)
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, name)
        job = context.pool.begin("intake", ladder_patch, incoming, name, spot)
        found = await while_asked_for(request, job)
    return PatchDetail(scales=[Detail(**vars(patch)) for patch in found])


@router.post("/ladder/peak")
def find_peak(asked: LadderAsked) -> LadderFound:
    """Where along the slider the patch is sharpest."""
    rungs = sorted(asked.rungs, key=lambda point: point.value)
    if len({ladder_rung.value for ladder_rung in rungs}) < len(rungs):
        raise BadInput("Two pictures of a ladder have the same slider value.", "values")
    found = surest(
        [
            (ladder_rung.value, tuple(PatchSharpness(**vars(s)) for s in ladder_rung.scales))
            for ladder_rung in rungs
        ]
    )
    most = max(rung.sharpness for rung in found.rungs)
    result, values = found.result, [point.value for point in rungs]
    if asked.reach is not None:
        result = at_sliders_end(result, values, reach=asked.reach)
    return LadderFound(
        **vars(result),
        samples=[LadderSample(value=r.value, share=r.sharpness / most) for r in found.rungs],
        words=ladder_words(result),
    )


@router.post("/kit/phones/{phone_id}/slider-points", status_code=201, dependencies=[FOR_KIT])
async def keep_slider_point(phone_id: Slug, asked: SliderPointAsked, context: Shared) -> KitPhone:
    """Keep a point of a slider's scale; a shipped phone is copied into the kit for it."""
    point = SliderPointProfile(
        value=asked.value,
        distance_m=asked.distance_m,
        plus_minus=asked.plus_minus,
        found=asked.found,
        date=context.now()[:10],
    )
    given = {"clip_on": asked.clip_on, "software": asked.software}
    changed = with_point(context.plain_phone(phone_id), asked.lens, point, **given)
    return await run_in_threadpool(_keep, context, changed)


@router.delete("/kit/phones/{phone_id}/slider-points", dependencies=[FOR_KIT])
async def drop_slider_point(
    phone_id: Slug,
    context: Shared,
    *,
    lens: Slug,
    value: Annotated[float, Query(ge=-1e5, le=1e5)],
    clip_on: Annotated[str, Query(max_length=60)] = "",
) -> KitPhone:
    """Take a point out of a slider's scale; a shipped phone is copied into the kit for it."""
    changed = without_point(context.plain_phone(phone_id), lens, value, clip_on=clip_on)
    return await run_in_threadpool(_keep, context, changed)


def _keep(context: Context, changed: PhoneProfile) -> KitPhone:
    now = context.now()
    with context.library.writer() as connection:
        kept = keep_own(connection, changed, now)
    return kit_phone(kept, today=date.fromisoformat(now[:10]))
