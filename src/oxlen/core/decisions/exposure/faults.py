"""Faults that may be accepted: blur, and a picture darker than wanted."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import chain

import numpy as np

from oxlen.core.decisions.exposure.ask import (
    DARKEST_STOPS,
    DRAWING,
    HOLD,
    MOTION,
    STRATEGY,
    SUPPORT,
)
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion, Sharp
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.sequence.ask import is_bracketed
from oxlen.core.decisions.solver.conflict import Conflict, Side
from oxlen.core.decisions.solver.frozen import tolerated_blur_um
from oxlen.core.decisions.solver.predict import motion_blur_px
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.surroundings.ask import SURROUNDINGS
from oxlen.core.decisions.trade import Trade
from oxlen.core.hold.burst import MOST_PAST_STOPS, burst_stops, share_sharp
from oxlen.core.labels import percent_label, stops_label

SPARE_STOPS = 0.1
SPARE_BLUR = 1.02
"""A hair over what is needed, so that rounding does not close what was opened."""
MOST_DARKER_STOPS = 2.0
"""Darker by more than this a picture is another one than was wanted."""


def accepted_faults(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Blur, or a darker picture."""
    return chain(blur_offers(search, conflict), darker_offers(search, conflict))


def blur_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The shortest shutter that everything but holding and freezing allows, and its blur."""
    brief = search.brief
    is_still = brief[SUPPORT] == "tripod" and brief[SURROUNDINGS].stand == "ground"
    if conflict is None or (is_still and not brief[MOTION]):
        return
    firm = brief.asking(SURROUNDINGS, replace(brief[SURROUNDINGS], stand="ground"))
    trial = search.again(firm.asking(SUPPORT, "tripod").asking(MOTION, ()))
    if not trial.open.row.size:
        return
    shutter_s = brief.mode.manual.shutter_s[int(trial.open.column.min())]
    hold = brief[HOLD]
    risk = max(_past_holding(search, shutter_s), 0.0)
    already = hold.risk_stops + (burst_stops(hold.burst, hold.chance) if hold.burst > 1 else 0.0)
    past = [already + risk, *(_past_sharp(brief, motion, shutter_s) for motion in brief[MOTION])]
    if max(past) > MOST_PAST_STOPS:
        return
    loosened = tuple(_loosened(brief, motion, shutter_s) for motion in brief[MOTION])
    risked = replace(hold, risk_stops=hold.risk_stops + risk)
    blurred = brief.asking(HOLD, risked).asking(MOTION, loosened)
    yield Offer(
        "accept_blur", "Accept blur", "", brief=blurred, tier=Tier.ACCEPTING, reword=_blur_reworded
    )


def _blur_reworded(trade: Trade) -> Trade:
    px, share = trade.figures.blur_px, trade.figures.blur_share
    text = f"Accept blur of up to {px:.1f} px"
    return replace(trade, text=text, cost=f"{share:.2%} of the frame's height{_hand_words(trade)}")


def _hand_words(trade: Trade) -> str:
    """How many tries are sharp, where the shutter is past what the hand holds."""
    risk = trade.brief[HOLD].risk_stops
    if risk <= 0:
        return ""
    return f"; about {percent_label(float(share_sharp(risk)))} of shots are sharp"


def _loosened(brief: Brief, motion: FrozenMotion, shutter_s: float) -> FrozenMotion:
    """The mover with just the tolerance (pixels of the file) that a shutter just meets."""
    past = _past_sharp(brief, motion, shutter_s)
    if past <= 0:
        return motion
    sharp_px = tolerated_blur_um(brief, motion) / brief.mode.pixel_pitch_um
    return replace(motion, sharp=Sharp("pixel", SPARE_BLUR * sharp_px * 2.0**past))


def _past_sharp(brief: Brief, motion: FrozenMotion, shutter_s: float) -> float:
    """Stops by which a mover's blur passes what counts as sharp; 0 or less when it does not."""
    alone = brief.asking(MOTION, (motion,))
    blur_px = float(motion_blur_px(alone, np.array([shutter_s]))[0])
    sharp_px = tolerated_blur_um(brief, motion) / brief.mode.pixel_pitch_um
    return math.log2(blur_px / sharp_px) if blur_px > 0 else -math.inf


def _past_holding(search: Search, shutter_s: float) -> float:
    """Stops by which a shutter is longer than can be held; 0 or less inside it, or without one."""
    held = [limit for limit in search.limits if limit.is_about(Concern.HOLDING, Concern.STANDING)]
    highs = [bound.high for bound in held if bound.high is not None]
    return math.log2(shutter_s / min(highs)) + 1e-6 if highs else 0.0


def darker_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The picture darker than wanted by what the light is short, while it stays that picture."""
    stops = _darker_stops(search, conflict)
    if 0 < stops <= MOST_DARKER_STOPS:
        yield _darker(search.brief, stops, "a darker mood; lifted afterwards it gets grainy")


def as_light_as_it_gets(search: Search, conflict: Conflict | None) -> Offer | None:
    """Darker than wanted by whatever the light is short; None where that is not what is short."""
    stops = _darker_stops(search, conflict)
    if not 0 < stops <= DARKEST_STOPS:
        return None
    return _darker(search.brief, stops, "the most this phone can do")


def _darker_stops(search: Search, conflict: Conflict | None) -> float:
    """How much darker a slip would have to be; 0 where more light is not what is missing."""
    brief = search.brief
    if conflict is None or conflict.side is not Side.DARK or conflict.short_by_stops <= 0:
        return 0.0
    if brief[DRAWING] is not None or is_bracketed(brief):
        return 0.0
    spare = brief.mode.manual.half_step_stops + SPARE_STOPS
    return round(brief[STRATEGY].darker_stops + conflict.short_by_stops + spare, 1)


def _darker(brief: Brief, stops: float, cost: str) -> Offer:
    text = f"Accept {stops_label(stops)} darker"
    darker = brief.asking(STRATEGY, replace(brief[STRATEGY], darker_stops=stops))
    return Offer("darker_tone", text, cost, brief=darker, tier=Tier.ACCEPTING)
