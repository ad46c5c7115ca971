"""Pulsing lamps: the shutters of the phone that expose evenly under them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace
from functools import lru_cache

import numpy as np

from oxlen.core.decisions.exposure.ask import LAMPS, Lamps
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import (
    NEVER_S,
    SHUTTER,
    Concern,
    EditedField,
    Limit,
    LimitKind,
)
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.trade import Trade
from oxlen.core.labels import shutter_label
from oxlen.core.motion.flicker import residual_modulation

LEAST_BANDS_DOUBT = 0.2
MAINS_LADDER_S = 0.5
"""Whole pulses of the mains are listed up to this shutter."""


def _even_shutters(problem: ExposureProblem) -> Iterable[Limit]:
    """A step counts when |sin(πft)|/(πft) leaves no more of the pulsing than is accepted."""
    brief, lamps = problem.brief, problem.brief[LAMPS]
    if lamps is None:
        return
    even = even_steps_s(brief, lamps)
    low, high = (even[0], even[-1]) if even else (NEVER_S, None)
    longest = min(brief.mode.manual.shutter_s[-1], MAINS_LADDER_S)
    yield Limit(
        FLICKER,
        SHUTTER,
        low,
        high=high,
        name="no flicker",
        low_words=f"no flicker needs {shutter_label(low)} or longer" if even else "",
        high_words="" if high is None else f"no flicker allows {shutter_label(high)}",
        reason=_even_words(lamps, even),
        source="lamps pulse; IEEE 1789",
        computation="flicker_safe_ladder" if lamps.mains_hz else None,
        inputs={"f_mains": float(lamps.mains_hz), "limit": longest}
        if lamps.mains_hz
        else {"pulse_hz": lamps.pulse_hz, "tolerance": lamps.tolerance},
        only=even,
    )


def even_steps_s(brief: Brief, lamps: Lamps) -> tuple[float, ...]:
    """Steps of the manual shutter ladder that leave little of a lamp's pulsing. [IEEE1789]"""
    return _even_steps_s(brief.mode.manual.shutter_s, lamps.pulse_hz, lamps.tolerance)


@lru_cache(maxsize=256)
def _even_steps_s(
    steps_s: tuple[float, ...], pulse_hz: float, tolerance: float
) -> tuple[float, ...]:
    left = np.asarray(residual_modulation(pulse_hz, np.asarray(steps_s)))
    return tuple(step for step, share in zip(steps_s, left, strict=True) if share <= tolerance)


def _even_words(lamps: Lamps, even: tuple[float, ...]) -> str:
    if not even:
        return f"No shutter of this phone matches the pulses of {lamps.label}"
    return (
        f"Shutters from {shutter_label(even[0])} in whole pulses of {1000 / lamps.pulse_hz:.3g} "
        f"ms show no flicker bands under {lamps.label}: {len(even)} steps of this phone"
    )


def _accept_bands(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    brief, lamps = search.brief, search.brief[LAMPS]
    if conflict is None or lamps is None:
        return

    def reworded(trade: Trade) -> Trade:
        left = float(residual_modulation(lamps.pulse_hz, trade.slip.shutter_s))
        cost = f"{left:.0%} of the flicker stays, {lamps.pulse_hz:g} pulses a second"
        readout = brief.mode.readout_s
        if readout is not None:
            bands = readout * lamps.pulse_hz
            cost = f"{left:.0%} of the flicker stays in about {bands:.1f} bands"
            off = brief.mode.readout_plus_minus_s * lamps.pulse_hz
            cost += f", ± {off:.1f}" if off >= LEAST_BANDS_DOUBT else ""
        return replace(trade, cost=cost)

    steady = brief.asking(LAMPS, None)
    yield Offer(
        "accept_bands",
        "Accept flicker bands",
        "",
        brief=steady,
        tier=Tier.ACCEPTING,
        reword=reworded,
    )


def _steady_lamp(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    if conflict is None or search.brief[LAMPS] is None:
        return
    steady = search.brief.asking(LAMPS, None)
    yield Offer(
        "steady_lamp",
        "Use a flicker-free lamp, just as bright",
        "another lamp; move to daylight if there is none",
        brief=steady,
        tier=Tier.OTHER_LIGHT,
    )


def _is_driven(brief: Brief, _: int) -> bool:
    lamps = brief[LAMPS]
    return lamps is not None and lamps.driver_hz is not None


FLICKER = LimitKind(
    "flicker",
    Concern.LAMPS,
    _even_shutters,
    edited_by=(
        EditedField(LAMPS, ("driver_hz",), when=_is_driven),
        EditedField(LAMPS, ("tolerance",)),
    ),
    dropped=lambda brief, _: brief.asking(LAMPS, None),
    ways_out=_steady_lamp,
    accepted=_accept_bands,
)
