"""Work whose outcome several may ask for: begun once, waited for a moment, asked for again."""

from __future__ import annotations

import asyncio
import contextlib
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from dataclasses import dataclass
from pathlib import Path
from threading import Lock, Thread
from typing import Any, Generic, TypeVar

from oxlen.store.long_work import Progress, progress_of, tidy

REMEMBERED = 12
Result = TypeVar("Result")


@dataclass(frozen=True)
class SharedJob(Generic[Result]):
    """Work under way or done, and the file beside which it says how far it is."""

    future: Future[Result]
    beside: Path

    def progress_of(self) -> Progress:
        """How far it is."""
        return progress_of(self.beside)

    async def within(self, seconds: float) -> bool:
        """Whether it has ended by then."""
        waiting = asyncio.wrap_future(self.future)
        waiting.add_done_callback(lambda done: done.cancelled() or done.exception())
        with contextlib.suppress(asyncio.CancelledError):
            await asyncio.wait({waiting}, timeout=seconds)
        return self.future.done()


class SharedWork(Generic[Result]):
    """Work by what it was asked for: who asks the same gets the same job, or its outcome."""

    def __init__(self) -> None:
        self._jobs: OrderedDict[Hashable, SharedJob[Result]] = OrderedDict()
        self._lock = Lock()

    def job(
        self, key: Hashable, begin: Callable[[Path], Future[Result]], beside: Callable[[], Path]
    ) -> SharedJob[Result]:
        """The job of a key, begun where there is none, or where it failed."""
        with self._lock:
            known = self._jobs.get(key)
            if known is not None and not _has_failed(known.future):
                self._jobs.move_to_end(key)
                return known
            progress_path = beside()
            job = SharedJob(begin(progress_path), progress_path)
            self._jobs[key] = job
            while len(self._jobs) > REMEMBERED:
                self._jobs.popitem(last=False)
        job.future.add_done_callback(lambda _: tidy(progress_path))
        return job


def in_background(work: Callable[[], Result]) -> Future[Result]:
    """Do some work in a thread of its own."""
    future: Future[Result] = Future()

    def run() -> None:
        try:
            future.set_result(work())
        except BaseException as error:
            future.set_exception(error)

    Thread(target=run, daemon=True).start()
    return future


def _has_failed(future: Future[Any]) -> bool:
    return future.done() and (future.cancelled() or future.exception() is not None)
