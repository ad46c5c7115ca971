"""News of changes, for pages that are open elsewhere."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse

from oxlen.server.change_events import ChangeEvents
from oxlen.server.local_only import DEVICE, STILL
from oxlen.server.permits import FOR_PHONES
from oxlen.store.kit.devices import Device

router = APIRouter(prefix="/api", tags=["changes"], dependencies=[FOR_PHONES])
STREAM: dict[int | str, dict[str, Any]] = {
    200: {"content": {"text/event-stream": {}}, "description": "Events, one a change"}
}


@router.get("/changes", response_class=StreamingResponse, responses=STREAM)
async def changes(request: Request) -> StreamingResponse:
    """What changes from now on, as server-sent events: a topic, and the page that changed it."""
    events: ChangeEvents = request.app.state.change_events
    device: Device | None = request.scope.get(DEVICE)
    still: Callable[[], bool] = request.scope.get(STILL, lambda: True)
    headers = {"cache-control": "no-store", "x-accel-buffering": "no"}
    return StreamingResponse(
        events.listen(None if device is None else device.id, still),
        media_type="text/event-stream",
        headers=headers,
    )
