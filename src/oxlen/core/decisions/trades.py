"""Ways out: the offers of every decision and of every kind of limit, each solved anew."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cached_property

from oxlen.core import decisions
from oxlen.core.decisions.dropping import (
    bare_offer,
    blend_offers,
    drop_offers,
    drop_what_is_broken,
    exclude_each_other,
)
from oxlen.core.decisions.exposure.auto.offers import automatic_trades
from oxlen.core.decisions.exposure.faults import as_light_as_it_gets
from oxlen.core.decisions.exposure.offers import is_to_buy, weaker_filter_offers
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.scene.unfit import is_fit
from oxlen.core.decisions.solver.conflict import Conflict, find_conflict, is_hopeless
from oxlen.core.decisions.solver.search import ExposureSlip, Search, trouble_stops
from oxlen.core.decisions.solving import solved_by
from oxlen.core.decisions.trade import Trade

ENOUGH = 3
"""With this many ways out that need one change, two together are not looked for."""
MOST_FOLLOWED, MOST_OPENING = 8, 3
"""So many first changes are followed up."""
MOST_SOLVED, MOST_TOGETHER = 64, 3
"""Changes are tried together so often at the most, the likeliest first."""
NEARER_STOPS = 0.05
"""A change that brings the slip nearer by less is no help."""
MOST_MENDED = 6
"""With more changes than that another picture is planned."""
AtLast = Callable[[Search, Conflict | None], Offer | None]
COMBINED = (
    Tier.STEADIER,
    Tier.OTHER_LENS,
    Tier.OTHER_LOOK,
    Tier.OTHER_LIGHT,
    Tier.LENS_FILTERS,
    Tier.SEVERAL_FRAMES,
    Tier.TONES,
    Tier.WAITING,
    Tier.GIVING_UP,
    Tier.ACCEPTING,
)
"""What is done together with something else, in the order it is done."""
ALONE = frozenset({"burst", "still", "steady_lamp", "fill", "lamp"})
"""What is not worth doing if it is not enough."""


def trades_for(search: Search, conflict: Conflict | None) -> tuple[Trade, ...]:
    """Ways out of a conflict, or what else could be given up when there is none.

    Each is solved anew and offered only when it then keeps every limit. Where few single changes
    do, two are tried together, and three where two do not.
    """
    tried = [_tried(offer, search) for offer in sorted_offers(search, conflict)]
    found = [trial.trade for trial in tried if trial.trade is not None]
    if conflict is None:
        slip = search.slip(search.preferred())
        found = [trade for trade in found if slip is None or _leads_elsewhere(slip, trade)]
    elif len(found) < ENOUGH:
        # A filter at hand comes before one to buy.
        weaker = (nd for nd in weaker_filter_offers(search) if is_fit(search.brief, nd.id))
        partial = [*(_tried(nd, search) for nd in weaker), *tried]
        found += _together([trial for trial in partial if trial.trade is None], found, search)
    found += automatic_trades(search, conflict)
    if conflict is not None and (not found or exclude_each_other(conflict)):
        found += _last(search, conflict)
    by_id: dict[str, Trade] = {}
    for trade in found:
        by_id.setdefault(trade.id, trade)
    # What can be done with what is at hand comes before anything to buy.
    return tuple(sorted(by_id.values(), key=lambda trade: is_to_buy(search.brief, trade.brief)))


def sorted_offers(search: Search, conflict: Conflict | None) -> list[Offer]:
    """Everything that is offered, by what kind of thing is given up."""
    found = _offered(search, conflict)
    return sorted(found, key=lambda offer: offer.tier)


def _offered(search: Search, conflict: Conflict | None) -> list[Offer]:
    """All that may be done or accepted, less what cannot be had there or would hurt someone."""
    found = [*_changes(search, conflict), *_accepted(search, conflict)]
    return [offer for offer in found if is_fit(search.brief, offer.id)]


def _last(search: Search, conflict: Conflict) -> list[Trade]:
    """A frame for each of two wishes, or one of them dropped with what is needed besides."""
    offers = [*blend_offers(search, conflict), *drop_offers(search, conflict)]
    tried = [_tried(offer, search) for offer in offers]
    found = [trial.trade for trial in tried if trial.trade is not None]
    for trial in tried:
        if trial.trade is None and trial.offer.id != "two-frames":
            found += _mended(trial)
    return found or _mended(_Tried(_unchanged(search.brief), search, None)) or _bare(search)


def _bare(search: Search) -> list[Trade]:
    """One spot alone as it was wanted, every other wish dropped."""
    tried = _tried(bare_offer(search.brief), search)
    return [tried.trade] if tried.trade is not None else _mended(tried, at_last=as_light_as_it_gets)


def _mended(attempt: _Tried, at_last: AtLast | None = None) -> list[Trade]:
    """A way on from a brief that still collides, each time by what brings it nearest.

    `at_last`: what is offered where nothing brings it any nearer.
    """
    for _ in range(MOST_MENDED):
        done = {*attempt.offer.id.split("+"), "burst"}
        offered = [x for x in _offered(attempt.search, attempt.conflict) if x.id not in done]
        offered += drop_offers(attempt.search, attempt.conflict)
        offered += drop_what_is_broken(attempt.search)
        offered.sort(key=lambda x: (is_to_buy(attempt.search.brief, x.brief), x.tier))
        both = [_both(attempt.offer, offer) for offer in offered]
        tried = [_tried(offer, attempt.search) for offer in both]
        found = next((other.trade for other in tried if other.trade is not None), None)
        if found is not None:
            return [found]
        kept = [other for other in tried if _combines_last(other.offer)]
        nearest = min(kept, key=lambda other: round(other.trouble_stops, 2), default=None)
        least = min(NEARER_STOPS, attempt.trouble_stops / 2)
        if nearest is None or nearest.trouble_stops > attempt.trouble_stops - least:
            cleared = next((other for other in kept if _clears_glare(attempt.search, other)), None)
            if cleared is not None:
                attempt = cleared  # what is never offered beside the Sun may be now
                continue
            last = at_last(attempt.search, attempt.conflict) if at_last else None
            done_with = _tried(_both(attempt.offer, last), attempt.search).trade if last else None
            return [done_with] if done_with else []
        attempt = nearest
    return []


def _unchanged(brief: Brief) -> Offer:
    """The beginning of a way on: nothing changed yet."""
    return Offer("", "", "", brief=brief, tier=Tier.STEADIER)


def _combines_last(offer: Offer) -> bool:
    return ALONE.isdisjoint(offer.id.split("+")) and offer.tier is not Tier.LAST_RESORT


@dataclass(frozen=True)
class _Tried:
    """An offer with its brief searched, and the way out it is, if it is one."""

    offer: Offer
    search: Search
    trade: Trade | None

    @cached_property
    def conflict(self) -> Conflict:
        """What still blocks a slip after the change."""
        return find_conflict(self.search)

    @cached_property
    def trouble_stops(self) -> float:
        """How far from a slip it still is."""
        return trouble_stops(self.search)


def _tried(offer: Offer, before: Search) -> _Tried:
    search = before.again(offer.brief)
    trade = None if is_hopeless(search) else solved_by(offer, search)
    return _Tried(offer, search, trade)


def _together(partial: list[_Tried], alone: list[Trade], search: Search) -> list[Trade]:
    """Ways out of two changes; of three where neither one nor two are enough.

    Followed are the changes that leave the least trouble. What is enough alone is not offered once
    more with something else; what brings nothing nearer is not followed.
    """
    enough = {trade.id for trade in alone}
    seen: set[frozenset[str]] = set()
    budget = MOST_SOLVED if not alone else MOST_SOLVED // 2
    found: list[Trade] = []
    before = trouble_stops(search)
    for _ in range(MOST_TOGETHER - 1):
        open_yet = [trial for trial in partial if _combines(trial.offer) and trial.trade is None]
        nearer = [trial for trial in open_yet if trial.trouble_stops < before - NEARER_STOPS]
        nearer.sort(key=lambda trial: (round(trial.trouble_stops, 1), trial.offer.tier))
        # What opens the way for something else brings nothing nearer by itself.
        opening = [trial for trial in open_yet if trial not in nearer and _opens(search, trial)]
        partial = []
        for attempt in (*nearer[:MOST_FOLLOWED], *opening[:MOST_OPENING]):
            offers = list(_next_offers(attempt, enough, seen))[: max(0, budget)]
            budget -= len(offers)
            tried = [_tried(offer, search) for offer in offers]
            # What failed may still do in another order: a filter is chosen for what comes before.
            seen |= {frozenset(each.offer.id.split("+")) for each in tried if each.trade}
            partial += tried
        # What keeps more of the picture comes first, however near a loss of it would have been.
        partial.sort(key=lambda trial: trial.offer.tier)
        found += _distinct(trial.trade for trial in partial if trial.trade is not None)
        if found or alone:
            break
    return found


def _opens(search: Search, trial: _Tried) -> bool:
    """Whether something else is in the way after it, or a glare is out of the lens."""
    return _clears_glare(search, trial) or trial.conflict.between != find_conflict(search).between


def _clears_glare(search: Search, trial: _Tried) -> bool:
    return scene_facts(search.brief).is_glaring and not scene_facts(trial.search.brief).is_glaring


def _next_offers(trial: _Tried, enough: set[str], seen: set[frozenset[str]]) -> Iterator[Offer]:
    """What may be done besides, once a first change is made; each set of changes once."""
    done = trial.offer.id.split("+")
    offered = sorted(_offered(trial.search, trial.conflict), key=lambda offer: offer.tier)
    for other in offered:
        both = frozenset((*done, other.id))
        if other.id in done or other.id in enough or both in seen or not _combines(other):
            continue
        yield _both(trial.offer, other)


def _combines(offer: Offer) -> bool:
    return offer.tier in COMBINED and ALONE.isdisjoint(offer.id.split("+"))


def _both(first: Offer, second: Offer) -> Offer:
    """Two changes as one, in the order they are done; `second` was offered after `first`."""
    if not first.id:
        return second
    after = second.brief
    if "+" not in first.id and second.tier < first.tier:
        first, second = second, first
    text = f"{first.text}, and {second.text[:1].lower()}{second.text[1:]}"
    costs = [cost for cost in (first.cost, second.cost) if cost]

    def reworded(trade: Trade) -> Trade | None:
        """Each part in its own words; either may withdraw."""
        earlier, later = _reworded(first, trade), _reworded(second, trade)
        if earlier is None or later is None:
            return None
        text = f"{earlier.text}, and {later.text[:1].lower()}{later.text[1:]}"
        return replace(trade, text=text, cost="; ".join(x for x in (earlier.cost, later.cost) if x))

    return Offer(
        f"{first.id}+{second.id}",
        text,
        "; ".join(costs),
        brief=after,
        tier=second.tier,
        reword=reworded,
        changes_file=first.changes_file or second.changes_file,
        outside=first.outside or second.outside,
    )


def _reworded(offer: Offer, trade: Trade) -> Trade | None:
    """A trade in the words of one of the offers it is made of."""
    alone = replace(trade, text=offer.text, cost=offer.cost)
    return alone if offer.reword is None else offer.reword(alone)


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
