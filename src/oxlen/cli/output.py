"""JSON on stdout, sentences on stderr."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Any

from oxlen.core.errors import BadInput

MAX_INPUT_BYTES = 4_000_000


def print_json(data: Any) -> None:
    """Print data as JSON; there is no infinity and no NaN in it."""
    print(json.dumps(data, ensure_ascii=False, indent=2, allow_nan=False))


def read_text(source: str) -> str:
    """Text of a file, or of standard input for "-"; BadInput when it is no text or too long."""
    try:
        raw = sys.stdin.buffer.read(MAX_INPUT_BYTES + 1) if source == "-" else _bytes(source)
        if len(raw) > MAX_INPUT_BYTES:
            raise BadInput(f"{source} is longer than 4 MB.")
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadInput(f"{source} is not UTF-8 text.") from None


def _bytes(source: str) -> bytes:
    with Path(source).open("rb") as file:
        return file.read(MAX_INPUT_BYTES + 1)
