"""Shop series: the list of things, and which take shows which."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from oxlen.core.errors import BadInput
from oxlen.core.series.assigning import Slot
from oxlen.formats.shop_options import ShopOptions, ViewName
from oxlen.formats.strict import Id, Strict, Title
from oxlen.formats.things_list import MOST_THINGS, Centimetres, Number, read_things
from oxlen.server.context import Context, RowId, Shared
from oxlen.server.permits import FOR_PHONES
from oxlen.shop.in_library import codes_seen
from oxlen.shop.kept_series import kept_series, place_by_hand, sort_takes
from oxlen.shop.view import ShopView, shop_view
from oxlen.store.sheets import sheet
from oxlen.store.shop import (
    add_things,
    aim_at,
    begin_shop_series,
    change_thing,
    delete_thing,
    end_shop_series,
    refer_to,
    shop_series_of,
    the_shop_series,
    things_of,
)

router = APIRouter(prefix="/api", tags=["shop series"], dependencies=[FOR_PHONES])
CODES_AT_ONCE = 12
"""Takes whose codes are read by one request; the page asks again until none is left."""


class ThingsText(Strict):
    """Things as text: one a line, or a CSV with name, number and size."""

    text: Annotated[str, Field(max_length=200_000)]


class ThingChange(Strict):
    """What changes of a thing; whatever is not named stays."""

    name: Title | None = None
    number: Number | None = None
    width_cm: Centimetres | None = None
    height_cm: Centimetres | None = None
    depth_cm: Centimetres | None = None
    skipped: bool | None = None


class PictureOf(Strict):
    """A picture of a series: which thing, and the view of it."""

    thing_id: Id
    view: ViewName

    @property
    def slot(self) -> Slot:
        """As the core sorts takes."""
        return Slot(self.thing_id, self.view)


class PlacedTake(Strict):
    """Where a take belongs; null for one that shows no thing of the list."""

    picture: PictureOf | None


class Aim(Strict):
    """What is shot next; null for the next picture that is open."""

    picture: PictureOf | None


class ReferenceTake(Strict):
    """The take that all others are compared with; null for the first one."""

    take_id: Id | None


@router.get("/sheets/{sheet_id}/shop")
def shop_series(sheet_id: RowId, context: Shared) -> ShopView | None:
    """The shop series of a sheet; null where it has none."""
    with context.library.reader() as connection:
        sheet(connection, sheet_id)
        if shop_series_of(connection, sheet_id) is None:
            return None
        return shop_view(kept_series(connection, sheet_id))


@router.put("/sheets/{sheet_id}/shop")
def change_shop_options(sheet_id: RowId, options: ShopOptions, context: Shared) -> ShopView:
    """Change what the series is asked, or make the sheet a shop series."""
    with context.library.writer() as connection:
        sheet(connection, sheet_id)
        begin_shop_series(connection, sheet_id, options.model_dump_json(), now=context.now())
        return shop_view(kept_series(connection, sheet_id))


@router.delete("/sheets/{sheet_id}/shop", status_code=204)
def end_shop(sheet_id: RowId, context: Shared) -> None:
    """Delete the list; the sheet and its takes stay."""
    with context.library.writer() as connection:
        end_shop_series(connection, sheet_id)
    context.library.shop_zip_path(sheet_id).unlink(missing_ok=True)


@router.post("/sheets/{sheet_id}/shop/things", status_code=201)
def add_to_list(sheet_id: RowId, asked: ThingsText, context: Shared) -> ShopView:
    """Add things from text; the first ones make the sheet a shop series."""
    new = read_things(asked.text)
    with context.library.writer() as connection:
        sheet(connection, sheet_id)
        if shop_series_of(connection, sheet_id) is None:
            usual = ShopOptions().model_dump_json()
            begin_shop_series(connection, sheet_id, usual, now=context.now())
        known = the_shop_series(connection, sheet_id)
        there = things_of(connection, known.id)
        if len(there) + len(new) > MOST_THINGS:
            raise BadInput(f"A series has at most {MOST_THINGS} things.", "text")
        numbers = {thing.number for thing in there if thing.number}
        twice = next((thing.number for thing in new if thing.number in numbers), None)
        if twice is not None:
            raise BadInput(f"Number {twice} is in the list already.", "text")
        add_things(connection, known.id, [thing.model_dump() for thing in new])
        return shop_view(kept_series(connection, sheet_id))


@router.patch("/sheets/{sheet_id}/shop/things/{thing_id}")
def change_in_list(
    sheet_id: RowId, thing_id: RowId, *, change: ThingChange, context: Shared
) -> ShopView:
    """Change a thing of the list, or leave it out."""
    changed = change.model_dump(exclude_none=True)
    with context.library.writer() as connection:
        known = the_shop_series(connection, sheet_id)
        others = [t.number for t in things_of(connection, known.id) if t.id != thing_id]
        if change.number and change.number in others:
            raise BadInput(f"Number {change.number} is in the list already.", "number")
        change_thing(connection, known.id, thing_id, changed=changed)
        return shop_view(kept_series(connection, sheet_id))


@router.delete("/sheets/{sheet_id}/shop/things/{thing_id}")
def delete_from_list(sheet_id: RowId, thing_id: RowId, context: Shared) -> ShopView:
    """Delete a thing; its takes stay with the sheet."""
    with context.library.writer() as connection:
        delete_thing(connection, the_shop_series(connection, sheet_id).id, thing_id)
        return shop_view(kept_series(connection, sheet_id))


@router.post("/sheets/{sheet_id}/shop/sort")
def sort_new_takes(sheet_id: RowId, context: Shared) -> ShopView:
    """Give new takes their things: by order, or by the codes in them.

    Codes are read in a dozen takes at most; `unsorted` of the answer says how many are left.
    """
    codes = _codes_of_new(context, sheet_id)
    with context.library.writer() as connection:
        sort_takes(connection, sheet_id, codes)
        return shop_view(kept_series(connection, sheet_id))


@router.post("/sheets/{sheet_id}/shop/aim")
def aim_shop(sheet_id: RowId, aim: Aim, context: Shared) -> ShopView:
    """Say what is shot next."""
    with context.library.writer() as connection:
        kept = kept_series(connection, sheet_id)
        slot = aim.picture and aim.picture.slot
        if slot is not None and slot not in kept.wanted:
            raise BadInput("This picture is not in the series.", "picture")
        aim_at(connection, kept.series.id, slot)
        return shop_view(kept_series(connection, sheet_id))


@router.put("/sheets/{sheet_id}/shop/takes/{take_id}")
def place_take(sheet_id: RowId, take_id: RowId, *, placed: PlacedTake, context: Shared) -> ShopView:
    """Say by hand what a take shows."""
    with context.library.writer() as connection:
        kept = kept_series(connection, sheet_id)
        slot = placed.picture and placed.picture.slot
        if take_id not in kept.takes:
            raise BadInput("This take is not of the sheet.", "take")
        if slot is not None and slot not in kept.wanted:
            raise BadInput("This picture is not in the series.", "picture")
        place_by_hand(connection, sheet_id, take_id, slot=slot)
        return shop_view(kept_series(connection, sheet_id))


@router.put("/sheets/{sheet_id}/shop/reference")
def choose_reference(sheet_id: RowId, chosen: ReferenceTake, context: Shared) -> ShopView:
    """Choose the take that all others are compared with."""
    with context.library.writer() as connection:
        kept = kept_series(connection, sheet_id)
        if chosen.take_id is not None and chosen.take_id not in kept.chosen.values():
            raise BadInput("This take shows no thing of the list.", "take_id")
        refer_to(connection, kept.series.id, chosen.take_id)
        return shop_view(kept_series(connection, sheet_id))


def _codes_of_new(context: Context, sheet_id: int) -> dict[int, str | None]:
    """The codes in new takes, where the series uses codes."""
    with context.library.reader() as connection:
        kept = kept_series(connection, sheet_id)
    if not kept.options.uses_codes:
        return {}
    new = kept.new_takes[:CODES_AT_ONCE]
    pictures = [take.sha256 for take in new]
    found = context.pool.do("bench", codes_seen, context.library.folder, pictures)
    return {take.id: uid for take, uid in zip(new, found, strict=True)}
