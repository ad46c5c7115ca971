"""What a decision is: the asks it answers, the limits it sets, how it decides, its ways out."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

from oxlen.core.ask import Ask
from oxlen.core.decisions.brief import Brief
from oxlen.core.decisions.exposure.conflict import Conflict
from oxlen.core.decisions.exposure.search import Search
from oxlen.core.decisions.exposure.solution import Solution
from oxlen.core.decisions.limit import LimitKind
from oxlen.core.decisions.offer import Offer
from oxlen.core.decisions.setting import Exposure, Setting


@dataclass(frozen=True)
class Upstream:
    """What is settled before a decision's turn: the exposure's solution, and settings so far."""

    solution: Solution
    settings: tuple[Setting, ...] = ()


def _as_it_is(brief: Brief, _: tuple[LimitKind, ...]) -> Brief:
    return brief


def _nothing(*_: Any) -> tuple[Any, ...]:
    return ()


@dataclass(frozen=True)
class Decision:
    """One decision of the job.

    `decide` gives its lines of the slip, none where there is nothing to dial. `fill` answers what
    the brief left open to it before anything is decided, under every kind of limit. `exposures`
    turns the slip's settings into a plan of several; of the registered decisions the last that
    gives any has its way.
    `offers` are changes that may help, `accepted` faults that may be taken.
    """

    id: str
    asks: tuple[Ask[Any], ...]
    decide: Callable[[Brief, Upstream], tuple[Setting, ...]]
    limit_kinds: tuple[LimitKind, ...] = ()
    offers: Callable[[Search, Conflict | None], Iterable[Offer]] = _nothing
    accepted: Callable[[Search, Conflict | None], Iterable[Offer]] = _nothing
    fill: Callable[[Brief, tuple[LimitKind, ...]], Brief] = _as_it_is
    exposures: Callable[[Brief, Upstream], tuple[Exposure, ...]] = _nothing
