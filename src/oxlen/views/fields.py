"""Fields that can be edited: what each ask takes, and the fields behind each limit of a sheet."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterator
from typing import Annotated, Any, get_args, get_origin

from pydantic import BaseModel

from oxlen.core import decisions
from oxlen.core.ask import Ask, Choices, Quantity, hints_of, mark_of, plain
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.framework.limit import EditedField, Limit
from oxlen.core.decisions.plan import Plan
from oxlen.views.patch import Patch, changes


class Choice(BaseModel):
    """One of several values a field may take."""

    value: str
    text: str


class EditableField(BaseModel):
    """A field of the sheet: where it is in the body, what it holds, how it may be changed.

    `path` are keys and indices from the body down. With `choices` it is one of them; `default` is
    what it begins with on a new sheet, or in a new entry of a list; `usual` what a field that was
    left open is filled in with first.
    """

    path: list[str | int]
    label: str
    unit: str
    value: float | str | bool | None
    default: float | str | bool | None = None
    low: float | None = None
    high: float | None = None
    usual: float | None = None
    whole: bool = False
    choices: list[Choice] | None = None


class LimitFields(BaseModel):
    """The fields a limit rests on, and what dropping it would change; None where it cannot be."""

    fields: list[EditableField]
    dropped: Patch | None = None


class AskView(BaseModel):
    """Something that may be asked for: its default on a new sheet, its fields, its decision.

    `instrument` is the drawing of its decision. `of_phone` marks what is asked of one phone alone.
    `entry` is a new entry, where the ask is a list or may be left out altogether.
    """

    name: str
    label: str
    decision: str
    instrument: str
    of_phone: bool
    default: Any
    entry: Any
    fields: list[EditableField]


def limit_fields(decision: Plan) -> dict[str, LimitFields]:
    """By limit id, what of the sheet it rests on; limits of the device have nothing to change."""
    brief = decision.brief
    limits = decision.search.limits
    return {limit.id: _behind(brief, limit) for limit in limits if limit.kind.edited_by}


def _behind(brief: Brief, limit: Limit) -> LimitFields:
    kind = limit.kind
    fields = [
        _edited(brief, entry, limit.index)
        for entry in kind.edited_by
        if entry.when is None or entry.when(brief, limit.index)
    ]
    dropped = None if kind.dropped is None else changes(brief, kind.dropped(brief, limit.index))
    return LimitFields(fields=fields, dropped=dropped)


def _edited(brief: Brief, field: EditedField, index: int) -> EditableField:
    path: list[str | int] = [field.ask.name]
    hint, value, default = field.ask.kind, brief[field.ask], _begun_with(field.ask)
    if isinstance(value, tuple):
        path.append(index)
        value, hint = value[index], _inner(hint)
    hint = _without_none(hint)
    for key in field.keys:
        path.append(key)
        hint = hints_of(_plain_type(hint))[key]
        value, default = _in_force(value, key), _in_force(default, key)
    if field.value is not None:
        value = field.value(brief, index)
    return _field(path, hint, value, default=default)


def _in_force(value: Any, key: str) -> Any:
    return value.in_force(key) if hasattr(value, "in_force") else getattr(value, key, None)


def _begun_with(ask: Ask[Any]) -> Any:
    """What an ask begins with on a new sheet, or when it is asked for after all."""
    return ask.on_a_new_sheet if ask.entry is None else ask.entry


def _field(path: list[str | int], hint: Any, value: Any, *, default: Any = None) -> EditableField:
    quantity, choices = mark_of(hint, Quantity), mark_of(hint, Choices)
    # What may be a word or a number is edited by what it is now.
    by_number = quantity is not None and (choices is None or not isinstance(value, str))
    marked = quantity if by_number else choices
    return EditableField(
        path=path,
        label=(marked.label if marked else "") or str(path[-1]),
        unit=quantity.unit if quantity else "",
        value=value if isinstance(value, float | int | str | bool) else None,
        default=default if isinstance(default, float | int | str | bool) else None,
        low=quantity.low if quantity else None,
        high=quantity.high if quantity else None,
        usual=quantity.usual if quantity else None,
        whole=_is_whole(hint),
        choices=[Choice(value=value, text=text) for value, text in choices.words.items()]
        if choices and not by_number
        else None,
    )


def ask_views() -> list[AskView]:
    """Every ask there is, in the decisions' order."""
    return [
        AskView(
            name=ask.name,
            label=ask.label,
            decision=decision.id,
            instrument=decision.instrument,
            of_phone=ask.of_phone,
            default=plain(ask.on_a_new_sheet),
            entry=None if ask.entry is None else plain(ask.entry),
            fields=list(_fields_of(ask)),
        )
        for decision in decisions.DECISIONS
        for ask in decision.asks
    ]


def _fields_of(ask: Ask[Any]) -> Iterator[EditableField]:
    hint, default = _without_none(_inner(ask.kind)), _begun_with(ask)
    kind = _plain_type(hint)
    if dataclasses.is_dataclass(kind):
        yield from _parts([ask.name], kind, default)
    else:
        yield _field([ask.name], ask.kind, default, default=default)


def _parts(path: list[str | int], kind: Any, default: Any) -> Iterator[EditableField]:
    for name, hint in hints_of(kind).items():
        value = default.in_force(name) if hasattr(default, "in_force") else None
        inner = _plain_type(_without_none(hint))
        if dataclasses.is_dataclass(inner):
            yield from _parts([*path, name], inner, value)
        else:
            yield _field([*path, name], hint, value, default=value)


def _inner(hint: Any) -> Any:
    """The type of a list's entries; anything else as it is."""
    base = get_args(hint)[0] if get_origin(hint) is Annotated else hint
    return get_args(base)[0] if get_origin(base) is tuple else hint


def _without_none(hint: Any) -> Any:
    parts = [part for part in get_args(hint) if part is not type(None)]
    optional = type(None) in get_args(hint)
    return parts[0] if optional and len(parts) == 1 else hint


def _plain_type(hint: Any) -> Any:
    return get_args(hint)[0] if get_origin(hint) is Annotated else hint


def _is_whole(hint: Any) -> bool:
    return _plain_type(_without_none(hint)) is int
