"""An ISO of the photographer's own: the highest they take, or one that is left where it is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import STRATEGY
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import ISO, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.trade import Trade
from oxlen.core.kit.ladder import snap


def _capped(problem: ExposureProblem) -> Iterable[Limit]:
    cap = problem.brief[STRATEGY].iso_cap
    if cap is not None:
        reason = f"Your ISO cap is {cap:g}"
        yield Limit(
            ISO_CAP,
            ISO,
            None,
            high=cap,
            name="your ISO cap",
            high_words=f"your cap is ISO {cap:g}",
            reason=reason,
            source="your choice",
        )


def _uncapped(brief: Brief, _: int = 0) -> Brief:
    return brief.asking(STRATEGY, replace(brief[STRATEGY], iso_cap=None))


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
        low_words=f"you fixed ISO {step:.0f}",
        high_words=f"you fixed ISO {step:.0f}",
        reason=f"You fixed ISO {wanted:.0f}{nearest}",
        source="your choice",
    )


def _freed(brief: Brief, _: int = 0) -> Brief:
    return brief.asking(STRATEGY, replace(brief[STRATEGY], iso_fixed=None))


def _lift_cap(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    if conflict is not None and search.brief[STRATEGY].iso_cap is not None:
        yield _other_iso("lift_cap", "Raise your ISO cap", _uncapped(search.brief))


def _free_iso(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    if conflict is not None and search.brief[STRATEGY].iso_fixed is not None:
        yield _other_iso("free_iso", "Unfix ISO", _freed(search.brief))


def _other_iso(offer_id: str, text: str, brief: Brief) -> Offer:
    """A way out by another ISO, which costs the noise that comes with it."""

    def reworded(trade: Trade) -> Trade:
        cost = f"ISO {trade.slip.iso:g}, SNR {trade.figures.snr_subject:.0f}"
        return replace(trade, cost=cost)

    return Offer(offer_id, text, "", brief=brief, tier=Tier.ACCEPTING, reword=reworded)


ISO_CAP = LimitKind(
    "iso_cap",
    Concern.OWN_CHOICE,
    _capped,
    owner="user",
    edited_by=(EditedField(STRATEGY, ("iso_cap",)),),
    dropped=_uncapped,
    accepted=_lift_cap,
)
ISO_FIXED = LimitKind(
    "iso_fixed",
    Concern.OWN_CHOICE,
    _fixed,
    owner="user",
    edited_by=(EditedField(STRATEGY, ("iso_fixed",)),),
    dropped=_freed,
    accepted=_free_iso,
)
