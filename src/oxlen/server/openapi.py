"""The API's description: FastAPI's, without what every operation would repeat.

`python -m oxlen.server.openapi` prints it; the front end's types are made from it.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi

from oxlen.server.problems import MEDIA_TYPE, STATUS_WORDS

REFUSED = "Refused"
VALUES = ("const", "default", "enum", "example", "examples")
"""What a field may hold, not what describes it: a title in there is a value."""
REFERENCE = {"$ref": f"#/components/responses/{REFUSED}"}


def describe(app: FastAPI) -> dict[str, Any]:
    """The description of an app: one response describes every refusal, and names are not titled.

    A field's title is its name again; FastAPI writes both.
    """
    whole: dict[str, Any] = _untitled(
        get_openapi(title=app.title, version=app.version, routes=app.routes)
    )
    whole["info"] |= {"title": app.title, "summary": app.summary}
    for path in whole["paths"].values():
        for operation in path.values():
            operation["responses"]["default"] = REFERENCE
    sentence = "; ".join(f"{status}: {words}" for status, words in sorted(STATUS_WORDS.items()))
    schema = {"$ref": "#/components/schemas/Problem"}
    refused = {"description": sentence, "content": {MEDIA_TYPE: {"schema": schema}}}
    whole["components"]["responses"] = {REFUSED: refused}
    return whole


def _untitled(part: Any) -> Any:
    if isinstance(part, dict):
        # A field may be named title itself: that one is a schema, not a text.
        kept = {k: v for k, v in part.items() if k != "title" or not isinstance(v, str)}
        return {key: v if key in VALUES else _untitled(v) for key, v in kept.items()}
    if isinstance(part, list):
        return [_untitled(item) for item in part]
    return part


def openapi_text() -> str:
    """The description as JSON text, the same on every machine; each path and schema a line."""
    from oxlen.server.app import create_app
    from oxlen.store.library import Library

    whole = create_app(Library(Path("nowhere"))).openapi()
    return _lines(whole, 3) + "\n"


def _lines(part: Any, deep: int) -> str:
    """JSON whose dictionaries have an entry a line, so many of them deep."""
    if deep == 0 or not isinstance(part, dict):
        return json.dumps(part, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
    inner = (f"{json.dumps(key)}:{_lines(value, deep - 1)}" for key, value in sorted(part.items()))
    return "{\n" + ",\n".join(inner) + "\n}"


if __name__ == "__main__":
    print(openapi_text(), end="")
