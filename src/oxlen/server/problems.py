"""One door for errors: every refusal leaves as application/problem+json (RFC 9457)."""

from __future__ import annotations

import errno
import logging
import sqlite3
from collections.abc import Mapping
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel, ConfigDict
from pydantic.config import JsonDict
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from oxlen.core.errors import (
    ArchiveError,
    BadInput,
    EditClash,
    NeedsConsent,
    NotAllowed,
    NotConfirmed,
    NotFound,
    NotPaired,
    OutOfRange,
    OxlenError,
    PairingRefused,
    PairingWaits,
    PictureError,
    TooMany,
    UnreadableSheet,
    WorkFailed,
)

MEDIA_TYPE = "application/problem+json"
STATUS: Mapping[type[OxlenError], int] = {
    NotFound: 404,
    NeedsConsent: 409,
    EditClash: 409,
    PictureError: 422,
    BadInput: 422,
    OutOfRange: 422,
    ArchiveError: 422,
    UnreadableSheet: 422,
    NotAllowed: 403,
    NotConfirmed: 401,
    NotPaired: 401,
    PairingWaits: 429,
    PairingRefused: 403,
    TooMany: 503,
    WorkFailed: 503,
    OxlenError: 400,
}


EXAMPLE_PROBLEM: JsonDict = {
    "type": "about:blank",
    "title": "Refused",
    "status": 422,
    "detail": "hull.jpg: its pixels are cut short or damaged.",
    "code": "pixels-unreadable",
    "field": None,
}


class Problem(BaseModel):
    """What went wrong: a stable `code`, a sentence in `detail`, the field to blame if any."""

    model_config = ConfigDict(json_schema_extra={"examples": [EXAMPLE_PROBLEM]})

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    code: str
    field: str | None = None


STATUS_WORDS: Mapping[int, str] = {
    400: "The body is not valid JSON in UTF-8",
    401: "The device is not paired",
    403: "Not allowed from another site, under another name, or for a phone",
    404: "Not found",
    405: "Method not allowed",
    409: "Changed elsewhere, or consent is needed",
    413: "The request is too large",
    422: "Not valid: the field and the reason",
    429: "Too many tries; wait a while",
    503: "The data cannot be read or written now",
    507: "The disk is full",
}
"""Every status of a refusal."""
PROBLEM_RESPONSES: dict[int | str, dict[str, Any]] = {
    "default": {"model": Problem, "content": {MEDIA_TYPE: {}}}
}


RETRY_S = 5.0
PASSING = (429, 503, 507)
"""Refusals that pass by themselves: too many tries, a busy server, a full disk."""


def problem(
    status: int, title: str, detail: str, *, code: str, field: str = "", retry_s: float = RETRY_S
) -> JSONResponse:
    """A problem answer; one that passes by itself says when to try again."""
    body = Problem(title=title, status=status, detail=detail, code=code, field=field or None)
    headers = {"retry-after": str(max(1, round(retry_s)))} if status in PASSING else None
    return JSONResponse(body.model_dump(), status, headers=headers, media_type=MEDIA_TYPE)


NOT_JSON = "The request is not valid JSON in UTF-8."
FULL, NOT_NOW = 507, 503
DISK_FULL = "The disk is full. Free some space and try again."
READ_ONLY = "Your data cannot be saved: the folder or disk is read-only."


def storage_trouble(error: sqlite3.OperationalError | OSError) -> tuple[int, str]:
    """Status and sentence for a disk that is full, read-only, locked or failing."""
    if isinstance(error, OSError):
        if error.errno in (errno.ENOSPC, errno.EDQUOT):
            return FULL, DISK_FULL
        if error.errno in (errno.EROFS, errno.EACCES, errno.EPERM):
            return NOT_NOW, READ_ONLY
        return NOT_NOW, f"Your data cannot be reached ({error.strerror or error})."
    words = str(error)
    if "full" in words:
        return FULL, DISK_FULL
    if "readonly" in words:
        return NOT_NOW, READ_ONLY
    if "locked" in words:
        return NOT_NOW, "Something else is writing to your data. Try again in a moment."
    return NOT_NOW, f"Your data cannot be reached ({words})."


def add_problem_handlers(app: FastAPI) -> None:
    """Send every error of the family, of validation and of routing through `problem`."""

    @app.exception_handler(OxlenError)
    def _ours(_: Request, error: OxlenError) -> JSONResponse:
        status = next(STATUS[kind] for kind in type(error).__mro__ if kind in STATUS)
        field = str(error.details.get("field") or error.details.get("name") or "")
        retry_s = float(error.details.get("retry_s", RETRY_S))
        return problem(
            status, "Refused", error.message, code=error.code, field=field, retry_s=retry_s
        )

    @app.exception_handler(sqlite3.OperationalError)
    @app.exception_handler(OSError)
    def _storage(asked: Request, error: sqlite3.OperationalError | OSError) -> JSONResponse:
        status, cause = storage_trouble(error)
        logging.getLogger("oxlen").warning("%s %s: %r", asked.method, asked.url.path, error)
        kept = "" if asked.method in ("GET", "HEAD") else " Nothing was saved."
        return problem(status, "Refused", cause + kept, code="storage")

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        field = ".".join(str(part) for part in first["loc"][1:])
        message = str(first["msg"]).removeprefix("Value error, ")
        if first["type"] == "extra_forbidden":
            message = "unknown field"
        return problem(
            422, "Refused", f"{field or 'body'}: {message}", code="bad-input", field=field
        )

    @app.exception_handler(ClientDisconnect)
    def _gone(_: Request, __: ClientDisconnect) -> JSONResponse:
        # Nobody reads it, but the log does not fill with traces of phones that walked away.
        return problem(400, "Gone", "The sender disconnected.", code="left")

    @app.exception_handler(HTTPException)
    def _routing(_: Request, error: HTTPException) -> JSONResponse:
        words = NOT_JSON if error.status_code == 400 else str(error.detail)
        return problem(error.status_code, "Refused", words, code="http")
