"""Filters: dark glass that is put on the lens."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from oxlen.core.ask import Checked, Quantity, Text


@dataclass(frozen=True)
class Glass(Checked):
    """A filter: what it is called, and the factor it takes the light down by (1 or more)."""

    name: Annotated[str, Text(60, "Name")]
    factor: Annotated[float, Quantity(1, 1e7, "×", label="Takes the light down by")]
