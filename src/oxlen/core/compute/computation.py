"""What a registry entry is, and how its inputs are checked."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from oxlen.core.errors import BadInput

MAX_LIST_LENGTH = 100_000
LONGEST_MOMENT = 40
LARGEST = 1e100
"""Numbers beyond are a slip of the hand; their squares would leave what can be worked with."""
NULLABLE = "or null"
MOMENT = "ISO 8601"
"""The unit of a moment in time, given as text."""


@dataclass(frozen=True)
class Computation:
    """A named formula: inputs and outputs with their units, where it comes from, how it is worked.

    A unit starting with "list" takes a list of numbers, "pairs" a list of number lists; anything
    else takes one number. With "or null" in it a number may be left out: infinity, or no answer.
    """

    id: str
    title: str
    formula: str
    source: str
    inputs: Mapping[str, str]
    outputs: Mapping[str, str]
    work: Callable[..., Mapping[str, Any]]

    def run(self, given: Any) -> dict[str, Any]:
        """Work the formula on inputs by name; BadInput or OutOfRange names what is wrong."""
        if not isinstance(given, Mapping):
            raise BadInput(f"{self.id} takes its inputs by name.", "inputs")
        for name in given:
            if name not in self.inputs:
                known = ", ".join(self.inputs)
                raise BadInput(f"{self.id} has no input named {name}; it takes {known}.", str(name))
        for name in self.inputs:
            if name not in given:
                raise BadInput(f"{self.id} needs {name} ({self.inputs[name]}).", name)
        checked = {name: _checked(name, given[name], unit) for name, unit in self.inputs.items()}
        try:
            with np.errstate(divide="raise", over="raise", invalid="raise"):
                return {name: _plain(value) for name, value in self.work(**checked).items()}
        except (ArithmeticError, MemoryError):
            words = f"{self.id} cannot be worked with numbers as large or as small as these."
            raise BadInput(words, next(iter(self.inputs), "")) from None


def _checked(name: str, value: Any, unit: str) -> Any:
    if value is None and NULLABLE in unit and not unit.startswith(("list", "pairs")):
        return None
    if unit == MOMENT:
        if not isinstance(value, str) or len(value) > LONGEST_MOMENT:
            raise BadInput(f"{name} must be a time as in 2026-03-20T09:00:00Z.", name)
        return value
    if unit.startswith(("list", "pairs")):
        if not isinstance(value, list) or not 0 < len(value) <= MAX_LIST_LENGTH:
            raise BadInput(f"{name} must be a list of numbers, not empty.", name)
        inner = "list" if unit.startswith("pairs") else "number"
        inner += f" {NULLABLE}" if NULLABLE in unit else ""
        return [_checked(name, item, inner) for item in value]
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise BadInput(f"{name} must be a number ({unit}).", name)
    if not -LARGEST <= value <= LARGEST:  # also what is no number, and integers past any float
        raise BadInput(f"{name} must be a finite number ({unit}).", name)
    return float(value)


def _plain(value: Any) -> Any:
    """A plain JSON value: numpy scalars become floats, what is not a number becomes None."""
    if isinstance(value, bool | str) or value is None:
        return value
    if isinstance(value, int):
        return value
    if isinstance(value, np.ndarray | list | tuple) and np.ndim(value):
        return [_plain(item) for item in value]
    number = float(value)
    return number if math.isfinite(number) else None
