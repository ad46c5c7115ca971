"""Asks as they are written: Pydantic models made from the dataclasses of the core.

A decision's dataclasses say their ranges, choices and defaults once, in the core; the models of the
files, with their schemas, follow from them.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from functools import cache
from types import NoneType, UnionType
from typing import Annotated, Any, ClassVar, Self, Union, get_args, get_origin

from pydantic import AliasChoices, ConfigDict, Field, create_model, model_validator
from pydantic.config import JsonDict

from oxlen.core.ask import Ask, Formerly, Quantity, Several, Text, hints_of, mark_of, plain
from oxlen.formats.strict import Strict


class AskFile(Strict):
    """Base of the models made from an ask's dataclasses."""

    model_config = ConfigDict(frozen=True)
    asked_as: ClassVar[type]

    def __deepcopy__(self, _: dict[int, Any] | None = None) -> Self:
        """Itself, for it cannot be changed: a default is copied for every sheet and brief."""
        return self

    @model_validator(mode="after")
    def _holds(self) -> Self:
        # What the core refuses is refused here, where the field can be named.
        _ = self.as_asked
        return self

    @property
    def as_asked(self) -> Any:
        """The dataclass it is written for."""
        names = type(self).model_fields
        return self.asked_as(**{name: value_of(getattr(self, name)) for name in names})


def value_of(written: Any) -> Any:
    """What a written value becomes in the core: dataclasses for models, tuples for lists."""
    if isinstance(written, AskFile):
        return written.as_asked
    if isinstance(written, list):
        return tuple(value_of(entry) for entry in written)
    return written


@cache
def model_of(kind: Any) -> type[AskFile]:
    """The model of a dataclass: one field each, with its range, choices and default."""
    fields: dict[str, Any] = {}
    for entry in dataclasses.fields(kind):
        default = ... if entry.default is dataclasses.MISSING else _default(entry.default)
        hint = hints_of(kind)[entry.name]
        formerly = mark_of(hint, Formerly)
        written = written_type(hint)
        if formerly is not None:
            written = Annotated[written, _either_name(entry.name, formerly.name)]
        fields[entry.name] = (written, default)
    model = create_model(
        f"{kind.__name__}File",
        __base__=AskFile,
        __doc__=(kind.__doc__ or "").split("\n")[0],
        **fields,
    )
    model.asked_as = kind
    return model


def written_type(hint: Any) -> Any:
    """The type a value is written as: lists for tuples, models for dataclasses."""
    origin = get_origin(hint)
    if origin is Annotated:
        base, *marks = get_args(hint)
        written = written_type(base)
        for mark in marks:
            written = _constrained(written, mark)
        return written
    if origin in (Union, UnionType):
        return Union[tuple(written_type(part) for part in get_args(hint))]  # noqa: UP007
    if origin is tuple:
        return list[written_type(get_args(hint)[0])]  # type: ignore[misc]
    if dataclasses.is_dataclass(hint):
        kind: Any = hint
        return model_of(kind)
    return NoneType if hint is None else hint


def _constrained(written: Any, mark: Any) -> Any:
    if isinstance(mark, Quantity):
        extra: JsonDict = {"unit": mark.unit} if mark.unit else {}
        limits = Field(ge=mark.low, le=mark.high, allow_inf_nan=False, json_schema_extra=extra)
        return Annotated[written, limits]
    if isinstance(mark, Text):
        return Annotated[written, Field(max_length=mark.longest)]
    if isinstance(mark, Several):
        return Annotated[written, Field(max_length=mark.most)]
    return written


def asked_fields(asks: tuple[Ask[Any], ...], *, on_a_sheet: bool) -> dict[str, Any]:
    """Fields of a model, one for each ask, with the default of a brief or of a new sheet."""
    return {ask.name: _field(ask, on_a_sheet=on_a_sheet) for ask in asks}


def _field(ask: Ask[Any], *, on_a_sheet: bool) -> tuple[Any, Any]:
    default = ask.on_a_new_sheet if on_a_sheet else ask.default
    written = written_type(ask.kind)
    if ask.formerly is not None:
        written = Annotated[written, _either_name(ask.name, ask.formerly)]
    return written, _default(default, ask.label)


def _either_name(name: str, formerly: str) -> Any:
    """A field that is read by its former name too."""
    return Field(validation_alias=AliasChoices(name, formerly))


def _default(value: Any, label: str | None = None) -> Any:
    """A default as Pydantic takes it, which copies what could be changed."""
    is_ask, kind = dataclasses.is_dataclass(value), value.__class__
    written = model_of(kind)(**plain(value)) if is_ask else plain(value)
    return Field(default=written, description=label)


def asked_by(model: Any, asks: tuple[Ask[Any], ...]) -> Mapping[str, Any]:
    """What a model of a brief or a sheet asks for, by the ask's name."""
    return {ask.name: value_of(getattr(model, ask.name)) for ask in asks}
