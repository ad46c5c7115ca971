"""Ways out: the offers of every decision and of every kind of limit, each solved anew."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from oxlen.core import decisions
from oxlen.core.decisions.exposure.conflict import Conflict
from oxlen.core.decisions.exposure.frontier import figures_at
from oxlen.core.decisions.exposure.predict import predict
from oxlen.core.decisions.exposure.search import ExposureSlip, Search
from oxlen.core.decisions.exposure.solving import solved
from oxlen.core.decisions.exposure.words import residual_words
from oxlen.core.decisions.limit import Concern
from oxlen.core.decisions.offer import Offer, Trade


def trades_for(search: Search, conflict: Conflict | None) -> tuple[Trade, ...]:
    """Ways out of a conflict, or what else could be given up when there is none.

    Each is solved anew and offered only when it then keeps every limit.
    """
    found = [trade for trade in map(solved, sorted_offers(search, conflict)) if trade is not None]
    if conflict is None:
        slip = search.slip(search.preferred())
        found = [trade for trade in found if slip is None or _leads_elsewhere(slip, trade)]
    by_id = {trade.id: trade for trade in (*found, *_last_resort(search, conflict))}
    return tuple(by_id.values())


def sorted_offers(search: Search, conflict: Conflict | None) -> list[Offer]:
    """Everything that is offered, by what kind of thing is given up."""
    return sorted(_offers(search, conflict), key=lambda offer: offer.tier)


def _offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    for decision in decisions.DECISIONS:
        for kind in decision.limit_kinds:
            yield from kind.ways_out(search, conflict)
        yield from decision.offers(search, conflict)


def _leads_elsewhere(slip: ExposureSlip, trade: Trade) -> bool:
    """Whether a trade leads anywhere else than the slip there is."""
    if trade.slip.lens != slip.lens or trade.changes_file:
        return True
    return (trade.slip.iso, trade.slip.shutter_s) != (slip.iso, slip.shutter_s)


def _last_resort(search: Search, conflict: Conflict | None) -> Iterable[Trade]:
    """The nearest the phone has, highlights lost, where nothing else keeps every limit."""
    if conflict is None or search.nearest() is not None:
        return ()
    guard = next((limit for limit in search.limits if limit.is_about(Concern.TONES)), None)
    pair = search.nearest(without="" if guard is None else guard.id)
    slip = search.slip(pair)
    if slip is None or pair is None:
        return ()
    figures = figures_at(predict(search.problem, pair), 0)
    text = f"Take it {residual_words(slip.residual_stops)}"
    cost = "the brightest detail is lost"
    return (
        Trade("accept", text, cost, slip=slip, figures=figures, brief=search.brief, by_hand=True),
    )
