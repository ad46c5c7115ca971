"""What a decision is: the asks it answers, the limits it sets, how it decides, its ways out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from oxlen.core.ask import Ask
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.dial import Dial, SeriesPart
from oxlen.core.decisions.framework.limit import LimitKind
from oxlen.core.decisions.framework.offer import Offer
from oxlen.core.decisions.framework.setting import Exposure, Setting


def _as_it_is(brief: Brief, _: tuple[LimitKind, ...]) -> Brief:
    return brief


def _no_values(_: Mapping[str, Setting]) -> Mapping[str, float | str | None]:
    return {}


def _nothing(*_: Any) -> tuple[Any, ...]:
    return ()


@dataclass(frozen=True)
class Decision:
    """One decision of the job, and all that is particular to it.

    `decide` gives its lines of the slip, none where there is nothing to dial; it is handed the
    brief and what is settled before (`Upstream`). `fill` answers what the brief left open to it
    before anything is decided, under every kind of limit. `exposures` turns the slip's settings
    into a plan of several; of the registered decisions the last that gives any has its way.
    `offers` are changes that may help, `accepted` faults that may be taken: both are given a search
    and its conflict.

    `instrument` names the drawing that shows its lines at work, `dials` are those lines. `values`
    gives them as plain values for programs, by the slip's own lines. A series locks `locked` as a
    part of `series_part`.
    """

    id: str
    asks: tuple[Ask[Any], ...]
    decide: Callable[..., tuple[Setting, ...]]
    limit_kinds: tuple[LimitKind, ...] = ()
    offers: Callable[..., Iterable[Offer]] = _nothing
    accepted: Callable[..., Iterable[Offer]] = _nothing
    fill: Callable[[Brief, tuple[LimitKind, ...]], Brief] = _as_it_is
    exposures: Callable[..., tuple[Exposure, ...]] = _nothing
    instrument: str = "exposure"
    dials: tuple[Dial, ...] = ()
    values: Callable[[Mapping[str, Setting]], Mapping[str, float | str | None]] = _no_values
    series_part: SeriesPart | None = None
    locked: tuple[Ask[Any], ...] = ()
