"""Lantern evening on the quay: paper lanterns over the water, blue light left in the sky."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import MAIN_HFOV, View
from tools.scenes.render import Lamp, Place, Thing
from tools.scenes.shapes import joined

VIEW = View((-0.3, -1.3, 1.62), (0.2, 6.0, 1.30), MAIN_HFOV)
LANTERNS = 7
LANTERN_RADIUS_M = 0.15
STRING_M = 0.24
"""From the line to a lantern's middle."""
ROWED = "rowing boat"
ROWED_AT = (9.4, 23.0, -1.0)
ROWED_LAMP = (10.9, 23.0, 0.32)


def _sag(x: np.ndarray) -> np.ndarray:
    """Height of the line over the quay."""
    return 3.25 - 1.05 * (1 - ((x - 0.1) / 4.5) ** 2)


def _lanterns() -> tuple[list[Lamp], list[Thing]]:
    """Paper lanterns on the line and their hoops; those in the frame can swing."""
    import mitsuba as mi

    lamps, hoops = [], []
    for index, x in enumerate(np.linspace(-3.7, 3.9, LANTERNS)):
        middle = (float(x), 3.5, float(_sag(x)) - STRING_M)
        name = f"lantern {index + 1}"
        layer = name if 0 < VIEW.seen(middle)[0] < 1 else None
        level = 950 * (0.8 + 0.4 * ((index * 7) % 5) / 4)
        glow = list(lights.kelvin_rgb(1950 + 60 * (index % 3), level))
        lamp = {
            "type": "sphere",
            "to_world": mi.ScalarTransform4f()
            .translate(list(middle))
            .scale([LANTERN_RADIUS_M] * 3),
            "emitter": {"type": "area", "radiance": {"type": "rgb", "value": glow}},
        }
        lamps.append(Lamp(lamp, layer))
        look = looks.matt(looks.colour(0.06, 0.05, 0.04))
        hoops.append(Thing(name, _hoops().moved(*middle), look, layer=layer))
    return lamps, hoops


def _hoops() -> shapes.Mesh:
    """The wires of a lantern about its middle, and its string."""
    turn = np.linspace(0, 2 * np.pi, 36)
    rings = []
    for z in (-0.13, -0.05, 0.05, 0.13):
        radius = 0.152 * np.sqrt(max(0.02, 1 - (z / LANTERN_RADIUS_M) ** 2))
        ring = [radius * np.cos(turn), radius * np.sin(turn), np.full_like(turn, z)]
        rings.append(shapes.tube(np.stack(ring, -1), 0.0035, 5))
    string = np.array([(0, 0, 0.13), (0, 0, STRING_M)])
    return joined(*rings, shapes.tube(string, 0.004, 6))


def _rowed() -> tuple[shapes.Mesh, shapes.Mesh, shapes.Mesh]:
    """A dinghy being rowed home across the creek, its rower, and the staff of its lamp."""
    hull = joined(shapes.hull(3.6, 1.4, 0.6, strakes=6), shapes.hull_rails(3.6, 1.4, 0.6)).turned(
        180
    )
    back = joined(
        shapes.turned_on_lathe([(0.02, 0.40), (0.19, 0.42), (0.21, 0.85), (0.09, 1.02)], 24),
        shapes.ball(0.11).scaled(0.95, 0.85, 1.2).moved(0.04, 0, 1.16),
        shapes.tube(np.array([(0.0, -0.2, 0.92), (0.30, -0.5, 0.72)]), 0.05, 8),
        shapes.tube(np.array([(0.35, -0.4, 0.74), (0.02, -1.9, 0.10)]), 0.022, 8),
    )
    staff = shapes.tube(np.array([(1.5, 0, 0.35), (1.5, 0, 1.25)]), 0.018, 8)
    low = (ROWED_AT[0], ROWED_AT[1], ROWED_AT[2] - 0.14)
    return hull.moved(*low), back.moved(*low), staff.moved(*low)


def _mirrored(point: tuple[float, float, float]) -> tuple[float, float, float]:
    """A point as the water shows it."""
    return point[0], point[1], 2 * ROWED_AT[2] - point[2]


def _walker() -> shapes.Mesh:
    """Someone in a coat and cap, mid step."""
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
    return joined(
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
        shapes.box(0.27, 0.10, 0.085, bevel=0.02).moved(-0.22, 0.07, 0.03),
        shapes.box(0.27, 0.10, 0.085, bevel=0.02).moved(0.23, -0.07, 0.0),
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


def quay() -> Place:
    """Lanterns on a line over the quay; someone walks through; a boat at its mooring."""
    deck = shapes.boards(64, 0.17, 6.4, thickness=0.05, seed=31).moved(0, 1.0, -0.05)
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
    line = shapes.tube(np.stack([x, np.full_like(x, 3.5), _sag(x)], -1), 0.008, 6)
    boat = (
        joined(shapes.hull(4.4, 1.6, 0.8, strakes=8), shapes.hull_rails(4.4, 1.6, 0.8))
        .turned(172)
        .moved(2.2, 7.6, -1.05)
    )
    boat_mast = shapes.tube(
        np.array([(2.0, 7.6, -0.4), (2.0, 7.62, 1.6), (1.98, 7.65, 3.6)]), 0.045, 10
    )
    height = shapes.waves(33, 60, (0.25, 3.5), steepness=0.13, wind_deg=60)
    water = shapes.surface(height, (-90, 90), (4.3, 90), steps=(760, 560), grow=2.0).moved(z=-1.0)
    bed = shapes.box(190, 95, 0.02).moved(0, 50, -2.6)
    rowed, rower, lamp_post = _rowed()
    lamps, hoops = _lanterns()
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
                "swing": {
                    "string_m": STRING_M,
                    "amplitude_deg": 12.0,
                    "distance_m": 4.9,
                    "layers": [lamp.layer for lamp in lamps if lamp.layer],
                },
            },
            {
                "name": "rowed lamp",
                "cct_k": 2400,
                "duv": 0.0,
                "cri": 98,
                "pulse_hz": None,
                "luminance_cd_m2": 2600,
                "carried": {
                    "x": round(VIEW.seen(ROWED_LAMP)[0], 4),
                    "y": round(VIEW.seen(ROWED_LAMP)[1], 4),
                    "mirror_y": round(VIEW.seen(_mirrored(ROWED_LAMP))[1], 4),
                    "diameter_m": 0.12,
                    "distance_m": 26.2,
                    "mirror_share": 0.4,  # Fresnel at 8.6° grazing, n = 1.33
                    "radiance_cd_m2": [round(v, 1) for v in lights.kelvin_rgb(2400, 2600)],
                    "mover": ROWED,
                    "water": "water",
                },
            },
            {
                "name": "blue hour",
                "cct_k": 12000,
                "duv": 0.004,
                "cri": 97,
                "pulse_hz": None,
                "luminance_cd_m2": 0.8,
            },
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
                "name": ROWED,
                "layer": True,
                "speed_m_s": 0.9,
                "distance_m": 26.2,
                "direction_deg": 90,
                "image_angle_deg": 180,
            },
            {
                "name": "water",
                "objects": ["water"],
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
        *hoops,
        Thing(
            "rowing-boat", rowed, looks.painted(looks.colour(0.10, 0.07, 0.05), 0.3), layer=ROWED
        ),
        Thing("rower", rower, looks.matt(looks.colour(0.09, 0.08, 0.09)), layer=ROWED),
        Thing("lamp-staff", lamp_post, looks.matt(looks.colour(0.10, 0.07, 0.05)), layer=ROWED),
        Thing("walker", _walker(), looks.matt(looks.colour(0.10, 0.085, 0.07)), layer="walker"),
        Thing(
            "deck",
            deck,
            looks.painted(looks.wood((0.20, 0.155, 0.11), 100, grain=0.42, tile=(1, 0.35)), 0.36),
        ),
        Thing("posts", joined(posts, caps), looks.matt(looks.wood((0.12, 0.095, 0.07), 101))),
        Thing("poles", joined(poles, line), looks.matt(looks.colour(0.06, 0.05, 0.04))),
        Thing(
            "crates",
            joined(
                shapes.box(0.6, 0.45, 0.4, bevel=0.01).turned(12).moved(2.75, 2.6),
                shapes.box(0.5, 0.4, 0.32, bevel=0.01).turned(-8).moved(2.72, 2.62, 0.4),
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
        emitters=[sky],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        lamps=lamps,
        max_depth=9,
    )
