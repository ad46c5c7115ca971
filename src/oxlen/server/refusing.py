"""A refusal given before the app itself is asked."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
CODES = {403: "local-only", 413: "too-long", 500: "internal", 503: "stopping"}


async def refuse(send: Send, status: int, detail: str, *, code: str | None = None) -> None:
    """Answer with a problem."""
    body = json.dumps(
        {
            "type": "about:blank",
            "title": "Refused",
            "status": status,
            "detail": detail,
            "code": code or CODES[status],
            "field": None,
        }
    ).encode()
    headers = [(b"content-type", b"application/problem+json")]
    if status in (429, 503, 507):
        headers.append((b"retry-after", b"5"))
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
