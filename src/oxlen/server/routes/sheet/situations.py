"""Situations a sheet may begin with, and the sheet that a few answers make."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from oxlen.formats.sheet.situations import SituationChoice, SituationQuestion, sheet_of, situation
from oxlen.formats.sheet.situations import situations as shipped
from oxlen.formats.strict import Slug, Strict
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import SheetView, new_sheet
from oxlen.store.outings import newest_outing_id

router = APIRouter(prefix="/api", tags=["situations"], dependencies=[FOR_PHONES])


class ChoiceView(BaseModel):
    """An answer and its words."""

    id: str
    text: str


class QuestionView(BaseModel):
    """A question with its answers; `default` where nobody gives one."""

    id: str
    text: str
    default: str
    choices: list[ChoiceView]


class SituationView(BaseModel):
    """A picture people have in their head, with the two to four questions that decide it."""

    id: str
    name: str
    scene: str
    questions: list[QuestionView]


class Begun(Strict):
    """A situation with answers by question; the phone it will be shot on, else the one in use."""

    situation: Slug
    answers: Annotated[dict[str, str], Field(max_length=8)] = {}  # noqa: RUF012  copied by Pydantic
    phone: Annotated[str, Field(max_length=60)] | None = None


@router.get("/situations")
def situations() -> list[SituationView]:
    """Situations in the order they are shown."""
    return [
        SituationView(
            id=one.id,
            name=one.name,
            scene=one.scene,
            questions=[_question(question) for question in one.questions],
        )
        for one in shipped()
    ]


@router.post("/outings/{outing_id}/situations", status_code=201)
def begin_sheet(outing_id: RowId, begun: Begun, context: Shared) -> SheetView:
    """Start a sheet in an outing from a situation and its answers."""
    body = sheet_of(
        situation(begun.situation),
        begun.answers,
        phone=begun.phone or context.usual_phone_id(),
        filters=context.filters_at_hand(),
    )
    return new_sheet(outing_id, body, context)


@router.post("/situations", status_code=201)
def begin_first_sheet(begun: Begun, context: Shared) -> SheetView:
    """Start a sheet from a situation in the newest outing, or in a first one."""
    with context.library.writer() as connection:
        outing_id = newest_outing_id(connection, now=context.now())
    return begin_sheet(outing_id, begun, context)


def _question(question: SituationQuestion) -> QuestionView:
    choices = [_choice(choice) for choice in question.choices]
    return QuestionView(
        id=question.id, text=question.text, default=question.default, choices=choices
    )


def _choice(choice: SituationChoice) -> ChoiceView:
    return ChoiceView(id=choice.id, text=choice.text)
