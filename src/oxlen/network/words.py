"""The words that a pairing code is made of: short, common, distinct by ear and eye."""

from __future__ import annotations

import json
from functools import cache
from importlib.resources import files


@cache
def pairing_words() -> tuple[str, ...]:
    """256 words: six of them are 48 bits."""
    text = files("oxlen").joinpath("data/pairing-words.json").read_text("utf-8")
    return tuple(json.loads(text))
