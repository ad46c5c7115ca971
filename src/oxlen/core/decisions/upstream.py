"""What is settled before a decision has its turn."""

from __future__ import annotations

from dataclasses import dataclass

from oxlen.core.decisions.framework.setting import Setting
from oxlen.core.decisions.solver.solution import Solution


@dataclass(frozen=True)
class Upstream:
    """The exposure's solution, and the settings so far."""

    solution: Solution
    settings: tuple[Setting, ...] = ()
