"""Readings as a table to take along."""

from __future__ import annotations

import csv
import io
from typing import Any


def readings_csv(rows: list[dict[str, Any]]) -> str:
    """Readings as comma-separated values with a header line."""
    buffer = io.StringIO()
    fields = [
        "id",
        "name",
        "role",
        "ev100",
        "plus_minus_stops",
        "luminance_cd_m2",
        "place",
        "state",
    ]
    writer = csv.DictWriter(buffer, fields, extrasaction="ignore")
    writer.writeheader()
    writer.writerows({name: _plain(value) for name, value in row.items()} for row in rows)
    return buffer.getvalue()


def _plain(value: Any) -> Any:
    """Words as words: a table program would take some for a formula and work it."""
    begins_formula = isinstance(value, str) and value.lstrip()[:1] in tuple("=+-@")
    return f"'{value}" if begins_formula else value
