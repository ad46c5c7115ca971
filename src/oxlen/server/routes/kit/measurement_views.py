"""What the routes of measurements take and answer."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from oxlen.core.measures.measured import Plot
from oxlen.formats.strict import Slug, Strict
from oxlen.phones.measuring.measurement import Question
from oxlen.views.measuring import FoundFigure, ReadPicture

QuestionId = Annotated[str, Field(pattern=r"^[a-z0-9_]{1,40}$")]


class MeasurementKind(BaseModel):
    """A measurement there is: what it takes, why, and what to do."""

    id: str
    name: str
    minutes: int
    why: str
    steps: list[str]
    sharpens: list[str]
    takes_pictures: bool
    of_computed: bool
    questions: list[Question]


class BeginMeasurement(Strict):
    """What to measure."""

    kind: Slug
    lens: Slug
    mode: Slug


class GivenNumbers(Strict):
    """What is asked beside the pictures, by the question's id."""

    given: Annotated[
        dict[QuestionId, Annotated[float, Field(ge=-1e6, le=1e6)]], Field(max_length=8)
    ]


class MeasurementView(BaseModel):
    """A measurement as it is now: its pictures, its result or what is missing, how it ended."""

    id: int
    phone: str
    kind: str
    lens: str
    mode: str
    state: str
    given: dict[str, float]
    begun_at: str
    ended_at: str | None
    pictures: list[ReadPicture]
    missing: str | None
    words: str | None
    doubts: list[str]
    figures: list[FoundFigure]
    plot: Plot | None


class AddedPicture(BaseModel):
    """A picture that was read; whether it is new here, and how many there are now."""

    is_new: bool
    count: int
