"""Two edits of one sheet merged: what only one of them changed is taken from that one."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

Path = tuple[str, ...]
ABSENT = object()
"""In place of what one of the states does not have."""


@dataclass(frozen=True)
class Clash:
    """A place that both changed, each in another way: `path` from the body down.

    An entry of a list is named by its id. None means deleted or left open.
    """

    path: Path
    before: Any
    mine: Any
    theirs: Any


@dataclass(frozen=True)
class Merged:
    """Both edits in one body; where they clash it holds theirs."""

    body: dict[str, Any]
    clashes: tuple[Clash, ...]


def merge_sheets(
    before: Mapping[str, Any], mine: Mapping[str, Any], theirs: Mapping[str, Any]
) -> Merged:
    """Merge what two people made of the same sheet; all three are JSON bodies.

    Entries of lists are matched by their `id`; lists without are one value.

    >>> merge_sheets({"a": 1, "b": 1}, {"a": 2, "b": 1}, {"a": 1, "b": 3}).body
    {'a': 2, 'b': 3}
    """
    clashes: list[Clash] = []
    body = _merged((), (before, mine, theirs), clashes)
    return Merged(body, tuple(clashes))


def take_mine(body: Mapping[str, Any], clashes: tuple[Clash, ...]) -> dict[str, Any]:
    """A merged body with mine where its edits clash."""
    result: dict[str, Any] = dict(body)
    for clash in clashes:
        result = _with(result, clash.path, clash.mine)
    return result


def _merged(path: Path, states: tuple[Any, ...], clashes: list[Clash]) -> Any:
    before, mine, theirs = states
    if mine == theirs or theirs == before:
        return mine
    if mine == before:
        return theirs
    if all(isinstance(state, Mapping) for state in states):
        names = dict.fromkeys([*theirs, *mine])
        parts = {
            name: _merged(
                (*path, name), tuple(state.get(name, ABSENT) for state in states), clashes
            )
            for name in names
        }
        return {name: part for name, part in parts.items() if part is not ABSENT}
    if all(_is_named(state) for state in states):
        named = tuple({entry["id"]: entry for entry in state} for state in states)
        return list(_merged(path, named, clashes).values())
    clashes.append(Clash(path, *(None if state is ABSENT else state for state in states)))
    return theirs


def _is_named(value: Any) -> bool:
    return isinstance(value, list) and all(
        isinstance(entry, Mapping) and "id" in entry for entry in value
    )


def _with(value: Any, path: Path, new: Any) -> Any:
    if not path:
        return new
    name, rest = path[0], path[1:]
    if isinstance(value, list):
        entries = {entry["id"]: entry for entry in value}
        entries[name] = _with(entries.get(name, {}), rest, new)
        return [entry for entry in entries.values() if entry is not None]
    return {**value, name: _with(value.get(name, {}), rest, new)}
