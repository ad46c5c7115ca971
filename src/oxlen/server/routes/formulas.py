"""The decision on its own, the formulas behind every number, and the tables that come with them."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel

from oxlen.core.compute.registry import COMPUTATIONS, computation
from oxlen.core.decisions.plan import plan
from oxlen.core.errors import NotFound
from oxlen.core.light.placement import TONE_PLACES, TonePlace
from oxlen.core.light.reading import LIGHT_LEVELS, LightLevel
from oxlen.formats.plan.brief import BriefFile
from oxlen.formats.plan.plan import PlanFile
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.schemas import SCHEMAS
from oxlen.server.context import Shared
from oxlen.server.permits import FOR_PHONES

router = APIRouter(prefix="/api", tags=["formulas"], dependencies=[FOR_PHONES])


class Formula(BaseModel):
    """A computation: its formula and source, its inputs and outputs with their units."""

    id: str
    title: str
    formula: str
    source: str
    inputs: dict[str, str]
    outputs: dict[str, str]


@router.post("/plan")
def make_plan(brief: BriefFile, context: Shared) -> PlanFile:
    """Decide the settings for a brief, without keeping anything."""
    ask = brief.ways == "all"
    return plan_file(plan(brief.to_brief(context.find_phone), ask=ask), ask=ask)


@router.get("/tones")
def tones() -> list[TonePlace]:
    """Suggested places for well-known tones."""
    return list(TONE_PLACES)


@router.get("/light-levels")
def light_levels() -> list[LightLevel]:
    """Usual levels of light, brightest first."""
    return list(LIGHT_LEVELS)


@router.get("/compute")
def formulas() -> list[Formula]:
    """All formulas."""
    return [formula(entry_id) for entry_id in COMPUTATIONS]


@router.get("/compute/{formula_id}")
def formula(formula_id: str) -> Formula:
    """One formula."""
    entry = computation(formula_id)
    return Formula(
        id=entry.id,
        title=entry.title,
        formula=entry.formula,
        source=entry.source,
        inputs=dict(entry.inputs),
        outputs=dict(entry.outputs),
    )


@router.post("/compute/{formula_id}")
def work_formula(formula_id: str, inputs: dict[str, Any]) -> dict[str, Any]:
    """Work a formula on inputs by name."""
    return computation(formula_id).run(inputs)


@router.get("/schemas/{name}")
def schema(name: str) -> dict[str, Any]:
    """The JSON Schema of an open file format: brief, phone or preset."""
    if name not in SCHEMAS:
        raise NotFound(f"Unknown format {name}. Use one of {', '.join(SCHEMAS)}.")
    return SCHEMAS[name].model_json_schema()
