"""The app, assembled from what it is given."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from functools import partial
from pathlib import Path
from typing import Any

from fastapi import Depends, FastAPI
from fastapi.routing import APIRoute
from starlette.middleware.gzip import GZipMiddleware

import oxlen
from oxlen.server.change_events import Announcing, ChangeEvents
from oxlen.server.context import Clock, Context
from oxlen.server.local_only import LocalOnly
from oxlen.server.network_state import NetworkState
from oxlen.server.openapi import describe
from oxlen.server.pages import add_pages
from oxlen.server.permits import declared
from oxlen.server.problems import PROBLEM_RESPONSES, add_problem_handlers
from oxlen.server.routes import formulas, measures, pictures
from oxlen.server.routes.kit import (
    kit,
    kit_items,
    ladders,
    measurements,
    mystery,
    phone_making,
    portraits,
)
from oxlen.server.routes.live import bench_camera, cameras, reading
from oxlen.server.routes.network import listening, network, pairing
from oxlen.server.routes.outing import (
    cards,
    darkness,
    days,
    imports,
    nights,
    outing_files,
    outings,
    places,
)
from oxlen.server.routes.sheet import (
    asks,
    bundles,
    dry_runs,
    lamp_drawing,
    long_time,
    presets,
    ramps,
    series,
    shared_frames,
    sheets,
    situations,
)
from oxlen.server.routes.shop import handing_over, set_up, things
from oxlen.server.routes.take import (
    development,
    inbox,
    learned,
    logbook,
    stacks,
    take_checks,
    takes,
    takes_compared,
)
from oxlen.store.library import Library
from oxlen.workers.pictures import PicturesInWorkers
from oxlen.workers.worker_pool import WorkerPool, shared_pool

BUILT_FRONT_END = Path(oxlen.__file__).parents[2] / "web" / "dist"
MIN_GZIP_BYTES = 1500
GZIP_LEVEL = 5  # the highest takes several times as long for a few per cent


ROUTES = (
    bundles,
    development,
    darkness,
    days,
    nights,
    places,
    cards,
    learned,
    imports,
    inbox,
    lamp_drawing,
    logbook,
    long_time,
    ramps,
    shared_frames,
    outing_files,
    outings,
    sheets,
    stacks,
    take_checks,
    takes,
    takes_compared,
    pictures,
    dry_runs,
    asks,
    kit,
    kit_items,
    presets,
    formulas,
    situations,
    series,
    things,
    handing_over,
    set_up,
    measures,
    ladders,
    phone_making,
    measurements,
    portraits,
    mystery,
    reading,
    bench_camera,
    cameras,
    network,
    pairing,
    listening,
)


def utc_now() -> datetime:
    """The clock, for everything but tests."""
    return datetime.now(UTC)


def create_app(
    library: Library,
    *,
    clock: Clock = utc_now,
    built: Path = BUILT_FRONT_END,
    pool: WorkerPool | None = None,
) -> FastAPI:
    """The whole app on a library; its heavy work is done by a pool of worker processes."""
    workers = (pool or shared_pool()).open()

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        workers.warm()
        _make_ready(app)
        with library.held_open():
            yield
            app.state.network_state.serving.stop()
            workers.stop()

    app = FastAPI(
        title="Oxlen",
        version=oxlen.__version__,
        summary="Meter a scene and solve for the settings to dial in.",
        lifespan=lifespan,
        dependencies=[Depends(declared)],
        responses=PROBLEM_RESPONSES,
        generate_unique_id_function=_operation,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.openapi = partial(_described, app)  # type: ignore[method-assign]
    app.state.context = Context(library, PicturesInWorkers(library, workers), workers, clock=clock)
    app.state.network_state = NetworkState(app, library, clock)
    add_problem_handlers(app)
    for module in ROUTES:
        app.include_router(module.router)
    add_pages(app, built)
    _add_middleware(app)
    return app


def _operation(route: APIRoute) -> str:
    """What an operation is called in the description: its module's name and its own."""
    return f"{route.endpoint.__module__.rpartition('.')[2]}_{route.name}"


def _described(app: FastAPI) -> dict[str, Any]:
    if app.openapi_schema is None:
        app.openapi_schema = describe(app)
    return app.openapi_schema


def _add_middleware(app: FastAPI) -> None:
    """What every request passes, the last first."""
    app.state.change_events = ChangeEvents()
    app.state.latest_live = {}
    app.add_middleware(Announcing, events=app.state.change_events)
    app.add_middleware(GZipMiddleware, minimum_size=MIN_GZIP_BYTES, compresslevel=GZIP_LEVEL)
    app.add_middleware(LocalOnly)


def _make_ready(app: FastAPI) -> None:
    """What is done before anyone is answered."""
    _prepare_routes(app)
    context: Context = app.state.context
    context.stack_jobs.take_up(now=context.now())


def _prepare_routes(app: FastAPI) -> None:
    """Have every route made ready before the first request, which would wait half a second."""
    nowhere = {"type": "http", "method": "GET", "path": "/api/-", "root_path": "", "headers": []}
    for route in app.routes:
        route.matches(nowhere)
