"""An ISO the photographer leaves where it is: the shutter alone follows the light."""

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
from oxlen.core.kit.ladder import snap


def _fixed(problem: ExposureProblem) -> Iterable[Limit]:
    wanted = problem.brief[STRATEGY].iso_fixed
    if wanted is None:
        return
    step = float(snap(wanted, problem.brief.mode.manual.iso).value)
    nearest = "" if step == wanted else f"; this phone's nearest step is {step:g}"
    yield Limit(
        ISO_FIXED,
        ISO,
        step,
        high=step,
        name="your fixed ISO",
        reason=f"You leave ISO at {wanted:g}{nearest}",
        source="your choice",
    )


def _freed(brief: Brief, _: int = 0) -> Brief:
    return brief.asking(STRATEGY, replace(brief[STRATEGY], iso_fixed=None))


def _free_iso(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    if conflict is None or search.brief[STRATEGY].iso_fixed is None:
        return

    def told(trade: Trade) -> Trade:
        cost = f"ISO {trade.slip.iso:g}, SNR {trade.figures.snr_subject:.0f}"
        return replace(trade, cost=cost)

    freed = _freed(search.brief)
    yield Offer("free_iso", "Let ISO change too", "", brief=freed, tier=Tier.ACCEPTING, told=told)


ISO_FIXED = LimitKind(
    "iso_fixed",
    Concern.OWN_CHOICE,
    _fixed,
    owner="user",
    edited_by=(EditedField(STRATEGY, ("iso_fixed",)),),
    dropped=_freed,
    ways_out=_free_iso,
)
