"""Local only: hosts and origins answered, how long a body may be, what pages may do."""

from __future__ import annotations

import asyncio
import logging
import re
from collections.abc import Awaitable, Callable, Iterable, MutableMapping
from typing import Any
from urllib.parse import urlsplit

from oxlen.server.refusing import refuse

Scope = MutableMapping[str, Any]
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

DEVICE = "oxlen.device"
"""Where a request that came in by the network's door says whose it is."""
STILL = "oxlen.still"
"""Where it has a function that tells whether that phone is still paired."""
LOOPBACK_NAMES = {"127.0.0.1", "localhost", "::1"}
MAX_BODY_BYTES = 2_000_000
UPLOADS = re.compile(
    r"/api/(outings/\d+/pictures|sheets/\d+/(picture|takes)|ladder/(look|patch)|kit/facts"
    r"|live/sheets/\d+/known"
    r"|measurements/\d+/pictures|stacks/\d+/frames|outing-files|inbox|logbook/file)"
)
"""Where whole pictures come in, as a stream that is bounded on its own."""
SINGLE_HEADERS = (b"host", b"origin", b"sec-fetch-site", b"sec-fetch-mode", b"content-length")
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
        "manifest-src 'self'; worker-src 'self'; "
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
        guarded = Guarded(send)
        # What came in by the network's door was asked there already.
        refusal = None if DEVICE in scope else _refusal(scope["path"], scope["headers"])
        if refusal:
            await refuse(guarded, 403, refusal)
            return
        if not UPLOADS.fullmatch(scope["path"]):
            body = await _bounded_body(receive)
            if body is None:
                await refuse(guarded, 413, "The request is larger than 2 MB.")
                return
            receive = _replay(body, receive)
        if scope["method"] == "HEAD":
            # Asked for as a whole, so that its headers are true; its body is not sent.
            scope, guarded.sends_body = {**scope, "method": "GET"}, False
        try:
            await self._app(scope, receive, guarded)
        except asyncio.CancelledError:
            # Only the end of the server cuts an answer short; whoever still waits gets an answer.
            if not guarded.has_begun:
                await refuse(guarded, 503, "Oxlen is stopping. Nothing was saved.")
        except Exception as error:
            # Written down for whoever looks into it; the page gets a sentence.
            logging.getLogger("oxlen").exception(
                "%s %s failed: %r", scope["method"], scope["path"], error
            )
            if guarded.has_begun:
                raise
            await refuse(guarded, 500, "Something failed in Oxlen. Nothing was changed.")


def _refusal(path: str, raw_headers: Iterable[tuple[bytes, bytes]]) -> str | None:
    headers = single_headers(raw_headers)
    host = headers.get(b"host", "")
    if _host_name(host) not in LOOPBACK_NAMES:
        return "Oxlen answers only on this computer."
    return foreign_site(path, headers, raw_headers, own=f"http://{host}")


def single_headers(raw_headers: Iterable[tuple[bytes, bytes]]) -> dict[bytes, str]:
    """Headers by their names in lower case."""
    return {name.lower(): value.decode("latin-1") for name, value in raw_headers}


def foreign_site(
    path: str,
    headers: dict[bytes, str],
    raw_headers: Iterable[tuple[bytes, bytes]],
    *,
    own: str,
) -> str | None:
    """Why a request is not one of Oxlen's own pages at the origin `own`; None where it is."""
    names = [name.lower() for name, _ in raw_headers]
    if any(names.count(name) > 1 for name in SINGLE_HEADERS):
        return "The request has a header twice."
    origin = headers.get(b"origin")
    if origin is not None and origin != own:
        return "Oxlen answers only its own pages."
    foreign = headers.get(b"sec-fetch-site", "none") not in ("same-origin", "none")
    # A link on another site may lead to a page of Oxlen, and to nothing else.
    to_a_page = headers.get(b"sec-fetch-mode") == "navigate" and not path.startswith("/api")
    if foreign and not to_a_page:
        return "Oxlen answers only its own pages."
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


class Guarded:
    """Adds the guarding headers to whatever is answered; `has_begun` once it is."""

    def __init__(self, send: Send) -> None:
        self._send = send
        self.has_begun = False
        self.sends_body = True

    async def __call__(self, message: Message) -> None:
        if message["type"] == "http.response.start":
            self.has_begun = True
            present = {name.lower() for name, _ in message["headers"]}
            policy = {b"content-security-policy": content_security_policy().encode()}
            added = {**HEADERS, **policy}
            message["headers"] = [
                *message["headers"],
                *((name, value) for name, value in added.items() if name not in present),
            ]
        if message["type"] == "http.response.body" and not self.sends_body:
            message = {**message, "body": b""}
        await self._send(message)
