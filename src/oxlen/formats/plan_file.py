"""The plan as it leaves Oxlen: the same fields on the command line and over HTTP."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, Field

from oxlen.core.decide.conflict import Conflict
from oxlen.core.decide.explain import residual_words
from oxlen.core.decide.limits import Limit
from oxlen.core.decide.plan import Plan, Slip


class SlipFile(BaseModel):
    """Values to dial in, `order` naming them in dialling order."""

    lens: str
    iso: float
    shutter_s: float
    f_number: float
    ev100_set: float
    residual_stops: float = Field(description="positive = brighter than wanted")
    residual_words: str
    order: list[str]


class LimitFile(BaseModel):
    """A bound on one axis; `computation` and `inputs` reopen the formula behind it."""

    id: str
    axis: Literal["shutter_s", "iso", "ev100_set"]
    min: float | None
    max: float | None
    name: str
    reason: str
    source: str
    owner: Literal["device", "rule", "user"]
    binding: bool
    computation: str | None
    inputs: dict[str, float | str]


class WindowFile(BaseModel):
    """The stretch of steps along the wanted exposure that every limit leaves open."""

    shutter_min_s: float
    shutter_max_s: float
    iso_min: float
    iso_max: float


class TradeFile(BaseModel):
    """A way out of a conflict, its cost in words and the slip it buys."""

    id: str
    text: str
    cost: str
    slip: SlipFile


class ConflictFile(BaseModel):
    """The two limits that collide and the stops missing between them."""

    between: list[str]
    short_by_stops: float
    sentence: str
    trades: list[TradeFile]


class ReasonFile(BaseModel):
    """Why a value came out as it did."""

    value: str
    because: str
    text: str


class PlanFile(BaseModel):
    """The whole decision."""

    slip: SlipFile | None
    limits: list[LimitFile]
    window: WindowFile | None
    conflict: ConflictFile | None
    reasons: list[ReasonFile]
    wanted_ev100: float


def plan_file(plan: Plan) -> PlanFile:
    """A plan in its published form."""
    return PlanFile(
        slip=_slip(plan.slip) if plan.slip else None,
        limits=[_limit(limit, limit.id in plan.binding) for limit in plan.limits],
        window=WindowFile(**vars(plan.window)) if plan.window else None,
        conflict=_conflict(plan.conflict) if plan.conflict else None,
        reasons=[ReasonFile(**vars(reason)) for reason in plan.reasons],
        wanted_ev100=plan.aim.ev100,
    )


def _slip(slip: Slip) -> SlipFile:
    values: dict[str, Any] = {**vars(slip), "order": list(slip.order)}
    return SlipFile(**values, residual_words=residual_words(slip.residual_stops))


def _limit(limit: Limit, binding: bool) -> LimitFile:
    return LimitFile(
        id=limit.id,
        axis=limit.axis,
        min=limit.low,
        max=limit.high,
        name=limit.name,
        reason=limit.reason,
        source=limit.source,
        owner=limit.owner,
        binding=binding,
        computation=limit.computation,
        inputs=dict(limit.inputs),
    )


def _conflict(conflict: Conflict) -> ConflictFile:
    return ConflictFile(
        between=list(conflict.between),
        short_by_stops=conflict.short_by_stops,
        sentence=conflict.sentence,
        trades=[
            TradeFile(id=t.id, text=t.text, cost=t.cost, slip=_slip(t.slip))
            for t in conflict.trades
        ],
    )
