"""A sheet as it stands in a list."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.errors import UnreadableSheet
from oxlen.formats.sheet_file import SheetState
from oxlen.formats.sheet_upgrades import read_sheet
from oxlen.store.sheets import Sheet


class SheetSummary(BaseModel):
    """A sheet in a list; `trouble` says why one cannot be opened."""

    id: int
    title: str
    state: SheetState
    picture: str | None
    changed_at: str
    deleted_at: str | None
    trouble: str | None = None


def summary_of(sheet: Sheet) -> SheetSummary:
    """A sheet's summary; one that cannot be read is listed with its trouble."""
    listed = SheetSummary(
        id=sheet.id,
        title=f"Sheet {sheet.id}",
        state="planned",
        picture=None,
        changed_at=sheet.changed_at,
        deleted_at=sheet.deleted_at,
    )
    try:
        body = read_sheet(sheet.body)
    except UnreadableSheet as error:
        return listed.model_copy(update={"trouble": error.message})
    told = {"title": body.title, "state": body.state, "picture": body.picture}
    return listed.model_copy(update=told)
