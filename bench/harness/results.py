"""Figures judged: beside their bounds, and not at all while the machine has other things to do."""

from __future__ import annotations

import traceback
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal, Protocol

from bench.harness.bounds import BOUNDS
from bench.harness.measure import Figure, Figures
from bench.harness.reference import CONTENDED, contention

MOST_SPREAD = 0.3
"""Rounds of a ratio that differ by more than this share tell of the machine, not of the code."""
State = Literal["ok", "over", "noisy", "failed"]


class Module(Protocol):
    """A part of the benchmark."""

    def figures(self) -> Figures:
        """What is measured."""


@dataclass(frozen=True)
class Result:
    """A figure beside its bound, or a module that could not be run."""

    name: str
    ratio: float | None
    bound: float | None
    spread: float | None
    state: State
    note: str = ""

    @property
    def words(self) -> str:
        """As a line for people."""
        if self.ratio is None or self.bound is None:
            return f"failed  {self.name}: {self.note}"
        spread = "" if self.spread is None else f" ± {self.spread / 2:.0%}"
        note = f"  ({self.note})" if self.note else ""
        judged = "noisy, not judged" if self.state == "noisy" else self.state
        return f"{self.ratio:9.2f}{spread:7}  at most {self.bound:<6g} {judged:6} {self.name}{note}"


def results(modules: Mapping[str, Module], names: Iterable[str]) -> Iterator[Result]:
    """Every figure of some modules; one that fails does not keep the others from running."""
    for name in names:
        try:
            yield from _judged(modules[name].figures())
        except Exception as error:
            traceback.print_exc()
            why = f"{type(error).__name__}: {error}"
            yield Result(name, None, None, None, "failed", why)


def _judged(figures: Figures) -> Iterator[Result]:
    busy = contention()
    for figure in figures:
        after = contention()
        yield _result(figure, is_contended=max(busy, after) > CONTENDED)
        busy = after


def _result(figure: Figure, *, is_contended: bool) -> Result:
    """A figure judged. What does not depend on the machine is judged however busy it is."""
    bound, state = BOUNDS.get(figure.id), "ok"
    if bound is None:
        return Result(
            figure.id, None, None, None, "failed", "it has no line in bench/harness/bounds.py"
        )
    if figure.spread is not None and (is_contended or figure.spread > MOST_SPREAD):
        state = "noisy"
    elif figure.measured > bound:
        state = "over"
    return Result(figure.id, figure.measured, bound, figure.spread, state, figure.note)  # type: ignore[arg-type]
