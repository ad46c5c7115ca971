"""Ways out as they are offered: what to do, and the brief after it; each is then solved anew."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import IntEnum

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.frontier import Figures
from oxlen.core.decisions.exposure.search import ExposureSlip


class Tier(IntEnum):
    """What kind of thing is given up; offers are listed in this order."""

    STEADIER = 1
    OTHER_LENS = 2
    OTHER_LIGHT = 3
    GLASS = 4
    SEVERAL_FRAMES = 5
    TONES = 6
    OTHER_LOOK = 7
    ACCEPTING = 8
    LAST_RESORT = 9


@dataclass(frozen=True)
class Trade:
    """A way out that works: what to do, what it costs, the brief after it, its slip, its figures.

    `by_hand` marks steps that no brief leads to: they are taken as they are. `changes_file` marks
    ways that lead to other files even where the steps stay the same.
    """

    id: str
    text: str
    cost: str
    slip: ExposureSlip
    figures: Figures
    brief: Brief
    by_hand: bool = False
    changes_file: bool = False


@dataclass(frozen=True)
class Offer:
    """Something to give up: an id, what to do, what it costs, and the brief after it.

    `told` finishes the words once the slip it leads to is known; None withdraws the offer.
    """

    id: str
    text: str
    cost: str
    brief: Brief
    tier: Tier
    told: Callable[[Trade], Trade | None] | None = None
    changes_file: bool = False
