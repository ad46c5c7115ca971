"""How long a phone can be held: the handheld rule, supports, bursts."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from oxlen.core.units import Real, require_between, require_positive

Support = Literal["handheld", "braced", "tripod"]
SUPPORTS: tuple[Support, ...] = ("handheld", "braced", "tripod")

BRACED_STOPS = 1.5
"""Stops an improvised rest adds to the hand limit: our own figure, meant to be measured. Rule of
thumb, from 1 to 3 stops: off by up to 1.5."""


def hand_limit_s(focal35_mm: Real, stabiliser_stops: Real) -> Real:
    """Longest shutter (s) a hand holds still: 2^stab / f35. [RAY2002]

    Takes a positive focal length and stops between −5 and 30; OutOfRange otherwise.

    >>> f"{hand_limit_s(24.0, 2.0):.4f}"
    '0.1667'
    """
    require_positive("focal35_mm", focal35_mm, "mm")
    require_between("stabiliser_stops", stabiliser_stops, low=-5, high=30, unit="stops")
    return np.exp2(stabiliser_stops) / focal35_mm


def steadied_stops(
    stabiliser_stops: float, support: Support, braced_stops: float = BRACED_STOPS
) -> float:
    """Stops over the bare handheld rule: the stabiliser's, and a rest's when braced.

    Takes finite stops. Rule of thumb, for rests from a shoulder to a wall: off by up to 1.5
    stops until takes say better.

    >>> steadied_stops(2.0, "braced")
    3.5
    """
    return stabiliser_stops + (braced_stops if support == "braced" else 0.0)


def keep_one_of(share_sharp: Real, frames: Real) -> Real:
    """Chance that a burst holds at least one sharp frame: 1 − (1 − q)^n.

    Takes a share from 0 to 1 and at least one frame. Derived: independent tries, so
    it is too hopeful where shake lasts from frame to frame.

    >>> f"{keep_one_of(0.5, 4):.4f}"
    '0.9375'
    """
    require_between("share_sharp", share_sharp, low=0, high=1)
    require_between("frames", frames, low=1, high=1e6)
    chance: Real = 1 - np.power(1 - np.asarray(share_sharp, dtype=float), frames)[()]
    return chance


def burst_size_needed(share_sharp: float, wanted_share: float) -> int | None:
    """Fewest frames whose chance of one sharp is at least `wanted_share`; None if there is none.

    Takes shares from 0 to 1. Derived: `keep_one_of` solved for the frames.

    >>> burst_size_needed(0.2, 0.9)
    11
    """
    require_between("share_sharp", share_sharp, low=0, high=1)
    require_between("wanted_share", wanted_share, low=0, high=1)
    if share_sharp >= wanted_share:
        return 1
    if share_sharp == 0 or wanted_share == 1:
        return None
    guess = math.ceil(math.log(1 - wanted_share) / math.log(1 - share_sharp))
    # The logarithms may land a hair to either side of a whole number.
    return next(
        n
        for n in range(max(1, guess - 1), guess + 2)
        if keep_one_of(share_sharp, n) >= wanted_share
    )
