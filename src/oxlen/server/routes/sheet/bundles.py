"""Slips saved with all they rest on, and why a slip is another than it was."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from pydantic import BaseModel

import oxlen
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.decisions.plan import plan
from oxlen.core.decisions.why_changed import why_changed
from oxlen.core.errors import BadInput
from oxlen.core.labels import steps_label, stops_label
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.plan.bundle import BundleFile, brief_file
from oxlen.formats.plan.writing import plan_file
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import MOST_ID, Strict, Title
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.store.bundles import KeptBundle, add_bundle, bundle, bundles_of, delete_bundle
from oxlen.store.sheets import earlier_body, sheet

router = APIRouter(prefix="/api", tags=["bundles"], dependencies=[FOR_PHONES])


class NewBundle(Strict):
    """A slip to be saved under a name."""

    name: Title


class BundleView(BaseModel):
    """A saved slip in a list, and whether it is the same when decided again."""

    id: int
    name: str
    made_at: str
    oxlen: str
    slip: str
    comes_out_same: bool


class WhyView(BaseModel):
    """Why the slip is another: in a sentence, by lines, by causes with what each moves alone."""

    sentence: str
    lines: list[str]
    causes: list[str]
    since: str


@router.get("/sheets/{sheet_id}/bundles")
def bundles(sheet_id: RowId, context: Shared) -> list[BundleView]:
    """Saved slips of a sheet, the newest first, each decided again."""
    with context.library.reader() as connection:
        sheet(connection, sheet_id)
        kept = bundles_of(connection, sheet_id)
    return [_view(kept_bundle) for kept_bundle in kept]


@router.post("/sheets/{sheet_id}/bundles", status_code=201)
def save_bundle(sheet_id: RowId, new_bundle: NewBundle, context: Shared) -> list[BundleView]:
    """Save the sheet's slip with all that it rests on. 422 for a sheet without light."""
    with context.library.reader() as connection:
        body = read_sheet(sheet(connection, sheet_id).body)
    brief, profile = _brief(context, body)
    file = BundleFile(
        oxlen=oxlen.__version__,
        title=body.title,
        made_at=context.now(),
        brief=brief_file(brief, profile),
        plan=plan_file(plan(brief)),
    )
    with context.library.writer() as connection:
        text = file.model_dump_json()
        add_bundle(connection, sheet_id, name=new_bundle.name, bundle=text, now=context.now())
    return bundles(sheet_id, context)


@router.delete("/bundles/{bundle_id}", status_code=204)
def let_bundle_go(bundle_id: RowId, context: Shared) -> None:
    """Delete a saved slip."""
    with context.library.writer() as connection:
        delete_bundle(connection, bundle_id)


@router.get("/bundles/{bundle_id}/file", response_class=Response)
def bundle_as_file(bundle_id: RowId, context: Shared) -> Response:
    """A saved slip as a file: what was read and asked, the phone's figures, the plan."""
    with context.library.reader() as connection:
        kept = bundle(connection, bundle_id)
    headers = {"content-disposition": f'attachment; filename="slip-{bundle_id}.oxlen-bundle.json"'}
    return Response(kept.bundle, media_type="application/json", headers=headers)


@router.get("/sheets/{sheet_id}/why")
def why(
    sheet_id: RowId,
    context: Shared,
    saved: Annotated[int | None, Query(ge=1, le=MOST_ID, alias="bundle")] = None,
) -> WhyView:
    """Why the sheet's slip is another than a saved one, or than before the last edit."""
    with context.library.reader() as connection:
        current = sheet(connection, sheet_id)
        kept = None if saved is None else bundle(connection, saved)
        was = earlier_body(connection, sheet_id)
    now, _ = _brief(context, read_sheet(current.body))
    if kept is not None:
        before, since = _read(kept).asked_brief(), f"since “{kept.name}” was saved"
    elif was is not None:
        before, _ = _brief(context, read_sheet(was))
        since = f"by the last edit, {current.label}"
    else:
        words = "This sheet has not been changed yet."
        return WhyView(sentence=words, lines=[], causes=[], since="")
    found = why_changed(before, now)
    causes = [
        f"{cause.words}: {stops_label(cause.moved_stops)} alone"
        for cause in found.causes
        if cause.moved_stops < 100
    ]
    return WhyView(sentence=found.sentence, lines=list(found.lines), causes=causes, since=since)


def _view(kept: KeptBundle) -> BundleView:
    file = _read(kept)
    slip, again = file.plan.slip, plan(file.asked_brief()).slip
    same = (slip is None) == (again is None)
    if slip is not None and again is not None:
        same = (slip.iso, slip.shutter_s, slip.lens) == (again.iso, again.shutter_s, again.lens)
    return BundleView(
        id=kept.id,
        name=kept.name,
        made_at=kept.made_at,
        oxlen=file.oxlen,
        slip="no slip" if slip is None else steps_label(slip.iso, slip.shutter_s),
        comes_out_same=same,
    )


def _read(kept: KeptBundle) -> BundleFile:
    return BundleFile.model_validate_json(kept.bundle)


def _brief(context: Context, body: SheetBody) -> tuple[Brief, PhoneProfile]:
    briefed = context.briefed(body)
    if not briefed.brief.readings:
        raise BadInput("Add a reading first.", "readings")
    return briefed.brief, briefed.profile
