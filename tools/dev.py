"""The app for `./oxlen dev`: demo data, made anew by uvicorn whenever a source changes."""

from __future__ import annotations

from fastapi import FastAPI

from oxlen.demo.seed import seed_demo
from oxlen.server.app import create_app
from oxlen.store.library import default_folder, open_library


def app() -> FastAPI:
    """The app on the data of `./oxlen dev`, seeded when they are empty."""
    library = open_library(default_folder().with_name("oxlen-dev"))
    seed_demo(library)
    return create_app(library)
