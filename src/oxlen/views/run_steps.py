"""The run list as it is shown."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.checklist.step import Part
from oxlen.core.checklist.steps import run_list
from oxlen.core.decisions.plan import Plan


class RunStepView(BaseModel):
    """One step of the run list; `id` stays the same while the step means the same.

    `wait_s` is counted down, `expose_s` counted up while the shutter is open; `frames` shots follow
    one another every `every_s` seconds, and every `remind_s` a sound says to look after them.
    """

    id: str
    part: Part
    text: str
    value: str
    detail: str
    wait_s: float | None
    expose_s: float | None
    frames: int
    every_s: float | None
    remind_s: float | None


def run_view(decision: Plan) -> list[RunStepView]:
    """All steps of a plan, in working order."""
    return [RunStepView(**vars(step)) for step in run_list(decision)]
