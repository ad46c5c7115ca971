"""Situations: pictures people have in their head, each with the few questions that decide it."""

from __future__ import annotations

import copy
import json
from collections.abc import Mapping, Sequence
from functools import cache
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field, TypeAdapter

from oxlen.core.errors import BadInput, NotFound
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.strict import Name, Slug, Strict

SHIPPED = Path(__file__).parents[2] / "data" / "situations.json"
PAN_SHARE = 0.06
Fields = dict[str, Any]
PLACE, ROLE, PAN, KIT_FILTER = "_place", "_role", "_pan", "_kit_filter"
"""What answers may set besides fields of a sheet: the reading's tone and role, a pan, own glass."""


class SituationChoice(Strict):
    """An answer: its words, and the fields of a sheet it sets."""

    id: Slug
    text: Annotated[str, Field(max_length=60)]
    set: Fields


class SituationQuestion(Strict):
    """A question that decides a picture; `default` is the answer where nobody gives one."""

    id: Slug
    text: Annotated[str, Field(max_length=80)]
    default: Slug
    choices: Annotated[list[SituationChoice], Field(min_length=2, max_length=8)]

    def chosen(self, choice_id: str | None) -> SituationChoice:
        """The choice of that id, the default for None; BadInput names what there is."""
        wanted = choice_id or self.default
        for choice in self.choices:
            if choice.id == wanted:
                return choice
        known = ", ".join(choice.id for choice in self.choices)
        raise BadInput(f"{self.text} Unknown answer {wanted}. Use one of {known}.", self.id)


class Situation(Strict):
    """A picture in one's head: its name, the scene that shows it, its questions."""

    id: Slug
    name: Name
    scene: Slug
    base: Fields
    questions: Annotated[list[SituationQuestion], Field(min_length=2, max_length=4)]


@cache
def situations() -> tuple[Situation, ...]:
    """The situations that ship with Oxlen, in the order they are shown."""
    text = SHIPPED.read_text("utf-8")
    return tuple(TypeAdapter(list[Situation]).validate_python(json.loads(text)))


def situation(situation_id: str) -> Situation:
    """The situation of that id; NotFound says which there are."""
    for one in situations():
        if one.id == situation_id:
            return one
    known = ", ".join(one.id for one in situations())
    words = f"Unknown situation {situation_id}. Use one of {known}."
    raise NotFound(words, situation=situation_id)


def sheet_of(
    of: Situation, answers: Mapping[str, str], *, phone: str, filters: Sequence[LensFilter] = ()
) -> SheetBody:
    """The sheet a situation and its answers amount to; what is not answered has its default.

    BadInput for a question or an answer it does not have.
    """
    known = {question.id for question in of.questions}
    for name in answers:
        if name not in known:
            raise BadInput(f"“{of.name}” has no question named {name}.", name)
    said = copy.deepcopy(of.base)
    for question in of.questions:
        _merge(said, copy.deepcopy(question.chosen(answers.get(question.id)).set))
    return SheetBody.model_validate({"phone": phone, **_settled(said, filters)})


def _merge(said: Fields, more: Fields) -> None:
    """Fields laid over fields: objects go together, anything else takes the place of what was."""
    for name, value in more.items():
        if isinstance(value, dict) and isinstance(said.get(name), dict):
            _merge(said[name], value)
        else:
            said[name] = value


def _settled(said: Fields, filters: Sequence[LensFilter]) -> Fields:
    """The marks of answers worked into fields of a sheet."""
    place, role = said.pop(PLACE, None), said.pop(ROLE, None)
    if said.pop(PAN, False):
        said["motion"] = [{**one, "pan": PAN_SHARE} for one in said.get("motion", [])]
        said["looks"] = [{"look": "pan", "subject": one["subject"]} for one in said["motion"]]
    if said.pop(KIT_FILTER, False) and filters:
        darkest = max(filters, key=lambda one: one.factor)
        said["glass"] = [{"name": darkest.name, "factor": darkest.factor}]
    for reading in said.get("readings", []):
        reading.update({key: v for key, v in (("place", place), ("role", role)) if v is not None})
    return said
