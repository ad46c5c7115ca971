"""What passers-by leave in a stack: the one rule for planning, for the long-exposure page, and for
stacking."""

from __future__ import annotations

import math

from oxlen.core.units import require_positive

LEAST_FRAMES = 7
"""Fewer frames leave a median too little to choose from."""
SURE_SHARE = 1 / 3
"""A place covered in at most so many of the frames is surely empty in the median: under the half
that it takes, since passers-by do not come evenly."""
GAP_SHARE = 1.0
"""A gap this many times as long as a passer takes over a place leaves it in two frames at most."""


def covered_frames(width_m: float, speed_m_s: float, every_s: float) -> int:
    """Frames, one begun every so many seconds, in which one passer covers a place.

    A passer of width w at speed v is over it for w/v seconds, so in at most 1 + ⌊(w/v)/every⌋
    frames. Takes positive numbers. Derived: by counting.

    >>> covered_frames(0.6, 1.3, 2.0), covered_frames(7.0, 3.0, 0.5)
    (1, 5)
    """
    over_s = require_positive("width_m", width_m, "m") / require_positive("speed", speed_m_s, "m/s")
    return 1 + math.floor(float(over_s) / float(require_positive("every_s", every_s, "s")))


def empties(count: int, covered: int) -> bool:
    """Whether a median, or rejecting outliers, of so many frames drops what covers a place in some.

    >>> empties(9, 2), empties(9, 5)
    (True, False)
    """
    return count >= LEAST_FRAMES and covered <= SURE_SHARE * count


def frames_to_empty(covered: int) -> int:
    """The fewest frames, an odd number, whose median drops what covers a place in some.

    >>> frames_to_empty(2), frames_to_empty(4)
    (7, 13)
    """
    count = max(LEAST_FRAMES, math.ceil(covered / SURE_SHARE))
    return count + 1 - count % 2
