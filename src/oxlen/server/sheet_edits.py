"""Fields of a sheet kept as an edit of it."""

from __future__ import annotations

from pydantic import ValidationError

from oxlen.core.errors import BadInput
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.server.context import Context
from oxlen.store.sheets import Sheet, edit_sheet
from oxlen.views.patch import Patch


def keep_patch(context: Context, kept: Sheet, patch: Patch, *, label: str) -> None:
    """Keep fields of a sheet's body, as an edit that can be undone."""
    body = read_sheet(kept.body).model_dump(mode="json")
    try:
        changed = SheetBody.model_validate({**body, **patch})
    except ValidationError as error:
        where = ".".join(str(part) for part in error.errors()[0]["loc"])
        raise BadInput(f"{label}: it has more {where} than a sheet can hold.", where) from error
    with context.library.writer() as connection:
        edit_sheet(
            connection,
            kept.id,
            body=changed.model_dump_json(),
            label=label,
            from_version=kept.version,
            now=context.now(),
        )
