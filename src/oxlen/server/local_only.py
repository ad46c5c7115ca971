"""Local only: hosts and origins answered, how long a body may be, what pages may do."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any
from urllib.parse import urlsplit

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

LOOPBACK_NAMES = {"127.0.0.1", "localhost", "::1"}
MAX_BODY_BYTES = 2_000_000
UPLOAD_ENDINGS = ("/pictures", "/picture")
HEADERS = {
    b"x-content-type-options": b"nosniff",
    b"referrer-policy": b"no-referrer",
    b"x-frame-options": b"DENY",
    b"cross-origin-opener-policy": b"same-origin",
    b"cross-origin-resource-policy": b"same-origin",
}


def content_security_policy(nonce: str | None = None) -> str:
    """What pages may load: only what the app itself ships; styles also by nonce."""
    style = f"'self' 'nonce-{nonce}'" if nonce else "'self'"
    return (
        "default-src 'none'; script-src 'self'; connect-src 'self'; font-src 'self'; "
        f"img-src 'self' blob: data:; style-src {style}; "
        "base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
    )


class LocalOnly:
    """Refuses foreign hosts and origins and endless bodies, and adds the guarding headers."""

    def __init__(self, app: App) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = {name.lower(): value.decode("latin-1") for name, value in scope["headers"]}
        refusal = _refusal(scope["method"], headers)
        if refusal:
            await _refuse(send, 403, refusal)
            return
        if not scope["path"].endswith(UPLOAD_ENDINGS):
            body = await _bounded_body(receive)
            if body is None:
                await _refuse(send, 413, "That is more than Oxlen takes in one request (2 MB).")
                return
            receive = _replay(body, receive)
        await self._app(scope, receive, _guarded(send))


def _refusal(method: str, headers: dict[bytes, str]) -> str | None:
    host = headers.get(b"host", "")
    if _host_name(host) not in LOOPBACK_NAMES:
        return "Oxlen answers only on this machine, under its own name."
    origin = headers.get(b"origin")
    if origin is not None and origin != f"http://{host}":
        return "Another site asked; Oxlen answers only its own pages."
    foreign = headers.get(b"sec-fetch-site", "none") not in ("same-origin", "none")
    if foreign and method not in ("GET", "HEAD"):
        return "Another site asked; Oxlen answers only its own pages."
    return None


def _host_name(host: str) -> str:
    try:
        return urlsplit(f"//{host}").hostname or ""
    except ValueError:
        return ""


async def _bounded_body(receive: Receive) -> bytes | None:
    parts: list[bytes] = []
    length = 0
    while True:
        message = await receive()
        if message["type"] != "http.request":
            break
        parts.append(message.get("body", b""))
        length += len(parts[-1])
        if length > MAX_BODY_BYTES:
            return None
        if not message.get("more_body"):
            break
    return b"".join(parts)


def _replay(body: bytes, receive: Receive) -> Receive:
    sent = False

    async def replay() -> Message:
        nonlocal sent
        if sent:
            return await receive()
        sent = True
        return {"type": "http.request", "body": body, "more_body": False}

    return replay


def _guarded(send: Send) -> Send:
    async def guarded(message: Message) -> None:
        if message["type"] == "http.response.start":
            present = {name.lower() for name, _ in message["headers"]}
            policy = {b"content-security-policy": content_security_policy().encode()}
            added = {**HEADERS, **policy}
            message["headers"] = [
                *message["headers"],
                *((name, value) for name, value in added.items() if name not in present),
            ]
        await send(message)

    return guarded


async def _refuse(send: Send, status: int, detail: str) -> None:
    body = json.dumps(
        {
            "type": "about:blank",
            "title": "Refused",
            "status": status,
            "detail": detail,
            "code": "local-only" if status == 403 else "too-long",
            "field": None,
        }
    ).encode()
    headers = [(b"content-type", b"application/problem+json")]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
