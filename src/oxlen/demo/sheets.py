"""The sheets of the Kettle Reach demo, and the filters in the yard's drawer."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from oxlen.core.kit.clip_on import ClipOn
from oxlen.core.kit.lamp import Lamp
from oxlen.formats.sheet_file import ReadingBody, SheetBody, SpotBody, UsualLevel
from oxlen.store.glass import KeptGlass

PHONE = "wherry-3"


@dataclass(frozen=True)
class DemoSheet:
    """A sheet of the demo: its scene, how it was photographed, and what the sheet holds."""

    scene: str
    file_name: str
    taken_at: str
    body: dict[str, Any]
    lens: str = "main"
    kind: Literal["jpeg", "dng"] = "jpeg"
    spots: list[SpotBody] = field(default_factory=list)


def _spot(
    spot_id: str, name: str, role: Any, *, x: float, y: float, place: float | None
) -> SpotBody:
    return SpotBody(id=spot_id, name=name, role=role, x=x, y=y, r=0.022, place=place)


DAY_SHEETS = (
    DemoSheet(
        "yard-overcast",
        "slip_grey_morning.jpg",
        "2026:10:03 08:12:00",
        body={
            "light_colour": {"usual": "overcast"},
            "title": "Tarred hull on the slip",
            "intent": "Planking readable, cloud kept.",
            "support": "handheld",
            "state": "shot",
        },
        spots=[
            _spot("hull", "tarred planks", "subject", x=0.42, y=0.545, place=-2.0),
            _spot("sky", "bright cloud", "keep-bright", x=0.46, y=0.06, place=None),
            _spot("mud", "slip mud", "keep-dark", x=0.80, y=0.83, place=None),
        ],
    ),
    DemoSheet(
        "white-hull-sun",
        "white_hull_noon.jpg",
        "2026:10:03 12:40:00",
        body={
            "light_colour": {"usual": "sun"},
            "title": "White hull in full sun",
            "intent": "White paint white, with its shape in it.",
            "support": "handheld",
        },
        spots=[
            _spot("paint", "sunlit paint", "subject", x=0.40, y=0.545, place=1.7),
            _spot("stem", "rail at the bow", "keep-bright", x=0.62, y=0.475, place=None),
            _spot("shed", "shed boards", "keep-dark", x=0.08, y=0.45, place=None),
        ],
    ),
    DemoSheet(
        "tarred-shed",
        "tarred_shed_bench.dng",
        "2026:10:03 15:05:00",
        body={
            "light_colour": {"usual": "window", "ground": "dark"},
            "title": "Bronze on the shed bench",
            "intent": "Fitting in window light, shed stays dark.",
            "support": "handheld",
            "format": "raw",
            "school": {"iso": "floor", "iso_cap": 800},
        },
        kind="dng",
        spots=[
            _spot("card", "grey card", "neutral", x=0.397, y=0.525, place=0.0),
            _spot("boards", "tarred boards", "keep-dark", x=0.07, y=0.38, place=-4.5),
        ],
    ),
)
LATER_SHEETS = (
    DemoSheet(
        "sluice",
        "sluice_running.dng",
        "2026:10:03 10:30:00",
        body={
            "light_colour": {"usual": "overcast"},
            "title": "The sluice running",
            "intent": "Threads of water, timber sharp. Stand clear of the wet sill.",
            "support": "tripod",
            "format": "raw",
            "looks": [{"look": "texture", "subject": "sluice", "distance_m": 4.7}],
            "glass": [{"name": "ND 64", "factor": 64}],
        },
        kind="dng",
        spots=[
            _spot("timber", "wet timber", "subject", x=0.265, y=0.55, place=-1.5),
            _spot("foam", "foam", "keep-bright", x=0.50, y=0.67, place=None),
        ],
    ),
    DemoSheet(
        "dinghy-passing",
        "dinghy_passing.jpg",
        "2026:10:03 14:20:00",
        body={
            "light_colour": {"usual": "sun"},
            "title": "Dinghy passing the jetty",
            "intent": "Frozen to the pixel, sail bright.",
            "support": "handheld",
            "motion": [{"subject": "dinghy", "sharp": {"by": "pixel", "value": 2}}],
            "hold": {"burst": 8},
        },
        lens="long",
        spots=[
            _spot("sail", "sailcloth", "subject", x=0.50, y=0.55, place=1.2),
            _spot("creek", "dark water", "keep-dark", x=0.12, y=0.75, place=None),
        ],
    ),
    DemoSheet(
        "bronze-bench",
        "bronze_for_the_shop.dng",
        "2026:10:03 16:40:00",
        body={
            "title": "Bronze fittings for the shop",
            "intent": "Metal with its colour, card neutral, no bands.",
            "support": "tripod",
            "format": "raw",
            "school": {"iso": "floor"},
            "flicker": {"driver_hz": 480},
            "output": {"use": "screen", "snr": "excellent"},
            "light_colour": {
                "lamps": [{"name": "Bench panel", "cct_k": 4000, "duv": 0.001, "cri": 92}],
                "ground": "dark",
                "neutral_in_frame": True,
            },
            "focus": {"school": "by_hand", "on": "the cleat", "distance_m": 0.62},
        },
        lens="long",
        kind="dng",
        spots=[
            _spot("card", "grey card", "neutral", x=0.785, y=0.455, place=0.0),
            _spot("oak", "oiled oak", "keep-dark", x=0.72, y=0.80, place=None),
        ],
    ),
)
EVENING_SHEETS = (
    DemoSheet(
        "varnish-tins",
        "varnish_tins.jpg",
        "2026:10:03 17:20:00",
        body={
            "title": "Varnish tins for the shop",
            "intent": "Paper white, labels true, all alike.",
            "support": "tripod",
            "flicker": {"mains_hz": 50},
            "output": {"use": "shop", "snr": "excellent"},
            "light_colour": {"lamps": [{"name": "Box panels", "cct_k": 5000, "cri": 95}]},
            "focus": {"on": "the amber label", "distance_m": 0.8},
            "saving": {"school": "processed_when_controlled", "pictures": 12},
        },
        lens="long",
        spots=[
            _spot("sweep", "white sweep", "subject", x=0.12, y=0.80, place=1.7),
            _spot("label", "amber label", "subject", x=0.50, y=0.62, place=-1.0),
            _spot("rim", "tin rim", "keep-bright", x=0.505, y=0.335, place=None),
        ],
    ),
    DemoSheet(
        "lantern-evening",
        "lantern_evening.jpg",
        "2026:10:03 19:02:00",
        body={
            "light_colour": {
                "lamps": [
                    {"name": "Lanterns", "cct_k": 2000, "share": 3, "zone": "the quay boards"},
                    {"name": "Blue hour", "cct_k": 12000, "share": 1, "zone": "the sky"},
                ],
            },
            "title": "Lantern evening on the quay",
            "intent": "Night stays night, quay boards glow.",
            "support": "braced",
            "school": {"iso": "ceiling", "iso_cap": 1600, "exposure": "dark"},
        },
        spots=[
            _spot("boards", "lit boards", "subject", x=0.44, y=0.85, place=0.0),
            _spot("sky", "blue hour sky", "keep-dark", x=0.25, y=0.08, place=-2.5),
        ],
    ),
    DemoSheet(
        "stars-over-slip",
        "stars_over_slip.jpg",
        "2026:10:03 21:30:00",
        body={
            "title": "Stars over the slip",
            "intent": "Mast against the stars, in the hand first.",
            "support": "handheld",
            "format": "raw",
            "school": {"exposure": "dark"},
            "sky": {"kind": "stars", "declination_deg": 20},
        },
        spots=[_spot("sky", "sky between stars", "keep-dark", x=0.24, y=0.30, place=-2.5)],
    ),
)


def _planned(title: str, intent: str, level: str, **asked: Any) -> SheetBody:
    """A sheet planned at the desk, from the table of usual light."""
    guess = ReadingBody(id="guess", name=asked.pop("name"), source=UsualLevel(level=level))
    said = {"title": title, "intent": intent, "phone": PHONE, "readings": [guess], **asked}
    return SheetBody.model_validate(said)


UNMETERED_SHEETS = (
    _planned(
        "Sail trials from the jetty",
        "Planned the evening before; meter it there.",
        "hazy-sun",
        name="hazy sun on the creek",
        lens="long",
        motion=[{"subject": "dinghy", "sharp": {"by": "pixel", "value": 2}}],
        hold={"burst": 8},
    ),
    _planned(
        "Sluice as a veil",
        "Water soft, boards sharp; stand clear of the wet sill.",
        "overcast",
        name="overcast over the sluice",
        lens="main",
        support="tripod",
        format="raw",
        looks=[{"look": "soft", "subject": "sluice"}],
    ),
)
BENCH_SHEETS = (
    _planned(
        "Loaf and butter at tea break",
        "Soft window light, crumb readable, true colours.",
        "window",
        name="the tea table by the window",
        lens="main",
        support="braced",
        light_colour={"usual": "window", "ground": "neutral", "neutral_in_frame": True},
        focus={"on": "the crust", "distance_m": 0.45, "background_m": 1.6},
        output={"use": "web", "snr": "acceptable"},
    ),
    _planned(
        "Bronze screw thread, close",
        "The thread sharp from crest to root.",
        "workshop",
        name="the thread under the bench lamp",
        lens="main",
        support="tripod",
        light_colour={"lamps": [{"name": "Bench panel", "cct_k": 4000, "duv": 0.001, "cri": 92}]},
        flicker={"driver_hz": 480},
        closeup={"distance_m": 0.08},
        focus={
            "distance_m": 0.08,
            "near_m": 0.076,
            "far_m": 0.086,
            "thing_mm": 18,
            "clip_on": {"name": "Ten dioptres", "dioptres": 10, "lens": "main"},
        },
    ),
)
DRAWING_SHEETS = (
    _planned(
        "Kettle drawn with a lamp",
        "One line of light, the shed wall black.",
        "starlight",
        name="the shed wall in the dark",
        lens="main",
        support="tripod",
        drawing={"time_s": 12},
        focus={"distance_m": 3.5, "stand_in": "the oar stood at the mark, lit by a torch"},
    ),
)
GLASS = (
    KeptGlass("polariser", "Polariser", 2.8, note="turned for the least glare; takes 1.5 stops"),
    KeptGlass("nd-64", "ND 64", 64.0, note="measured on the grey card in the yard"),
    KeptGlass("nd-1000", "ND 1000", 1000.0, note="a little warm"),
)
LAMPS = {
    "bench-panel": Lamp(
        "Bench panel", 4000.0, duv=0.001, cri=92.0, dims_to=0.1, pulse_hz=480.0, lumens=1100.0
    ),
    "box-panels": Lamp("Box panels", 5000.0, cri=95.0, pulse_hz=100.0, lumens=1800.0),
}
CLIP_ONS = {
    "ten": ClipOn("Ten dioptres", 10.0, "main"),
    "four": ClipOn("Four dioptres", 4.0, ""),
}
