"""A clip-on lens: its power, and the lens it goes over."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from oxlen.core.ask import Checked, Quantity, Text


@dataclass(frozen=True)
class ClipOn(Checked):
    """A close-up lens held before one of the phone's lenses; power in dioptres.

    One sold by its magnification has four dioptres for each time. `lens` is the id of the lens it
    goes over, "" where any.
    """

    name: Annotated[str, Text(60, "Name")]
    dioptres: Annotated[float, Quantity(0.5, 100, "dioptres", label="Power")]
    lens: Annotated[str, Text(40, "Goes over")] = ""
