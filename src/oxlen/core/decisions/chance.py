"""How likely a take is to work, and what one test frame would add."""

from __future__ import annotations

import math
from dataclasses import dataclass

from oxlen.core.decisions.exposure.ask import HOLD, SUPPORT
from oxlen.core.decisions.framework.brief import SUBJECT
from oxlen.core.decisions.framework.limit import Concern
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.solver.steadiness import held_limit_s
from oxlen.core.decisions.solver.tones import spot_name
from oxlen.core.hold.burst import share_sharp
from oxlen.core.hold.hand import keep_one_of

TONE_WITHIN_STOPS = 1.0
"""A subject further off than this is shot again, where no tolerance was given."""
TESTED_STOPS = 0.3
"""What a test frame that was looked at leaves of a reading's ±."""
WORTH_SHARE = 0.03
MOST_SHARE = 0.97
"""Nobody can promise more of a picture than this."""


@dataclass(frozen=True)
class Chance:
    """Shares of takes that work as asked: now, and after one test frame; in words."""

    share: float
    tested_share: float
    words: str


def chance_of(plan: Plan) -> Chance | None:
    """The chance that a take is sharp and its subject as bright as wanted.

    Sharp by the hand's own curve, over all frames of a burst; what moves by the same curve about
    its limit, as its speed is never known better; bright by the ± of the reading as twice the
    spread of a normal error. None without a slip. [COX1958]
    """
    if plan.slip is None or plan.conflict is not None:
        return None
    sharp = _sharp_share(plan) * _frozen_share(plan)
    now = min(MOST_SHARE, sharp * _tone_share(plan, None))
    tested = min(MOST_SHARE, sharp * _tone_share(plan, TESTED_STOPS))
    words = f"About {_in_ten(now)} shots work."
    if tested - now >= WORTH_SHARE:
        words += f" After a test shot, {_in_ten(tested)}."
    return Chance(now, max(now, tested), words)


def _sharp_share(plan: Plan) -> float:
    brief, slip = plan.brief, plan.slip
    if slip is None or brief[SUPPORT] == "tripod":
        return 1.0
    past = math.log2(slip.shutter_s / held_limit_s(brief))
    return float(keep_one_of(float(share_sharp(past)), brief[HOLD].burst))


def _frozen_share(plan: Plan) -> float:
    """Share in which what moves is no faster than the shutter allows for."""
    room = [
        plan.slack_stops[limit.id]
        for limit in plan.search.limits
        if limit.kind.concern == Concern.FREEZING and limit.id in plan.slack_stops
    ]
    return float(share_sharp(-min(room))) if room else 1.0


def _tone_share(plan: Plan, plus_minus: float | None) -> float:
    """Share in which the least sure subject lands within what is wanted of it."""
    within = {spot_name(reading): reading.within_stops for reading in plan.brief.readings}
    most = math.inf if plus_minus is None else plus_minus
    shares = [
        _within_share(
            spot.misses_stops,
            within.get(spot.name) or TONE_WITHIN_STOPS,
            plus_minus=min(spot.plus_minus_stops or 0.0, most),
        )
        for spot in plan.outcome
        if spot.role == SUBJECT
    ]
    return min(shares, default=1.0)


def _within_share(miss: float, within: float, *, plus_minus: float) -> float:
    """Share of a normal error about a miss that stays within a tolerance (stops)."""
    sigma = max(plus_minus / 2, 0.01)
    upper, lower = (within - miss) / sigma, (-within - miss) / sigma
    return 0.5 * (math.erf(upper / math.sqrt(2)) - math.erf(lower / math.sqrt(2)))


def _in_ten(share: float) -> str:
    """A share as people say it.

    >>> _in_ten(0.83), _in_ten(0.97), _in_ten(0.02)
    ('8 of 10', '97 of 100', '2 of 100')
    """
    if 0.15 <= share <= 0.93:
        return f"{round(10 * share)} of 10"
    return f"{round(100 * share)} of 100"
