"""The exposure problem: what the limits on shutter and ISO are made from."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.exposure.aim import Aim
from oxlen.core.decisions.framework.brief import Brief


@dataclass(frozen=True)
class ExposureProblem:
    """The brief, and the exposure it asks for."""

    brief: Brief
    aim: Aim
