"""Files that are imported by a worker: begun, looked at, cancelled."""

from __future__ import annotations

import asyncio
import itertools
from collections.abc import Callable, Mapping
from concurrent.futures import Future
from dataclasses import dataclass, field
from pathlib import Path
from threading import Lock
from typing import Any, Literal

from oxlen.core.errors import NotFound
from oxlen.store.long_work import Cancelled, Progress, progress_of, stop_path, tidy
from oxlen.workers.worker_pool import WorkerPool, outcome

REMEMBERED = 50
"""Imports whose end can still be asked for."""
SOON_S = 2.0
"""An import that ends within this is answered at once; a longer one is looked at again."""

State = Literal["working", "done", "cancelled"]


@dataclass
class ImportJob:
    """An import: the file it is of, and the result."""

    id: int
    source: Path
    future: Future[Mapping[str, Any]]
    last: Progress = field(default_factory=Progress)

    @property
    def state(self) -> State:
        """Whether it is under way, done, or was cancelled; a failure raises what went wrong."""
        if not self.future.done():
            return "working"
        if self.future.cancelled() or isinstance(self.future.exception(), Cancelled):
            return "cancelled"
        outcome(self.future)
        return "done"

    def progress_of(self) -> Progress:
        """How far it is."""
        if not self.future.done():
            self.last = progress_of(self.source)
        return self.last

    @property
    def found(self) -> Mapping[str, Any]:
        """What came of it, once it is done."""
        return outcome(self.future) if self.state == "done" else {}


class ImportJobs:
    """The imports of this process, one at a time; the rest waits."""

    def __init__(self, pool: WorkerPool) -> None:
        self._pool = pool
        self._jobs: dict[int, ImportJob] = {}
        self._numbers = itertools.count(1)
        self._lock = Lock()

    def begin(
        self, task: Callable[..., Mapping[str, Any]], folder: Path, source: Path, **named: Any
    ) -> ImportJob:
        """Have a file imported; it is removed once that has ended."""
        future = self._pool.begin("import", task, folder, source, **named)
        with self._lock:
            job = ImportJob(next(self._numbers), source, future)
            self._jobs[job.id] = job
            for older in [key for key, job in self._jobs.items() if job.future.done()]:
                if len(self._jobs) > REMEMBERED:
                    del self._jobs[older]
        future.add_done_callback(lambda _: self._ended(job))
        return job

    def job(self, number: int) -> ImportJob:
        """The import of that number; NotFound where there is none."""
        if number not in self._jobs:
            raise NotFound("This import no longer exists.", job=number)
        return self._jobs[number]

    def cancel(self, number: int) -> ImportJob:
        """End an import; what is imported by then is kept."""
        job = self.job(number)
        if not job.future.done():
            stop_path(job.source).touch()
            if not job.future.running():
                job.future.cancel()
            if job.future.done():  # it ended meanwhile, and what tells it to stop is of no use
                tidy(job.source)
        return job

    def _ended(self, job: ImportJob) -> None:
        job.last = progress_of(job.source)
        tidy(job.source)


async def soon(job: ImportJob) -> ImportJob:
    """The import once it has ended, or after a moment. Its own error where it failed."""
    waiting = asyncio.wrap_future(job.future)
    # Seen whenever it ends, so that the event loop does not report it as unseen.
    waiting.add_done_callback(lambda done: done.cancelled() or done.exception())
    await asyncio.wait({waiting}, timeout=SOON_S)
    _ = job.state
    return job
