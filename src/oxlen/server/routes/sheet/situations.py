"""Situations a sheet may begin with, and the sheet that a few answers make."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from oxlen.core.motion.mains import MainsHz, mains_hz
from oxlen.formats.sheet.situations import (
    NUMBERS,
    SituationNumber,
    SituationQuestion,
    SituationWhen,
    Surrounding,
    sheet_of,
    situation,
    usual_numbers,
)
from oxlen.formats.sheet.situations import situations as shipped
from oxlen.formats.strict import MOST_ID, Slug, Strict
from oxlen.server.context import Context, Mark, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import SheetView, keep_new
from oxlen.store.outings import newest_outing_id, outing

router = APIRouter(prefix="/api", tags=["situations"], dependencies=[FOR_PHONES])


class ChoiceView(BaseModel):
    """An answer and its words, and what the question's numbers then usually are."""

    id: str
    text: str
    numbers: dict[str, float]


class NumberView(BaseModel):
    """A number that goes with a question, in its unit."""

    id: str
    text: str
    unit: str
    low: float
    high: float


class QuestionView(BaseModel):
    """A question with its answers; `default` where nobody gives one."""

    id: str
    text: str
    default: str
    when: SituationWhen | None
    numbers: list[NumberView]
    choices: list[ChoiceView]


class SituationView(BaseModel):
    """A picture people have in their head, with the two to five questions that decide it.

    With `asks_mains` the mains frequency matters, and the place does not tell it. `leads_to` is a
    page that plans it more closely.
    """

    id: str
    name: str
    scene: str
    asks_mains: bool
    leads_to: Literal["nights"] | None
    questions: list[QuestionView]


class Begun(Strict):
    """A situation with answers by question; the phone it will be shot on, else the one in use.

    `numbers` are those typed, by id in their units. `mains_hz` counts where the place tells none.
    """

    situation: Slug
    answers: Annotated[dict[str, str], Field(max_length=8)] = {}  # noqa: RUF012  copied by Pydantic
    numbers: Annotated[dict[str, float], Field(max_length=4)] = {}  # noqa: RUF012
    phone: Annotated[str, Field(max_length=60)] | None = None
    mains_hz: MainsHz = 50


OutingAsked = Annotated[int | None, Query(ge=1, le=MOST_ID)]


@router.get("/situations")
def situations(context: Shared, outing_id: OutingAsked = None) -> list[SituationView]:
    """Situations in the order they are shown, for a picture of an outing or of none yet."""
    is_known = _mains_at(context, outing_id) is not None
    return [
        SituationView(
            id=known.id,
            name=known.name,
            scene=known.scene,
            leads_to=known.leads_to,
            asks_mains=known.has_lamps and not is_known,
            questions=[_question(question) for question in known.questions],
        )
        for known in shipped()
    ]


@router.post("/outings/{outing_id}/situations", status_code=201)
def begin_sheet(outing_id: RowId, begun: Begun, context: Shared, *, mark: Mark = None) -> SheetView:
    """Start a sheet in an outing from a situation and its answers; once under a mark."""
    body = sheet_of(
        situation(begun.situation),
        begun.answers,
        phone=begun.phone or context.usual_phone_id(),
        numbers=begun.numbers,
        there=Surrounding(
            context.filters_at_hand(), _mains_at(context, outing_id) or begun.mains_hz
        ),
    )
    return keep_new(outing_id, [body], context, mark=mark)[-1]


@router.post("/situations", status_code=201)
def begin_first_sheet(begun: Begun, context: Shared, *, mark: Mark = None) -> SheetView:
    """Start a sheet from a situation in the newest outing, or in a first one."""
    with context.library.writer() as connection:
        outing_id = newest_outing_id(connection, now=context.now())
    return begin_sheet(outing_id, begun, context, mark=mark)


def _mains_at(context: Context, outing_id: int | None) -> MainsHz | None:
    if outing_id is None:
        return None
    with context.library.reader() as connection:
        return mains_hz(outing(connection, outing_id).time_zone)


def _question(question: SituationQuestion) -> QuestionView:
    return QuestionView(
        id=question.id,
        text=question.text,
        default=question.default,
        when=question.when,
        numbers=[_number(NUMBERS[name]) for name in question.numbers],
        choices=[
            ChoiceView(id=choice.id, text=choice.text, numbers=usual_numbers(question, choice))
            for choice in question.choices
        ],
    )


def _number(number: SituationNumber) -> NumberView:
    return NumberView(
        id=number.id, text=number.text, unit=number.unit, low=number.low, high=number.high
    )
