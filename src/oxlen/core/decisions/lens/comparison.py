"""Lens choice: the same picture through each lens of the phone, ranked."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from oxlen.core.decisions.focus.target import focus_short_dioptres, reach_words
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import EXPOSURE, Limit
from oxlen.core.decisions.lens.ask import FRAMING, LENS, Framing
from oxlen.core.decisions.lens.moving import background_share, on_lens, standing_m
from oxlen.core.decisions.scene.facts import scene_facts
from oxlen.core.decisions.solver.conflict import Conflict, find_conflict
from oxlen.core.decisions.solver.frontier import Figures, figures_at
from oxlen.core.decisions.solver.predict import predict
from oxlen.core.decisions.solver.search import ExposureSlip, Kinds, Search, search_for
from oxlen.core.kit.phone import Lens
from oxlen.core.labels import stops_label
from oxlen.core.lens.perspective import background_growth, edge_stretch, equivalent_f_number

SAME_SNR = 0.01
MOVED_STOPS = 0.05


@dataclass(frozen=True)
class LensOption:
    """One lens for the same picture: where to stand, what it gives, what moves, and its rank.

    `slip` keeps every limit when `conflict` is None; otherwise it is the nearest picture there is,
    None where every pair spoils it.
    `background_growth` and `moved_stops` are against the lens in use. `edge_shape` is how much a
    solid thing at the frame's long edge is drawn out.
    """

    lens_id: str
    name: str
    focal35_mm: float
    equivalent_f_number: float
    distance_m: float | None
    background_growth: float | None
    background_share: float | None
    edge_shape: float
    slip: ExposureSlip | None
    figures: Figures | None
    conflict: str | None
    moved_stops: dict[str, float]
    rank: int
    because: str


@dataclass(frozen=True)
class _Tried:
    """A lens with its search done, before it is ranked."""

    lens: Lens
    search: Search
    slip: ExposureSlip | None
    figures: Figures | None
    conflict: Conflict | None
    distance_m: float | None
    background_share: float | None
    background_off_stops: float


def lens_options(brief: Brief, kinds: Kinds) -> tuple[LensOption, ...]:
    """Every lens of the phone for a brief, best first.

    The order: what keeps every limit, and of those that do not what misses least; then what can be
    focused at the distance asked for; then, when a size was asked for, the background nearest to
    it; then the higher SNR of the subject; then the kit's own order.
    """
    used = brief.lens
    tried = [_try(brief, lens, kinds) for lens in brief.phone.lenses]
    in_use = next(attempt for attempt in tried if attempt.lens.id == used.id)
    ranked = sorted(tried, key=_rank_key)
    return tuple(
        _option(tried_lens, in_use, rank=rank, field=brief[FRAMING])
        for rank, tried_lens in enumerate(ranked, start=1)
    )


def on_best_lens(brief: Brief, kinds: Kinds) -> Brief:
    """The brief on the lens that ranks first, moved for it as the framing says."""
    tried = [_try(brief, lens, kinds) for lens in safe_lenses(brief)]
    return min(tried, key=_rank_key).search.brief


def safe_lenses(brief: Brief) -> tuple[Lens, ...]:
    """The lenses that may be chosen unasked: none longer than the first where the Sun shines in."""
    lenses = brief.phone.lenses
    if not scene_facts(brief).is_glaring:
        return tuple(lenses)
    return tuple(lens for lens in lenses if lens.focal35_mm <= lenses[0].focal35_mm)


def _try(brief: Brief, lens: Lens, kinds: Kinds) -> _Tried:
    changed = on_lens(brief.asking(LENS, brief.lens.id), lens.id)
    search = search_for(changed, kinds)
    pair = search.preferred()
    conflict = None if pair is not None else find_conflict(search)
    pair = pair or search.nearest()
    slip = search.slip(pair)
    figures = None if pair is None else figures_at(predict(search.problem, pair), 0)
    distance, share, off = _framed(changed)
    return _Tried(
        lens,
        search,
        slip,
        figures=figures,
        conflict=conflict,
        distance_m=distance,
        background_share=share,
        background_off_stops=off,
    )


def _framed(brief: Brief) -> tuple[float | None, float | None, float]:
    framing = brief[FRAMING]
    if framing is None:
        return None, None, 0.0
    distance = standing_m(framing, brief.lens, brief.mode)
    share = background_share(framing, brief.lens, brief.mode, distance_m=distance)
    if share is None or framing.background_share is None:
        return distance, share, 0.0
    return distance, share, abs(float(np.log2(share / framing.background_share)))


def _rank_key(tried: _Tried) -> tuple[bool, float, float, float, float]:
    snr = 0 if tried.figures is None else round(np.log2(tried.figures.snr_subject) / SAME_SNR)
    missing = 0.0 if tried.conflict is None else tried.conflict.short_by_stops
    off = round(tried.background_off_stops, 2)
    short = round(focus_short_dioptres(tried.search.brief), 1)
    return tried.conflict is not None, round(missing, 1), short, off, -float(snr)


def _option(tried: _Tried, used: _Tried, *, rank: int, field: Framing | None) -> LensOption:
    lens, mode = tried.lens, tried.search.brief.mode
    half_long_mm = max(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 2000
    growth = None
    if field is not None and used.distance_m is not None:
        ratio = (tried.distance_m or 1.0) / used.distance_m
        growth = float(background_growth(used.distance_m, field.background_m, ratio))
    moved = _moved(used.search.limits, tried.search.limits)
    return LensOption(
        lens.id,
        lens.name,
        lens.focal35_mm,
        equivalent_f_number=float(
            equivalent_f_number(lens.f_number, lens.focal35_mm / lens.focal_mm)
        ),
        distance_m=tried.distance_m,
        background_growth=growth,
        background_share=tried.background_share,
        edge_shape=float(edge_stretch(lens.focal_mm, half_long_mm).shape),
        slip=tried.slip,
        figures=tried.figures,
        conflict=None if tried.conflict is None else tried.conflict.sentence,
        moved_stops=moved,
        rank=rank,
        because=_because(tried, used),
    )


def _moved(before: Iterable[Limit], after: Iterable[Limit]) -> dict[str, float]:
    """How far each rule's bound moves from one lens to another, in stops; up is positive."""
    bounds = {limit.name: limit.high or limit.low for limit in before if _is_ruled(limit)}
    moved = {}
    for limit in after:
        old, new = bounds.get(limit.name), limit.high or limit.low
        if not _is_ruled(limit) or not old or not new:
            continue
        stops = float(np.log2(new / old))
        if abs(stops) >= MOVED_STOPS and np.isfinite(stops):
            moved[limit.name] = stops
    return moved


def _is_ruled(limit: Limit) -> bool:
    return limit.owner == "rule" and limit.axis != EXPOSURE and limit.only is None


def _because(tried: _Tried, used: _Tried) -> str:
    if tried.conflict is not None:
        return tried.conflict.sentence
    if focus_short_dioptres(tried.search.brief) > 0:
        return f"Meets every limit, but focuses {reach_words(tried.search.brief)}"
    if tried is used:
        return "The lens in use; it keeps every limit"
    if tried.figures is None or used.figures is None:
        return "Meets every limit"
    snr = float(np.log2(tried.figures.snr_subject / used.figures.snr_subject))
    if abs(snr) < MOVED_STOPS:
        return "Meets every limit"
    return f"Meets every limit; SNR {stops_label(snr)} {'up' if snr > 0 else 'down'}"
