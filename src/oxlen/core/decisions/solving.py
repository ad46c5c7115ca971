"""An offer solved anew: the slip its brief leads to, or nothing when that does not fit either."""

from __future__ import annotations

from oxlen.core.decisions.frames import frames_of
from oxlen.core.decisions.framework.offer import Offer
from oxlen.core.decisions.sequence.ask import is_blended
from oxlen.core.decisions.solver.frontier import figures_at
from oxlen.core.decisions.solver.grid import Pairs
from oxlen.core.decisions.solver.outcome import outcome
from oxlen.core.decisions.solver.predict import predict
from oxlen.core.decisions.solver.search import Search, second_search
from oxlen.core.decisions.trade import Trade


def solved(offer: Offer, before: Search) -> Trade | None:
    """The way out an offer leads to; None when it keeps no limit better than before."""
    return solved_by(offer, before.again(offer.brief))


def solved_by(offer: Offer, search: Search) -> Trade | None:
    """The way out an offer leads to, its brief already searched."""
    pair = search.preferred()
    if pair is None:
        return None
    if is_blended(offer.brief) and second_search(search).preferred() is None:
        return None
    trade = _trade(offer, search, pair)
    return trade if offer.reword is None else offer.reword(trade)


def _trade(offer: Offer, search: Search, pair: Pairs) -> Trade:
    slip = search.slip(pair)
    assert slip is not None
    frames = frames_of(search, pair)
    return Trade(
        offer.id,
        offer.text,
        offer.cost,
        slip=slip,
        figures=figures_at(predict(search.problem, pair), 0),
        brief=offer.brief,
        outcome=outcome(offer.brief, [frame.ev100_set for frame in frames]),
        exposures=frames if len(frames) > 1 else (),
        outside=offer.outside,
        changes_file=offer.changes_file,
        steps=len(offer.id.split("+")),
    )
