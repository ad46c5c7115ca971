"""A phone of one's own out of its pictures: facts of each file, then the profile they tell."""

from __future__ import annotations

import dataclasses
from typing import Annotated

from fastapi import APIRouter, Request
from pydantic import Field, TypeAdapter, ValidationError

from oxlen.core.decisions.lens.ask import LENS, MODE
from oxlen.core.errors import BadInput
from oxlen.core.kit.computed_mode import ComputedKind
from oxlen.formats.phone.answers import PhoneAnswers
from oxlen.formats.phone.reported_facts import ReportedFacts
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.refusal import refusal
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.formats.strict import Name, Slug, Strict
from oxlen.phones.answers import answered
from oxlen.phones.file_facts import FileFacts
from oxlen.phones.from_files import phone_from
from oxlen.phones.own_modes import with_own_mode
from oxlen.server.context import RowId, Shared
from oxlen.server.own_phone import keep_own
from oxlen.server.permits import FOR_KIT
from oxlen.server.routes.kit.kit import KitPhone, kit_phone
from oxlen.server.routes.pictures import STREAM, FileName, plain_name, stream_to
from oxlen.server.routes.sheet.sheets import SheetView, view
from oxlen.server.waiting import while_asked_for
from oxlen.store.kit.phones import keep_profile, kept_profiles
from oxlen.store.pictures import kept_picture
from oxlen.store.sheets import edit_sheet, sheet
from oxlen.workers.worker_pool import outcome
from oxlen.workers.worker_tasks import phone_facts

FACTS = TypeAdapter(FileFacts)
router = APIRouter(prefix="/api", tags=["kit"], dependencies=[FOR_KIT])
MOST_FILES = 60


class PhoneAsked(Strict):
    """The facts of a phone's pictures, and the four questions as far as they were answered."""

    files: Annotated[list[ReportedFacts], Field(min_length=1, max_length=MOST_FILES)]
    answers: PhoneAnswers = PhoneAnswers()


class OwnMode(Strict):
    """A mode that the phone computes by itself, as its menu names it, on one of its lenses."""

    name: Name
    kind: ComputedKind
    lens: Slug


class PhoneMade(Strict):
    """The profile that the pictures tell, and what was left out or has to be assumed."""

    phone: KitPhone
    notes: list[str]


@router.post("/kit/facts", openapi_extra=STREAM)
async def facts(request: Request, context: Shared, *, name: FileName) -> ReportedFacts:
    """What a picture tells of its phone; the body is the file itself, and it is not kept."""
    with context.library.incoming() as incoming:
        await stream_to(incoming, request, plain_name(name))
        job = context.pool.begin("intake", phone_facts, incoming, plain_name(name))
        found = await while_asked_for(request, job)
    try:
        return ReportedFacts(**dataclasses.asdict(found))
    except ValidationError as error:
        raise refusal(error, f"{plain_name(name)} contains impossible values") from None


@router.post("/kit/phone-from")
def phone_from_facts(asked: PhoneAsked, context: Shared) -> PhoneMade:
    """The profile of the phone that took these pictures; nothing is kept yet."""
    return _made(asked, context)


@router.post("/kit/phones", status_code=201)
def keep_made_phone(asked: PhoneAsked, context: Shared) -> PhoneMade:
    """Keep the phone that took these pictures as one's own."""
    made = _made(asked, context)
    with context.library.writer() as connection:
        taken = {*kept_profiles(connection), *shipped_profiles()}
        free = _free_id(made.phone.profile.id, taken)
        profile = made.phone.profile.model_copy(update={"id": free})
        keep_profile(connection, profile, context.now())
    return PhoneMade(phone=kit_phone(profile, today=context.clock().date()), notes=made.notes)


@router.post("/kit/phones/{phone_id}/computed-modes", status_code=201)
def name_own_mode(phone_id: Slug, asked: OwnMode, context: Shared) -> KitPhone:
    """Name a mode that the phone computes by itself; its frames and gaps are then measured."""
    changed = with_own_mode(
        context.plain_phone(phone_id), asked.name, asked.kind, lens_id=asked.lens
    )
    with context.library.writer() as connection:
        profile = keep_own(connection, changed, context.now())
    return kit_phone(profile, today=context.clock().date())


@router.post("/sheets/{sheet_id}/phone", status_code=201)
def keep_phone_of_sheet(sheet_id: RowId, context: Shared) -> SheetView:
    """Make the phone that took a sheet's picture one's own, and the sheet's phone with it."""
    with context.library.reader() as connection:
        kept = sheet(connection, sheet_id)
        body = read_sheet(kept.body)
        if body.picture is None:
            raise BadInput("This sheet has no picture.", "picture")
        name = kept_picture(connection, body.picture).file_name
    job = context.pool.begin(
        "intake", phone_facts, context.library.picture_path(body.picture), name
    )
    now = context.now()
    profile = phone_from([outcome(job)], date=now[:10]).profile
    with context.library.writer() as connection:
        taken = {*kept_profiles(connection), *shipped_profiles()}
        profile = profile.model_copy(update={"id": _free_id(profile.id, taken)})
        keep_profile(connection, profile, now)
        changed = body.model_copy(update={"phone": profile.id, LENS.name: None, MODE.name: None})
        edit_sheet(
            connection,
            sheet_id,
            body=changed.model_dump_json(),
            label="phone",
            from_version=kept.version,
            now=now,
        )
    return view(context, sheet_id)


def _made(asked: PhoneAsked, context: Shared) -> PhoneMade:
    today = context.now()[:10]
    found = phone_from(
        [FACTS.validate_python(file.model_dump()) for file in asked.files], date=today
    )
    profile = answered(found.profile, asked.answers, date=today)
    phone = kit_phone(profile, today=context.clock().date())
    return PhoneMade(phone=phone, notes=list(found.notes))


def _free_id(wanted: str, taken: set[str]) -> str:
    if wanted not in taken:
        return wanted
    for number in range(2, 1000):
        if (other := f"{wanted[:36]}-{number}") not in taken:
            return other
    raise BadInput("The kit has too many phones of that name.", "name")
