"""A kept shop series as it is now: its things, the take that shows each, and what is next."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from oxlen.core.series.assigning import (
    Assignment,
    Slot,
    TakeSlot,
    assigned,
    next_slot,
    slot_after_thing,
    wanted_slots,
)
from oxlen.formats.shop_options import ShopOptions
from oxlen.shop.in_library import TakeToCheck, TakeToHandOver, check_key
from oxlen.store.pictures import kept_picture
from oxlen.store.shop import (
    ShopSeries,
    ShopTake,
    ShopThing,
    aim_at,
    keep_slots,
    kept_checks,
    shop_takes,
    the_shop_series,
    things_of,
)
from oxlen.store.takes import Take, takes_of


@dataclass(frozen=True)
class KeptShopSeries:
    """A shop series with its takes in use; `checks` are kept measurements by take."""

    series: ShopSeries
    options: ShopOptions
    things: tuple[ShopThing, ...]
    takes: Mapping[int, Take]
    places: tuple[ShopTake, ...]
    checks: Mapping[int, tuple[str, str]]
    names: Mapping[str, str]

    @cached_property
    def wanted(self) -> list[Slot]:
        """The pictures to shoot, without things that are left out."""
        return wanted_slots(
            [thing.id for thing in self.things if not thing.skipped], self.options.views
        )

    @cached_property
    def in_slot(self) -> dict[Slot, list[int]]:
        """Takes of each picture, the one that counts last: a kept one, else the latest."""
        found: dict[Slot, list[int]] = {}
        for place in self.places:
            if place.thing_id is None or place.view is None:
                continue
            if self.takes[place.take_id].state != "rejected":
                found.setdefault(Slot(place.thing_id, place.view), []).append(place.take_id)
        for takes in found.values():
            takes.sort(key=lambda take: (self.takes[take].state == "kept", take))
        return found

    @cached_property
    def chosen(self) -> dict[Slot, int]:
        """The take that counts of each picture that is wanted, in the order of the list."""
        return {slot: self.in_slot[slot][-1] for slot in self.wanted if slot in self.in_slot}

    @property
    def new_takes(self) -> list[Take]:
        """Takes that nobody has sorted yet, in the order they were shot."""
        placed = {place.take_id for place in self.places}
        new = [take for take in self.takes.values() if take.id not in placed]
        if all(take.taken_at for take in new):
            new.sort(key=lambda take: (take.taken_at or "", take.id))
        return new

    @property
    def last(self) -> Slot | None:
        """The picture that was shot last."""
        shot = [p for p in self.places if p.thing_id is not None and p.view is not None]
        return Slot(shot[-1].thing_id or 0, shot[-1].view or "") if shot else None

    @property
    def aim(self) -> Slot | None:
        """What is shot next although other is open; None where nothing was chosen."""
        aim = Slot(self.series.aim_thing_id or 0, self.series.aim_view or "")
        return aim if aim in self.wanted else None

    @property
    def next(self) -> Slot | None:
        """What is shot next; None when everything is."""
        return self.aim or next_slot(self.wanted, frozenset(self.in_slot), self.last)

    @property
    def skip_to(self) -> Slot | None:
        """What is shot next where the next thing is skipped for now."""
        return slot_after_thing(self.wanted, frozenset(self.in_slot), self.next)

    @property
    def reference(self) -> int | None:
        """The take that all are compared with: the chosen one, else the first."""
        if self.series.reference_take_id in self.chosen.values():
            return self.series.reference_take_id
        return next(iter(self.chosen.values()), None)

    def reference_of(self, view: str) -> int | None:
        """The take that those of a view are compared with: the same thing's, else the first."""
        main = self.reference
        thing = next((slot.thing for slot, take in self.chosen.items() if take == main), 0)
        same = self.chosen.get(Slot(thing, view))
        others = [take for slot, take in self.chosen.items() if slot.view == view]
        return main if main in others else same or next(iter(others), None)

    def key_of(self, slot: Slot) -> str | None:
        """The key under which the picture's measurement is kept; None without a reference."""
        reference = self.reference_of(slot.view)
        if reference is None or slot not in self.chosen:
            return None
        grey = None if self.options.grey is None else self.options.grey.spot
        pictures = self.takes[self.chosen[slot]].sha256, self.takes[reference].sha256
        return check_key(*pictures, grey)

    def check_of(self, slot: Slot) -> str | None:
        """What was measured of a picture as it is now, JSON text; None where it has to be."""
        key, found = self.checks.get(self.chosen[slot], ("", ""))
        return found if key == self.key_of(slot) else None

    def to_check(self) -> list[TakeToCheck]:
        """Pictures that are not measured as they are now."""
        return [
            TakeToCheck(
                take_id=take,
                name=self.names[self.takes[take].sha256],
                sha256=self.takes[take].sha256,
                reference=self.takes[self.reference_of(slot.view) or 0].sha256,
                key=self.key_of(slot) or "",
            )
            for slot, take in self.chosen.items()
            if self.check_of(slot) is None
        ]

    def to_hand_over(self) -> list[TakeToHandOver]:
        """All pictures in the order of the list."""
        position = {thing.id: number for number, thing in enumerate(self.things, start=1)}
        by_id = {thing.id: thing for thing in self.things}
        return [
            TakeToHandOver(
                sha256=self.takes[take].sha256,
                source=self.names[self.takes[take].sha256],
                position=position[slot.thing],
                number=by_id[slot.thing].number,
                name=by_id[slot.thing].name,
                view=slot.view if len(self.options.views) > 1 else "",
                reference=self.takes[self.reference_of(slot.view) or 0].sha256,
                found=self.check_of(slot),
            )
            for slot, take in self.chosen.items()
        ]


def kept_series(connection: sqlite3.Connection, sheet_id: int) -> KeptShopSeries:
    """The shop series of a sheet; NotFound without one."""
    series = the_shop_series(connection, sheet_id)
    takes = {take.id: take for take in takes_of(connection, sheet_id)}
    return KeptShopSeries(
        series=series,
        options=ShopOptions.model_validate(json.loads(series.options)),
        things=tuple(things_of(connection, series.id)),
        takes=takes,
        places=tuple(p for p in shop_takes(connection, series.id) if p.take_id in takes),
        checks=kept_checks(connection, series.id),
        names={
            take.sha256: kept_picture(connection, take.sha256).file_name for take in takes.values()
        },
    )


def sort_takes(
    connection: sqlite3.Connection, sheet_id: int, codes: Mapping[int, str | None]
) -> Assignment:
    """Give every new take its picture; `codes` are the uids read in takes, where codes are used.

    Where codes are used, only takes that were looked at are sorted.
    """
    kept = kept_series(connection, sheet_id)
    by_uid = {thing.uid: thing.id for thing in kept.things}
    new = [take.id for take in kept.new_takes if not kept.options.uses_codes or take.id in codes]
    found = assigned(
        new,
        kept.wanted,
        filled=frozenset(kept.in_slot),
        codes={take: by_uid[uid] for take, uid in codes.items() if uid in by_uid},
        last=kept.last,
        aim=kept.aim,
    )
    keep_slots(connection, kept.series.id, found.takes)
    aim_at(connection, kept.series.id, found.aim)
    return found


def place_by_hand(
    connection: sqlite3.Connection, sheet_id: int, take_id: int, *, slot: Slot | None
) -> None:
    """Say what a take shows; None makes it a spare one."""
    kept = kept_series(connection, sheet_id)
    placed = TakeSlot(take_id, slot, "hand" if slot else "spare")
    keep_slots(connection, kept.series.id, [placed])
