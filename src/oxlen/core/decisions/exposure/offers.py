"""Ways out that belong to no single limit: other light, glass, and blur that is accepted."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import replace
from itertools import chain, combinations

import numpy as np

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.ask import GLASS, HOLD, MOTION, SUPPORT
from oxlen.core.decisions.exposure.conflict import Conflict, Side
from oxlen.core.decisions.exposure.frozen import tolerated_blur_um
from oxlen.core.decisions.exposure.motion_ask import FrozenMotion, Sharp
from oxlen.core.decisions.exposure.predict import motion_blur_px
from oxlen.core.decisions.exposure.search import Search, search_for
from oxlen.core.decisions.limit import Concern
from oxlen.core.decisions.offer import Offer, Tier, Trade
from oxlen.core.kit.glass import Glass
from oxlen.core.labels import stops_label, two_digits

STANDARD_FACTORS = (2, 4, 8, 16, 32, 64, 128, 256, 512, 1000, 2000, 4000, 10_000, 100_000)
SPARE_STOPS = 0.1
EXACTLY = 0.999
"""Filters are named by rounded factors: 1000 for 1024."""
SPARE_BLUR = 1.02
"""A hair over what is needed, so that rounding does not close what was opened."""
MOST_BLUR_STOPS = 5.0
"""Blur further past what is sharp than this is a picture of the motion."""


def exposure_offers(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Other light, glass on or off, blur accepted."""
    return chain(
        light_offers(search, conflict),
        glass_offers(search.brief, conflict),
        blur_offers(search, conflict),
    )


def light_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """More light by a lamp, or more or less of it by the hour."""
    if conflict is None or conflict.short_by_stops <= 0:
        return
    brief, nearest = search.brief, search.nearest()
    # Real steps fall short by more than the bounds do.
    missed = 0.0 if nearest is None else abs(float(nearest.residual_stops[0]))
    stops = max(conflict.short_by_stops, missed) + SPARE_STOPS
    if conflict.side is Side.DARK:
        lit, amount = brief.lit(stops), stops_label(stops)
        nearer, power = two_digits(2 ** (-stops / 2)), two_digits(2**stops)
        cost = f"a lamp at {nearer} × its distance, or of {power} × the power"
        yield Offer("light", f"Add {amount} of light", cost, brief=lit, tier=Tier.OTHER_LIGHT)
        cost = f"the light must be {amount} stronger than now"
        yield Offer("hour", "Come at another time of day", cost, brief=lit, tier=Tier.OTHER_LIGHT)
    if conflict.side is Side.BRIGHT:
        cost = f"the light must fall by {stops_label(stops)}"
        yield Offer(
            "hour", "Wait for less light", cost, brief=brief.lit(-stops), tier=Tier.OTHER_LIGHT
        )


def glass_offers(brief: Brief, conflict: Conflict | None) -> Iterator[Offer]:
    """Glass to take off, glass in the kit that is dark enough, or what would be needed."""
    worn = brief[GLASS]
    if worn:
        names = " and ".join(glass.name for glass in worn)
        yield Offer(
            "no_glass", f"Take off {names}", "none", brief=brief.asking(GLASS, ()), tier=Tier.GLASS
        )
    if conflict is None or conflict.side is not Side.BRIGHT:
        return
    needed = 2.0**conflict.short_by_stops
    spare = [glass for glass in brief.filters_at_hand if glass not in worn]
    from_kit = tuple(_glass_on(brief, spare, needed, where="in your kit"))
    yield from from_kit
    if not from_kit:
        standard = next((f for f in STANDARD_FACTORS if f >= needed * EXACTLY), None)
        if standard is not None:
            bought = [Glass(f"ND {standard}", standard)]
            yield from _glass_on(brief, bought, needed, where="not in your kit")


def _glass_on(
    brief: Brief, choice: Iterable[Glass], needed: float, *, where: str
) -> Iterator[Offer]:
    """The lightest single filter, or two together, that take enough."""
    singles = [(glass,) for glass in choice]
    together = [*singles, *combinations((glass for (glass,) in singles), 2)]
    enough = [worn for worn in together if _factor(worn) >= needed * EXACTLY]
    for worn in sorted(enough, key=lambda worn: (_factor(worn), len(worn)))[:1]:
        names = " and ".join(glass.name for glass in worn)
        cost = f"{stops_label(math.log2(_factor(worn)))}, {where}"
        changed = brief.asking(GLASS, (*brief[GLASS], *worn))
        yield Offer("nd", f"Put {names} on the lens", cost, brief=changed, tier=Tier.GLASS)


def _factor(worn: Iterable[Glass]) -> float:
    return math.prod(glass.factor for glass in worn)


def blur_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """The shortest shutter that everything but holding and freezing allows, and its blur."""
    brief = search.brief
    if conflict is None or (brief[SUPPORT] == "tripod" and not brief[MOTION]):
        return
    trial = search_for(brief.asking(SUPPORT, "tripod").asking(MOTION, ()))
    if not trial.open.row.size:
        return
    shutter_s = brief.mode.manual.shutter_s[int(trial.open.column.min())]
    risk = max(_past_holding(search, shutter_s), 0.0)
    past = [risk, *(_past_sharp(brief, one, shutter_s) for one in brief[MOTION])]
    if max(past) > MOST_BLUR_STOPS:
        return
    loosened = tuple(_loosened(brief, one, shutter_s) for one in brief[MOTION])
    hold = brief[HOLD]
    risked = replace(hold, risk_stops=hold.risk_stops + risk)
    blurred = brief.asking(HOLD, risked).asking(MOTION, loosened)
    yield Offer(
        "accept_blur", "Accept blur", "", brief=blurred, tier=Tier.ACCEPTING, told=_blur_told
    )


def _blur_told(trade: Trade) -> Trade:
    px, share = trade.figures.blur_px, trade.figures.blur_share
    text = f"Accept blur up to {px:.1f} px"
    return replace(trade, text=text, cost=f"{share:.2%} of the frame's height")


def _loosened(brief: Brief, motion: FrozenMotion, shutter_s: float) -> FrozenMotion:
    """The mover with just the tolerance (pixels of the file) that lets a shutter through."""
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
    limit = next((one for one in search.limits if one.is_about(Concern.HOLDING)), None)
    if limit is None or limit.high is None:
        return 0.0
    return math.log2(shutter_s / limit.high) + 1e-6
