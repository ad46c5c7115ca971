"""Writing a plan: from the core's dataclasses to the published fields."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import numpy as np

from oxlen.core import decisions
from oxlen.core.decisions.exposure.ask import iso_strategy, motion_asked
from oxlen.core.decisions.exposure.auto.steps import AutoSteps
from oxlen.core.decisions.exposure.words.slip import (
    compromise_words,
    needs_words,
    outcome_words,
    residual_words,
)
from oxlen.core.decisions.framework.limit import ISO, SHUTTER, Limit
from oxlen.core.decisions.framework.setting import Exposure, Setting, Slip
from oxlen.core.decisions.lens.ask import LENS
from oxlen.core.decisions.lens.comparison import LensOption, lens_options
from oxlen.core.decisions.plan import Plan
from oxlen.core.decisions.sequence.bracket import FormatSpan, TonalSpan
from oxlen.core.decisions.solver.conflict import Conflict
from oxlen.core.decisions.solver.frontier import (
    Alternative,
    Compromise,
    figures_at,
)
from oxlen.core.decisions.solver.outcome import SpotOutcome, outcome
from oxlen.core.decisions.solver.predict import predict
from oxlen.core.decisions.solver.search import ExposureSlip
from oxlen.core.decisions.trade import Trade
from oxlen.formats.plan.plan import (
    AlternativeFile,
    AutoStepsFile,
    CompromiseFile,
    ConflictFile,
    ExposureFile,
    FormatSpanFile,
    LensOptionFile,
    LimitFile,
    PairFile,
    PlanFile,
    SettingFile,
    SlipFile,
    SpanFile,
    SpotOutcomeFile,
    TradeFile,
)

DIALLING_ORDER = (LENS.name, ISO, SHUTTER)


def plan_file(plan: Plan, *, ask: bool = False) -> PlanFile:
    """A plan in its published form; `ask` for the comparison across the phone's lenses."""
    trades = [_trade(trade) for trade in plan.trades]
    return PlanFile(
        slip=_slip(plan.slip, plan.dialled) if plan.slip else None,
        settings=_settings(plan.dialled.settings),
        exposures=[_exposure(exposure) for exposure in plan.dialled.exposures],
        outcome=_outcome(plan.outcome),
        outcome_words=outcome_words(plan.outcome, _clipped_share(plan)),
        figures=plan.figures,
        snr_pixel=plan.snr_pixel,
        limits=[_limit(plan, limit) for limit in plan.search.limits],
        window=plan.window,
        conflict=_conflict(plan.conflict, trades) if plan.conflict else None,
        compromise=_compromise(plan, plan.compromise) if plan.compromise else None,
        trades=trades,
        alternatives=[_alternative(alternative) for alternative in plan.alternatives],
        pairs=_pairs(plan),
        span=_span(plan.span) if plan.span else None,
        auto=plan.auto,
        auto_steps=_auto_steps(plan.auto_steps),
        lenses=_lenses(plan) if ask else [],
        reasons=list(plan.reasons),
        cautions=list(plan.cautions),
        wanted_ev100=plan.search.aim.ev100,
        motion_asked=motion_asked(plan.brief),
        strategy=iso_strategy(plan.brief),
    )


def _clipped_share(plan: Plan) -> float | None:
    """Share of the planned frame that clips; of a set of frames, none in all of them."""
    alone = len(plan.dialled.exposures) < 2
    return plan.figures.clipped_share if plan.figures and alone else None


def _slip(slip: ExposureSlip, dialled: Slip | None = None) -> SlipFile:
    order = DIALLING_ORDER if dialled is None else dialled.order
    values = {**vars(slip), "glass_stops": slip.glass_stops, "order": list(order)}
    dials = {} if dialled is None else _dials(dialled.settings)
    return SlipFile(**values, **dials, residual_words=residual_words(slip.residual_stops))


def _dials(settings: Iterable[Setting]) -> dict[str, Any]:
    """What each decision dials besides the exposure, as plain values for programs."""
    lines = {setting.field: setting for setting in settings}
    return {
        name: value
        for decision in decisions.DECISIONS
        for name, value in decision.values(lines).items()
    }


def _settings(settings: Iterable[Setting]) -> list[SettingFile]:
    return [_setting(setting) for setting in settings]


def _setting(setting: Setting) -> SettingFile:
    figures = {name: _finite(value) for name, value in setting.figures.items()}
    lists = {"inputs": dict(setting.inputs), "notes": list(setting.notes), "figures": figures}
    return SettingFile(**{**vars(setting), **lists})


def _finite(value: float | None) -> float | None:
    return value if value is not None and np.isfinite(value) else None


def _exposure(exposure: Exposure) -> ExposureFile:
    settings = _settings(exposure.settings)
    return ExposureFile(**{**vars(exposure), "settings": settings})


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
        figures=trade.figures,
        outcome=_outcome(trade.outcome),
        exposures=list(trade.exposures),
        steps=trade.steps,
        on_auto=trade.on_auto,
    )


def _outcome(spots: Iterable[SpotOutcome]) -> list[SpotOutcomeFile]:
    return [SpotOutcomeFile(**vars(spot)) for spot in spots]


def _compromise(plan: Plan, found: Compromise) -> CompromiseFile:
    spots = outcome(plan.brief, [found.slip.ev100_set])
    return CompromiseFile(
        slip=_slip(found.slip),
        gives_up_stops=found.gives_up_stops,
        words=compromise_words(plan.search.limits, found.gives_up_stops),
        outcome=_outcome(spots),
    )


def _conflict(conflict: Conflict, trades: list[TradeFile]) -> ConflictFile:
    return ConflictFile(
        between=list(conflict.between),
        short_by_stops=conflict.short_by_stops,
        sentence=conflict.sentence,
        needs=needs_words(conflict),
        trades=trades,
    )


def _alternative(alternative: Alternative) -> AlternativeFile:
    return AlternativeFile(
        slip=_slip(alternative.slip), figures=alternative.figures, broken=list(alternative.broken)
    )


def _pairs(plan: Plan) -> list[PairFile]:
    search = plan.search
    predicted = predict(search.problem, search.near)
    ladder = plan.brief.mode.manual
    return [
        # Hundreds of them for a plan, and made here: they need not be checked.
        PairFile.model_construct(
            iso=ladder.iso[int(search.near.row[index])],
            shutter_s=ladder.shutter_s[int(search.near.column[index])],
            residual_stops=float(search.near.residual_stops[index]),
            figures=figures_at(predicted, index),
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


def _auto_steps(found: AutoSteps) -> AutoStepsFile:
    return AutoStepsFile(
        steps=list(found.steps),
        compensation_stops=found.compensation_stops,
        iso=found.iso,
        shutter_s=found.shutter_s,
        why_not=found.why_not,
    )


def _lenses(plan: Plan) -> list[LensOptionFile]:
    return [_lens(option) for option in lens_options(plan.brief, plan.search.kinds)]


def _lens(option: LensOption) -> LensOptionFile:
    values: dict[str, Any] = {
        **vars(option),
        "slip": None if option.slip is None else _slip(option.slip),
    }
    return LensOptionFile(**values)
