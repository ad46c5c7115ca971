"""What the routes of measurements take and answer."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from oxlen.formats.strict import Slug, Strict
from oxlen.phones.measuring.measurement import Question

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


class SeriesView(BaseModel):
    """Points of a plot, or a line through them."""

    name: str
    x: list[float]
    y: list[float]
    is_line: bool


class PlotView(BaseModel):
    """What is drawn of a result; logarithmic axes are told as such."""

    x_label: str
    y_label: str
    series: list[SeriesView]
    x_is_log: bool
    y_is_log: bool


class ReadPictureView(BaseModel):
    """A picture that was read, and what of it."""

    id: int
    name: str
    read: str


class FoundFigureView(BaseModel):
    """A figure found, beside the one kept now."""

    path: str
    name: str
    now: str | None
    found: str
    plus_minus: str


class MeasurementView(BaseModel):
    """A measurement as it stands: its pictures, its result or what is missing, how it ended."""

    id: int
    phone: str
    kind: str
    lens: str
    mode: str
    state: str
    given: dict[str, float]
    begun_at: str
    ended_at: str | None
    pictures: list[ReadPictureView]
    missing: str | None
    words: str | None
    doubts: list[str]
    figures: list[FoundFigureView]
    plot: PlotView | None


class AddedPicture(BaseModel):
    """A picture that was read; whether it is new here, and how many there are now."""

    is_new: bool
    count: int
