"""Waiting for a worker on behalf of someone who may go away."""

from __future__ import annotations

import asyncio
import time
from concurrent.futures import Future
from typing import TypeVar

from fastapi import Request

from oxlen.core.errors import WorkFailed
from oxlen.workers.worker_pool import GRACE_S, outcome

LOOK_AGAIN_S = 0.2

Result = TypeVar("Result")


async def while_asked_for(request: Request, future: Future[Result]) -> Result:
    """What a worker's task gives; the task is dropped when its asker has gone before it is done.

    Work under way is ended only once it has run for a while: ending it costs its worker too.
    """
    waiting = asyncio.wrap_future(future)
    began = time.monotonic()
    while not waiting.done():
        await asyncio.wait({waiting}, timeout=LOOK_AGAIN_S)
        is_slow = time.monotonic() - began > GRACE_S
        may_drop = is_slow or not future.running()
        if not waiting.done() and may_drop and await request.is_disconnected():
            waiting.cancel()
            future.cancel()
            raise WorkFailed("Cancelled: nobody waits for it.")
    waiting.exception()  # seen, so that the event loop does not report it as unseen
    return outcome(future)
