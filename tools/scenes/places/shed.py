"""Inside the tarred shed: a bench by the window, the rest nearly dark."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.bench import cleat, rowlock, shackle
from tools.scenes.places.framing import MAIN_HFOV, View
from tools.scenes.render import Place, Thing
from tools.scenes.shapes import joined

VIEW = View((0.55, -0.3, 1.48), (-0.35, 2.6, 1.08), MAIN_HFOV)
TAR = (0.030, 0.026, 0.022)


def inside() -> Place:
    """A tarred shed with one window over a workbench."""
    wall = looks.matt(looks.wood(TAR, 50, grain=0.35, tile=(4, 0.5)))

    def boarding(count: int, seed: int) -> shapes.Mesh:
        return (
            shapes.boards(count, 0.19, 2.6, thickness=0.03, seed=seed)
            .turned(90, (1, 0, 0))
            .moved(z=1.3)
        )

    # The back wall leaves a window open: 1.1 m wide, from 1.15 to 1.95 m.
    left = boarding(11, 51).moved(-2.135, 3.3)
    right = boarding(13, 52).moved(1.285, 3.3)
    under = (
        shapes.boards(6, 0.19, 1.12, thickness=0.03, seed=53)
        .turned(90, (1, 0, 0))
        .moved(-0.52, 3.3, 0.56)
    )
    above = (
        shapes.boards(6, 0.19, 0.7, thickness=0.03, seed=54)
        .turned(90, (1, 0, 0))
        .moved(-0.52, 3.3, 2.3)
    )
    sides = [boarding(24, 55 + i).turned(90).moved(x, 1.2) for i, x in enumerate((-3.0, 2.45))]
    floor = shapes.boards(30, 0.19, 6.5, thickness=0.04, seed=58).moved(0, 1.0, -0.04)
    roof = shapes.box(6.4, 6.5, 0.05).moved(0, 0.6, 2.58)
    rafters = joined(*(shapes.box(6.2, 0.1, 0.14).moved(0, y, 2.42) for y in (0.7, 1.6, 2.5)))
    frame = joined(
        shapes.box(1.30, 0.10, 0.07).moved(-0.52, 3.26, 1.09),
        shapes.box(1.30, 0.10, 0.07).moved(-0.52, 3.26, 1.93),
        *(shapes.box(0.06, 0.10, 0.86).moved(-0.52 + x, 3.26, 1.1) for x in (-0.6, 0.0, 0.6)),
        shapes.box(1.2, 0.06, 0.035).moved(-0.52, 3.26, 1.53),
        shapes.box(1.5, 0.26, 0.035).moved(-0.52, 3.14, 1.08),
    )
    bench = joined(
        *(
            shapes.box(3.4, 0.17, 0.055, bevel=0.006).moved(-0.6, 2.35 + 0.175 * i, 0.83)
            for i in range(5)
        ),
        *(shapes.box(0.11, 0.11, 0.83).moved(x, y, 0) for x in (-2.1, 0.95) for y in (2.4, 3.0)),
    )
    vice = joined(
        shapes.box(0.16, 0.22, 0.12, bevel=0.01).moved(0.72, 2.42, 0.885),
        shapes.box(0.17, 0.05, 0.17, bevel=0.008).moved(0.72, 2.30, 0.885),
        shapes.tube(
            np.array([(0.60, 2.22, 0.93), (0.72, 2.22, 0.93), (0.84, 2.22, 0.93)]), 0.009, 8
        ),
    )
    tins = joined(
        *(
            shapes.turned_on_lathe(
                [(0, 0.16), (0.062, 0.16), (0.066, 0.165), (0.066, 0), (0, 0)]
            ).moved(x, 3.02, 0.885)
            for x in (-1.75, -1.58, -1.42)
        ),
    )
    hanging = joined(
        *(parts.rope_coil(4, 0.17).turned(90, (1, 0, 0)).moved(x, 3.2, 1.75) for x in (-1.7, 0.85)),
        *(
            shapes.tube(np.array([(x, 3.24, 1.2), (x + 0.02, 3.22, 1.6), (x, 3.24, 2.0)]), 0.018, 8)
            for x in (1.35, 1.55, 1.75)
        ),
    )
    outside = looks.matt(looks.mottled((0.22, 0.26, 0.16), (0.30, 0.32, 0.30), 60, cells=5))
    truth = {
        "situation": "dark ground: tarred shed with one window",
        "neutral": [VIEW.spot("grey card", (-0.86, 2.62, 0.985), 0.014)],
        "lamps": [
            {
                "name": "window",
                "cct_k": 6500,
                "duv": 0.003,
                "cri": 98,
                "pulse_hz": None,
                "luminance_cd_m2": 1600,
            }
        ],
        "movers": [],
        "acceptance": {
            "tones": [
                VIEW.spot(
                    "grey card", (-0.86, 2.62, 0.985), 0.014, role="subject", low=-1.0, high=0.8
                ),
                VIEW.spot(
                    "tarred boards", (1.35, 3.28, 1.45), 0.04, role="keep-dark", low=-8.5, high=-1.6
                ),
            ],
            "sharp": [VIEW.spot("bronze", (-0.36, 2.46, 0.95), 0.04, max_blur_px=2.5)],
            "clipped_share_max": 0.08,
        },
    }
    things = [
        Thing("walls", joined(left, right, under, above, *sides), wall),
        Thing("floor", floor, looks.matt(looks.wood((0.10, 0.08, 0.06), 59, tile=(3, 0.5)))),
        Thing(
            "below",
            shapes.box(9, 9, 0.05).moved(0, 1, -0.35),
            looks.matt(looks.colour(0.02, 0.02, 0.02)),
        ),
        Thing("roof", joined(roof, rafters), looks.matt(looks.wood((0.05, 0.042, 0.035), 61))),
        Thing("window-frame", frame, looks.painted(looks.colour(0.34, 0.33, 0.29), 0.35)),
        Thing(
            "bench",
            bench,
            looks.painted(looks.wood((0.27, 0.18, 0.10), 62, grain=0.4, tile=(1, 0.35)), 0.38),
        ),
        Thing("vice", vice, looks.painted(looks.colour(0.05, 0.09, 0.10), 0.35)),
        Thing("tins", tins, looks.steel(0.3)),
        Thing("hanging", hanging, looks.matt(looks.colour(0.36, 0.29, 0.18))),
        Thing(
            "bronze",
            joined(
                cleat().scaled(1.7, 1.7, 1.7).turned(24).moved(-0.36, 2.46, 0.885),
                shackle().moved(-0.12, 2.60, 0.905),
                rowlock().turned(70, (0, 1, 0)).moved(0.16, 2.66, 0.93),
            ),
            looks.bronze(0.22),
        ),
        Thing(
            "card",
            parts.grey_card(0.16).turned(14, (1, 0, 0)).turned(12).moved(-0.86, 2.64, 0.90),
            looks.matt(looks.colour(0.18, 0.18, 0.18)),
        ),
        Thing(
            "shavings",
            shapes.grass(70, (0.25, 0.95, 2.35, 2.9), 0.022, seed=63).moved(z=0.886),
            looks.matt(looks.colour(0.55, 0.42, 0.26)),
        ),
        Thing(
            "outside",
            shapes.surface(
                lambda _x, y: 0.03 * y, (-14, 14), (6.5, 40), steps=(30, 30), tile=5
            ).moved(z=-0.5),
            outside,
        ),
        Thing(
            "outside-trees",
            shapes.scattered(shapes.crown(64), [(x, 30, 1.5, 5) for x in range(-20, 21, 4)], 64),
            looks.matt(looks.colour(0.07, 0.09, 0.05)),
        ),
    ]
    return Place(
        "tarred-shed",
        "Tarred shed with a window",
        things,
        emitters=[lights.cloud(14)],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        card_lux=11000.0,
        card_at=(0, 12, 3),
        max_depth=12,
    )
