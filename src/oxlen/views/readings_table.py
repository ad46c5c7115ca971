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
    writer.writerows(rows)
    return buffer.getvalue()
