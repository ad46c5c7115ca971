"""Turning a failed check of a user's JSON into one sentence that names the field."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from oxlen.core.errors import BadInput

Model = TypeVar("Model", bound=BaseModel)


def parse_model(model: type[Model], data: Any, what: str) -> Model:
    """`data` as the model; BadInput names every field that is wrong, in words."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        raise refusal(error, what) from None


def refusal(error: ValidationError, what: str) -> BadInput:
    """A sentence for a validation error: the field by its path, and what is wrong with it."""
    problems = [_problem(entry["loc"], entry["type"], entry["msg"]) for entry in error.errors()]
    fields = [_path(entry["loc"]) for entry in error.errors()]
    return BadInput(f"{what}: {'; '.join(problems[:5])}.", fields[0], problems=problems)


def _problem(location: tuple[int | str, ...], kind: str, message: str) -> str:
    name = _path(location)
    if kind == "extra_forbidden":
        return f"unknown field {name}"
    if kind == "missing":
        return f"{name} is missing"
    return f"{name}: {message.removeprefix('Value error, ')}" if name else message


def _path(location: tuple[int | str, ...]) -> str:
    return ".".join(str(part) for part in location)
