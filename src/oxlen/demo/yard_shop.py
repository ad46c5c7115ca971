"""The yard shop's series in the demo: tins and fittings, three of them shot wrong."""

from __future__ import annotations

from oxlen.demo.planned_sheets import SHOP_SHEET
from oxlen.devices.standins.bench_series import GREY_PATCH, Bench, Mistake, series_jpeg
from oxlen.formats.shop_options import GreySpot, ShopOptions
from oxlen.formats.things_list import read_things
from oxlen.shop.kept_series import sort_takes
from oxlen.store.library import Library
from oxlen.store.outings import add_outing
from oxlen.store.pictures import tie_picture
from oxlen.store.sheets import add_sheet, edit_sheet, sheet
from oxlen.store.shop import add_things, begin_shop_series
from oxlen.store.takes import takes_of
from oxlen.takes.adding import as_take_once
from oxlen.takes.importing import take_in

TINS = (
    "Clear varnish",
    "Amber varnish",
    "Spar varnish",
    "Tar varnish",
    "Deck oil",
    "Linseed oil",
    "Red lead primer",
    "Bilge paint",
    "Mast tallow",
)
TIN_SIZE = "11 x 14 x 11 cm"
FITTINGS = {
    "Bronze cleat small": "15 x 5 x 4 cm",
    "Bronze cleat medium": "18 x 6 x 5 cm",
    "Bronze cleat large": "22 x 7 x 6 cm",
}
SIZES = dict.fromkeys(TINS, TIN_SIZE) | FITTINGS
ROWS = [f"{number:02d},{name},{size}" for number, (name, size) in enumerate(SIZES.items(), start=1)]
THINGS = "\n".join(["number,name,size", *ROWS])
FIRST_FITTING = len(TINS) + 1
BUMPED, AUTO_WHITE, FADED = 4, 7, 9
MISTAKES = {
    BUMPED: Mistake(tilt_deg=2.2, shift=0.05),
    AUTO_WHITE: Mistake(mired=32.0),
    FADED: Mistake(stops=-0.45, mired=-6.0),
}
FADED_AT = "2026-10-03T15:47:00"


def seed_yard_shop(library: Library, *, now: str) -> None:
    """An outing with one sheet that is a shop series, shot and sorted, not yet checked."""
    things = read_things(THINGS)
    x, y, r = GREY_PATCH
    options = ShopOptions(grey=GreySpot(x=x, y=y, r=r))
    with library.writer() as connection:
        outing_id = add_outing(
            connection,
            title="Yard shop",
            place="Kettle Reach, the loft",
            light_window="09:30 to 15:00",
            now=now,
        )
        sheet_id = add_sheet(connection, outing_id, SHOP_SHEET.model_dump_json(), now=now)
        series = begin_shop_series(connection, sheet_id, options.model_dump_json(), now=now)
        add_things(connection, series.id, [thing.model_dump() for thing in things])
    bench = Bench(21)
    for number in range(1, len(things) + 1):
        taken_at = FADED_AT if number == FADED else f"2026-10-03T10:{2 * number:02d}:00"
        is_fitting = number >= FIRST_FITTING
        codes = bench.take(number, MISTAKES.get(number), is_fitting=is_fitting)
        with library.incoming() as incoming:
            incoming.write_bytes(series_jpeg(codes, taken_at))
            name = f"shop_{number:02d}.jpg"
            attach = as_take_once(sheet_id, None, now)
            take_in(library, incoming, name, now=now, attach=attach)
        with library.writer() as connection:
            # Sorted one by one: the faded one was shot last, and belongs to its own thing.
            sort_takes(connection, sheet_id, {})
    _show_first_take(library, sheet_id, now=now)


def _show_first_take(library: Library, sheet_id: int, *, now: str) -> None:
    """The first take as the sheet's picture; its light stays what was planned by."""
    with library.writer() as connection:
        picture, kept = takes_of(connection, sheet_id)[0].sha256, sheet(connection, sheet_id)
        edit_sheet(
            connection,
            sheet_id,
            body=SHOP_SHEET.model_copy(update={"picture": picture}).model_dump_json(),
            label="picture",
            from_version=kept.version,
            now=now,
        )
        tie_picture(connection, sheet_id, picture)
