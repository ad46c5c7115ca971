"""`python -m oxlen.server.openapi`: the API's description, the source of the web types."""

from __future__ import annotations

import json
from pathlib import Path

from oxlen.server.app import create_app
from oxlen.store.library import Library


def openapi_text() -> str:
    """The OpenAPI description as JSON text, the same on every machine."""
    app = create_app(Library(Path("nowhere")))
    return json.dumps(app.openapi(), indent=1, ensure_ascii=False, sort_keys=True) + "\n"


if __name__ == "__main__":
    print(openapi_text(), end="")
