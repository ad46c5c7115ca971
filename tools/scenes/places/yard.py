"""The yard by day: a tarred hull under cloud, a white one in full sun."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import MAIN_HFOV, View
from tools.scenes.render import Place, Thing
from tools.scenes.shapes import joined

VIEW = View((-0.4, 0.2, 1.55), (0.15, 7.0, 1.05), MAIN_HFOV)
HULL_AT = (0.75, 6.1, 0.36)
HULL_TURN = 14.0


def _yard(paint: dict[str, object], wood: tuple[float, float, float]) -> list[Thing]:
    ground_height = shapes.rough(3, 3.2, 0.055)
    ground = shapes.surface(
        lambda x, y: ground_height(x, y) - 0.075 * np.clip(y - 6.5, 0, None) ** 1.12,
        (-16, 16),
        (-1.0, 15.5),
        steps=(420, 380),
        tile=3.4,
    )
    draw = np.random.default_rng(4)
    stones = [
        (draw.uniform(-9, 9), draw.uniform(1.2, 12), -0.02, draw.uniform(0.03, 0.16))
        for _ in range(900)
    ]
    stones = [(x, y, z - 0.075 * max(0, y - 6.5) ** 1.12, s) for x, y, z, s in stones]
    ways = joined(
        *(
            shapes.box(0.24, 11.0, 0.2, bevel=0.012).turned(-3.2, (1, 0, 0)).moved(x, 10.5, -0.32)
            for x in (-0.3, 1.6)
        ),
        *(
            shapes.box(3.4, 0.22, 0.14, bevel=0.01).moved(0.65, y, 0.02 - 0.07 * (y - 5))
            for y in np.arange(7.4, 14, 1.1)
        ),
    )
    hull = shapes.hull().turned(HULL_TURN).moved(*HULL_AT)
    rails = shapes.hull_rails().turned(HULL_TURN).moved(*HULL_AT)
    props = parts.cradle(5.2).turned(HULL_TURN).moved(*HULL_AT)
    mast = shapes.tube(
        np.array([(0.9, 6.25, 0.8), (0.92, 6.25, 3.4), (0.95, 6.25, 6.2)]), [0.065, 0.058, 0.04]
    )
    planks = joined(
        *(
            shapes.box(0.2, 3.2, 0.035, bevel=0.003)
            .turned(88 + 3 * i)
            .moved(-4.1 + 0.04 * i, 5.2, 0.30 + 0.045 * i)
            for i in range(5)
        ),
    )
    ladder = (
        joined(
            *(
                shapes.tube(np.array([(x, 0, 0), (x, 0.28, 1.0), (x, 0.55, 2.0)]), 0.022, 8)
                for x in (-0.2, 0.2)
            ),
            *(
                shapes.tube(
                    np.array(
                        [
                            (-0.2, 0.14 * i, 0.5 * i),
                            (0.0, 0.14 * i, 0.5 * i),
                            (0.2, 0.14 * i, 0.5 * i),
                        ]
                    ),
                    0.016,
                    8,
                )
                for i in np.arange(0.5, 4, 0.55)
            ),
        )
        .turned(-6)
        .moved(2.55, 5.05, 0.0)
    )
    return [
        Thing(
            "ground",
            ground,
            looks.matt(
                looks.mottled((0.20, 0.175, 0.14), (0.11, 0.095, 0.08), 5, cells=10, contrast=0.7)
            ),
        ),
        Thing(
            "stones",
            shapes.scattered(shapes.stone(9), stones, 8),
            looks.matt(looks.colour(0.21, 0.20, 0.185)),
        ),
        Thing("ways", ways, looks.matt(looks.wood((0.15, 0.125, 0.10), 21, tile=(1, 0.4)))),
        Thing("hull", hull, paint),
        Thing("rails", rails, looks.painted(looks.wood(wood, 22, tile=(1, 3)), 0.22)),
        Thing("cradle", props, looks.matt(looks.wood((0.22, 0.17, 0.12), 23, tile=(1, 1)))),
        Thing("mast", mast, looks.painted(looks.wood((0.34, 0.20, 0.09), 24, tile=(6, 0.3)), 0.15)),
        Thing("planks", planks, looks.matt(looks.wood((0.42, 0.31, 0.19), 25, tile=(2, 0.4)))),
        Thing(
            "trestles",
            joined(
                parts.sawhorse().turned(4).moved(-4.6, 4.6, -0.42 + 0.0),
                parts.sawhorse().turned(-3).moved(-3.4, 5.7, -0.42),
            ),
            looks.matt(looks.wood((0.36, 0.27, 0.17), 26)),
        ),
        Thing("ladder", ladder, looks.matt(looks.wood((0.45, 0.36, 0.24), 27, tile=(1, 3)))),
        Thing(
            "drum",
            parts.barrel().moved(-2.5, 7.6, -0.02),
            looks.painted(looks.mottled((0.05, 0.10, 0.12), (0.20, 0.09, 0.04), 28, cells=5), 0.35),
        ),
        Thing(
            "bucket",
            parts.bucket().moved(-1.45, 4.2, 0.0),
            looks.painted(looks.mottled((0.32, 0.33, 0.33), (0.22, 0.20, 0.18), 29), 0.3),
        ),
        Thing(
            "rope",
            parts.rope_coil(5, 0.26).moved(2.5, 3.7, 0.02),
            looks.matt(looks.colour(0.42, 0.34, 0.20)),
        ),
        Thing(
            "card",
            parts.grey_card().turned(8, (1, 0, 0)).turned(-6).moved(-0.55, 3.9, 0.02),
            looks.matt(looks.colour(0.18, 0.18, 0.18)),
        ),
        Thing(
            "tufts",
            shapes.grass(2600, (-6.5, -3.2, 1.6, 4.2), 0.32, seed=30).moved(z=-0.02),
            looks.matt(looks.colour(0.10, 0.13, 0.045)),
        ),
        Thing(
            "tufts-right",
            shapes.grass(1800, (3.6, 7.5, 3.0, 9.0), 0.30, seed=31).moved(z=-0.04),
            looks.matt(looks.colour(0.12, 0.14, 0.05)),
        ),
        *parts.open_shed(-5.6, 9.0, colour=(0.035, 0.030, 0.027), seed=40),
        *parts.creek_water(12.6, 62.0, -0.62, steepness=0.20, seed=5),
        *parts.far_bank(58.0, 4.6, 6),
    ]


def overcast() -> Place:
    """A tarred hull on the hard under a closed grey sky."""
    tar = looks.painted(looks.wood((0.030, 0.027, 0.025), 20, grain=0.32, tile=(1.3, 4)), 0.42)
    truth = {
        "situation": "flat grey daylight with a foreground and a sky",
        "neutral": [VIEW.spot("grey card", (-0.55, 3.88, 0.13), 0.012)],
        "lamps": [
            {
                "name": "cloud",
                "cct_k": 6800,
                "duv": 0.003,
                "cri": 98,
                "pulse_hz": None,
                "luminance_cd_m2": 2900,
            }
        ],
        "movers": [],
        "acceptance": {
            "tones": [
                VIEW.spot(
                    "tarred planks", (0.2, 5.3, 0.85), 0.03, role="subject", low=-4.0, high=-1.2
                ),
                {
                    "name": "bright cloud",
                    "x": 0.46,
                    "y": 0.045,
                    "r": 0.03,
                    "role": "keep-bright",
                    "low": 0.3,
                    "high": 2.45,
                },
            ],
            "sharp": [VIEW.spot("bow", (2.6, 5.6, 1.0), 0.04, max_blur_px=2.5)],
            "clipped_share_max": 0.02,
        },
    }
    return Place(
        "yard-overcast",
        "Tarred hull under a grey sky",
        _yard(tar, (0.20, 0.13, 0.07)),
        emitters=[lights.cloud(11)],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        card_lux=14000.0,
        haze=(520.0, (2300.0, 2450.0, 2600.0)),
    )


def white_hull() -> Place:
    """The same slip with a white hull in full sun."""
    white = looks.painted(looks.colour(0.80, 0.79, 0.76), 0.20)
    truth = {
        "situation": "bright ground and hull in sun",
        "neutral": [
            VIEW.spot("grey card", (-0.55, 3.88, 0.13), 0.012),
            VIEW.spot("white paint", (0.4, 5.35, 0.85), 0.02),
        ],
        "lamps": [
            {
                "name": "sun",
                "cct_k": 5500,
                "duv": 0.002,
                "cri": 99,
                "pulse_hz": None,
                "luminance_cd_m2": 1200000000.0,
            }
        ],
        "movers": [],
        "acceptance": {
            "tones": [
                VIEW.spot(
                    "sunlit paint", (0.4, 5.35, 0.85), 0.03, role="subject", low=1.1, high=2.4
                ),
                {
                    "name": "bright sky",
                    "x": 0.97,
                    "y": 0.3667,
                    "r": 0.025,
                    "role": "keep-bright",
                    "low": 0.3,
                    "high": 2.6,
                },
            ],
            "sharp": [VIEW.spot("bow", (2.6, 5.6, 1.0), 0.04, max_blur_px=2.5)],
            "clipped_share_max": 0.03,
        },
    }
    return Place(
        "white-hull-sun",
        "White hull in full sun",
        _yard(white, (0.42, 0.24, 0.10)),
        emitters=[lights.sun_and_sky(42, 205, 3.2)],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        card_lux=88000.0,
        haze=(900.0, (3000.0, 3600.0, 4700.0)),
    )
