"""Lamps and clip-on lenses of the kit."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from oxlen.formats.kit_items import ClipOnFile, LampFile
from oxlen.formats.strict import Slug
from oxlen.server.context import Context, Shared
from oxlen.server.permits import FOR_KIT
from oxlen.store.kit.kit_items import ItemKind, KeptItem, drop_item, keep_item, kept_items

router = APIRouter(prefix="/api/kit", tags=["kit"], dependencies=[FOR_KIT])


class LampView(BaseModel):
    """A lamp of the kit."""

    id: str
    lamp: LampFile


class ClipOnView(BaseModel):
    """A clip-on lens of the kit."""

    id: str
    clip_on: ClipOnFile


@router.get("/lamps")
def lamps(context: Shared) -> list[LampView]:
    """All lamps."""
    read = LampFile.model_validate_json
    return [LampView(id=item.id, lamp=read(item.body)) for item in _kept(context, "lamp")]


@router.put("/lamps/{lamp_id}")
def keep_lamp(lamp_id: Slug, lamp: LampFile, context: Shared) -> LampView:
    """Keep a lamp."""
    _keep(context, "lamp", KeptItem(lamp_id, lamp.model_dump_json()))
    return LampView(id=lamp_id, lamp=lamp)


@router.delete("/lamps/{lamp_id}", status_code=204)
def remove_lamp(lamp_id: Slug, context: Shared) -> None:
    """Remove a lamp; sheets lit by it keep its colour."""
    _drop(context, "lamp", lamp_id)


@router.get("/clip-ons")
def clip_ons(context: Shared) -> list[ClipOnView]:
    """All clip-on lenses."""
    read = ClipOnFile.model_validate_json
    return [ClipOnView(id=item.id, clip_on=read(item.body)) for item in _kept(context, "clip-on")]


@router.put("/clip-ons/{clip_on_id}")
def keep_clip_on(clip_on_id: Slug, clip_on: ClipOnFile, context: Shared) -> ClipOnView:
    """Keep a clip-on lens."""
    _keep(context, "clip-on", KeptItem(clip_on_id, clip_on.model_dump_json()))
    return ClipOnView(id=clip_on_id, clip_on=clip_on)


@router.delete("/clip-ons/{clip_on_id}", status_code=204)
def remove_clip_on(clip_on_id: Slug, context: Shared) -> None:
    """Remove a clip-on lens; sheets that use it keep its power."""
    _drop(context, "clip-on", clip_on_id)


def _kept(context: Context, kind: ItemKind) -> list[KeptItem]:
    with context.library.reader() as connection:
        return kept_items(connection, kind)


def _keep(context: Context, kind: ItemKind, item: KeptItem) -> None:
    with context.library.writer() as connection:
        keep_item(connection, kind, item, now=context.now())


def _drop(context: Context, kind: ItemKind, item_id: str) -> None:
    with context.library.writer() as connection:
        drop_item(connection, kind, item_id)
