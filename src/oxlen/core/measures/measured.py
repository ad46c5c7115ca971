"""The outcome of a measurement: figures with their ±, a plot, words, and what looks wrong."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Figure:
    """A figure of a phone: where it belongs below its lens and mode, its value, and its ±."""

    name: str
    value: float | tuple[tuple[float, float], ...]
    plus_minus: float
    unit: str


@dataclass(frozen=True)
class Series:
    """Points of a plot, or a line through them, x ascending."""

    name: str
    x: tuple[float, ...]
    y: tuple[float, ...]
    is_line: bool = False


@dataclass(frozen=True)
class Plot:
    """What the photographer sees of it; axes are marked in stops where they are logarithmic."""

    x_label: str
    y_label: str
    series: tuple[Series, ...]
    x_is_log: bool = False
    y_is_log: bool = False


@dataclass(frozen=True)
class Measured:
    """Figures found, in words; `doubts` are sentences on values that physics speaks against."""

    figures: tuple[Figure, ...]
    words: str
    plot: Plot
    doubts: tuple[str, ...] = ()
