"""Sets of frames handed to their worker, and taken up again when the app starts."""

from __future__ import annotations

from concurrent.futures import Future

from oxlen.core.errors import NotFound
from oxlen.server.context import Context
from oxlen.stacking.in_library import put_together
from oxlen.store.stacks import mark_stack, stack, working_stacks

DIED = "The process working on it ended before it was done. What it had kept goes on from there."


def begin_stack(context: Context, stack_id: int) -> None:
    """Have a set put together; sets wait for each other."""
    with context.library.writer() as connection:
        mark_stack(connection, stack_id, "working")
    folder = context.library.folder
    future = context.crew.begin("stack", put_together, folder, stack_id, now=context.now())
    future.add_done_callback(lambda done: _ended(context, stack_id, done))


def take_up_stacks(context: Context) -> None:
    """Go on with sets that were being put together when the app ended."""
    with context.library.reader() as connection:
        waiting = working_stacks(connection)
    for one in waiting:
        begin_stack(context, one.id)


def _ended(context: Context, stack_id: int, done: Future[None]) -> None:
    """Say of a set that its worker died; the end of the app itself leaves it to be taken up."""
    if done.cancelled() or done.exception() is None or not context.library.database.exists():
        return
    with context.library.writer() as connection:
        try:
            if stack(connection, stack_id).state == "working":
                mark_stack(connection, stack_id, "failed", problem=DIED)
        except NotFound:
            return
