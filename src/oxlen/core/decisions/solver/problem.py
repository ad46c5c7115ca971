"""The exposure problem: what the limits on shutter and ISO are made from."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.solver.aim import Aim


@dataclass(frozen=True)
class ExposureProblem:
    """The brief, and the exposure it asks for."""

    brief: Brief
    aim: Aim
