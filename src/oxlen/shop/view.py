"""A shop series as a screen shows it: its things, their pictures, what is off, and the drift."""

from __future__ import annotations

from pydantic import BaseModel

from oxlen.core.series.assigning import Slot
from oxlen.core.series.next_step import NextStep, urgency
from oxlen.formats.shop_options import ShopOptions
from oxlen.formats.shop_series import SeriesFileChecked
from oxlen.formats.things_list import ThingBody
from oxlen.shop.drift_view import DriftView, Measured, drift_view
from oxlen.shop.in_library import KeptCheck
from oxlen.shop.kept_series import KeptShopSeries
from oxlen.shop.words import reason_words


class ShopPicture(BaseModel):
    """A picture of a thing: the take that counts, and how it compares with the reference.

    `takes` are all of this view; without a take the rest is empty. `badness` is 1 where a buyer
    begins to see it, `findings` what is off, a few words each. The size of a thing that is not of
    the `same_shape` is not compared.
    """

    view: str
    take_id: int | None
    picture: str | None
    file: str
    taken_at: str | None
    takes: int
    is_reference: bool
    checked: SeriesFileChecked | None
    next_step: NextStep | None
    badness: float | None
    can_match: bool
    same_shape: bool
    findings: list[str]


class ShopThingView(ThingBody):
    """A thing of the list with its pictures."""

    id: int
    skipped: bool
    pictures: list[ShopPicture]


class NextPicture(BaseModel):
    """What is shot next: its thing, and which one of the list it is."""

    thing_id: int
    view: str
    name: str
    number: str
    position: int


class SlotView(BaseModel):
    """A picture of the series: its thing and view."""

    thing_id: int
    view: str


class SparePicture(BaseModel):
    """A take of the sheet that shows no thing of the list."""

    take_id: int
    picture: str
    file: str
    is_code: bool


class ShopCounts(BaseModel):
    """How many pictures are wanted, shot, measured, and what becomes of them."""

    wanted: int
    shot: int
    to_check: int
    keep: int
    match: int
    reshoot: int
    look: int


class ShopView(BaseModel):
    """A shop series as it is now; `unsorted` is how many takes have no place yet.

    `skip_to` is what is shot next where the next thing is skipped, `last` what was shot last,
    `worst_first` the takes that count in the order they are looked at.
    """

    sheet_id: int
    options: ShopOptions
    things: list[ShopThingView]
    reference_take_id: int | None
    next: NextPicture | None
    skip_to: SlotView | None
    last: SlotView | None
    worst_first: list[int]
    unsorted: int
    spare: list[SparePicture]
    counts: ShopCounts
    drift: list[DriftView]


def shop_view(kept: KeptShopSeries) -> ShopView:
    """A kept shop series as it is shown."""
    things = [
        ShopThingView(
            id=thing.id,
            name=thing.name,
            number=thing.number,
            width_cm=thing.width_cm,
            height_cm=thing.height_cm,
            depth_cm=thing.depth_cm,
            skipped=bool(thing.skipped),
            pictures=[_picture(kept, Slot(thing.id, view)) for view in kept.options.views],
        )
        for thing in kept.things
    ]
    measured = [
        Measured(picture.take_id, picture.taken_at, picture.checked)
        for thing in things
        for picture in thing.pictures
        if picture.take_id and picture.taken_at and picture.checked
    ]
    return ShopView(
        sheet_id=kept.series.sheet_id,
        options=kept.options,
        things=things,
        reference_take_id=kept.reference,
        next=_next(kept),
        skip_to=_slot(kept.skip_to),
        last=_slot(kept.last),
        worst_first=_worst_first(things),
        unsorted=len(kept.new_takes),
        spare=_spare(kept),
        counts=_counts(kept, things),
        drift=[drift_view(measured, "stops"), drift_view(measured, "mired")],
    )


def _picture(kept: KeptShopSeries, slot: Slot) -> ShopPicture:
    takes = kept.in_slot.get(slot, [])
    if slot not in kept.chosen:
        return ShopPicture(
            view=slot.view,
            take_id=None,
            picture=None,
            file="",
            taken_at=None,
            takes=len(takes),
            is_reference=False,
            checked=None,
            next_step=None,
            badness=None,
            can_match=False,
            same_shape=True,
            findings=[],
        )
    take = kept.takes[kept.chosen[slot]]
    found = kept.check_of(slot)
    check = None if found is None else KeptCheck.model_validate_json(found)
    return ShopPicture(
        view=slot.view,
        take_id=take.id,
        picture=take.sha256,
        file=kept.names[take.sha256],
        taken_at=take.taken_at,
        takes=len(takes),
        is_reference=take.id == kept.reference_of(slot.view),
        checked=None if check is None else check.checked,
        next_step=None if check is None else check.next_step,
        badness=None if check is None else check.badness,
        can_match=check is not None and check.recipe is not None,
        same_shape=check is None or check.same_shape,
        findings=[] if check is None else _findings(check),
    )


def _findings(check: KeptCheck) -> list[str]:
    found = check.checked
    if not found.reasons and found.why:
        return [found.why]
    return [reason_words(found, reason) for reason in found.reasons]


def _next(kept: KeptShopSeries) -> NextPicture | None:
    slot = kept.next
    if slot is None:
        return None
    position = next(place for place, thing in enumerate(kept.things) if thing.id == slot.thing)
    thing = kept.things[position]
    return NextPicture(
        thing_id=thing.id,
        view=slot.view,
        name=thing.name,
        number=thing.number,
        position=position + 1,
    )


def _slot(slot: Slot | None) -> SlotView | None:
    return None if slot is None else SlotView(thing_id=slot.thing, view=slot.view)


def _worst_first(things: list[ShopThingView]) -> list[int]:
    shot = [
        picture
        for thing in things
        if not thing.skipped
        for picture in thing.pictures
        if picture.take_id is not None
    ]
    shot.sort(
        key=lambda each: urgency(
            each.next_step, each.badness or 0.0, is_reference=each.is_reference
        ),
        reverse=True,
    )
    return [picture.take_id for picture in shot if picture.take_id is not None]


def _spare(kept: KeptShopSeries) -> list[SparePicture]:
    return [
        SparePicture(
            take_id=place.take_id,
            picture=kept.takes[place.take_id].sha256,
            file=kept.names[kept.takes[place.take_id].sha256],
            is_code=place.how == "code",
        )
        for place in kept.places
        if place.thing_id is None or place.view not in kept.options.views
    ]


def _counts(kept: KeptShopSeries, things: list[ShopThingView]) -> ShopCounts:
    steps = [
        picture.next_step
        for thing in things
        for picture in thing.pictures
        if picture.next_step is not None
    ]
    return ShopCounts(
        wanted=len(kept.wanted),
        shot=len(kept.chosen),
        to_check=len(kept.to_check()),
        keep=steps.count("keep"),
        match=steps.count("match"),
        reshoot=steps.count("reshoot"),
        look=steps.count("look"),
    )
