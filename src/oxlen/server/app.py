"""The app, assembled from what it is given."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

import oxlen
from oxlen.metering.picture_cache import PictureCache
from oxlen.preview.cache import PreviewCache
from oxlen.server.context import Clock, Context
from oxlen.server.local_only import LocalOnly
from oxlen.server.pages import add_pages
from oxlen.server.problems import PROBLEM_RESPONSES, add_problem_handlers
from oxlen.server.routes import (
    asks,
    dry_runs,
    formulas,
    kit,
    outings,
    pictures,
    presets,
    sheets,
    takes,
)
from oxlen.store.library import Library

BUILT_FRONT_END = Path(oxlen.__file__).parents[2] / "web" / "dist"
MIN_GZIP_BYTES = 1500
GZIP_LEVEL = 5  # the highest takes several times as long for a few per cent


def utc_now() -> datetime:
    """The clock, for everything but tests."""
    return datetime.now(UTC)


def create_app(
    library: Library, *, clock: Clock = utc_now, built: Path = BUILT_FRONT_END
) -> FastAPI:
    """The whole app on a library."""
    pictures_at_hand = PictureCache(library)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        yield
        pictures_at_hand.close()

    app = FastAPI(
        title="Oxlen",
        version=oxlen.__version__,
        summary="Meter a scene and solve for the settings to dial in.",
        lifespan=lifespan,
        responses=PROBLEM_RESPONSES,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.context = Context(
        library, pictures_at_hand, PreviewCache(pictures_at_hand), clock=clock
    )
    add_problem_handlers(app)
    for module in (outings, sheets, takes, pictures, dry_runs, asks, kit, presets, formulas):
        app.include_router(module.router)
    add_pages(app, built)
    app.add_middleware(GZipMiddleware, minimum_size=MIN_GZIP_BYTES, compresslevel=GZIP_LEVEL)
    app.add_middleware(LocalOnly)
    return app
