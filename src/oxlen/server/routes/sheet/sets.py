"""Sets: one slip locked over several sheets."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import AfterValidator, BaseModel, Field, WithJsonSchema

from oxlen.core import decisions
from oxlen.core.errors import BadInput
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Id, Strict
from oxlen.server.context import RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.server.routes.sheet.sheets import view
from oxlen.store.sheets import edit_sheet, sheet
from oxlen.views.same_slip import with_same_slip

router = APIRouter(prefix="/api", tags=["sets"], dependencies=[FOR_PHONES])
SheetId = Id
PARTS = [part.id for part in decisions.series_parts()]


def _known(part: str) -> str:
    if part not in PARTS:
        raise ValueError(f"a part is one of {', '.join(PARTS)}")
    return part


Locked = Annotated[str, AfterValidator(_known), WithJsonSchema({"type": "string", "enum": PARTS})]


class SetOf(Strict):
    """The sheets that take the slip, and what is locked; the rest may differ."""

    sheets: Annotated[list[SheetId], Field(min_length=1, max_length=100)]
    locked: Annotated[list[Locked], Field(min_length=1, max_length=len(PARTS))] = PARTS


class SetDone(BaseModel):
    """Which sheets have taken the slip."""

    sheets: list[int]


@router.post("/sheets/{sheet_id}/set")
def use_slip_for(sheet_id: RowId, of: SetOf, context: Shared) -> SetDone:
    """Lock this sheet's slip over others, as one edit of each; each can be undone by itself."""
    first = view(context, sheet_id)
    plan = first.answer.plan
    if plan is None or plan.slip is None:
        raise BadInput("This sheet has no slip yet.", "sheet")
    others = [other for other in dict.fromkeys(of.sheets) if other != sheet_id]
    with context.library.writer() as connection:
        for other in others:
            kept = sheet(connection, other)
            body = with_same_slip(
                read_sheet(kept.body), first.body, slip=plan.slip, locked=of.locked
            )
            edit_sheet(
                connection,
                other,
                body=body.model_dump_json(),
                label=f"the slip of “{first.body.title[:50]}”",
                from_version=kept.version,
                now=context.now(),
            )
    return SetDone(sheets=others)
