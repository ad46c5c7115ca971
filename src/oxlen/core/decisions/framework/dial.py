"""What others must know of a line of the slip: its words, its steps, what it is locked with."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from oxlen.core.decisions.framework.brief import Brief


def as_number(value: float) -> str:
    """A step as its number.

    >>> as_number(64.0)
    '64'
    """
    return f"{value:g}"


@dataclass(frozen=True)
class Dial:
    """A line of the slip, by its setting's `field`.

    `checklist` is what the checklist says where its name does not say what to do. With
    `has_own_step` the checklist sees to it elsewhere; `sets_light` is dialled once more after a
    test frame. `steps` are the phone's own where the exposure map moves it; `label` writes one.
    """

    field: str
    checklist: str = ""
    has_own_step: bool = False
    sets_light: bool = False
    steps: Callable[[Brief], Sequence[float]] | None = None
    label: Callable[[float], str] = as_number


@dataclass(frozen=True)
class SeriesPart:
    """What the sheets of a series may share: an id, and its name."""

    id: str
    name: str
