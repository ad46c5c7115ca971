"""Filling an empty library with the Kettle Reach outings."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Literal

from oxlen.demo import scenes_day, scenes_lamp
from oxlen.demo.paint import Light
from oxlen.devices.standins.bench_phone import BenchPhone
from oxlen.formats.brief_file import SchoolFile
from oxlen.formats.shipped_phones import shipped_profile
from oxlen.formats.wishes_file import (
    FlickerFile,
    HoldFile,
    LookFile,
    MotionFile,
    OutputFile,
    SharpFile,
)
from oxlen.sheets.body import ReadingBody, SheetBody, SpotBody, UsualLevel
from oxlen.sheets.importing import take_in
from oxlen.store.glass import KeptGlass, keep_glass
from oxlen.store.library import Library
from oxlen.store.outings import add_outing, outings
from oxlen.store.sheets import add_sheet

SEEDED_AT = "2026-10-03T08:00:00+00:00"
PHONE = "wherry-3"


@dataclass(frozen=True)
class DemoSheet:
    """A sheet of the demo: its scene, how it was photographed, and what the sheet holds."""

    scene: Callable[[], Light]
    file_name: str
    taken_at: str
    body: dict[str, Any]
    lens: str = "main"
    kind: Literal["jpeg", "dng"] = "jpeg"
    spots: list[SpotBody] = field(default_factory=list)


def _spot(spot_id: str, name: str, role: Any, x: float, y: float, place: float | None) -> SpotBody:
    return SpotBody(id=spot_id, name=name, role=role, x=x, y=y, r=0.022, place=place)


DAY_SHEETS = (
    DemoSheet(
        scenes_day.grey_morning,
        "slip_grey_morning.jpg",
        "2026:10:03 08:12:00",
        {
            "title": "Tarred hull on the slip",
            "intent": "Planking readable, cloud kept.",
            "support": "handheld",
            "state": "shot",
        },
        spots=[
            _spot("hull", "tarred planks", "subject", 0.50, 0.62, -2.0),
            _spot("sky", "bright cloud", "keep-bright", 0.20, 0.10, None),
            _spot("mud", "slip mud", "keep-dark", 0.60, 0.92, None),
        ],
    ),
    DemoSheet(
        scenes_day.white_hull,
        "white_hull_noon.jpg",
        "2026:10:03 12:40:00",
        {
            "title": "White hull in full sun",
            "intent": "White paint white, with its shape in it.",
            "support": "handheld",
        },
        spots=[
            _spot("paint", "sunlit paint", "subject", 0.48, 0.62, 1.7),
            _spot("bow", "bow planks", "keep-bright", 0.80, 0.50, None),
            _spot("shed", "shed boards", "keep-dark", 0.05, 0.36, None),
        ],
    ),
    DemoSheet(
        scenes_day.tarred_shed,
        "tarred_shed_bench.dng",
        "2026:10:03 15:05:00",
        {
            "title": "Bronze on the shed bench",
            "intent": "Fitting in window light, shed stays dark.",
            "support": "handheld",
            "format": "raw",
            "school": SchoolFile(iso="floor", iso_cap=800),
        },
        kind="dng",
        spots=[
            _spot("bronze", "bronze fitting", "subject", 0.425, 0.71, 0.3),
            _spot("card", "grey card", "neutral", 0.262, 0.78, 0.0),
            _spot("boards", "tarred boards", "keep-dark", 0.78, 0.35, -3.0),
        ],
    ),
)
EVENING_SHEETS = (
    DemoSheet(
        scenes_lamp.varnish_tins,
        "varnish_tins.jpg",
        "2026:10:03 17:20:00",
        {
            "title": "Varnish tins for the shop",
            "intent": "Paper white, labels true, all alike.",
            "support": "tripod",
            "flicker": FlickerFile(mains_hz=50),
            "output": OutputFile(use="screen", snr="excellent"),
        },
        lens="long",
        spots=[
            _spot("sweep", "white sweep", "subject", 0.12, 0.86, 1.7),
            _spot("label", "amber label", "neutral", 0.50, 0.62, None),
            _spot("rim", "tin rim", "keep-bright", 0.395, 0.31, None),
        ],
    ),
    DemoSheet(
        scenes_lamp.lantern_evening,
        "lantern_evening.jpg",
        "2026:10:03 19:02:00",
        {
            "title": "Lantern evening on the quay",
            "intent": "Night stays night, quay boards glow.",
            "support": "braced",
            "school": SchoolFile(iso="ceiling", iso_cap=1600, exposure="dark"),
        },
        spots=[
            _spot("boards", "lit boards", "subject", 0.52, 0.87, 0.0),
            _spot("sky", "blue hour sky", "keep-dark", 0.30, 0.12, -2.5),
        ],
    ),
    DemoSheet(
        scenes_lamp.stars_over_slip,
        "stars_over_slip.jpg",
        "2026:10:03 21:30:00",
        {
            "title": "Stars over the slip",
            "intent": "Mast against the stars, in the hand first.",
            "support": "handheld",
            "school": SchoolFile(exposure="dark"),
        },
        spots=[_spot("sky", "sky between stars", "keep-dark", 0.72, 0.42, -2.5)],
    ),
)


def seed_demo(library: Library) -> bool:
    """Make the demo outings in an empty library; False when something is kept there already."""
    with library.reader() as connection:
        if outings(connection) or outings(connection, deleted=True):
            return False
    _seed_outing(
        library, EVENING_SHEETS, "Lantern evening", "Kettle Reach, the quay", "17:00 to 22:00"
    )
    day = _seed_outing(
        library, DAY_SHEETS, "Autumn haul-out", "Kettle Reach, the slip", "08:00 to 15:30"
    )
    _seed_unmetered(library, day)
    _seed_glass(library)
    return True


GLASS = (
    KeptGlass("polariser", "Polariser", 2.8, "turned for the least glare; takes 1.5 stops"),
    KeptGlass("nd-64", "ND 64", 64.0, "measured on the grey card in the yard"),
    KeptGlass("nd-1000", "ND 1000", 1000.0, "a little warm"),
)


def _seed_glass(library: Library) -> None:
    """The filters in the yard's drawer."""
    with library.writer() as connection:
        for glass in GLASS:
            keep_glass(connection, glass, SEEDED_AT)


def _seed_outing(
    library: Library, sheets: tuple[DemoSheet, ...], title: str, place: str, window: str
) -> int:
    with library.writer() as connection:
        outing_id = add_outing(
            connection, title=title, place=place, light_window=window, now=SEEDED_AT
        )
    for number, demo in enumerate(sheets):
        _seed_sheet(library, outing_id, demo, number)
    return outing_id


def _seed_sheet(library: Library, outing_id: int, demo: DemoSheet, seed: int) -> None:
    profile = shipped_profile(PHONE)
    lens = profile.to_phone().lens(demo.lens)
    phone = BenchPhone(profile, lens, lens.modes[0], seed)
    scene = demo.scene()
    make = phone.dng if demo.kind == "dng" else phone.jpeg
    incoming = library.incoming_path()
    incoming.write_bytes(make(scene, phone.auto_settings(scene), demo.taken_at))

    def attach(connection: Any, sha256: str, _report: dict[str, Any]) -> int:
        body = SheetBody(phone=PHONE, lens=demo.lens, picture=sha256, spots=demo.spots, **demo.body)
        return add_sheet(connection, outing_id, body.model_dump_json(), SEEDED_AT)

    take_in(library, incoming, demo.file_name, now=SEEDED_AT, attach=attach)


def _planned(title: str, intent: str, level: str, **wishes: Any) -> SheetBody:
    """A sheet planned at the desk, from the table of usual light."""
    guess = ReadingBody(id="guess", name=wishes.pop("name"), source=UsualLevel(level=level))
    return SheetBody(title=title, intent=intent, phone=PHONE, readings=[guess], **wishes)


def _seed_unmetered(library: Library, outing_id: int) -> None:
    """Sheets planned the evening before."""
    bodies = (
        _planned(
            "Sail trials from the jetty",
            "Planned the evening before; meter it there.",
            "hazy-sun",
            name="hazy sun on the creek",
            lens="long",
            motion=[MotionFile(subject="dinghy", sharp=SharpFile(by="pixel", value=2))],
            hold=HoldFile(burst=8),
        ),
        _planned(
            "Sluice as a veil",
            "Water soft, boards sharp; stand clear of the wet sill.",
            "overcast",
            name="overcast over the sluice",
            lens="main",
            support="tripod",
            format="raw",
            looks=[LookFile(look="soft", subject="sluice")],
        ),
    )
    with library.writer() as connection:
        for body in bodies:
            add_sheet(connection, outing_id, body.model_dump_json(), SEEDED_AT)
