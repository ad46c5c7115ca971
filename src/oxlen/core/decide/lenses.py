"""Lens choice: the same picture through each lens of the phone, ranked."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from oxlen.core.decide.brief import ANY_LENS, Brief
from oxlen.core.decide.conflict import find_conflict
from oxlen.core.decide.frontier import Figures, compromise, figures_at
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.predict import predict
from oxlen.core.decide.search import Search, Slip, search_for
from oxlen.core.decide.wishes import Framing
from oxlen.core.kit.phone import Lens, Mode
from oxlen.core.labels import stops_label
from oxlen.core.lens.perspective import background_growth, edge_stretch, equivalent_f_number
from oxlen.core.motion.subject import Mover

NEAREST_M = 0.05
SAME_SNR = 0.01
MOVED_STOPS = 0.05


@dataclass(frozen=True)
class LensOption:
    """One lens for the same picture: where to stand, what it gives, what moves, and its rank.

    `slip` keeps every limit when `conflict` is None; otherwise it is the least compromise.
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
    slip: Slip
    figures: Figures
    conflict: str | None
    moved_stops: dict[str, float]
    rank: int
    because: str


@dataclass(frozen=True)
class _Tried:
    """A lens with its search done, before it is ranked."""

    lens: Lens
    search: Search
    slip: Slip
    figures: Figures
    conflict: str | None
    distance_m: float | None
    background_share: float | None
    background_off_stops: float


def lens_options(brief: Brief) -> tuple[LensOption, ...]:
    """Every lens of the phone for a brief, best first.

    The order: what keeps every limit; then, when a size was asked for, the background nearest to
    it; then the higher SNR of the subject; then the kit's own order.
    """
    used = brief.lens
    tried = [_try(brief, lens) for lens in brief.phone.lenses]
    in_use = next(one for one in tried if one.lens.id == used.id)
    ranked = sorted(tried, key=_rank_key)
    return tuple(
        _option(one, in_use, rank=rank, field=brief.framing)
        for rank, one in enumerate(ranked, start=1)
    )


def on_best_lens(brief: Brief) -> Brief:
    """The brief on the lens that ranks first, moved for it as the framing says."""
    tried = [_try(brief, lens) for lens in brief.phone.lenses]
    return min(tried, key=_rank_key).search.brief


def on_lens(brief: Brief, lens_id: str) -> Brief:
    """The brief on another lens: moved to keep the subject's size when the framing says how far."""
    lens = brief.phone.lens(lens_id)
    used = brief.lens
    mode_id = brief.mode_id if lens.id == used.id else None
    moved = replace(brief, lens_id=lens_id, mode_id=mode_id)
    if brief.framing is None or lens.id == used.id:
        return moved
    old, new = standing_m(brief.framing, used, brief.mode), standing_m_on(brief, lens)
    shift_m = new - old
    return replace(
        moved,
        freeze=tuple(replace(f, mover=_shifted(f.mover, shift_m)) for f in brief.freeze),
        show=tuple(replace(s, mover=_shifted(s.mover, shift_m)) for s in brief.show),
        framing=replace(brief.framing, distance_m=new),
    )


def standing_m(framing: Framing, lens: Lens, mode: Mode) -> float:
    """Distance (m) at which a lens gives the subject its share of the frame's height.

    D = f·(1 + size/(share·height on the sensor)); without a size the framing's own distance.
    """
    if framing.subject_m is None or framing.subject_share is None:
        return framing.distance_m
    drawn_mm = framing.subject_share * _height_mm(mode)
    return lens.focal_mm / 1000 * (1 + 1000 * framing.subject_m / drawn_mm)


def standing_m_on(brief: Brief, lens: Lens) -> float:
    """Distance (m) for another lens that keeps the subject's size on the picture."""
    framing, used = brief.framing or Framing(), brief.lens
    if framing.subject_m is not None and framing.subject_share is not None:
        return standing_m(framing, lens, lens.mode(None))
    # Size on the picture goes with the true focal length over the height of its own sensor.
    ratio = (lens.focal_mm / _height_mm(lens.mode(None))) / (used.focal_mm / _height_mm(brief.mode))
    return max(NEAREST_M, framing.distance_m * ratio)


def background_share(framing: Framing, lens: Lens, mode: Mode, distance_m: float) -> float | None:
    """Share of the frame's height that the background thing takes; None without its size."""
    if framing.background_size_m is None:
        return None
    away_m = distance_m + framing.background_m - lens.focal_mm / 1000
    drawn_mm = lens.focal_mm * framing.background_size_m / away_m
    return drawn_mm / _height_mm(mode)


def _try(brief: Brief, lens: Lens) -> _Tried:
    changed = on_lens(replace(brief, lens_id=_concrete(brief)), lens.id)
    search = search_for(changed)
    pair = search.preferred()
    slip, conflict = search.slip(pair), None
    if slip is None or pair is None:
        conflict = find_conflict(search).sentence
        found = compromise(search)
        assert found is not None
        slip = found.slip
        at = (search.pairs.row == brief_row(search, slip)) & (
            search.pairs.column == brief_column(search, slip)
        )
        pair = search.pairs.where(at)
    figures = figures_at(predict(search.situation, pair), 0)
    distance, share, off = _framed(changed)
    return _Tried(lens, search, slip, figures, conflict, distance, share, off)


def brief_row(search: Search, slip: Slip) -> int:
    """Row of a slip's ISO on the ladder."""
    return search.brief.mode.manual.iso.index(slip.iso)


def brief_column(search: Search, slip: Slip) -> int:
    """Column of a slip's shutter on the ladder."""
    return search.brief.mode.manual.shutter_s.index(slip.shutter_s)


def _framed(brief: Brief) -> tuple[float | None, float | None, float]:
    framing = brief.framing
    if framing is None:
        return None, None, 0.0
    distance = standing_m(framing, brief.lens, brief.mode)
    share = background_share(framing, brief.lens, brief.mode, distance)
    if share is None or framing.background_share is None:
        return distance, share, 0.0
    return distance, share, abs(float(np.log2(share / framing.background_share)))


def _rank_key(tried: _Tried) -> tuple[bool, float, float]:
    snr = round(float(np.log2(tried.figures.snr_subject)) / SAME_SNR)
    return tried.conflict is not None, round(tried.background_off_stops, 2), -snr


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
        float(equivalent_f_number(lens.f_number, lens.focal35_mm / lens.focal_mm)),
        tried.distance_m,
        growth,
        tried.background_share,
        float(edge_stretch(lens.focal_mm, half_long_mm).shape),
        tried.slip,
        tried.figures,
        tried.conflict,
        moved,
        rank,
        _because(tried, used),
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
    return limit.owner == "rule" and limit.axis != "ev100_set" and limit.only is None


def _because(tried: _Tried, used: _Tried) -> str:
    if tried.conflict is not None:
        return tried.conflict
    if tried is used:
        return "the lens in use; keeps every limit"
    snr = float(np.log2(tried.figures.snr_subject / used.figures.snr_subject))
    if abs(snr) < MOVED_STOPS:
        return "keeps every limit"
    return f"keeps every limit; SNR {stops_label(snr)} {'up' if snr > 0 else 'down'}"


def _shifted(mover: Mover, shift_m: float) -> Mover:
    return replace(mover, distance_m=max(NEAREST_M, float(mover.distance_m) + shift_m))


def _height_mm(mode: Mode) -> float:
    return min(mode.width_px, mode.height_px) * mode.pixel_pitch_um / 1000


def _concrete(brief: Brief) -> str:
    return brief.lens.id if brief.lens_id in (None, ANY_LENS) else str(brief.lens_id)
