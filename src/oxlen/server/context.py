"""What routes share: the library, the caches, the clock, and how a phone is found."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import cached_property
from typing import Annotated

from fastapi import Depends, Path, Request
from pydantic import Field

from oxlen.cards.card import SheetCard
from oxlen.core.errors import NotFound
from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lens_filter import LensFilter
from oxlen.formats.kit_items import ClipOnFile, LampFile
from oxlen.formats.phone.profile import PhoneProfile
from oxlen.formats.phone.shipped import shipped_profile, shipped_profiles
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.strict import MOST_ID
from oxlen.metering.picture_cache import MeteredPictures
from oxlen.phones.briefed_sheet import BriefedSheet, KitAtHand, briefed_sheet
from oxlen.phones.learned_profile import with_learned
from oxlen.server.import_jobs import ImportJobs
from oxlen.server.shared_work import SharedWork
from oxlen.server.stack_jobs import StackJobs
from oxlen.store.kit.kit_items import kept_items
from oxlen.store.kit.learned import learned_of
from oxlen.store.kit.lens_filters import kept_filters
from oxlen.store.kit.phones import kept_profile, usual_phone_id
from oxlen.store.library import Library
from oxlen.views.match_to_phone import match_to_phone
from oxlen.views.proposed import Candidates
from oxlen.workers.sheets import SheetWindows
from oxlen.workers.worker_pool import WorkerPool

Clock = Callable[[], datetime]
RowId = Annotated[int, Path(ge=1, le=MOST_ID)]
Mark = Annotated[
    str | None,
    Field(min_length=8, max_length=64, description="sent again under it, nothing is done twice"),
]
Sha256 = Annotated[str, Path(pattern=r"^[0-9a-f]{64}$")]


@dataclass(frozen=True)
class Context:
    """Everything a route needs from outside."""

    library: Library
    pictures: MeteredPictures
    pool: WorkerPool
    clock: Clock

    @cached_property
    def stack_jobs(self) -> StackJobs:
        """Stacks that are being worked on."""
        return StackJobs(self.library, self.pool)

    @cached_property
    def candidates(self) -> Candidates:
        """Sheets that pictures may belong to."""
        return Candidates(self.find_phone, self.pictures)

    @cached_property
    def windows(self) -> SharedWork[list[SheetWindows]]:
        """When the sheets of outings work, by day, sky and state."""
        return SharedWork()

    @cached_property
    def sheet_cards(self) -> SharedWork[list[SheetCard]]:
        """Planned sheets of outings for their cards, by state."""
        return SharedWork()

    @cached_property
    def cards(self) -> SharedWork[bytes]:
        """Cards of outings, by kind and state."""
        return SharedWork()

    @cached_property
    def import_jobs(self) -> ImportJobs:
        """Files that are being imported."""
        return ImportJobs(self.pool)

    def now(self) -> str:
        """The time as kept: ISO 8601 in UTC, to the second."""
        return self.clock().astimezone(UTC).isoformat(timespec="seconds")

    def find_phone(self, phone_id: str) -> PhoneProfile:
        """A shipped phone or one of the kit, with what takes taught of it; or NotFound."""
        with self.library.reader() as connection:
            taught = learned_of(connection, phone_id)
        return with_learned(self.plain_phone(phone_id), taught)

    def plain_phone(self, phone_id: str) -> PhoneProfile:
        """The phone by its own figures alone: what is changed, measured and handed on; NotFound."""
        if phone_id in shipped_profiles():
            return shipped_profiles()[phone_id]
        try:
            with self.library.reader() as connection:
                return kept_profile(connection, phone_id)
        except NotFound:
            return shipped_profile(phone_id)  # says which there are

    def usual_phone_id(self) -> str:
        """The phone a new sheet is for when none is named."""
        with self.library.reader() as connection:
            return usual_phone_id(connection)

    def filters_at_hand(self) -> list[LensFilter]:
        """The filters of the kit, as a brief has them."""
        with self.library.reader() as connection:
            return [LensFilter(g.name, g.factor) for g in kept_filters(connection)]

    def clip_ons_at_hand(self) -> list[ClipOn]:
        """The clip-on lenses of the kit, as a brief has them."""
        with self.library.reader() as connection:
            kept = kept_items(connection, "clip-on")
        return [ClipOnFile.model_validate_json(item.body).as_asked for item in kept]

    def lamps_at_hand(self) -> tuple[tuple[str, float], ...]:
        """Lamps of the kit whose light is known, by name and the least they give (lm)."""
        with self.library.reader() as connection:
            kept = kept_items(connection, "lamp")
        lamps = [LampFile.model_validate_json(item.body).as_asked for item in kept]
        return tuple(
            (
                lamp.name if lamp.dims_to == 1 else f"{lamp.name} at its lowest",
                lamp.lumens * lamp.dims_to,
            )
            for lamp in lamps
            if lamp.lumens is not None
        )

    def kit_at_hand(self) -> KitAtHand:
        """The filters and clip-on lenses of the kit."""
        return KitAtHand(self.filters_at_hand(), self.clip_ons_at_hand())

    def briefed(self, body: SheetBody) -> BriefedSheet:
        """A sheet on its phone as it is now, with the light measured for it and its brief."""
        profile = self.find_phone(body.phone)
        return briefed_sheet(
            match_to_phone(body, profile).body, profile, self.pictures, kit=self.kit_at_hand()
        )


async def _context(request: Request) -> Context:
    # Not a plain function: the framework would send that through its thread pool.
    context: Context = request.app.state.context
    return context


Shared = Annotated[Context, Depends(_context)]
