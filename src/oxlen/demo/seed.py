"""Filling an empty library with the Kettle Reach outings."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from oxlen.core.ask import plain
from oxlen.core.decisions.colour.decision import white_choice
from oxlen.core.decisions.framework.brief import Brief
from oxlen.core.kit.phone_words import FileFormat
from oxlen.demo.drawer import CLIP_ONS, LAMPS, LENS_FILTERS, YARD
from oxlen.demo.planned_sheets import BENCH_SHEETS, DRAWING_SHEETS, UNMETERED_SHEETS
from oxlen.demo.sheets import DAY_SHEETS, EVENING_SHEETS, LATER_SHEETS, PHONE, DemoSheet
from oxlen.demo.yard_shop import seed_yard_shop
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.devices.standins.bench_take import BenchShot, shoot_on_bench
from oxlen.formats.outing.place import PlaceBody
from oxlen.formats.phone.shipped import shipped_profile
from oxlen.formats.scene_file import shipped_scene
from oxlen.formats.sheet.file import SheetBody
from oxlen.formats.sheet.upgrades import read_sheet
from oxlen.metering.picture_cache import PictureCache
from oxlen.store.kept_places import add_place
from oxlen.store.kit.kit_items import KeptItem, keep_item
from oxlen.store.kit.lens_filters import save_filter
from oxlen.store.library import Library
from oxlen.store.outings import add_outing, change_outing, outings
from oxlen.store.sheets import add_sheet, sheets_of
from oxlen.store.takes import Judgement, change_take, takes_of
from oxlen.takes.importing import take_in

SEEDED_AT = "2026-10-03T08:00:00+00:00"
TITLE_SHOT = "White hull in full sun"
"""The sheet that has been shot already."""


def seed_demo(library: Library) -> bool:
    """Make the demo outings in an empty library; False when something is kept there already."""
    with library.reader() as connection:
        if outings(connection) or outings(connection, deleted=True):
            return False
    evening = _seed_outing(
        library,
        EVENING_SHEETS,
        "Lantern evening",
        place="Kettle Reach, the quay",
        window="17:00 to 22:00",
    )
    day = _seed_outing(
        library,
        DAY_SHEETS,
        "Autumn haul-out",
        place="Kettle Reach, the hard",
        window="08:00 to 15:30",
    )
    _seed_unmetered(library, day, UNMETERED_SHEETS)
    for number, demo in enumerate(LATER_SHEETS, start=len(DAY_SHEETS)):
        _seed_sheet(library, day, demo, seed=number)
    _seed_unmetered(library, day, BENCH_SHEETS)
    _seed_unmetered(library, evening, DRAWING_SHEETS)
    _seed_drawer(library)
    _seed_place(library, (evening, day))
    _seed_takes(library, TITLE_SHOT)
    seed_yard_shop(library, now=SEEDED_AT)
    return True


def _seed_place(library: Library, outing_ids: tuple[int, ...]) -> None:
    """The yard as a place: sheds and trees about it, a town's glow; its outings belong to it."""
    body = PlaceBody.model_validate(YARD)
    with library.writer() as connection:
        place_id = add_place(connection, body.model_dump_json(), now=SEEDED_AT)
        for outing_id in outing_ids:
            hung: dict[str, str | float | int | None] = {
                "place_id": place_id,
                "date": SEEDED_AT[:10],
                "latitude_deg": body.latitude_deg,
                "longitude_deg": body.longitude_deg,
                "time_zone": body.time_zone,
            }
            change_outing(connection, outing_id, hung)


def _seed_takes(library: Library, title: str) -> None:
    """Two takes of a sheet: on auto, which greys the paint, and by the slip."""
    with library.reader() as connection:
        rows = [row for outing in outings(connection) for row in sheets_of(connection, outing.id)]
    row, body = next((row, body) for row in rows if (body := read_sheet(row.body)).title == title)
    cache = PictureCache(library)
    for auto in (True, False):
        shot = BenchShot(row.id, row.version, body, auto=auto, seed=1)
        shoot_on_bench(library, shipped_profile, cache, shot=shot, now=SEEDED_AT)
    cache.close()
    with library.writer() as connection:
        on_auto, by_slip = takes_of(connection, row.id)
        grey = Judgement("rejected", "The paint is grey.", 1, keywords="hull, auto")
        change_take(connection, on_auto.id, grey)
        white = Judgement("kept", rating=4, keywords="hull, sun", why="White, with its planks.")
        change_take(connection, by_slip.id, white)


def _seed_drawer(library: Library) -> None:
    """Filters, lamps and clip-ons in the yard's drawer."""
    with library.writer() as connection:
        for lens_filter in LENS_FILTERS:
            save_filter(connection, lens_filter, SEEDED_AT)
        for item_id, lamp in LAMPS.items():
            item = KeptItem(item_id, json.dumps(plain(lamp)))
            keep_item(connection, "lamp", item, now=SEEDED_AT)
        for item_id, clip_on in CLIP_ONS.items():
            item = KeptItem(item_id, json.dumps(plain(clip_on)))
            keep_item(connection, "clip-on", item, now=SEEDED_AT)


def _seed_outing(
    library: Library, sheets: tuple[DemoSheet, ...], title: str, *, place: str, window: str
) -> int:
    with library.writer() as connection:
        outing_id = add_outing(
            connection, title=title, place=place, light_window=window, now=SEEDED_AT
        )
    for number, demo in enumerate(sheets):
        _seed_sheet(library, outing_id, demo, seed=number)
    return outing_id


def _seed_sheet(library: Library, outing_id: int, demo: DemoSheet, *, seed: int) -> None:
    profile = shipped_profile(PHONE)
    lens = profile.to_phone().lens(demo.lens)
    phone = BenchPhone(profile, lens, lens.modes[0], seed=seed)
    scene = shipped_scene(demo.scene)
    given = {"phone": PHONE, "lens": demo.lens, "scene": demo.scene}
    planned = SheetBody.model_validate({**given, **demo.body})
    # White balance is set before the picture is taken that the light is read from.
    white = white_choice(Brief(profile.to_phone(), asked=planned.asked())).dialled
    settings = phone.auto_settings(scene, "tripod")
    if white is not None:
        settings = replace(settings, white_k=white.dial_k)
    kind: FileFormat = "raw" if demo.kind == "dng" else "processed"
    take = phone.take(scene, settings, kind, taken_at=demo.taken_at)

    def attach(connection: Any, sha256: str, _report: dict[str, Any]) -> int:
        whole = {**given, "picture": sha256, "spots": demo.spots, **demo.body}
        body = SheetBody.model_validate(whole)
        return add_sheet(connection, outing_id, body.model_dump_json(), now=SEEDED_AT)

    with library.incoming() as incoming:
        incoming.write_bytes(take.dng or take.jpeg or b"")
        take_in(library, incoming, demo.file_name, now=SEEDED_AT, attach=attach)


def _seed_unmetered(library: Library, outing_id: int, bodies: tuple[SheetBody, ...]) -> None:
    """Sheets planned the evening before."""
    with library.writer() as connection:
        for body in bodies:
            add_sheet(connection, outing_id, body.model_dump_json(), now=SEEDED_AT)
