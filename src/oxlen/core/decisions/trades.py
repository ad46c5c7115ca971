"""Ways out: the offers of every decision and of every kind of limit, each solved anew."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from oxlen.core import decisions
from oxlen.core.decisions.exposure.automatic_offers import automatic_trades
from oxlen.core.decisions.exposure.conflict import Conflict, find_conflict, is_hopeless
from oxlen.core.decisions.exposure.offers import weaker_glass_offers
from oxlen.core.decisions.exposure.search import ExposureSlip, Search, search_for
from oxlen.core.decisions.offer import Offer, Tier, Trade
from oxlen.core.decisions.solving import solved_by

ENOUGH = 3
"""With this many ways out that need one change, two together are not looked for."""
MOST_FOLLOWED = 5
"""So many first changes are followed up."""
MOST_SOLVED = 14
"""Changes are tried together so often at the most, the likeliest first."""
MOST_TOGETHER = 3
COMBINED = (
    Tier.STEADIER,
    Tier.OTHER_LENS,
    Tier.OTHER_LOOK,
    Tier.OTHER_LIGHT,
    Tier.GLASS,
    Tier.SEVERAL_FRAMES,
    Tier.TONES,
)
"""What is done together with something else, in the order it is done; faults stand alone."""
ALONE = ("burst", "pan", "still", "steady_lamp", "fill", "lamp")
"""What is not worth doing if it is not enough."""


def trades_for(search: Search, conflict: Conflict | None) -> tuple[Trade, ...]:
    """Ways out of a conflict, or what else could be given up when there is none.

    Each is solved anew and offered only when it then keeps every limit. Where few single changes
    do, two are tried together, and three where two do not.
    """
    tried = [_tried(offer) for offer in sorted_offers(search, conflict)]
    found = [one.trade for one in tried if one.trade is not None]
    if conflict is None:
        slip = search.slip(search.preferred())
        found = [trade for trade in found if slip is None or _leads_elsewhere(slip, trade)]
    elif len(found) < ENOUGH:
        # A filter at hand comes before one to buy.
        partial = [*map(_tried, weaker_glass_offers(search)), *tried]
        found += _together([one for one in partial if one.trade is None], found, conflict)
    found += automatic_trades(search, conflict)
    by_id: dict[str, Trade] = {}
    for trade in found:
        by_id.setdefault(trade.id, trade)
    return tuple(by_id.values())


def sorted_offers(search: Search, conflict: Conflict | None) -> list[Offer]:
    """Everything that is offered, by what kind of thing is given up."""
    found = [*_changes(search, conflict), *_accepted(search, conflict)]
    return sorted(found, key=lambda offer: offer.tier)


@dataclass(frozen=True)
class _Tried:
    """An offer with its brief searched, and the way out it is, if it is one."""

    offer: Offer
    search: Search
    trade: Trade | None

    @cached_property
    def conflict(self) -> Conflict:
        """What still stands in the way after it."""
        return find_conflict(self.search)

    def moves(self, before: Conflict) -> bool:
        """Whether it made the collision another one, or a smaller one."""
        if self.offer.tier is Tier.GLASS:
            # Glass alone never moves two shutters that collide; with frames it does.
            return True
        now = self.conflict
        return now.between != before.between or now.short_by_stops < before.short_by_stops


def _tried(offer: Offer) -> _Tried:
    search = search_for(offer.brief)
    trade = None if is_hopeless(search) else solved_by(offer, search)
    return _Tried(offer, search, trade)


def _together(partial: list[_Tried], alone: list[Trade], conflict: Conflict) -> list[Trade]:
    """Ways out of two changes; of three where neither one nor two are enough.

    What is enough alone is not offered once more with something else; what leaves the collision as
    it was is not followed.
    """
    budget, found, enough = MOST_SOLVED, [], {trade.id for trade in alone}
    offered = {one.offer.id for one in partial}
    for _ in range(MOST_TOGETHER - 1):
        first = [one for one in partial if _combines(one.offer) and one.trade is None]
        first = [one for one in first if one.moves(conflict)]
        partial = []
        for one in first[:MOST_FOLLOWED]:
            offers = list(_next_offers(one, enough, offered))[: max(0, budget)]
            budget -= len(offers)
            partial += map(_tried, offers)
        found += _distinct(one.trade for one in partial if one.trade is not None)
        if found or alone:
            break
    return found


def _next_offers(one: _Tried, enough: set[str], offered: set[str]) -> Iterator[Offer]:
    """What may be done besides, once a first change is made."""
    done = {*one.offer.id.split("+"), *enough}
    for other in _changes(one.search, one.conflict):
        if not _combines(other) or other.id in done:
            continue
        # Two changes have one order: the one that is listed first comes first, unless a firmer
        # hold was only called for by what the other left, as by glass.
        called_for = other.tier is Tier.STEADIER and other.id not in offered
        if called_for or _comes_after(other, one.offer):
            yield _both(one.offer, other)


def _comes_after(other: Offer, first: Offer) -> bool:
    return COMBINED.index(other.tier) > COMBINED.index(first.tier)


def _combines(offer: Offer) -> bool:
    return offer.tier in COMBINED and offer.id not in ALONE


def _both(first: Offer, second: Offer) -> Offer:
    text = f"{first.text}, and {second.text[:1].lower()}{second.text[1:]}"
    costs = [cost for cost in (first.cost, second.cost) if cost]

    def told(trade: Trade) -> Trade | None:
        """Each part in its own words; either may withdraw."""
        one, other = _told(first, trade), _told(second, trade)
        if one is None or other is None:
            return None
        text = f"{one.text}, and {other.text[:1].lower()}{other.text[1:]}"
        return replace(trade, text=text, cost="; ".join(x for x in (one.cost, other.cost) if x))

    return Offer(
        f"{first.id}+{second.id}",
        text,
        "; ".join(costs),
        brief=second.brief,
        tier=second.tier,
        told=told,
        changes_file=first.changes_file or second.changes_file,
        outside=first.outside or second.outside,
    )


def _told(offer: Offer, trade: Trade) -> Trade | None:
    """A trade in the words of one of the offers it is made of."""
    alone = replace(trade, text=offer.text, cost=offer.cost)
    return alone if offer.told is None else offer.told(alone)


def _distinct(trades: Iterator[Trade]) -> list[Trade]:
    """Each sort of combination once: the first, unless another leaves ISO far lower."""
    best: dict[str, Trade] = {}
    for trade in trades:
        if trade.id not in best or 2 * trade.slip.iso <= best[trade.id].slip.iso:
            best[trade.id] = trade
    return list(best.values())


def _changes(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """What may be done otherwise."""
    for decision in decisions.DECISIONS:
        for kind in decision.limit_kinds:
            yield from kind.ways_out(search, conflict)
        yield from decision.offers(search, conflict)


def _accepted(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Faults that may be taken."""
    for decision in decisions.DECISIONS:
        for kind in decision.limit_kinds:
            yield from kind.accepted(search, conflict)
        yield from decision.accepted(search, conflict)


def _leads_elsewhere(slip: ExposureSlip, trade: Trade) -> bool:
    """Whether a trade leads anywhere else than the slip there is."""
    if trade.slip.lens != slip.lens or trade.changes_file:
        return True
    return (trade.slip.iso, trade.slip.shutter_s) != (slip.iso, slip.shutter_s)
