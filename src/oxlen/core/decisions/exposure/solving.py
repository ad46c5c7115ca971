"""An offer solved anew: the slip its brief leads to, or nothing when that does not fit either."""

from __future__ import annotations

from oxlen.core.decisions.exposure.frontier import figures_at
from oxlen.core.decisions.exposure.predict import predict
from oxlen.core.decisions.exposure.search import search_for
from oxlen.core.decisions.offer import Offer, Trade


def solved(offer: Offer) -> Trade | None:
    """The way out an offer leads to; None when it keeps no limit better than before."""
    search = search_for(offer.brief)
    pair = search.preferred()
    slip = search.slip(pair)
    if slip is None or pair is None:
        return None
    figures = figures_at(predict(search.problem, pair), 0)
    trade = Trade(
        offer.id,
        offer.text,
        offer.cost,
        slip=slip,
        figures=figures,
        brief=offer.brief,
        changes_file=offer.changes_file,
    )
    return trade if offer.told is None else offer.told(trade)
