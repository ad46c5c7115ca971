"""Lantern evening on the quay: paper lanterns over the water, blue light left in the sky."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import MAIN_HFOV, View
from tools.scenes.render import Place, Thing
from tools.scenes.shapes import joined

VIEW = View((-0.3, -1.3, 1.62), (0.2, 6.0, 1.30), MAIN_HFOV)
LANTERNS = 7


def quay() -> Place:
    """Lanterns on a line over the quay; someone walks through; a boat at its mooring."""
    deck = shapes.boards(64, 0.17, 6.4, 0.05, seed=31).moved(0, 1.0, -0.05)
    posts = joined(
        *(
            shapes.tube(
                np.array([(x, 3.95, -1.5), (x, 3.95, 0.2), (x, 3.95, 0.72)]),
                [0.13, 0.13, 0.125],
                18,
            )
            for x in (-3.4, -1.1, 1.5, 3.8)
        )
    )
    caps = joined(
        *(
            shapes.ball(0.13, 3).scaled(1, 1, 0.35).moved(x, 3.95, 0.72)
            for x in (-3.4, -1.1, 1.5, 3.8)
        )
    )
    poles = joined(
        *(
            shapes.tube(np.array([(x, 3.5, 0), (x, 3.5, 1.6), (x, 3.5, 3.3)]), 0.035, 10)
            for x in (-4.4, 4.6)
        )
    )
    x = np.linspace(-4.4, 4.6, 80)
    sag = 3.25 - 1.05 * (1 - ((x - 0.1) / 4.5) ** 2)
    line = shapes.tube(np.stack([x, np.full_like(x, 3.5), sag], -1), 0.008, 6)
    at = np.linspace(-3.7, 3.9, LANTERNS)
    heights = 3.25 - 1.05 * (1 - ((at - 0.1) / 4.5) ** 2) - 0.24
    lamps = []
    import mitsuba as mi

    for index, (lx, lz) in enumerate(zip(at, heights, strict=True)):
        kelvin = 1950 + 60 * (index % 3)
        level = 950 * (0.8 + 0.4 * ((index * 7) % 5) / 4)
        lamps.append(
            {
                "type": "sphere",
                "to_world": mi.ScalarTransform4f()
                .translate([float(lx), 3.5, float(lz)])
                .scale([0.15, 0.15, 0.15]),
                "emitter": {
                    "type": "area",
                    "radiance": {"type": "rgb", "value": list(lights.kelvin_rgb(kelvin, level))},
                },
            }
        )
    hoops = joined(
        *(
            shapes.tube(
                np.stack(
                    [
                        lx + 0.152 * np.sqrt(max(0.02, 1 - (z / 0.15) ** 2)) * np.cos(t),
                        3.5 + 0.152 * np.sqrt(max(0.02, 1 - (z / 0.15) ** 2)) * np.sin(t),
                        np.full_like(t, lz + z),
                    ],
                    -1,
                ),
                0.0035,
                5,
            )
            for lx, lz in zip(at, heights, strict=True)
            for z in (-0.13, -0.05, 0.05, 0.13)
            for t in [np.linspace(0, 2 * np.pi, 36)]
        )
    )
    boat = (
        joined(shapes.hull(4.4, 1.6, 0.8, 8), shapes.hull_rails(4.4, 1.6, 0.8))
        .turned(172)
        .moved(2.2, 7.6, -1.05)
    )
    boat_mast = shapes.tube(
        np.array([(2.0, 7.6, -0.4), (2.0, 7.62, 1.6), (1.98, 7.65, 3.6)]), 0.045, 10
    )
    height = shapes.waves(33, 60, (0.25, 3.5), 0.13, 60)
    water = shapes.surface(height, (-90, 90), (4.3, 90), (760, 560), grow=2.0).moved(z=-1.0)
    bed = shapes.box(190, 95, 0.02).moved(0, 50, -2.6)
    coat = shapes.turned_on_lathe(
        [
            (0.02, 0.66),
            (0.205, 0.66),
            (0.20, 0.80),
            (0.165, 1.06),
            (0.175, 1.24),
            (0.205, 1.38),
            (0.185, 1.45),
            (0.085, 1.50),
            (0.058, 1.53),
            (0.055, 1.58),
        ],
        40,
    ).scaled(0.86, 1.0, 1.0)
    cap = shapes.turned_on_lathe(
        [(0.0, 0.07), (0.07, 0.062), (0.105, 0.035), (0.112, 0.0), (0.15, -0.008), (0.0, -0.01)], 32
    )
    walker = joined(
        coat,
        shapes.ball(0.10).scaled(0.96, 0.84, 1.22).moved(0.012, 0, 1.655),
        cap.turned(-7, (0, 1, 0)).moved(0.015, 0, 1.72),
        shapes.tube(
            np.array([(-0.01, 0.07, 0.78), (-0.13, 0.07, 0.44), (-0.27, 0.07, 0.10)]),
            [0.105, 0.082, 0.066],
            16,
        ),
        shapes.tube(
            np.array([(0.01, -0.07, 0.78), (0.15, -0.07, 0.45), (0.17, -0.07, 0.08)]),
            [0.105, 0.082, 0.066],
            16,
        ),
        shapes.box(0.27, 0.10, 0.085, 0.02).moved(-0.22, 0.07, 0.03),
        shapes.box(0.27, 0.10, 0.085, 0.02).moved(0.23, -0.07, 0.0),
        shapes.tube(
            np.array([(0.0, -0.21, 1.40), (-0.09, -0.25, 1.12), (0.03, -0.26, 0.86)]),
            [0.075, 0.066, 0.048],
            14,
        ),
        shapes.tube(
            np.array([(0.0, 0.21, 1.40), (0.10, 0.25, 1.14), (0.24, 0.24, 0.92)]),
            [0.075, 0.066, 0.048],
            14,
        ),
        shapes.ball(0.05).moved(0.04, -0.26, 0.80),
    ).moved(-1.9, 2.7, 0)
    truth = {
        "situation": "night street: lamps, dark placement, someone walking",
        "neutral": [VIEW.spot("grey card", (0.62, 1.85, 0.16), 0.014)],
        "lamps": [
            {
                "name": "lanterns",
                "cct_k": 2000,
                "duv": 0.0,
                "cri": 98,
                "pulse_hz": None,
                "luminance_cd_m2": 950,
            },
            {"name": "blue hour", "cct_k": 12000, "duv": 0.004, "cri": 97, "pulse_hz": None},
        ],
        "movers": [
            {
                "name": "walker",
                "layer": True,
                "speed_m_s": 1.1,
                "distance_m": 4.3,
                "direction_deg": 90,
                "image_angle_deg": 0,
            },
            {
                "name": "water",
                "object": "water",
                "kind": "water",
                "speed_m_s": 0.3,
                "distance_m": 10.0,
                "image_angle_deg": 180,
            },
        ],
        "acceptance": {
            "tones": [
                VIEW.spot("lit boards", (0.0, 2.2, 0.0), 0.03, role="subject", low=-2.6, high=0.6),
                {
                    "name": "blue hour sky",
                    "x": 0.25,
                    "y": 0.06,
                    "r": 0.03,
                    "role": "keep-dark",
                    "low": -5.5,
                    "high": -0.8,
                },
            ],
            "sharp": [VIEW.spot("post", (1.5, 3.85, 0.55), 0.02, max_blur_px=3.0)],
            "clipped_share_max": 0.05,
        },
    }
    things = [
        Thing("walker", walker, looks.matt(looks.colour(0.10, 0.085, 0.07)), mover=True),
        Thing(
            "deck",
            deck,
            looks.painted(looks.wood((0.20, 0.155, 0.11), 100, grain=0.42, tile=(1, 0.35)), 0.36),
        ),
        Thing("posts", joined(posts, caps), looks.matt(looks.wood((0.12, 0.095, 0.07), 101))),
        Thing("poles", joined(poles, line, hoops), looks.matt(looks.colour(0.06, 0.05, 0.04))),
        Thing(
            "crates",
            joined(
                shapes.box(0.6, 0.45, 0.4, 0.01).turned(12).moved(2.75, 2.6),
                shapes.box(0.5, 0.4, 0.32, 0.01).turned(-8).moved(2.72, 2.62, 0.4),
                parts.barrel().scaled(0.9, 0.9, 0.9).moved(3.45, 2.9),
            ),
            looks.matt(looks.wood((0.22, 0.15, 0.09), 102)),
        ),
        Thing(
            "rope",
            parts.rope_coil(4, 0.24).moved(-2.6, 2.2, 0.0),
            looks.matt(looks.colour(0.45, 0.37, 0.24)),
        ),
        Thing(
            "card",
            parts.grey_card(0.2).turned(10, (1, 0, 0)).moved(0.62, 1.87, 0.05),
            looks.matt(looks.colour(0.18, 0.18, 0.18)),
        ),
        Thing("boat", boat, looks.painted(looks.colour(0.05, 0.10, 0.08), 0.25)),
        Thing("boat-mast", boat_mast, looks.matt(looks.colour(0.2, 0.13, 0.07))),
        Thing("water", water, looks.water(0.04)),
        Thing("bed", bed, looks.matt(looks.colour(0.03, 0.03, 0.025))),
        *parts.far_bank(84.0, 5.0, 34),
    ]
    sky = lights.dusk((3.2, 1.5, 0.75), (0.30, 0.52, 1.15), 90)
    return Place(
        "lantern-evening",
        "Lantern evening on the quay",
        things,
        [sky],
        VIEW.eye,
        VIEW.target,
        VIEW.hfov_deg,
        truth,
        lamps=lamps,
        max_depth=9,
    )
