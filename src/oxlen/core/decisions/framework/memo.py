"""Values derived from one thing that never changes, each computed once."""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVar

Source = TypeVar("Source")
Value = TypeVar("Value")


class Memo(Generic[Source]):
    """What was derived from a source so far, by the function that derives it.

    >>> lengths = Memo("frame")
    >>> lengths.of(len), lengths.of(len)
    (5, 5)
    """

    def __init__(self, source: Source) -> None:
        self._source = source
        self._values: dict[Callable[[Source], object], object] = {}

    def of(self, derive: Callable[[Source], Value]) -> Value:
        """The value of a function of the source; the function is called the first time only."""
        if derive not in self._values:
            self._values[derive] = derive(self._source)
        value: Value = self._values[derive]  # type: ignore[assignment]
        return value
