"""Which thing a new take shows: by order, by a code shot before it, or by hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass
from typing import Literal

Assigned = Literal["order", "code", "hand", "spare"]
"""How a take got its thing; a spare one shows none."""


@dataclass(frozen=True, order=True)
class Slot:
    """A picture that is wanted: the thing's id and the view of it."""

    thing: int
    view: str


@dataclass(frozen=True)
class TakeSlot:
    """Where a take belongs; `slot` is None for a frame of a code and for a spare take."""

    take: int
    slot: Slot | None
    how: Assigned


@dataclass(frozen=True)
class Assignment:
    """New takes with their pictures, and the picture that is still aimed at after them."""

    takes: tuple[TakeSlot, ...]
    aim: Slot | None


def wanted_slots(things: Sequence[int], views: Sequence[str]) -> list[Slot]:
    """The pictures of a series in the order they are shot: all views of a thing, then the next."""
    return [Slot(thing, view) for thing in things for view in views]


def next_slot(wanted: Sequence[Slot], filled: Set[Slot], last: Slot | None) -> Slot | None:
    """The next picture without a take, from the last one shot on and then from the start."""
    after = wanted.index(last) + 1 if last in wanted else 0
    open_slots = [slot for slot in (*wanted[after:], *wanted[:after]) if slot not in filled]
    return open_slots[0] if open_slots else None


def slot_after_thing(
    wanted: Sequence[Slot], filled: Set[Slot], current: Slot | None
) -> Slot | None:
    """The next picture without a take that is of another thing; None without one."""
    if current is None:
        return None
    own = [slot for slot in wanted if slot.thing == current.thing]
    last = own[-1] if own else None
    return next_slot(wanted, filled | frozenset(own), last)


def assigned(
    takes: Sequence[int],
    wanted: Sequence[Slot],
    *,
    filled: Set[Slot],
    codes: Mapping[int, int],
    last: Slot | None = None,
    aim: Slot | None = None,
) -> Assignment:
    """New takes, in the order they were shot, each with its picture of the series.

    `codes` maps a take that shows a code to the thing of the code: takes after it are of that
    thing, whether it has pictures or not. `aim` is a picture that is shot next although others are
    open. Takes beyond the last picture are spare.
    """
    done, taken = [], set(filled)
    for take_id in takes:
        if take_id in codes:
            first = next((slot for slot in wanted if slot.thing == codes[take_id]), None)
            aim = first or aim
            done.append(TakeSlot(take_id, None, "code"))
            continue
        slot = aim or next_slot(wanted, taken, last)
        done.append(TakeSlot(take_id, slot, "order" if slot else "spare"))
        if slot is not None:
            taken.add(slot)
            aim, last = _after_aim(aim, wanted), slot
    return Assignment(tuple(done), aim)


def _after_aim(aim: Slot | None, wanted: Sequence[Slot]) -> Slot | None:
    """The next view of the thing that was aimed at; None after its last."""
    if aim is None or aim not in wanted:
        return None
    after = wanted.index(aim) + 1
    following = wanted[after] if after < len(wanted) else None
    return following if following is not None and following.thing == aim.thing else None
