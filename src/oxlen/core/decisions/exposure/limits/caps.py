"""The most noise the photographer takes, said as an ISO."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.ask import STRATEGY
from oxlen.core.decisions.exposure.conflict import Conflict
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.limit import (
    ISO,
    Concern,
    EditedField,
    ExposureProblem,
    Limit,
    LimitKind,
)
from oxlen.core.decisions.offer import Offer, Tier, Trade


def _capped(problem: ExposureProblem) -> Iterable[Limit]:
    cap = problem.brief[STRATEGY].iso_cap
    if cap is not None:
        reason = f"You set ISO {cap:g} as the most noise you take"
        yield Limit(
            ISO_CAP, ISO, None, high=cap, name="your ISO cap", reason=reason, source="your choice"
        )


def _uncapped(brief: Brief, _: int = 0) -> Brief:
    return brief.asking(STRATEGY, replace(brief[STRATEGY], iso_cap=None))


def _lift_cap(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    if conflict is None or search.brief[STRATEGY].iso_cap is None:
        return

    def told(trade: Trade) -> Trade:
        cost = f"ISO {trade.slip.iso:g}, SNR {trade.figures.snr_subject:.0f}"
        return replace(trade, cost=cost)

    lifted = _uncapped(search.brief)
    yield Offer(
        "lift_cap", "Go above your ISO cap", "", brief=lifted, tier=Tier.ACCEPTING, told=told
    )


ISO_CAP = LimitKind(
    "iso_cap",
    Concern.OWN_CHOICE,
    _capped,
    owner="user",
    edited_by=(EditedField(STRATEGY, ("iso_cap",)),),
    dropped=_uncapped,
    ways_out=_lift_cap,
)
