"""Limits as data, and the kinds of limit there are.

A kind is an object that owns all that is known of it: its id and name, how its bounds follow from
an exposure problem, the fields that edit it, what dropping it means, and its ways out. Decisions
list their kinds; search, window, conflict, map and screens take limits as they come.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from enum import Enum
from typing import Any, Literal

from oxlen.core.ask import Ask
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.offer import Offer

Axis = Literal["shutter_s", "iso", "ev100_set"]
SHUTTER: Axis = "shutter_s"
ISO: Axis = "iso"
EXPOSURE: Axis = "ev100_set"
NEVER_S = 1e9
"""In place of the shortest shutter where none will do."""
Owner = Literal["device", "rule", "user"]
"""Whose a limit is: *device* for what the phone cannot do at all, *user* for one's own choice."""


class Concern(Enum):
    """What a limit is about, for rules that hold for every limit about it."""

    DEVICE = "what the phone has"
    HOLDING = "holding still"
    STANDING = "moving platform"
    FREEZING = "motion to freeze"
    SHOWING = "motion blur"
    LAMPS = "flicker"
    NOISE = "noise"
    TONES = "highlight detail"
    PLACING = "wanted tones"
    KEEPING = "subject not clipped"
    SKY = "stars that trail"
    DRAWING = "lamp drawing"
    OWN_CHOICE = "your own choice"


def _none(*_: Any) -> tuple[Any, ...]:
    return ()


@dataclass(frozen=True)
class EditedField:
    """A field of an ask that a limit rests on: keys from the ask's value down.

    `value` gives what is in force where that is more than the ask itself says; `when` tells
    whether the field matters at all. Both take the brief and which of several entries it is.
    """

    ask: Ask[Any]
    keys: tuple[str, ...] = ()
    value: Callable[[Brief, int], Any] | None = None
    when: Callable[[Brief, int], bool] | None = None


@dataclass(frozen=True)
class LimitKind:
    """One kind of limit: everything that is particular to it.

    `bounds` makes its limits from an exposure problem. `ways_out` are changes that make room for
    it, `accepted` faults that may be accepted; both are given a search and its conflict.
    """

    id: str
    concern: Concern
    bounds: Callable[..., Iterable[Limit]]
    owner: Owner = "rule"
    edited_by: tuple[EditedField, ...] = ()
    dropped: Callable[[Brief, int], Brief] | None = None
    ways_out: Callable[..., Iterable[Offer]] = _none
    accepted: Callable[..., Iterable[Offer]] = _none


@dataclass(frozen=True)
class Limit:
    """A bound on one axis, with why and whence; `index` counts those of a kind from 0.

    `computation` names the registry entry that gave the bound and `inputs` what it was given.
    `low_words` and `high_words` say the bounds within a sentence: "your hand holds 1/3 s".
    With `base_iso` set, `low` rises stop for stop below that ISO. With `only`, just those values
    of the axis are allowed.
    """

    kind: LimitKind
    axis: Axis
    low: float | None
    high: float | None
    name: str
    reason: str
    source: str
    index: int = 0
    computation: str | None = None
    inputs: Mapping[str, float | str] = field(default_factory=dict)
    base_iso: float | None = None
    low_words: str = ""
    high_words: str = ""
    only: tuple[float, ...] | None = None

    @property
    def id(self) -> str:
        """Its kind's id; from the second of a kind on with its number."""
        return self.kind.id if self.index == 0 else f"{self.kind.id}-{self.index + 1}"

    @property
    def owner(self) -> Owner:
        """Whose limit it is."""
        return self.kind.owner

    @property
    def is_device(self) -> bool:
        """Whether it is what the phone cannot do at all."""
        return self.kind.concern is Concern.DEVICE

    def is_about(self, *concerns: Concern) -> bool:
        """Whether it is about one of some things."""
        return self.kind.concern in concerns
