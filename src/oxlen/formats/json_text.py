"""JSON text as data; kept apart so that quick commands need not load the models."""

from __future__ import annotations

import json
from typing import Any

from oxlen.core.errors import BadInput


def parse_json(text: str, what: str) -> Any:
    """JSON text as data; BadInput says where it breaks."""
    try:
        return json.loads(text)
    except (json.JSONDecodeError, RecursionError) as error:
        raise BadInput(f"{what} is not JSON: {error}.") from None
    except ValueError:
        raise BadInput(f"{what} has a number with too many digits.") from None
