"""Practice phones: kept from a seed, photographed on the bench, their truth shown afterwards."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from oxlen.core.errors import BadInput
from oxlen.devices.standins.mystery_bench import (
    BENCH,
    Sampled,
    bench_given,
    bench_samples,
    practice_profile,
    truth_words,
)
from oxlen.formats.strict import Strict
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_KIT, FOR_PHONES
from oxlen.server.routes.kit.kit import KitPhone, kit_phone
from oxlen.server.routes.kit.measurement_views import MeasurementView
from oxlen.server.routes.kit.measurements import measurement_view, still_open
from oxlen.server.waiting import while_asked_for
from oxlen.store.kit.measurements import add_sample, measurement_of, say_given
from oxlen.store.kit.phones import keep_profile

router = APIRouter(prefix="/api", tags=["measurements"], dependencies=[FOR_PHONES])


class MysteryAsked(Strict):
    """The seed that a practice phone is drawn from."""

    seed: Annotated[int, Field(ge=0, le=9999)]


class Truth(BaseModel):
    """The true figures behind an ended measurement of a practice phone; none for real phones."""

    words: list[str]


@router.get("/mystery-kinds")
def mystery_kinds() -> list[str]:
    """The measurements that the bench takes pictures for."""
    return list(BENCH)


@router.post("/kit/mystery-phones", status_code=201, dependencies=[FOR_KIT])
async def keep_mystery_phone(asked: MysteryAsked, request: Request, context: Shared) -> KitPhone:
    """Keep a practice phone: what its everyday files tell, all else to be measured."""
    now = context.now()
    job = context.pool.begin("bench", practice_profile, asked.seed, now[:10])
    profile = await while_asked_for(request, job)

    def keep() -> None:
        with context.library.writer() as connection:
            keep_profile(connection, profile, now)

    await run_in_threadpool(keep)
    return kit_phone(profile, today=context.clock().date())


@router.post("/measurements/{number}/bench", status_code=201, dependencies=[FOR_KIT])
async def take_on_bench(number: RowId, request: Request, context: Shared) -> MeasurementView:
    """Photograph a measurement's pictures with a practice phone, and read them."""
    with context.library.reader() as connection:
        kept = still_open(measurement_of(connection, number))
    job = context.pool.begin("bench", bench_samples, kept.phone_id, kept.kind)
    found = await while_asked_for(request, job)
    return await run_in_threadpool(_read_in, context, number, found)


def _read_in(context: Context, number: int, found: list[Sampled]) -> MeasurementView:
    with context.library.writer() as connection:
        kept = still_open(measurement_of(connection, number))
        for sha256, name, sample in found:
            add_sample(connection, number, sha256, name=name, sample=sample)
        given = bench_given(kept.phone_id, kept.kind)
        say_given(connection, number, {**kept.given, **given})
    return measurement_view(context, number)


@router.get("/measurements/{number}/truth", dependencies=[FOR_KIT])
def truth(number: RowId, context: Shared) -> Truth:
    """The true figures of a practice phone, once the measurement of them has ended."""
    with context.library.reader() as connection:
        kept = measurement_of(connection, number)
    if kept.state == "open":
        raise BadInput("The true values are shown after the measurement.", "state")
    paths = [figure["path"] for figure in (kept.outcome or {}).get("figures", [])]
    return Truth(words=truth_words(kept.phone_id, paths))
