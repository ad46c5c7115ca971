"""Holding still: the longest shutter a hand or a rest keeps sharp, and what steadies it more."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from oxlen.core.decisions.exposure.ask import CLOSEUP, HOLD, SUPPORT, is_panned
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import SHUTTER, Concern, EditedField, Limit, LimitKind
from oxlen.core.decisions.framework.offer import Offer, Tier
from oxlen.core.decisions.solver.conflict import Conflict, touches
from oxlen.core.decisions.solver.problem import ExposureProblem
from oxlen.core.decisions.solver.search import Search
from oxlen.core.decisions.solver.steadiness import (
    closeup_m,
    drift_mm_s,
    held_limit_s,
    stabiliser_stops,
    steady_stops,
)
from oxlen.core.hold.burst import MOST_PAST_STOPS, burst_stops
from oxlen.core.hold.hand import hand_limit_s
from oxlen.core.labels import stops_label, time_label

BURST = 6
"""Frames of a burst as it is first offered."""


def _longest_held(problem: ExposureProblem) -> Iterable[Limit]:
    """None while panning, or on a tripod that was not found to shake."""
    brief = problem.brief
    if is_panned(brief):
        return
    if brief[SUPPORT] == "tripod":
        yield from _longest_on_tripod(brief)
        return
    lens, hold = brief.lens, brief[HOLD]
    extra = burst_stops(hold.burst, hold.chance) if hold.burst > 1 else 0.0
    past = min(extra + hold.risk_stops, MOST_PAST_STOPS)
    steadiness = steady_stops(brief) + past
    longest = held_limit_s(brief, past)
    held = "Braced" if brief[SUPPORT] == "braced" else "Handheld"
    near_m = closeup_m(brief)
    close = "" if near_m is None else f" from {100 * near_m:.2g} cm"
    braced = " braced" if held == "Braced" else ""
    yield Limit(
        HOLD_STILL,
        SHUTTER,
        None,
        high=longest,
        name="hold still",
        high_words=f"your safe shutter{braced} is {time_label(longest)}",
        reason=f"{held}, {lens.focal35_mm:g} mm{close}: sharp to about {time_label(longest)}"
        + _more_words(brief, extra),
        source="handheld rule with the stabiliser's stops"
        + ("" if near_m is None else ", and hand drift across the subject"),
        # Close up two blurs go together, which is no longer the plain handheld rule.
        computation=None if drift_mm_s(brief) else "handheld_limit",
        inputs={} if drift_mm_s(brief) else {"f35": lens.focal35_mm, "stab": steadiness},
    )


def _longest_on_tripod(brief: Brief) -> Iterable[Limit]:
    """A tripod bounds the time only where it was measured to."""
    stops = brief.lens.tripod_stops
    if stops is None:
        return
    longest = float(hand_limit_s(brief.lens.focal35_mm, stops))
    yield Limit(
        HOLD_STILL,
        SHUTTER,
        None,
        high=longest,
        name="hold still",
        high_words=f"your tripod is steady to {time_label(longest)}",
        reason=f"On your tripod {brief.lens.focal35_mm:g} mm is sharp to about "
        f"{time_label(longest)}",
        source="measured on your tripod",
        computation="handheld_limit",
        inputs={"f35": brief.lens.focal35_mm, "stab": stops},
    )


def _more_words(brief: Brief, burst_extra: float) -> str:
    words, hold = "", brief[HOLD]
    if burst_extra:
        words += f", burst of {hold.burst} with a {hold.chance:.0%} chance of a sharp frame"
    if hold.risk_stops:
        words += f", {stops_label(hold.risk_stops)} of shake accepted"
    return words


def steadier_offers(search: Search, conflict: Conflict | None) -> Iterator[Offer]:
    """Bracing, a tripod, a burst."""
    brief, hold = search.brief, search.brief[HOLD]
    if not touches(conflict, Concern.HOLDING) or brief[SUPPORT] == "tripod":
        return
    if brief[SUPPORT] == "handheld":
        text, cost = "Brace the phone on something firm", "less freedom to frame"
        yield Offer("brace", text, cost, brief=brief.asking(SUPPORT, "braced"), tier=Tier.STEADIER)
    text, cost = "Put the phone on a tripod", "set-up time; moving things blur"
    yield Offer("tripod", text, cost, brief=brief.asking(SUPPORT, "tripod"), tier=Tier.STEADIER)
    if conflict is not None and hold.burst == 1 and hold.risk_stops == 0:
        text = f"Shoot a burst of {BURST} and keep the sharpest"
        cost = f"{BURST} files to sort, {hold.chance:.0%} chance of a sharp frame"
        burst = brief.asking(HOLD, replace(hold, burst=BURST))
        yield Offer("burst", text, cost, brief=burst, tier=Tier.STEADIER)


HOLD_STILL = LimitKind(
    "hold",
    Concern.HOLDING,
    _longest_held,
    edited_by=(
        EditedField(CLOSEUP, ("distance_m",), when=lambda brief, _: brief[CLOSEUP] is not None),
        EditedField(SUPPORT),
        EditedField(HOLD, ("stabiliser_stops",), lambda brief, _: stabiliser_stops(brief)),
        EditedField(HOLD, ("burst",)),
    ),
    ways_out=steadier_offers,
)
