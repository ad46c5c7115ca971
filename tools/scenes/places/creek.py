"""On the creek: a dinghy passing at speed, and the sluice running."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import LONG_HFOV, MAIN_HFOV, View
from tools.scenes.render import Place, Thing
from tools.scenes.shapes import Mesh, joined

SAIL_VIEW = View((0.0, 0.0, 1.9), (0.0, 16.0, 1.75), LONG_HFOV)
SLUICE_VIEW = View((-0.35, -0.9, 1.75), (0.15, 4.2, 0.72), MAIN_HFOV)


def dinghy() -> Place:
    """A dinghy under sail crossing the view from the jetty."""
    at = (-0.35, 15.0, -0.28)
    hull = shapes.hull(3.9, 1.5, 0.62, strakes=7)
    mast = shapes.tube(
        np.array([(0.85, 0, 0.3), (0.84, 0, 2.6), (0.80, 0, 5.0)]), [0.04, 0.036, 0.022]
    )
    boom = shapes.tube(
        np.array([(0.85, 0.02, 0.86), (-0.4, 0.20, 0.90), (-1.5, 0.34, 0.95)]), 0.026
    )
    main = shapes.sail(4.1, 2.25, 0.30).turned(-9).moved(0.84, 0.0, 0.62)
    jib = shapes.sail(3.0, 1.15, 0.18).scaled(-1, 1, 1).turned(6).moved(0.92, 0.02, 0.55)
    pool = joined(
        shapes.turned_on_lathe(
            [
                (0.19, 0.52),
                (0.20, 0.70),
                (0.215, 0.95),
                (0.19, 1.08),
                (0.085, 1.14),
                (0.062, 1.17),
                (0.06, 1.22),
            ],
            32,
        )
        .scaled(0.9, 1, 1)
        .moved(-0.73, -0.28, 0),
        shapes.tube(
            np.array([(-0.66, -0.10, 1.02), (-0.45, 0.02, 0.86), (-0.20, 0.14, 0.93)]),
            [0.075, 0.062, 0.048],
            14,
        ),
        shapes.tube(
            np.array([(-0.66, -0.46, 1.02), (-0.50, -0.50, 0.80), (-0.62, -0.44, 0.62)]),
            [0.075, 0.062, 0.048],
            14,
        ),
    )
    head = shapes.ball(0.10).scaled(0.95, 0.85, 1.2).moved(-0.715, -0.28, 1.31)
    cap = shapes.turned_on_lathe(
        [(0.0, 0.07), (0.07, 0.062), (0.108, 0.03), (0.112, 0.0), (0.17, -0.02), (0.0, -0.012)], 32
    ).moved(-0.71, -0.28, 1.37)

    def afloat(part: Mesh) -> Mesh:
        return part.turned(-5, (1, 0, 0)).moved(*at)

    boat = joined(hull, shapes.hull_rails(3.9, 1.5, 0.62))
    truth = {
        "situation": "moving boat",
        "neutral": [SAIL_VIEW.spot("sailcloth", (0.1, 15.0, 1.6), 0.02)],
        "lamps": [
            {
                "name": "sun",
                "cct_k": 5400,
                "duv": 0.002,
                "cri": 99,
                "pulse_hz": None,
                "luminance_cd_m2": 1200000000.0,
            }
        ],
        "movers": [
            {
                "name": "dinghy",
                "layer": True,
                "speed_m_s": 2.6,
                "distance_m": 15.0,
                "direction_deg": 90,
                "image_angle_deg": 0,
            },
            {
                "name": "water",
                "objects": ["water"],
                "kind": "water",
                "speed_m_s": 0.7,
                "distance_m": 12.0,
                "image_angle_deg": 180,
            },
        ],
        "acceptance": {
            "tones": [
                SAIL_VIEW.spot(
                    "sailcloth", (0.1, 15.0, 1.6), 0.02, role="subject", low=0.4, high=2.45
                ),
            ],
            "freeze": [{"mover": "dinghy", "max_blur_px": 2.5}],
            "sharp": [],
            "clipped_share_max": 0.03,
        },
    }
    water = parts.creek_water(3.0, 260.0, -0.35, steepness=0.34, seed=15)
    whole = joined(afloat(boat))
    things = [
        Thing("dinghy", whole, looks.painted(looks.colour(0.06, 0.16, 0.20), 0.2), layer="dinghy"),
        Thing(
            "dinghy-spars",
            joined(afloat(mast), afloat(boom)),
            looks.painted(looks.wood((0.36, 0.22, 0.10), 90), 0.2),
            layer="dinghy",
        ),
        Thing(
            "dinghy-sails",
            joined(afloat(main), afloat(jib)),
            looks.matt(looks.colour(0.66, 0.63, 0.55)),
            layer="dinghy",
        ),
        Thing(
            "dinghy-pool", afloat(pool), looks.matt(looks.colour(0.32, 0.07, 0.04)), layer="dinghy"
        ),
        Thing(
            "dinghy-head", afloat(head), looks.matt(looks.colour(0.42, 0.26, 0.18)), layer="dinghy"
        ),
        Thing(
            "dinghy-cap", afloat(cap), looks.matt(looks.colour(0.50, 0.44, 0.30)), layer="dinghy"
        ),
        *water,
        *parts.far_bank(190.0, 6.5, 16),
        Thing(
            "post",
            joined(
                *(
                    shapes.tube(
                        np.array([(x, y, -1.5), (x + 0.03, y, 0.3), (x + 0.05, y, 1.4)]), 0.14, 16
                    )
                    for x, y in ((-7.6, 30.0), (9.5, 42.0))
                )
            ),
            looks.matt(looks.wood((0.09, 0.075, 0.06), 91)),
        ),
    ]
    return Place(
        "dinghy-passing",
        "Dinghy passing under sail",
        things,
        emitters=[lights.sun_and_sky(34, 235, 5.0)],
        eye=SAIL_VIEW.eye,
        target=SAIL_VIEW.target,
        hfov_deg=SAIL_VIEW.hfov_deg,
        truth=truth,
        card_lux=64000.0,
        card_at=(0, 8, 6),
        haze=(900.0, (4200.0, 4700.0, 5600.0)),
    )


def sluice() -> Place:
    """Water falling through the sluice into the pool, timber on both sides."""
    t = np.linspace(0, 1, 90)
    y = 4.55 - 0.10 * t - 0.95 * t**1.25
    z = np.where(t < 0.12, 1.32, 1.32 - 1.30 * np.clip((t - 0.12) / 0.88, 0, 1) ** 1.55)
    draw = np.random.default_rng(17)
    x = np.linspace(-0.92, 0.92, 150)
    streams = sum(
        a * np.sin(k * x + p)
        for a, k, p in zip(
            draw.uniform(0.006, 0.024, 14),
            draw.uniform(8, 75, 14),
            draw.uniform(0, 6, 14),
            strict=True,
        )
    )
    rows = []
    for yy, zz, s in zip(y, z, t, strict=True):
        ripple = streams * (0.25 + 1.9 * s) + 0.02 * s * draw.normal(size=x.size)
        rows.append(
            np.stack([x * (1 + 0.06 * s), np.full_like(x, yy) - ripple, np.full_like(x, zz)], -1)
        )
    fall = shapes.swept(rows, tile=(3, 1))
    wave = shapes.waves(18, 46, (0.10, 1.2), steepness=0.75, wind_deg=-90)
    pool = shapes.surface(
        lambda xx, yy: wave(xx, yy) * (0.35 + 1.6 * np.exp(-(((yy - 3.3) / 0.75) ** 2))),
        (-7, 7),
        (-1.0, 3.9),
        steps=(620, 520),
    )
    bubbles = [
        (
            draw.uniform(-1.1, 1.1),
            3.42 + abs(draw.normal(0, 0.22)) * -1,
            0.015 + abs(draw.normal(0, 0.025)),
            abs(draw.normal(0.012, 0.010)) + 0.004,
        )
        for _ in range(6500)
    ]
    foam = shapes.scattered(shapes.stone(19), bubbles, 19)
    above = shapes.surface(
        lambda xx, yy: shapes.waves(20, 30, (0.2, 2), steepness=0.08, wind_deg=90)(xx, yy),
        (-1.0, 1.0),
        (4.4, 16),
        steps=(80, 240),
    ).moved(z=1.33)
    bed = shapes.box(16, 8, 0.05).moved(0, 1.6, -0.75)
    piers = joined(
        *(
            shapes.boards(8, 0.24, 3.2, thickness=0.09, seed=21 + i)
            .turned(90, (0, 1, 0))
            .turned(sign * 4)
            .moved(sign * 1.12, 3.9, 1.05)
            for i, sign in enumerate((1, -1))
        ),
        *(
            shapes.box(0.26, 0.26, 2.9, bevel=0.02).moved(sign * 1.20, y0, -0.5)
            for sign in (1, -1)
            for y0 in (2.6, 3.8, 4.75)
        ),
    )
    walls = joined(
        *(
            shapes.boards(9, 0.30, 5.2, thickness=0.1, seed=23 + i)
            .turned(90, (0, 1, 0))
            .turned(90)
            .moved(sign * 3.9, 4.65, 0.85)
            for i, sign in enumerate((1, -1))
        ),
    )
    gate = joined(
        shapes.box(2.5, 0.16, 0.22, bevel=0.02).moved(0, 4.75, 2.25),
        shapes.box(1.95, 0.07, 0.75, bevel=0.01).moved(0, 4.85, 1.52),
        *(shapes.box(0.10, 0.10, 1.2).moved(xx, 4.80, 1.5) for xx in (-0.45, 0.45)),
        shapes.tube(np.array([(-0.5, 4.74, 2.55), (0, 4.74, 2.55), (0.5, 4.74, 2.55)]), 0.028, 12),
    )
    walk = joined(
        *(
            shapes.box(5.4, 0.19, 0.05, bevel=0.004)
            .turned(0.3 * (i % 2))
            .moved(0, 5.0 + 0.2 * i, 2.28)
            for i in range(4)
        )
    )
    rail = joined(
        *(
            shapes.tube(np.array([(xx, 4.95, 2.3), (xx, 4.95, 2.8), (xx, 4.95, 3.2)]), 0.03, 10)
            for xx in (-2.4, -0.8, 0.8, 2.4)
        ),
        shapes.tube(np.array([(-2.5, 4.95, 3.2), (0, 4.95, 3.2), (2.5, 4.95, 3.2)]), 0.028, 10),
    )
    banks = joined(
        *(
            shapes.surface(
                lambda xx, yy: 0.9 + shapes.rough(26, 2.4, 0.25)(xx, yy) + 0.25 * np.abs(xx) ** 0.7,
                span,
                (4.7, 30),
                steps=(90, 120),
                tile=3,
            )
            for span in ((-16, -1.4), (1.4, 16))
        )
    )
    reeds = joined(
        shapes.grass(2600, (-6, -2.2, 4.9, 7.5), 0.9, seed=27).moved(z=1.5),
        shapes.grass(2600, (2.2, 6, 4.9, 7.5), 0.9, seed=28).moved(z=1.5),
    )
    timber = looks.painted(looks.wood((0.075, 0.068, 0.05), 92, grain=0.4, tile=(0.6, 1)), 0.35)
    truth = {
        "situation": "moving water, three looks",
        "neutral": [SLUICE_VIEW.spot("grey card", (-1.42, 2.52, 1.22), 0.012)],
        "lamps": [
            {
                "name": "cloud",
                "cct_k": 6600,
                "duv": 0.003,
                "cri": 98,
                "pulse_hz": None,
                "luminance_cd_m2": 990,
            }
        ],
        "movers": [
            {
                "name": "fall",
                "objects": ["fall"],
                "kind": "flow",
                "speed_m_s": 2.4,
                "distance_m": 4.7,
                "image_angle_deg": 90,
            },
            {
                "name": "pool",
                "objects": ["pool", "foam"],
                "kind": "flow",
                "speed_m_s": 1.0,
                "distance_m": 3.4,
                "image_angle_deg": 90,
            },
        ],
        "acceptance": {
            "tones": [
                SLUICE_VIEW.spot(
                    "grey card", (-1.42, 2.52, 1.22), 0.012, role="neutral", low=-1.6, high=0.8
                )
            ],
            "streak": [{"mover": "fall", "low": 0.10, "high": 3.0}],
            "sharp": [SLUICE_VIEW.spot("pier", (-1.2, 2.5, 1.6), 0.03, max_blur_px=2.5)],
            "clipped_share_max": 0.03,
        },
    }
    things = [
        Thing(
            "fall",
            fall,
            looks.painted(
                looks.mottled(
                    (0.62, 0.66, 0.66), (0.16, 0.20, 0.19), 93, cells=3, contrast=0.9, tile=(0.5, 9)
                ),
                0.12,
            ),
        ),
        Thing("pool", pool, looks.water(0.06)),
        Thing("foam", foam, looks.matt(looks.colour(0.78, 0.80, 0.79))),
        Thing("above", above, looks.water(0.03)),
        Thing("bed", bed, looks.matt(looks.colour(0.045, 0.048, 0.03))),
        Thing(
            "back",
            shapes.box(2.0, 0.05, 1.3).moved(0, 4.62, 0.0),
            looks.matt(looks.colour(0.03, 0.035, 0.03)),
        ),
        Thing("piers", piers, timber),
        Thing(
            "walls",
            walls,
            looks.matt(looks.wood((0.085, 0.08, 0.06), 94, grain=0.45, tile=(1, 0.6))),
        ),
        Thing("gate", gate, looks.matt(looks.wood((0.16, 0.14, 0.11), 95, grain=0.4))),
        Thing("walk", walk, looks.matt(looks.wood((0.26, 0.22, 0.17), 96, tile=(0.5, 2)))),
        Thing("rail", rail, looks.matt(looks.wood((0.22, 0.19, 0.15), 97))),
        Thing(
            "banks", banks, looks.matt(looks.mottled((0.10, 0.115, 0.05), (0.17, 0.14, 0.08), 98))
        ),
        Thing("reeds", reeds, looks.matt(looks.colour(0.22, 0.20, 0.09))),
        Thing(
            "card",
            parts.grey_card(0.20).moved(-1.42, 2.52, 1.12),
            looks.matt(looks.colour(0.18, 0.18, 0.18)),
        ),
        Thing("card-post", shapes.box(0.12, 0.12, 1.9).moved(-1.42, 2.62, -0.6), timber),
        Thing(
            "trees",
            shapes.scattered(
                shapes.crown(29),
                [(xx, 26 + 4 * (i % 3), 3.0, 5.5) for i, xx in enumerate(np.arange(-36, 37, 3.1))],
                29,
            ),
            looks.matt(looks.colour(0.05, 0.066, 0.03)),
        ),
    ]
    return Place(
        "sluice",
        "The sluice running",
        things,
        emitters=[lights.cloud(23)],
        eye=SLUICE_VIEW.eye,
        target=SLUICE_VIEW.target,
        hfov_deg=SLUICE_VIEW.hfov_deg,
        truth=truth,
        card_lux=5200.0,
        card_at=(0, 2, 4),
        max_depth=9,
        haze=(420.0, (900.0, 960.0, 1010.0)),
    )
