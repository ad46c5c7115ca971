"""One app for many tests: making its routes anew would take longer than most tests do."""

import atexit

from fastapi import FastAPI

from oxlen.server.app import create_app, utc_now
from oxlen.server.context import Clock, Context
from oxlen.store.library import Library
from oxlen.workers.pictures import PicturesInWorkers
from oxlen.workers.worker_pool import WorkerPool

WHOLE_RUN_S = 900.0
CREW = WorkerPool(idle_s=WHOLE_RUN_S)
atexit.register(CREW.stop)
_made: list[FastAPI] = []


def app_on(library: Library, clock: Clock = utc_now) -> FastAPI:
    """The app, on this library from now on; its workers stay for the whole run."""
    if not _made:
        _made.append(create_app(library, pool=CREW))
    pictures = PicturesInWorkers(library, CREW)
    _made[0].state.context = Context(library, pictures, CREW, clock=clock)
    return _made[0]
