"""Ways out that belong to no single limit: other light, filters, and blur that is accepted."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from itertools import chain, combinations

from oxlen.core.decisions.exposure.ask import (
    LENS_FILTERS,
    STRATEGY,
    glass_stops,
)
from oxlen.core.decisions.exposure.auto.offers import automatic_offers
from oxlen.core.decisions.exposure.light_source import (
    LightSource,
    falls_so_far,
    light_source,
    rises_so_far,
)
from oxlen.core.decisions.framework.brief import SUBJECT, Brief
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict, Side, tightest_bounds
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.trade import Trade
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.labels import stops_label, two_digits
from oxlen.core.light.exposure import ev100

STANDARD_FACTORS = (2, 4, 8, 16, 32, 64, 128, 256, 512, 1000, 2000, 4000, 8000, 16_000, 32_000)
SPARE_STOPS = 0.1
EXACTLY = 0.999
"""Filters are named by rounded factors: 1000 for 1024."""
WEAK_FACTOR = 4.0
MOST_LAMP_STOPS, LAMP_EV100 = 5.0, 3.0
"""More than this no lamp that people carry adds to a whole scene, but that it reaches: 800 lumens
a few metres away."""


def exposure_offers(search: Search, conflict: Conflict | None) -> Iterable[Offer]:
    """Other light, filters on or off, and what the phone does by itself."""
    return chain(
        light_offers(search, conflict),
        filter_offers(search, conflict),
        automatic_offers(search, conflict),
    )


def light_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """More light or less, from what lights the scene: a lamp is dimmed, the sun is waited for.

    This does not apply to stars, or to a room that is dark on purpose.
    """
    if conflict is None or conflict.short_by_stops <= 0:
        return
    lit_by = light_source(search.brief)
    if lit_by is LightSource.STARS or lit_by is LightSource.DRAWING:
        return
    # Real steps fall short by more than the bounds do.
    stops = conflict.short_by_stops + search.brief.mode.manual.half_step_stops + SPARE_STOPS
    if conflict.side is Side.DARK:
        yield from _more_light(search.brief, stops, lit_by)
    elif conflict.side is Side.BRIGHT:
        yield from _less_light(search.brief, stops, lit_by)


def _more_light(brief: Brief, stops: float, lit_by: LightSource) -> Iterator[Offer]:
    amount, lit = stops_label(stops), brief.lit(stops)
    nearer, power = two_digits(2 ** (-stops / 2)), two_digits(2**stops)
    if lit_by is LightSource.LAMP:
        text = f"Turn the lamps up to {power}×, or move them closer"
        cost = f"{amount} more light: the same lamps at {nearer} of the distance"
        yield Offer("lamp", text, cost, brief=lit, tier=Tier.OTHER_LIGHT)
        return
    if lit_by is LightSource.VENUE:
        return
    if stops <= MOST_LAMP_STOPS or _subject_ev100(brief) + stops <= LAMP_EV100:
        cost = f"a lamp at {nearer} of the distance or with {power}× the power"
        yield Offer("light", f"Add {amount} of light", cost, brief=lit, tier=Tier.OTHER_LIGHT)
    if not rises_so_far(brief, stops):
        return
    if lit_by is LightSource.DUSK:
        cost = f"{amount} more light needed. It falls 1 stop in 3 to 6 min"
        yield Offer("hour", "Shoot earlier in the dusk", cost, brief=lit, tier=Tier.WAITING)
    if lit_by is LightSource.DAY:
        cost = f"{amount} more light needed"
        yield Offer("hour", "Come back in brighter light", cost, brief=lit, tier=Tier.WAITING)


def _subject_ev100(brief: Brief) -> float:
    return max(
        (reading.ev100 for reading in brief.readings if reading.role == SUBJECT), default=math.inf
    )


def _less_light(brief: Brief, stops: float, lit_by: LightSource) -> Iterator[Offer]:
    amount, dimmed = stops_label(stops), brief.lit(-stops)
    if lit_by is not LightSource.LAMP:
        if falls_so_far(brief, stops):
            cost = f"{amount} less light needed"
            yield Offer("hour", "Wait for less light", cost, brief=dimmed, tier=Tier.WAITING)
        return
    share, farther = two_digits(2.0**-stops), two_digits(2 ** (stops / 2))
    text = f"Dim the lamps to {share}, or move them {farther}× as far"
    yield Offer("lamp", text, f"{amount} less light", brief=dimmed, tier=Tier.OTHER_LIGHT)


def too_bright_stops(search: Search) -> float:
    """Stops of light too many at the shortest shutter allowed and the lowest ISO; 0 when none."""
    bounds = tightest_bounds(search.limits)
    shortest = min(bounds.shutter_min.low or 0.0, bounds.shutter_max.high or math.inf)
    brief = search.brief
    brightest = float(ev100(brief.lens.f_number, shortest, bounds.iso_min.low or 1.0))
    return max(0.0, search.aim.ev100 - brightest - glass_stops(brief))


def filter_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Filters to take off, filters in the kit that is dark enough, or what would be needed."""
    brief = search.brief
    if brief[LENS_FILTERS]:
        names = " and ".join(lens_filter.name for lens_filter in brief[LENS_FILTERS])
        yield Offer(
            "no_glass",
            f"Take off {names}",
            f"{stops_label(glass_stops(brief))} more light",
            brief=brief.asking(LENS_FILTERS, ()),
            tier=Tier.LENS_FILTERS,
        )
    if conflict is not None and conflict.between_steps:
        yield from between_steps_offers(search)
    # Where only a shutter collides, a filter is of use together with something else.
    too_bright = too_bright_stops(search)
    if conflict is None or conflict.side not in (Side.BRIGHT, Side.STEPS) or too_bright <= 0:
        return
    needed = 2.0**too_bright
    spare = [
        lens_filter
        for lens_filter in brief.filters_at_hand
        if lens_filter not in brief[LENS_FILTERS]
    ]
    from_kit = tuple(_filters_on(brief, spare, needed, where="in your kit"))
    yield from from_kit
    if all(offer.reword is not None for offer in from_kit):
        # What has to be stacked may turn out too dark; one filter to buy may not.
        standard = next((f for f in STANDARD_FACTORS if f >= needed * EXACTLY), None)
        if standard is not None:
            bought = [LensFilter(f"ND {standard}", standard)]
            yield from _filters_on(brief, bought, needed, where="not in your kit")


def bought_filters(search: Search) -> tuple[LensFilter, ...] | None:
    """All that is on the lens once filters take what is too bright; None where none would do."""
    brief, needed = search.brief, 2.0 ** too_bright_stops(search)
    if needed <= 1:
        return None
    standard = next((factor for factor in STANDARD_FACTORS if factor >= needed * EXACTLY), None)
    bought = [] if standard is None else [LensFilter(f"ND {standard}", standard)]
    for choice, where in ((brief.filters_at_hand, "in your kit"), (bought, "not in your kit")):
        for offer in _filters_on(brief, choice, needed, where=where):
            found = search.again(offer.brief)
            slip = found.slip(found.preferred())
            # What has to be stacked may be darker than needed: ISO would pay for it.
            if slip is not None and slip.iso <= 2 * brief.mode.manual.iso[0]:
                return offer.brief[LENS_FILTERS]
    return None


def is_to_buy(brief: Brief, after: Brief) -> bool:
    """Whether a changed brief needs a filter that is neither in the kit nor on the lens."""
    known = (*brief.filters_at_hand, *brief[LENS_FILTERS])
    return any(worn not in known for worn in after[LENS_FILTERS])


def between_steps_offers(search: Search) -> Iterator[Offer]:
    """Weak filters of the kit: they fall between the phone’s steps and open new ones."""
    brief = search.brief
    for lens_filter in brief.filters_at_hand:
        if lens_filter not in brief[LENS_FILTERS] and lens_filter.factor <= WEAK_FACTOR:
            taken = stops_label(math.log2(lens_filter.factor))
            cost = f"its {taken} fall between this phone's steps; in your kit"
            on = brief.asking(LENS_FILTERS, (*brief[LENS_FILTERS], lens_filter))
            text = f"Put {lens_filter.name} on the lens"
            yield Offer("nd", text, cost, brief=on, tier=Tier.LENS_FILTERS)


def weaker_filter_offers(search: Search) -> Iterator[Offer]:
    """Each filter of the kit that is not dark enough alone, for use with something else."""
    brief, needed = search.brief, 2.0 ** too_bright_stops(search)
    for lens_filter in brief.filters_at_hand:
        if lens_filter not in brief[LENS_FILTERS] and lens_filter.factor < needed * EXACTLY:
            cost = f"{stops_label(math.log2(lens_filter.factor))}, in your kit"
            on = brief.asking(LENS_FILTERS, (*brief[LENS_FILTERS], lens_filter))
            text = f"Put {lens_filter.name} on the lens"
            yield Offer("nd", text, cost, brief=on, tier=Tier.LENS_FILTERS)


def _filters_on(
    brief: Brief, choice: Iterable[LensFilter], needed: float, *, where: str
) -> Iterator[Offer]:
    """The lightest single filter, or two together, that take enough and not much more."""
    singles = [(lens_filter,) for lens_filter in choice]
    together = [*singles, *combinations((lens_filter for (lens_filter,) in singles), 2)]
    enough = [worn for worn in together if _factor(worn) >= needed * EXACTLY]
    for worn in sorted(enough, key=lambda worn: (_factor(worn), len(worn)))[:1]:
        names = " and ".join(lens_filter.name for lens_filter in worn)
        besides = " too" if brief[LENS_FILTERS] else ""
        cost = f"{stops_label(math.log2(_factor(worn)))}, {where}"
        changed = brief.asking(LENS_FILTERS, (*brief[LENS_FILTERS], *worn))
        text = f"Put {names} on the lens{besides}"
        describe = None if len(worn) == 1 and where.startswith("in ") else _no_darker_than_needed
        yield Offer("nd", text, cost, brief=changed, tier=Tier.LENS_FILTERS, reword=describe)


def _no_darker_than_needed(trade: Trade) -> Trade | None:
    """Filters to buy, or to stack, are not taken so dark that ISO has to make up for it."""
    lowest = trade.brief.mode.manual.iso[0]
    wanted = trade.brief[STRATEGY].iso_fixed or lowest
    return trade if trade.slip.iso <= max(wanted, 2 * lowest) else None


def _factor(worn: Iterable[LensFilter]) -> float:
    return math.prod(lens_filter.factor for lens_filter in worn)
