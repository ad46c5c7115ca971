"""The kit: shipped phones, and the photographer's own."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from oxlen.core.errors import BadInput, NeedsConsent
from oxlen.core.kit.lens_filter import read_filter
from oxlen.core.motion.less_light import nd_stops
from oxlen.formats.phone.figures import origins_of, with_typed
from oxlen.formats.phone.origin import OriginProfile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profiles
from oxlen.formats.strict import Name, Slug, Strict
from oxlen.server.context import Shared
from oxlen.server.permits import FOR_KIT
from oxlen.store.kit.lens_filters import KeptFilter, delete_filter, kept_filters, save_filter
from oxlen.store.kit.phones import (
    UnreadablePhone,
    drop_profile,
    keep_profile,
    kept_profiles,
    removed_profiles,
    unreadable_phones,
)
from oxlen.store.sheets import every_sheet
from oxlen.views.match_to_phone import losing_their_lens
from oxlen.views.recheck import recheck_words

router = APIRouter(prefix="/api/kit", tags=["kit"], dependencies=[FOR_KIT])
MOST_NAMED = 5
"""Sheets named in a warning; the rest is counted."""


class Recheck(BaseModel):
    """A slider's scale that should be checked again, and why."""

    lens: str
    clip_on: str
    words: str


class KitPhone(BaseModel):
    """A phone's profile; whether it ships with Oxlen, or is kept only for sheets that name it.

    `origins` says of every figure, by its path, where it comes from.
    """

    shipped: bool
    profile: PhoneProfile
    removed: bool = False
    origins: dict[str, OriginProfile]
    rechecks: list[Recheck]


class FilterFields(Strict):
    """What is kept of a filter: the factor it takes the light down by, and how that is known."""

    name: Name
    factor: Annotated[float, Field(ge=1, le=1e7)]
    note: Annotated[str, Field(max_length=300)] = ""


class FilterView(FilterFields):
    """A filter of the kit, and the stops it takes."""

    id: str
    stops: float


@router.get("/phones")
def phones(context: Shared) -> list[KitPhone]:
    """All phones: the photographer's own first, those taken out of the kit last."""
    with context.library.reader() as connection:
        own, removed = kept_profiles(connection), removed_profiles(connection)
    today = context.clock().date()
    found = [kit_phone(profile, today=today) for profile in own.values()]
    shipped = shipped_profiles().values()
    found += [kit_phone(profile, today=today, shipped=True) for profile in shipped]
    return found + [kit_phone(profile, today=today, removed=True) for profile in removed.values()]


@router.get("/unreadable")
def unreadable(context: Shared) -> list[UnreadablePhone]:
    """Phones that are kept and cannot be read, with their text; DELETE removes one."""
    with context.library.reader() as connection:
        return list(unreadable_phones(connection))


@router.put("/phones/{phone_id}")
def keep_phone(
    phone_id: Slug, profile: PhoneProfile, context: Shared, *, agreed: bool = False
) -> KitPhone:
    """Keep a phone of one's own; shipped profiles stay as they are and are copied to be changed.

    A change that takes away a lens which sheets name is refused with 409 until it is agreed to.
    """
    if profile.id != phone_id:
        raise BadInput(f"The profile's id is {profile.id}, not {phone_id}.", "id")
    if phone_id in shipped_profiles():
        raise BadInput(
            f"{phone_id} is an example phone. Copy it under another id to change it.", "id"
        )
    now = context.now()
    with context.library.writer() as connection:
        before = kept_profiles(connection).get(phone_id)
        if before is not None and not agreed:
            _ask_about_lenses(list(losing_their_lens(every_sheet(connection), before, profile)))
        kept = with_typed(profile, before, now[:10])
        keep_profile(connection, kept, now)
    return kit_phone(kept, today=context.clock().date())


def _ask_about_lenses(titles: list[str]) -> None:
    if titles:
        named = ", ".join(f"“{title}”" for title in titles[:MOST_NAMED])
        more = f" and {len(titles) - MOST_NAMED} more" if len(titles) > MOST_NAMED else ""
        raise NeedsConsent(
            f"Sheets use a lens you are deleting: {named}{more}. They still open and use the "
            "other lenses."
        )


def kit_phone(
    profile: PhoneProfile, *, today: date, shipped: bool = False, removed: bool = False
) -> KitPhone:
    """A phone as the kit shows it."""
    return KitPhone(
        shipped=shipped,
        profile=profile,
        removed=removed,
        origins=origins_of(profile),
        rechecks=list(_rechecks(profile, today)),
    )


def _rechecks(profile: PhoneProfile, today: date) -> Iterator[Recheck]:
    for lens in profile.to_phone().lenses:
        for named in () if lens.focus is None else lens.focus.scales:
            if words := recheck_words(named, today):
                yield Recheck(lens=lens.id, clip_on=named.clip_on, words=words)


@router.delete("/phones/{phone_id}", status_code=204)
def remove_phone(phone_id: Slug, context: Shared) -> None:
    """Take a phone of one's own out of the kit; sheets that name it still open with it."""
    with context.library.writer() as connection:
        drop_profile(connection, phone_id, context.now())


@router.get("/glass")
def glass(context: Shared) -> list[FilterView]:
    """All filters, the lightest first."""
    with context.library.reader() as connection:
        return [
            FilterView(**vars(kept), stops=float(nd_stops(kept.factor)))
            for kept in kept_filters(connection)
        ]


class FilterRead(BaseModel):
    """A filter from the words it was described in."""

    name: str
    factor: float
    stops: float


@router.get("/glass/said")
def filter_said(words: Annotated[str, Query(max_length=40)]) -> FilterRead:
    """A filter as people say it: ND 64, ×64, 6 stops, or by density."""
    found = read_filter(words)
    return FilterRead(name=found.name, factor=found.factor, stops=float(nd_stops(found.factor)))


@router.put("/glass/{glass_id}")
def keep_filter(glass_id: Slug, fields: FilterFields, context: Shared) -> FilterView:
    """Keep a filter."""
    with context.library.writer() as connection:
        save_filter(connection, KeptFilter(id=glass_id, **fields.model_dump()), context.now())
    stops = float(nd_stops(fields.factor))
    return FilterView(id=glass_id, stops=stops, **fields.model_dump())


@router.delete("/glass/{glass_id}", status_code=204)
def remove_filter(glass_id: Slug, context: Shared) -> None:
    """Remove a filter; sheets that use it keep its factor."""
    with context.library.writer() as connection:
        delete_filter(connection, glass_id)
