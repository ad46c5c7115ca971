"""How motion may look when it is meant to show: the length of its streaks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from oxlen.core.errors import NotFound
from oxlen.core.motion.subject import VANISHING_SHARE
from oxlen.core.units import Real, require_positive

LookId = Literal["texture", "soft", "glass", "trails", "pan", "vanish"]


@dataclass(frozen=True)
class MotionLook:
    """Streaks between two lengths, as shares of the frame's short side; None = no bound."""

    id: LookId
    name: str
    share_min: float | None
    share_max: float | None
    words: str


# Sluice water at some 2 m/s filling a frame crosses a third of it in a second, so that these
# shares give about ½ to 1 s of texture, some seconds of softness, mirror-smooth from half a minute.
LOOKS: tuple[MotionLook, ...] = (
    MotionLook(
        "texture",
        "Texture",
        0.10,
        share_max=0.40,
        words="threads of water that show the flow",
    ),
    MotionLook("soft", "Soft", 0.65, share_max=3.0, words="a veil with its main currents"),
    MotionLook("glass", "Mirror-smooth", 8.0, share_max=None, words="no movement visible"),
    MotionLook(
        "trails",
        "Trails",
        0.25,
        share_max=1.5,
        words="light trails across part of the frame",
    ),
    MotionLook(
        "pan",
        "Streaked background",
        0.012,
        share_max=0.06,
        words="the background streaks, the subject is sharp",
    ),
    MotionLook(
        "vanish",
        "Gone",
        None,
        share_max=None,
        words="what passes disappears",
    ),
)
"""Rule of thumb, for water from 0.5 to 4 m/s: off by up to 1 stop of time."""


RIPPLE_PERIODS: Mapping[LookId, float] = {"texture": 1.0, "soft": 5.0, "glass": 30.0}
"""Ripples that pass a place until distant open water looks so. [LAMB1932] Rule of thumb: off by up
to a factor of 2, for taste differs."""
DISTANT_SHARE = 0.05
"""Ripples shorter than this share of the frame are seen as distant water: no streak shows. Own
choice."""
GRAVITY_M_S2 = 9.81
"""Exact to 0.3 % anywhere on Earth. [LAMB1932]"""

SHORTER_LOOKS: Mapping[LookId, LookId] = {"glass": "soft", "soft": "texture"}
"""The next shorter look of moving water."""


def look_of(look_id: str) -> MotionLook:
    """The look of that id; NotFound says which there are."""
    for look in LOOKS:
        if look.id == look_id:
            return look
    known = ", ".join(look.id for look in LOOKS)
    raise NotFound(f"Unknown look {look_id}. Use one of {known}.", look=look_id)


def ripple_period_s(length_m: Real) -> Real:
    """Time (s) between two ripples of a length on deep water: sqrt(2π·λ/g). [LAMB1932]

    Takes a positive length in m.

    >>> f"{ripple_period_s(1.0):.2f}"
    '0.80'
    """
    return np.sqrt(2 * np.pi * require_positive("length_m", length_m, "m") / GRAVITY_M_S2)


def merges(length_m: float, speed_m_s: float, gap_s: float) -> bool:
    """Whether frames so far apart (s) merge into a streak: less than half a length run in a gap.

    Otherwise they are copies side by side. For water the length is the ripple's. Takes positive
    figures. Rule of thumb, from 0.2 to 5 m: off by up to a factor of 2 in the gap, as things differ
    in shape; at half a length neighbouring images overlap by half.

    >>> merges(0.6, 1.2, 0.1), merges(0.4, 1.8, 0.3)
    (True, False)
    """
    return speed_m_s * gap_s < length_m / 2


def vanishing_shutter_s(width_m: Real, speed_m_s: Real, stops_from_background: float) -> Real:
    """Shortest exposure (s) over which a crosser vanishes: w·|2^k − 1|/(0.02·v).

    Its contrast spread over the exposure then stays under 2 %. A lamp many stops above its
    background never does within any real exposure. Takes a positive width and speed. Derived
    from `left_contrast`.

    >>> f"{vanishing_shutter_s(7.0, 3.0, -2.0):.1f}"
    '87.5'
    """
    require_positive("width_m", width_m, "m")
    contrast = abs(2.0**stops_from_background - 1)
    fading_m_s = VANISHING_SHARE * require_positive("speed", speed_m_s, "m/s")
    shutter_s: Real = width_m * contrast / fading_m_s
    return shutter_s
