"""Stacks handed to their worker: begun, stopped, taken up again when the app starts."""

from __future__ import annotations

import logging
import sqlite3
from concurrent.futures import Future
from dataclasses import replace
from threading import Lock

from oxlen.core.errors import NotFound, WorkFailed
from oxlen.stacking.in_library import ask_to_stop, forget_stop, note_facts, stack_up
from oxlen.store.library import Library
from oxlen.store.stacks import (
    KeptStack,
    frames_without_facts,
    mark_stack,
    stack,
    working_stacks,
)
from oxlen.workers.worker_pool import WorkerPool

DIED = "The stack stopped before it was finished. Start it again to continue."


class StackJobs:
    """What is being stacked now, in this process; stacks wait for each other."""

    def __init__(self, library: Library, pool: WorkerPool) -> None:
        self._library, self._pool = library, pool
        self._jobs: dict[int, Future[None]] = {}
        self._troubles: dict[int, str] = {}
        self._lock = Lock()

    def begin(self, stack_id: int, *, now: str) -> None:
        """Have a stack worked on, from where it was left."""
        with self._library.writer() as connection:
            mark_stack(connection, stack_id, "working")
        forget_stop(self._library, stack_id)
        with self._lock:
            self._troubles.pop(stack_id, None)
            job = self._pool.begin("stack", stack_up, self._library.folder, stack_id, now=now)
            self._jobs[stack_id] = job
        job.add_done_callback(lambda done: self._ended(stack_id, done))

    def take_up(self, *, now: str) -> None:
        """Go on with stacks that were being worked on when the app ended."""
        with self._library.reader() as connection:
            waiting = working_stacks(connection)
            is_older = bool(frames_without_facts(connection))
        if is_older:
            self._pool.begin("stack", note_facts, self._library.folder)
        for job in waiting:
            self.begin(job.id, now=now)

    def stop(self, stack_id: int) -> None:
        """Stop at the next frame; one that still waits for its turn is not begun."""
        ask_to_stop(self._library, stack_id)
        job = self._jobs.get(stack_id)
        # Under way it stops by itself; ending its process would cost what is not yet kept.
        if job is not None and not job.running() and job.cancel():
            self._mark(stack_id, "stopped", "")

    def settled(self, kept: KeptStack) -> KeptStack:
        """A stack as it is: what nobody works on any more is never "working".

        A full disk keeps the end of a stack from being written down.
        """
        if kept.state != "working" or kept.id in self._jobs:
            return kept
        with self._library.reader() as connection:
            now = stack(connection, kept.id)  # it may have ended since it was read
        if now.state != "working":
            return now
        return replace(now, state="failed", problem=self._troubles.get(kept.id, DIED))

    def _ended(self, stack_id: int, done: Future[None]) -> None:
        """Note that a worker died or could not write; the app's own end leaves it to `take_up`."""
        error = None if done.cancelled() else done.exception()
        if error is not None and self._library.database.exists():
            words = error.message if isinstance(error, WorkFailed) else DIED
            with self._lock:
                self._troubles[stack_id] = words
            self._mark(stack_id, "failed", words)
        with self._lock:
            if self._jobs.get(stack_id) is done:
                del self._jobs[stack_id]

    def _mark(self, stack_id: int, state: str, problem: str) -> None:
        try:
            with self._library.writer() as connection:
                if stack(connection, stack_id).state == "working":
                    mark_stack(connection, stack_id, state, problem=problem)
        except NotFound:
            return
        except sqlite3.Error:
            logging.getLogger("oxlen").warning("The end of stack %d was not kept.", stack_id)
