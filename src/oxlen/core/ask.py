"""What may be asked of a picture: typed questions with a default, and what an answer may be.

A decision lists its asks. The brief, the sheet, presets, schemas, patches and the editors on screen
all follow from that list, so that a new ask appears in every one of them.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Iterator, Mapping
from functools import cache
from typing import Annotated, Any, Generic, TypeVar, get_args, get_origin, get_type_hints

from oxlen.core.units import require_between

T_co = TypeVar("T_co", covariant=True)


@dataclasses.dataclass(frozen=True)
class Quantity:
    """A number an ask takes: its range with both ends, unit and name on screen.

    `usual` is what one begins with when a field that was left open is filled in after all.
    """

    low: float
    high: float
    unit: str = ""
    label: str = ""
    usual: float | None = None

    def check(self, name: str, value: float) -> None:
        """OutOfRange, naming the quantity, for a number outside the range."""
        require_between(name, value, low=self.low, high=self.high, unit=self.unit)


@dataclasses.dataclass(frozen=True)
class Choices:
    """Values an ask may take, each with its words on screen."""

    words: Mapping[str, str] = dataclasses.field(hash=False)
    label: str = ""


@dataclasses.dataclass(frozen=True)
class Text:
    """Words an ask takes: how long they may be."""

    longest: int
    label: str = ""


@dataclasses.dataclass(frozen=True)
class Several:
    """A list an ask takes: how many entries it may have."""

    most: int


@dataclasses.dataclass(frozen=True)
class Formerly:
    """The name a field had in older files, which are still read."""

    name: str


class Checked:
    """Base of the dataclasses that asks are made of: numbers outside their `Quantity` are refused.

    `in_force` is the usual value of a field that is left open (None).
    """

    def __post_init__(self) -> None:
        for name, quantity in _quantities_of(self):
            value = getattr(self, name)
            if isinstance(value, int | float) and not isinstance(value, bool):
                quantity.check(name, value)
        self.check()

    def check(self) -> None:
        """Refuse fields that do not go together; BadInput says why."""

    def in_force(self, name: str) -> Any:
        """The value of an open field."""
        return getattr(self, name)


def _quantities_of(value: Any) -> tuple[tuple[str, Quantity], ...]:
    return quantities_of(value.__class__)


@cache
def quantities_of(kind: type) -> tuple[tuple[str, Quantity], ...]:
    """Fields of a dataclass that are numbers with a range."""
    found = ((name, mark_of(hint, Quantity)) for name, hint in hints_of(kind).items())
    return tuple((name, quantity) for name, quantity in found if quantity is not None)


@cache
def hints_of(kind: type) -> Mapping[str, Any]:
    """Types of a dataclass's fields, with their marks (`Quantity`, `Choices`, ...)."""
    hints = get_type_hints(kind, include_extras=True)
    return {entry.name: hints[entry.name] for entry in dataclasses.fields(kind)}


Mark = TypeVar("Mark", Quantity, Choices, Text, Several, Formerly)


def mark_of(hint: Any, kind: type[Mark]) -> Mark | None:
    """The mark of one sort that a type carries, also inside `X | None`."""
    for mark in marks_of(hint):
        if isinstance(mark, kind):
            return mark
    return None


def marks_of(hint: Any) -> Iterator[Any]:
    """All marks a type carries."""
    if get_origin(hint) is Annotated:
        yield from hint.__metadata__
        yield from marks_of(hint.__origin__)
    elif get_origin(hint) is not tuple:
        for part in get_args(hint):
            yield from marks_of(part)


@dataclasses.dataclass(frozen=True)
class Ask(Generic[T_co]):
    """One thing that may be asked for: its name in every file, its type and its default.

    `sheet_default` is what a new sheet begins with, where that differs from what a brief that says
    nothing means. `entry` is what is begun with when something is added to a list, or when what was
    left out is asked for after all. `of_phone` marks what only makes sense for one phone and stays
    out of presets; `in_brief` is False where the published brief has a place of its own for it.
    `formerly` is its name in older files, which are still read.
    """

    name: str
    kind: Any
    default: T_co
    label: str
    sheet_default: T_co | None = None
    entry: Any = None
    of_phone: bool = False
    in_brief: bool = True
    formerly: str | None = None

    @property
    def on_a_new_sheet(self) -> T_co:
        """What a new sheet begins with."""
        return self.default if self.sheet_default is None else self.sheet_default


def plain(value: Any) -> Any:
    """An ask's value as plain data, as it is written in JSON.

    >>> plain((1, None, "a"))
    [1, None, 'a']
    """
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        entries = dataclasses.fields(value)
        return {entry.name: plain(getattr(value, entry.name)) for entry in entries}
    if isinstance(value, tuple | list):
        return [plain(item) for item in value]
    return value
