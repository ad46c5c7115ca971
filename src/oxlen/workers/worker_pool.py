"""The worker processes: started when needed, replaced when they die, ended when idle."""

from __future__ import annotations

import atexit
import multiprocessing
import os
import resource
import signal
from collections.abc import Callable
from concurrent.futures import CancelledError, Future
from concurrent.futures.process import BrokenProcessPool
from functools import cache
from multiprocessing.connection import wait
from pathlib import Path
from threading import RLock, Thread, Timer
from typing import Any, Literal, ParamSpec, TypeVar

from pebble import ProcessExpired, ProcessPool

from oxlen.core.errors import WorkFailed

WorkerKind = Literal["intake", "bench", "stack", "import"]
"""Files coming in, pictures kept, stacks, whole outings and logbooks: one worker each, so that none
waits."""
WORKER_KINDS: tuple[WorkerKind, ...] = ("intake", "bench", "stack", "import")
LIMIT_S = 60.0
LONG_S: dict[WorkerKind, float] = {"stack": 12 * 3600.0, "import": 3600.0}
"""Hundreds of frames, or the pictures of an outing: they report progress and can be stopped."""
IDLE_S = 20.0
WORKER_BYTES, STACK_BYTES = 520_000_000, 1_600_000_000
"""Memory a worker may take beyond what it starts with, should a file need more than it tells."""
PRELOADED = [
    "oxlen.workers.worker_tasks",
    "oxlen.workers.sheets",
    "oxlen.takes.importing",
    "oxlen.takes.outing_in",
    "oxlen.takes.logbook_files",
    "oxlen.stacking.in_library",
    "oxlen.shop.in_library",
    "scipy.interpolate",
]
"""What each worker has loaded once it is started; the last loads late, for tracks of the sky."""
NICENESS = 5
"""Workers give way to the server and the page when the machine is busy."""
STOPPING = "Oxlen is stopping. Nothing was saved."
GRACE_S = 2.0
"""Work that has run this long when its asker goes is ended; shorter work ends by itself."""

Asked = ParamSpec("Asked")
Result = TypeVar("Result")


class WorkerPool:
    """Worker processes for heavy work; each does one thing at a time and the rest waits."""

    def __init__(self, *, limit_s: float = LIMIT_S, idle_s: float = IDLE_S) -> None:
        limits = dict.fromkeys(WORKER_KINDS, limit_s) | LONG_S
        self._places = {kind: _Place(kind, limits[kind], idle_s) for kind in WORKER_KINDS}

    def begin(
        self,
        kind: WorkerKind,
        task: Callable[Asked, Result],
        /,
        *given: Asked.args,
        **named: Asked.kwargs,
    ) -> Future[Result]:
        """Give a task to a worker; `outcome` waits for the result. WorkFailed once stopped."""
        return self._places[kind].begin(task, given, named)

    def do(
        self,
        kind: WorkerKind,
        task: Callable[Asked, Result],
        /,
        *given: Asked.args,
        **named: Asked.kwargs,
    ) -> Result:
        """Have a task done and wait for it. WorkFailed when it took too long or its worker died."""
        return outcome(self.begin(kind, task, *given, **named))

    def open(self) -> WorkerPool:
        """Itself, which takes work again after a stop."""
        for place in self._places.values():
            place.open()
        return self

    def warm(self) -> None:
        """Begin to make a worker ready before it is needed; it takes a second or so."""
        Thread(target=self.begin, args=("bench", int), daemon=True).start()

    def stop(self) -> None:
        """End every worker; what they were at is lost, and nothing is begun until `open`."""
        for place in self._places.values():
            place.close()


@cache
def shared_pool() -> WorkerPool:
    """The pool of this process, ended with it."""
    pool = WorkerPool()
    atexit.register(pool.stop)
    return pool


def outcome(future: Future[Result]) -> Result:
    """What a task gave, once it is done. WorkFailed when it took too long or its worker died."""
    try:
        return future.result()
    except TimeoutError as error:
        raise WorkFailed("It took longer than 1 min and was stopped. Nothing was saved.") from error
    except CancelledError as error:
        raise WorkFailed(STOPPING) from error
    except (ProcessExpired, BrokenProcessPool, MemoryError, OSError) as error:
        if isinstance(error, OSError) and not isinstance(error, ProcessExpired):
            raise
        raise WorkFailed(
            "The process stopped before it was finished, most likely from lack of memory. "
            "Nothing was saved."
        ) from error


class _Place:
    """One worker, while there is work for it."""

    def __init__(self, kind: WorkerKind, limit_s: float, idle_s: float) -> None:
        self._limit_s, self._idle_s = limit_s, idle_s
        self._most_bytes = STACK_BYTES if kind == "stack" else WORKER_BYTES
        self._pool: ProcessPool | None = None
        self._unfinished: set[Future[Any]] = set()
        self._is_closed = False
        self._idle: Timer | None = None
        self._lock = RLock()

    def begin(self, task: Callable[..., Any], given: tuple[Any, ...], named: Any) -> Future[Any]:
        """Give the task to the worker, started if there is none."""
        with self._lock:
            if self._is_closed:
                raise WorkFailed(STOPPING)
            if self._idle is not None:
                self._idle.cancel()
            future = self._scheduled(task, given, named)
            self._unfinished.add(future)
        future.add_done_callback(self._done)
        return future

    def _scheduled(self, task: Callable[..., Any], given: Any, named: Any) -> Future[Any]:
        for _ in range(2):
            if self._pool is None or not self._pool.active:
                self._leave_pool()
                self._pool = _new_pool(self._most_bytes)
            try:
                future: Future[Any] = self._pool.schedule(
                    task, args=given, kwargs=named, timeout=self._limit_s
                )
            except RuntimeError:  # its worker was ended from outside while idle
                self._leave_pool()
            else:
                return future
        raise WorkFailed("No worker process could be started; is the machine short of memory?")

    def _done(self, future: Future[Any]) -> None:
        with self._lock:
            self._unfinished.discard(future)
            if not self._unfinished and not self._is_closed:
                self._idle = Timer(self._idle_s, self._rest)
                self._idle.daemon = True
                self._idle.start()

    def _rest(self) -> None:
        with self._lock:
            if not self._unfinished:
                self.stop()

    def open(self) -> None:
        """Take work again."""
        with self._lock:
            self._is_closed = False

    def close(self) -> None:
        """End the worker and take no more work; whoever waits for some hears of it."""
        with self._lock:
            self._is_closed = True
        self.stop()
        # A pool that ends leaves what was waiting in it without an end, and its askers with it.
        for future in tuple(self._unfinished):
            future.cancel()

    def stop(self) -> None:
        """End the worker."""
        with self._lock:
            if self._idle is not None:
                self._idle.cancel()
            pool, self._pool = self._pool, None
        _end(pool)

    def _leave_pool(self) -> None:
        """Give a pool up whose worker died, with its pipes, which would stay open.

        In a thread of its own: its tasks' ends may be waiting for this place's lock.
        """
        pool, self._pool = self._pool, None
        if pool is not None:
            Thread(target=_end, args=(pool,), daemon=True).start()


def _end(pool: ProcessPool | None) -> None:
    if pool is not None:
        pool.stop()  # type: ignore[no-untyped-call]
        pool.join()


def _new_pool(most_bytes: int) -> ProcessPool:
    # Forked from a small process that has loaded the code, not from the server and its threads.
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(PRELOADED)
    return ProcessPool(
        max_workers=1, context=context, initializer=_settle_in, initargs=(most_bytes,)
    )


def _settle_in(most_bytes: int) -> None:
    """In the worker: bounded memory, others first, and an end that comes from the server alone."""
    os.nice(NICENESS)
    Thread(target=_end_with_server, daemon=True).start()
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    hard = resource.getrlimit(resource.RLIMIT_DATA)[1]
    resource.setrlimit(resource.RLIMIT_DATA, (_data_bytes() + most_bytes, hard))


def _data_bytes() -> int:
    """Memory this process may write to by now, as its limit counts it (proc(5), VmData)."""
    status = Path("/proc/self/status").read_text("utf-8").splitlines()
    return 1024 * next(int(line.split()[1]) for line in status if line.startswith("VmData"))


def _end_with_server() -> None:
    """In the worker: end with the server, lest it still write where the next one has swept."""
    server = multiprocessing.parent_process()
    if server is not None:
        wait([server.sentinel])
        os._exit(1)
