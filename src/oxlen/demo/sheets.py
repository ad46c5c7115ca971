"""The sheets of the Kettle Reach demo that begin with a picture."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from oxlen.formats.sheet.file import SpotBody

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
            "title": "Tarred hull on the hard",
            "intent": "Planking readable, cloud held.",
            "support": "handheld",
            "state": "shot",
        },
        spots=[
            _spot("hull", "tarred planks", "subject", x=0.42, y=0.545, place=-2.0),
            _spot("sky", "bright cloud", "keep-bright", x=0.46, y=0.06, place=None),
            _spot("mud", "yard mud", "keep-dark", x=0.80, y=0.83, place=None),
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
            "intent": "Fitting in window light, dark shed.",
            "support": "handheld",
            "format": "raw",
            "strategy": {"iso": "floor", "iso_cap": 800},
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
            "intent": "Threads of water, sharp timber. Stay off the wet sill.",
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
            "intent": "Metal in its own colour, card neutral, no flicker bands.",
            "support": "tripod",
            "format": "raw",
            "strategy": {"iso": "floor"},
            "flicker": {"driver_hz": 480},
            "output": {"use": "screen", "snr": "excellent"},
            "light_colour": {
                "lamps": [{"name": "Bench panel", "cct_k": 4000, "duv": 0.001, "cri": 92}],
                "ground": "dark",
                "neutral_in_frame": True,
            },
            "focus": {"strategy": "by_hand", "on": "the cleat", "distance_m": 1.13},
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
            "focus": {"on": "the amber label", "distance_m": 1.2},
            "saving": {"strategy": "processed_when_controlled", "pictures": 12},
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
                "mood_mired": 180,
                "mood_reason": "lantern light stays warm",
            },
            "title": "Lantern evening on the quay",
            "intent": "Dark night, glowing quay boards.",
            "support": "braced",
            "strategy": {"iso": "ceiling", "iso_cap": 1600, "exposure": "dark"},
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
            "title": "Stars over the hard",
            "intent": "Mast against the stars, handheld first.",
            "support": "handheld",
            "format": "raw",
            "strategy": {"exposure": "dark"},
            "sky": {"kind": "stars", "declination_deg": 20},
        },
        spots=[_spot("sky", "sky between stars", "keep-dark", x=0.24, y=0.30, place=-2.5)],
    ),
)
