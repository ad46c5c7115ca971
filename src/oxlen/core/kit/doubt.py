"""How far a phone's figures may be off, as what it moves a slip by."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

Known = Literal["assumed", "file", "measured", "typed"]
HAND, BRIGHT = "hold", "highlights"
NOISY = ("noise", "noise_dark")
HAND_FIGURE = "how steady your hands are"
METERED = "metered"
"""Not a limit: light that was not measured through the lens itself."""
MOVING = ("freeze", "show", "travel", "stars")


@dataclass(frozen=True)
class FigureDoubt:
    """A figure as people call it, how far it may move a slip, and how it is known.

    `moves` are the ids of the limits that rest on it.
    """

    name: str
    plus_minus_stops: float
    moves: tuple[str, ...]
    known: Known = "measured"

    @property
    def is_assumed(self) -> bool:
        """Whether it was never entered or measured."""
        return self.known == "assumed"


def doubt_stops(*shares: float) -> float:
    """Stops by which a product of figures may be off, from how far each may be, as a share.

    Takes shares of at least 0. The figures are independent, so their squares add. [JCGM100]

    >>> f"{doubt_stops(0.02, 0.01):.3f}"
    '0.032'
    """
    return math.hypot(*(math.log2(1 + share) for share in shares))


def noise_doubt_stops(full_well_share: float, read_noise_share: float) -> float:
    """Stops by which a noise limit may be off, from how far its figures may be, as shares.

    Light gathers in proportion to the full well; read noise counts half, since it is only a part
    of the noise where it matters. Takes shares of at least 0. [EMVA1288]

    >>> f"{noise_doubt_stops(0.35, 0.4):.2f}"
    '0.50'
    """
    well, read = math.log2(1 + full_well_share), math.log2(1 + read_noise_share)
    return math.hypot(well, read / 2)
