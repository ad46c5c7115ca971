"""The plan as it leaves Oxlen: the same fields on the command line and over HTTP."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np
from pydantic import BaseModel, Field

from oxlen.core.decisions.exposure.ask import iso_strategy
from oxlen.core.decisions.exposure.auto import AutoChoice
from oxlen.core.decisions.exposure.conflict import Conflict
from oxlen.core.decisions.exposure.frontier import Alternative, Figures, figures_at
from oxlen.core.decisions.exposure.predict import predict
from oxlen.core.decisions.exposure.search import ExposureSlip
from oxlen.core.decisions.exposure.words import residual_words
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.lens.comparison import LensOption, lens_options
from oxlen.core.decisions.limit import ISO, SHUTTER, Axis, Limit, Owner
from oxlen.core.decisions.offer import Trade
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.bracket import FormatSpan, TonalSpan
from oxlen.core.decisions.setting import Exposure, Setting, Slip

DIALLING_ORDER = (LENS.name, ISO, SHUTTER)


class SlipFile(BaseModel):
    """Values to dial in, `order` naming them in dialling order."""

    lens: str
    iso: float
    shutter_s: float
    f_number: float
    ev100_set: float = Field(description="glass on the lens counted: compares with the scene's")
    glass_stops: float = Field(description="taken by the glass on the lens")
    residual_stops: float = Field(description="positive = brighter than wanted")
    residual_words: str
    order: list[str]


class SettingFile(BaseModel):
    """One line of the slip: what to set, to what, the one reason, how sure, and its formula.

    `on_map` marks what the exposure map moves.
    """

    field: str
    name: str
    value: float | str
    label: str
    unit: str
    reason: str
    because: str
    plus_minus: float | None
    plus_minus_unit: str
    why_plus_minus: str
    formula: str | None
    inputs: dict[str, float | str]
    on_map: bool


class ExposureFile(BaseModel):
    """One exposure of the plan: its settings, what it exposes for, and how many frames of it."""

    settings: list[SettingFile]
    ev100_set: float
    residual_stops: float = Field(description="positive = brighter than this exposure is meant")
    frames: int


class FiguresFile(BaseModel):
    """What a slip will give: blur in pixels and as a share of the height, SNR at the output."""

    blur_px: float
    blur_share: float
    hand_px: float
    motion_px: float
    streak_share: float | None
    snr_subject: float
    snr_dark: float | None
    clipped_share: float | None


class LimitFile(BaseModel):
    """A bound on one axis; `computation` and `inputs` reopen the formula behind it.

    `slack_stops` is the room the slip leaves, `only` the values allowed where not all between are.
    """

    id: str
    kind: str
    axis: Axis
    min: float | None
    max: float | None
    only: list[float] | None
    name: str
    reason: str
    source: str
    owner: Owner
    edited_by: list[str] = Field(description="names of the asks that it rests on")
    binding: bool
    slack_stops: float | None
    computation: str | None
    inputs: dict[str, float | str]


class WindowFile(BaseModel):
    """The stretch of steps along the wanted exposure that every limit leaves open."""

    shutter_min_s: float
    shutter_max_s: float
    iso_min: float
    iso_max: float


class TradeFile(BaseModel):
    """A way out, its cost in words, the slip it buys and what that gives."""

    id: str
    text: str
    cost: str
    slip: SlipFile
    figures: FiguresFile


class ConflictFile(BaseModel):
    """The two limits that collide, the stops missing between them, and the ways out."""

    between: list[str]
    short_by_stops: float
    sentence: str
    trades: list[TradeFile]


class CompromiseFile(BaseModel):
    """The slip that gives up least, and by how many stops it breaks what."""

    slip: SlipFile
    gives_up_stops: dict[str, float]


class AlternativeFile(BaseModel):
    """A slip between least blur and least noise, and the limits it breaks."""

    slip: SlipFile
    figures: FiguresFile
    broken: list[str]


class FormatSpanFile(BaseModel):
    """Tones one frame holds, in stops from mid."""

    darkest_stops: float
    clipping_stops: float
    range_stops: float
    fits: bool


class SpanFile(BaseModel):
    """The scene's range against what a frame holds, and the exposures that take it in."""

    range_stops: float
    raw: FormatSpanFile
    processed: FormatSpanFile
    exposures: int
    step_stops: float
    ev100s: list[float]
    words: str


class AutoFile(BaseModel):
    """What the phone's auto mode would likely do; `brighter_stops` is against the wanted."""

    metered_ev100: float
    iso: float
    shutter_s: float
    ev100_set: float
    brighter_stops: float
    words: str


class LensOptionFile(BaseModel):
    """One lens for the same picture; growth and moved limits are against the lens in use."""

    lens_id: str
    name: str
    focal35_mm: float
    equivalent_f_number: float
    distance_m: float | None
    background_growth: float | None
    background_share: float | None
    edge_shape: float
    slip: SlipFile
    figures: FiguresFile
    conflict: str | None
    moved_stops: dict[str, float]
    rank: int
    because: str


class PairFile(BaseModel):
    """A pair of steps within half a step of the wanted exposure, and what it gives and breaks."""

    iso: float
    shutter_s: float
    residual_stops: float
    figures: FiguresFile
    broken: list[str]


class ReasonFile(BaseModel):
    """Why a value came out as it did."""

    value: str
    because: str
    text: str


class PlanFile(BaseModel):
    """The whole decision."""

    slip: SlipFile | None
    settings: list[SettingFile]
    exposures: list[ExposureFile]
    figures: FiguresFile | None
    limits: list[LimitFile]
    window: WindowFile | None
    conflict: ConflictFile | None
    compromise: CompromiseFile | None
    trades: list[TradeFile]
    alternatives: list[AlternativeFile]
    pairs: list[PairFile]
    span: SpanFile | None
    auto: AutoFile | None
    lenses: list[LensOptionFile]
    reasons: list[ReasonFile]
    wanted_ev100: float
    school: str


def plan_file(plan: Plan, *, ask: bool = False) -> PlanFile:
    """A plan in its published form; `ask` for the comparison across the phone's lenses."""
    trades = [_trade(trade) for trade in plan.trades]
    given_up = plan.compromise
    return PlanFile(
        slip=_slip(plan.slip, plan.dialled) if plan.slip else None,
        settings=_settings(plan.dialled.settings) if plan.dialled else [],
        exposures=[_exposure(one) for one in plan.dialled.exposures] if plan.dialled else [],
        figures=_figures(plan.figures) if plan.figures else None,
        limits=[_limit(plan, limit) for limit in plan.search.limits],
        window=WindowFile(**vars(plan.window)) if plan.window else None,
        conflict=_conflict(plan.conflict, trades) if plan.conflict else None,
        compromise=CompromiseFile(slip=_slip(given_up.slip), gives_up_stops=given_up.gives_up_stops)
        if given_up
        else None,
        trades=trades,
        alternatives=[_alternative(one) for one in plan.alternatives],
        pairs=_pairs(plan),
        span=_span(plan.span) if plan.span else None,
        auto=_auto(plan.auto) if plan.auto else None,
        lenses=[_lens(option) for option in lens_options(plan.brief)] if ask else [],
        reasons=[ReasonFile(**vars(reason)) for reason in plan.reasons],
        wanted_ev100=plan.search.aim.ev100,
        school=iso_strategy(plan.brief),
    )


def _slip(slip: ExposureSlip, dialled: Slip | None = None) -> SlipFile:
    order = DIALLING_ORDER if dialled is None else dialled.order
    values = {**vars(slip), "glass_stops": slip.glass_stops, "order": list(order)}
    return SlipFile(**values, residual_words=residual_words(slip.residual_stops))


def _settings(settings: Iterable[Setting]) -> list[SettingFile]:
    return [SettingFile(**{**vars(one), "inputs": dict(one.inputs)}) for one in settings]


def _exposure(exposure: Exposure) -> ExposureFile:
    settings = _settings(exposure.settings)
    return ExposureFile(**{**vars(exposure), "settings": settings})


def _figures(figures: Figures) -> FiguresFile:
    return FiguresFile(**vars(figures))


def _limit(plan: Plan, limit: Limit) -> LimitFile:
    slack = plan.slack_stops.get(limit.id)
    return LimitFile(
        id=limit.id,
        kind=limit.kind.id,
        axis=limit.axis,
        min=limit.low,
        max=limit.high,
        only=None if limit.only is None else list(limit.only),
        name=limit.name,
        reason=limit.reason,
        source=limit.source,
        owner=limit.owner,
        edited_by=sorted({field.ask.name for field in limit.kind.edited_by}),
        binding=limit.id in plan.binding,
        slack_stops=None if slack is None or abs(slack) > 1e6 else slack + 0.0,
        computation=limit.computation,
        inputs=dict(limit.inputs),
    )


def _trade(trade: Trade) -> TradeFile:
    return TradeFile(
        id=trade.id,
        text=trade.text,
        cost=trade.cost,
        slip=_slip(trade.slip),
        figures=_figures(trade.figures),
    )


def _conflict(conflict: Conflict, trades: list[TradeFile]) -> ConflictFile:
    return ConflictFile(
        between=list(conflict.between),
        short_by_stops=conflict.short_by_stops,
        sentence=conflict.sentence,
        trades=trades,
    )


def _alternative(one: Alternative) -> AlternativeFile:
    return AlternativeFile(
        slip=_slip(one.slip), figures=_figures(one.figures), broken=list(one.broken)
    )


def _pairs(plan: Plan) -> list[PairFile]:
    search = plan.search
    predicted = predict(search.problem, search.near)
    ladder = plan.brief.mode.manual
    return [
        PairFile(
            iso=ladder.iso[int(search.near.row[index])],
            shutter_s=ladder.shutter_s[int(search.near.column[index])],
            residual_stops=float(search.near.residual_stops[index]),
            figures=_figures(figures_at(predicted, index)),
            broken=[name for name, flags in search.near_broken.items() if flags[index]],
        )
        for index in np.lexsort((search.near.row, search.near.column))
    ]


def _span(span: TonalSpan) -> SpanFile:
    return SpanFile(
        range_stops=span.range_stops,
        raw=_format_span(span.raw),
        processed=_format_span(span.processed),
        exposures=span.bracket.count,
        step_stops=span.bracket.step_stops,
        ev100s=list(span.bracket.ev100s),
        words=span.words,
    )


def _format_span(span: FormatSpan) -> FormatSpanFile:
    return FormatSpanFile(
        darkest_stops=span.darkest_stops,
        clipping_stops=span.clipping_stops,
        range_stops=span.range_stops,
        fits=span.fits,
    )


def _auto(auto: AutoChoice) -> AutoFile:
    return AutoFile(**vars(auto))


def _lens(option: LensOption) -> LensOptionFile:
    values: dict[str, Any] = {
        **vars(option),
        "slip": _slip(option.slip),
        "figures": _figures(option.figures),
    }
    return LensOptionFile(**values)
