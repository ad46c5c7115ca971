"""Ways out as they are offered: what to do, and the brief after it; each is then solved anew."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import IntEnum
from typing import Any

from oxlen.core.decisions.framework.brief import Brief


class Tier(IntEnum):
    """What kind of thing is given up; offers are listed in this order."""

    STEADIER = 1
    OTHER_LENS = 2
    OTHER_LIGHT = 3
    LENS_FILTERS = 4
    SEVERAL_FRAMES = 5
    TONES = 6
    OTHER_LOOK = 7
    WAITING = 8
    GIVING_UP = 9
    ACCEPTING = 10
    LAST_RESORT = 11
    DROPPING = 12


@dataclass(frozen=True)
class Offer:
    """Something to give up: an id, what to do, what it costs, and the brief after it.

    `reword` finishes the words once the slip it leads to is known; None withdraws the offer.
    """

    id: str
    text: str
    cost: str
    brief: Brief
    tier: Tier
    reword: Callable[[Any], Any] | None = None
    changes_file: bool = False
    outside: bool = False
