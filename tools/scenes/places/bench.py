"""The bench under a panel lamp: bronze fittings on oiled oak."""

from __future__ import annotations

import numpy as np
from tools.scenes import lights, looks, shapes
from tools.scenes.places import parts
from tools.scenes.places.framing import LONG_HFOV, View
from tools.scenes.render import Lamp, Place, Thing
from tools.scenes.shapes import Mesh, joined

VIEW = View((0.05, -1.02, 0.62), (0.0, 0.02, 0.045), LONG_HFOV)


def cleat() -> Mesh:
    """A horned cleat some 16 cm long on its foot."""
    t = np.linspace(-1, 1, 41)
    path = np.stack([0.082 * t, 0 * t, 0.042 + 0.010 * t**2], -1)
    radius = 0.0115 * (1 - 0.55 * np.abs(t) ** 2.2)
    horns = shapes.tube(path, radius, 20)
    ends = [shapes.ball(0.0054, 3).moved(s * 0.082, 0, 0.052) for s in (1, -1)]
    legs = [
        shapes.turned_on_lathe([(0.016, 0), (0.010, 0.008), (0.0085, 0.022), (0.011, 0.042)], 24)
        .scaled(1, 0.8, 1)
        .moved(x=x)
        for x in (-0.022, 0.022)
    ]
    foot = shapes.box(0.086, 0.034, 0.006, bevel=0.002)
    return joined(horns, *ends, *legs, foot)


def shackle(radius: float = 0.021) -> Mesh:
    """A bow shackle on its side with its pin."""
    t = np.linspace(-0.30 * np.pi, 1.30 * np.pi, 60)
    bow = np.stack([radius * np.cos(t), radius * np.sin(t) * 1.12, 0 * t], -1)
    ends = bow[[0, -1]]
    eyes = [shapes.ball(0.0085, 3).moved(*e) for e in ends]
    pin = np.linspace(ends[0] + [0.014, 0, 0], ends[1] - [0.012, 0, 0], 8)
    head = shapes.ball(0.0078, 3).scaled(0.6, 1, 1).moved(*(ends[0] + [0.016, 0, 0]))
    return joined(shapes.tube(bow, 0.0052, 18), *eyes, shapes.tube(pin, 0.0044, 14), head)


def rowlock() -> Mesh:
    """A rowlock: a horseshoe on its shank, upright."""
    t = np.linspace(-0.22 * np.pi, 1.22 * np.pi, 60)
    shoe = np.stack([0.036 * np.cos(t), 0 * t, 0.062 - 0.040 * np.sin(t)], -1)
    shank = shapes.turned_on_lathe(
        [(0.006, -0.05), (0.0065, 0.012), (0.011, 0.017), (0.008, 0.024)], 24
    )
    tips = [shapes.ball(0.0075, 3).moved(*p) for p in shoe[[0, -1]]]
    return joined(shapes.tube(shoe, 0.0062, 18), shank, *tips)


def ring_bolt() -> Mesh:
    """A ring through an eye bolt, flat."""
    t = np.linspace(0, 2 * np.pi, 64)
    ring = np.stack([0.026 * np.cos(t), 0.026 * np.sin(t), 0 * t], -1)
    bolt = np.array([(0.026, 0, 0), (0.060, 0.006, 0), (0.095, 0.012, 0)])
    eye = np.stack([0.026 + 0.010 * np.cos(t), 0 * t, 0.010 * np.sin(t)], -1)
    return joined(
        shapes.tube(ring, 0.0046, 16), shapes.tube(eye, 0.0042, 14), shapes.tube(bolt, 0.0050, 14)
    )


def fittings() -> Place:
    """Bronze fittings on an oak bench under a panel lamp; a lamp driver that pulses."""
    top = (
        shapes.boards(13, 0.12, 2.2, thickness=0.04, gap=0.0022, seed=69)
        .turned(90)
        .moved(0, 0.18, -0.04)
    )
    lamp = lights.panel(
        (0.30, 0.26, 0.78), (0.0, 0.0, 0.0), (0.34, 0.20), radiance=lights.kelvin_rgb(4000, 9500)
    )
    filling = lights.dome(np.full((8, 16, 3), 1.0) * np.array(lights.kelvin_rgb(3200, 7.0)))
    backdrop = shapes.box(3.2, 0.04, 1.6).moved(0, 1.05, -0.1)
    rag = shapes.surface(
        lambda x, y: (
            0.010 * np.sin(14 * x + 3 * np.sin(9 * y)) + 0.008 * np.sin(21 * y + x * 6) + 0.018
        ),
        (-0.21, -0.055),
        (0.075, 0.21),
        steps=(70, 60),
    ).turned(17)
    spool_at = (-0.185, -0.005)
    spool = shapes.turned_on_lathe(
        [
            (0, 0.06),
            (0.030, 0.06),
            (0.030, 0.054),
            (0.016, 0.052),
            (0.016, 0.008),
            (0.030, 0.006),
            (0.030, 0),
            (0, 0),
        ],
        48,
    )
    twine = joined(
        *(
            shapes.tube(
                np.stack(
                    [0.0185 * np.cos(t), 0.0185 * np.sin(t), 0.010 + z + 0.0006 * t / 6.3], -1
                ),
                0.0019,
                8,
            )
            for z in np.arange(0, 0.042, 0.0036)
            for t in [np.linspace(0, 2 * np.pi, 28)]
        )
    )
    truth = {
        "situation": "small glossy object under a panel lamp",
        "neutral": [VIEW.spot("grey card", (0.168, 0.115, 0.022), 0.022)],
        "lamps": [
            {
                "name": "panel",
                "cct_k": 4000,
                "duv": 0.001,
                "cri": 92,
                "pulse_hz": 480,
                "depth": 0.6,
                "luminance_cd_m2": 9500,
            },
        ],
        "movers": [],
        "acceptance": {
            "tones": [
                VIEW.spot(
                    "grey card", (0.168, 0.115, 0.022), 0.022, role="neutral", low=-0.7, high=0.7
                ),
                VIEW.spot("oak", (0.11, -0.12, 0.0), 0.03, role="keep-dark", low=-5.5, high=1.0),
            ],
            "sharp": [VIEW.spot("cleat", (-0.02, -0.02, 0.045), 0.05, max_blur_px=2.5)],
            "bands_max": 0.05,
            "clipped_share_max": 0.02,
        },
    }
    oak = looks.painted(looks.wood((0.26, 0.165, 0.085), 70, grain=0.30, tile=(5.5, 0.6)), 0.30)
    things = [
        Thing("bench", top, oak),
        Thing("cleat", cleat().turned(28).moved(-0.02, -0.015, 0.0), looks.bronze(0.16)),
        Thing("shackle", shackle().turned(-35).moved(0.092, -0.035, 0.0085), looks.bronze(0.12)),
        Thing(
            "rowlock",
            rowlock().turned(86, (0, 1, 0)).turned(70).moved(-0.075, 0.062, 0.0115),
            looks.bronze(0.20),
        ),
        Thing("ring-bolt", ring_bolt().turned(12).moved(0.035, 0.095, 0.0052), looks.bronze(0.24)),
        Thing(
            "card",
            parts.grey_card(0.075).turned(-38, (1, 0, 0)).moved(0.168, 0.115, 0.001),
            looks.matt(looks.colour(0.18, 0.18, 0.18)),
        ),
        Thing(
            "rag",
            rag.moved(-0.075, 0.06, -0.002),
            looks.matt(looks.mottled((0.30, 0.10, 0.07), (0.22, 0.07, 0.05), 71, cells=20)),
        ),
        Thing(
            "spool", spool.moved(*spool_at, 0), looks.painted(looks.wood((0.5, 0.36, 0.2), 72), 0.3)
        ),
        Thing("twine", twine.moved(*spool_at, 0), looks.matt(looks.colour(0.5, 0.42, 0.28))),
        Thing("wall", backdrop, looks.matt(looks.wood((0.055, 0.046, 0.038), 73, tile=(3, 1)))),
    ]
    return Place(
        "bronze-bench",
        "Bronze fittings under the panel lamp",
        things,
        emitters=[filling],
        eye=VIEW.eye,
        target=VIEW.target,
        hfov_deg=VIEW.hfov_deg,
        truth=truth,
        lamps=[Lamp(lamp)],
        max_depth=10,
    )
