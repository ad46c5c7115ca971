"""Situations: pictures people have in their head, each with the few questions that decide it."""

from __future__ import annotations

import copy
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from oxlen.core.decisions.framework.brief import KEEP_BRIGHT
from oxlen.core.errors import BadInput, NotFound
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.core.light.reading import reading_from_level
from oxlen.core.motion.mains import MainsHz
from oxlen.core.motion.presets import mover_preset
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.strict import Name, Slug, Strict

SHIPPED = Path(__file__).parents[2] / "data" / "situations.json"
PAN_SHARE = 0.06
SKY_PLUS_MINUS_STOPS, LAMP_PLUS_MINUS_STOPS = 1.0, 2.0
"""Rule of thumb: how far a sky or a lamp may be off what an answer says of it."""
Fields = dict[str, Any]
PLACE, ROLE, PAN, KIT_FILTER = "_place", "_role", "_pan", "_kit_filter"
MOVER, SKY, BRIGHTER, SPOT, MAINS = "_mover", "_sky_stops", "_brighter_stops", "_name", "_mains"
"""What answers may set besides fields of a sheet: the reading's tone and role, a pan, own filter;
what moves, a sky so many stops brighter, how much brighter the reading is and its name, mains."""


@dataclass(frozen=True)
class SituationNumber:
    """A number that belongs to a question: what moves has it as `field`, in its own unit.

    `per_unit` is what one of the unit is in that field's.
    """

    id: str
    text: str
    unit: str
    field: str
    per_unit: float
    low: float
    high: float


NUMBERS: Mapping[str, SituationNumber] = {
    number.id: number
    for number in (
        SituationNumber(
            "speed", "Speed", "km/h", field="speed_m_s", per_unit=1 / 3.6, low=0.1, high=400
        ),
        SituationNumber(
            "distance", "Distance", "m", field="distance_m", per_unit=1, low=0.2, high=5000
        ),
    )
}


class SituationChoice(Strict):
    """An answer: its words, and the fields of a sheet it sets."""

    id: Slug
    text: Annotated[str, Field(max_length=60)]
    set: Fields


class SituationWhen(Strict):
    """The answers to another question after which one is asked."""

    question: Slug
    choices: Annotated[list[Slug], Field(min_length=1, max_length=8)]


class SituationQuestion(Strict):
    """A question that decides a picture; `default` is the answer where nobody gives one.

    With `when` it is asked after some answers to another alone. `numbers` go with it.
    """

    id: Slug
    text: Annotated[str, Field(max_length=80)]
    default: Slug
    when: SituationWhen | None = None
    numbers: Annotated[list[Literal["speed", "distance"]], Field(max_length=2)] = []  # noqa: RUF012
    choices: Annotated[list[SituationChoice], Field(min_length=2, max_length=8)]

    def is_asked(self, answers: Mapping[str, str], asked: Mapping[str, SituationQuestion]) -> bool:
        """Whether it matters after the answers to others."""
        if self.when is None:
            return True
        other = asked[self.when.question]
        return answers.get(other.id, other.default) in self.when.choices

    def chosen(self, choice_id: str | None) -> SituationChoice:
        """The choice of that id, the default for None; BadInput names what there is."""
        wanted = choice_id or self.default
        for choice in self.choices:
            if choice.id == wanted:
                return choice
        known = ", ".join(choice.id for choice in self.choices)
        raise BadInput(f"{self.text} Unknown answer {wanted}. Use one of {known}.", self.id)


class Situation(Strict):
    """A picture in one's head: its name, the scene that shows it, its questions.

    `leads_to` is a page that plans it more closely, by place and date.
    """

    id: Slug
    name: Name
    scene: Slug
    base: Fields
    leads_to: Literal["nights"] | None = None
    questions: Annotated[list[SituationQuestion], Field(min_length=2, max_length=5)]

    @property
    def has_lamps(self) -> bool:
        """Whether an answer has lamps on the mains."""
        return any(MAINS in choice.set for each in self.questions for choice in each.choices)


@cache
def situations() -> tuple[Situation, ...]:
    """The situations that ship with Oxlen, in the order they are shown."""
    text = SHIPPED.read_text("utf-8")
    return tuple(TypeAdapter(list[Situation]).validate_python(json.loads(text)))


def situation(situation_id: str) -> Situation:
    """The situation of that id; NotFound says which there are."""
    for known_situation in situations():
        if known_situation.id == situation_id:
            return known_situation
    known = ", ".join(known_situation.id for known_situation in situations())
    words = f"Unknown situation {situation_id}. Use one of {known}."
    raise NotFound(words, situation=situation_id)


@dataclass(frozen=True)
class Surrounding:
    """What answers are worked in with: the kit's filters, and the mains at the place."""

    filters: Sequence[LensFilter] = ()
    mains_hz: MainsHz = 50


def sheet_of(
    of: Situation,
    answers: Mapping[str, str],
    *,
    phone: str,
    numbers: Mapping[str, float] | None = None,
    there: Surrounding = Surrounding(),
) -> SheetBody:
    """The sheet a situation and its answers amount to; what is not answered has its default.

    `numbers` are those typed, in their own units. BadInput for a question, an answer or a number it
    does not have, and for a number out of range.
    """
    asked = {question.id: question for question in of.questions}
    for name in answers:
        if name not in asked:
            raise BadInput(f"“{of.name}” has no question named {name}.", name)
    given = copy.deepcopy(of.base)
    for question in of.questions:
        if question.is_asked(answers, asked):
            _merge(given, copy.deepcopy(question.chosen(answers.get(question.id)).set))
    fields = _settled(given, there)
    _with_numbers(fields, of, numbers or {})
    return SheetBody.model_validate({"phone": phone, **fields})


def usual_numbers(question: SituationQuestion, choice: SituationChoice) -> dict[str, float]:
    """What a question's numbers usually are after an answer, in their own units."""
    subjects = [entry["subject"] for entry in choice.set.get("motion", [])]
    subject = choice.set.get(MOVER) or next(iter(subjects), None)
    if subject is None:
        return {}
    usual = mover_preset(subject)
    return {
        name: round(getattr(usual, NUMBERS[name].field) / NUMBERS[name].per_unit, 1)
        for name in question.numbers
    }


def _with_numbers(fields: Fields, of: Situation, numbers: Mapping[str, float]) -> None:
    known = {name for question in of.questions for name in question.numbers}
    for name, value in numbers.items():
        if name not in known:
            raise BadInput(f"“{of.name}” has no number named {name}.", name)
        number = NUMBERS[name]
        if not number.low <= value <= number.high:
            words = f"{number.text}: {number.low:g} to {number.high:g} {number.unit}."
            raise BadInput(words, name)
        for entry in (*fields.get("motion", []), *fields.get("looks", [])):
            entry[number.field] = value * number.per_unit


def _merge(given: Fields, more: Fields) -> None:
    """Fields laid over fields: objects go together, anything else takes the place of what was."""
    for name, value in more.items():
        if isinstance(value, dict) and isinstance(given.get(name), dict):
            _merge(given[name], value)
        else:
            given[name] = value


def _settled(given: Fields, there: Surrounding) -> Fields:
    """The marks of answers worked into fields of a sheet."""
    mover = given.pop(MOVER, None)
    if mover is not None:
        given["looks"] = [{**look, "subject": mover} for look in given.get("looks", [])]
    if given.pop(MAINS, False):
        given["flicker"] = {"mains_hz": there.mains_hz}
    if given.pop(PAN, False):
        given["motion"] = [{**motion, "pan": PAN_SHARE} for motion in given.get("motion", [])]
        given["looks"] = [
            {"look": "pan", "subject": motion["subject"]} for motion in given["motion"]
        ]
    if given.pop(KIT_FILTER, False) and there.filters:
        darkest = max(there.filters, key=lambda lens_filter: lens_filter.factor)
        given["glass"] = [{"name": darkest.name, "factor": darkest.factor}]
    return _with_light(given)


def _with_light(given: Fields) -> Fields:
    """The readings by what answers say of their tone, role and name, and of a sky."""
    marks = {key: given.pop(mark, None) for key, mark in READING_MARKS.items()}
    brighter, sky = given.pop(BRIGHTER, None), given.pop(SKY, None)
    first = next(iter(given.get("readings", [])), None)
    if first is None:
        return given
    level_ev100 = reading_from_level(first["source"]["level"]).ev100
    first.update({key: value for key, value in marks.items() if value is not None})
    if brighter is not None:
        first["source"] = _predicted(level_ev100 + brighter, LAMP_PLUS_MINUS_STOPS, "lamps")
    if sky is not None:
        first["name"] = first["name"] or "foreground"
        source = _predicted(level_ev100 + sky, SKY_PLUS_MINUS_STOPS, "a sky")
        given["readings"].append(
            {"id": "sky", "name": "sky", "role": KEEP_BRIGHT, "source": source}
        )
    return given


READING_MARKS = {"place": PLACE, "role": ROLE, "name": SPOT}


def _predicted(ev100: float, plus_minus_stops: float, what: str) -> Fields:
    return {
        "kind": "predicted",
        "ev100": ev100,
        "plus_minus_stops": plus_minus_stops,
        "why": f"as {what} of this kind usually are",
    }
