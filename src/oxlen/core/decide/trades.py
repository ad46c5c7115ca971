"""Ways out: what to give up, what it costs, and the slip it buys; each solved anew."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import chain

import numpy as np

from oxlen.core.decide.brief import Brief
from oxlen.core.decide.conflict import Conflict
from oxlen.core.decide.frontier import Figures, figures_at
from oxlen.core.decide.limits_motion import tolerated_blur_um
from oxlen.core.decide.predict import motion_blur_px, predict
from oxlen.core.decide.search import Search, Slip, search_for
from oxlen.core.decide.trade_offers import (
    Offer,
    frames_offers,
    glass_offers,
    highlight_offers,
    lens_offers,
    light_offers,
    look_offers,
    steadier_offers,
)
from oxlen.core.decide.wishes import Freeze
from oxlen.core.motion.flicker import residual_modulation

WORTH_SNR = 0.97
SPARE_BLUR = 1.02
"""A hair over what is needed, so that rounding does not close what was opened."""
MOST_BLUR_STOPS = 5.0
"""Blur further past what is sharp than this is a picture of the motion."""


@dataclass(frozen=True)
class Trade:
    """A way out: what to do, what it costs, the brief after it, its slip and its figures."""

    id: str
    text: str
    cost: str
    slip: Slip
    figures: Figures
    brief: Brief


def trades_for(search: Search, conflict: Conflict | None) -> tuple[Trade, ...]:
    """Ways out of a conflict, or what else could be given up when there is none.

    Each is solved anew and offered only when it then keeps every limit.
    """
    brief = search.brief
    offers = chain(
        steadier_offers(brief, conflict),
        lens_offers(brief),
        light_offers(search, conflict),
        glass_offers(brief, conflict),
        frames_offers(search, conflict),
        highlight_offers(brief, conflict),
        look_offers(brief),
    )
    found = [*_solved(offers), *_accepted(search, conflict)]
    if conflict is None:
        slip = search.slip(search.preferred())
        found = [trade for trade in found if slip is None or _changes(slip, trade)]
    return tuple({trade.id: trade for trade in found}.values())


def _changes(slip: Slip, trade: Trade) -> bool:
    """Whether a trade leads anywhere else than the slip there is."""
    if trade.slip.lens != slip.lens or trade.id.startswith("mode"):
        return True
    return (trade.slip.iso, trade.slip.shutter_s) != (slip.iso, slip.shutter_s)


def _solved(offers: Iterable[Offer]) -> Iterator[Trade]:
    for offer in offers:
        trade = _solve(offer.id, offer.text, offer.cost, offer.brief)
        if trade is not None:
            yield trade


def _solve(trade_id: str, text: str, cost: str, brief: Brief) -> Trade | None:
    search = search_for(brief)
    pair = search.preferred()
    slip = search.slip(pair)
    if slip is None or pair is None:
        return None
    figures = figures_at(predict(search.situation, pair), 0)
    return Trade(trade_id, text, cost, slip, figures, brief)


def _accepted(search: Search, conflict: Conflict | None) -> Iterator[Trade]:
    """Accepting noise, blur or bands: first without the limit, then with just what that needs."""
    if conflict is None:
        return
    brief = search.brief
    yield from _accept_cap(brief)
    yield from _accept_noise(brief)
    yield from _accept_blur(search)
    yield from _accept_bands(brief)


def _accept_cap(brief: Brief) -> Iterator[Trade]:
    if brief.school.iso_cap is None:
        return
    lifted = replace(brief, school=replace(brief.school, iso_cap=None))
    trade = _solve("lift_cap", "Go above your ISO cap", "more noise than you said you take", lifted)
    if trade is not None:
        yield replace(trade, cost=f"ISO {trade.slip.iso:g}, SNR {trade.figures.snr_subject:.0f}")


def _accept_noise(brief: Brief) -> Iterator[Trade]:
    if brief.output.snr_floor is None:
        return
    trial = _solve("", "", "", replace(brief, output=replace(brief.output, snr_floor=None)))
    if trial is None:
        return
    figures = (trial.figures.snr_subject, trial.figures.snr_dark or trial.figures.snr_subject)
    floor = max(0.5, round(min(figures) * WORTH_SNR, 1))
    accepted = replace(brief, output=replace(brief.output, snr_floor=floor))
    trade = _solve("accept_noise", f"Accept noise up to SNR {floor:g}", "", accepted)
    if trade is not None and floor < brief.output.snr_floor:
        cost = f"ISO {trade.slip.iso:g}; you asked for SNR {brief.output.snr_floor:g}"
        yield replace(trade, cost=cost)


def _accept_blur(search: Search) -> Iterator[Trade]:
    """The shortest shutter that everything but holding and freezing allows, and its blur."""
    brief = search.brief
    if brief.support == "tripod" and not brief.freeze:
        return
    trial = search_for(replace(brief, support="tripod", freeze=()))
    if not trial.open.row.size:
        return
    shutter_s = brief.mode.manual.shutter_s[int(trial.open.column.min())]
    risk = max(_over(search, "hold", shutter_s), 0.0)
    over = [risk, *(_blurred_over(brief, one, shutter_s) for one in brief.freeze)]
    if max(over) > MOST_BLUR_STOPS:
        return
    freeze = tuple(_loosened(brief, one, shutter_s) for one in brief.freeze)
    risked = replace(brief.hold, risk_stops=brief.hold.risk_stops + risk)
    trade = _solve("accept_blur", "", "", replace(brief, hold=risked, freeze=freeze))
    if trade is not None:
        px, share = trade.figures.blur_px, trade.figures.blur_share
        text = f"Accept blur up to {px:.1f} px"
        yield replace(trade, text=text, cost=f"{share:.2%} of the frame's height")


def _loosened(brief: Brief, freeze: Freeze, shutter_s: float) -> Freeze:
    """The mover with just the tolerance (pixels of the file) that lets a shutter through."""
    over = _blurred_over(brief, freeze, shutter_s)
    if over <= 0:
        return freeze
    sharp_px = tolerated_blur_um(brief, freeze) / brief.mode.pixel_pitch_um
    return replace(freeze, sharp_by="pixel", tolerance=SPARE_BLUR * sharp_px * 2.0**over)


def _blurred_over(brief: Brief, freeze: Freeze, shutter_s: float) -> float:
    """Stops by which a mover's blur passes what counts as sharp; 0 or less when it does not."""
    blur_px = float(motion_blur_px(replace(brief, freeze=(freeze,)), np.array([shutter_s]))[0])
    sharp_px = tolerated_blur_um(brief, freeze) / brief.mode.pixel_pitch_um
    return math.log2(blur_px / sharp_px) if blur_px > 0 else -math.inf


def _over(search: Search, limit_id: str, shutter_s: float) -> float:
    """Stops by which a shutter is longer than a limit; 0 or less inside it, or without one."""
    limit = next((one for one in search.limits if one.id == limit_id), None)
    if limit is None or limit.high is None:
        return 0.0
    return math.log2(shutter_s / limit.high) + 1e-6


def _accept_bands(brief: Brief) -> Iterator[Trade]:
    if brief.flicker is None:
        return
    trade = _solve("accept_bands", "Accept bands", "", replace(brief, flicker=None))
    if trade is None:
        return
    left = float(residual_modulation(brief.flicker.pulse_hz, trade.slip.shutter_s))
    rate = brief.flicker.pulse_hz
    words = f"{left:.0%} of the lamp's pulsing left, {rate:g} pulses a second"
    readout = brief.mode.readout_s
    if readout is not None:
        words = f"{left:.0%} of the lamp's pulsing left in about {readout * rate:.1f} bands"
    yield replace(trade, cost=words)
