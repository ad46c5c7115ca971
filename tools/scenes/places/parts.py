"""Things of the yard used in more than one place."""

from __future__ import annotations

import numpy as np
from tools.scenes import looks, shapes
from tools.scenes.render import Thing
from tools.scenes.shapes import Mesh, joined


def far_bank(y: float, height: float, seed: int) -> list[Thing]:
    """The other side of the creek: reeds at its foot, a line of trees on it."""
    draw = np.random.default_rng(seed)
    hills = shapes.rough(seed, 55.0, height)
    bank = shapes.surface(
        lambda x, yy: (
            -1.2 + np.clip((yy - y) / 9, 0, 1) * (1.6 + 0.45 * height + hills(x, yy) * 0.42)
        ),
        (-190, 190),
        (y, y + 60),
        steps=(760, 150),
        tile=9,
    )
    crowns = [
        (
            x,
            y + 12 + draw.uniform(0, 14),
            1.0 + draw.uniform(0, 0.8) * height,
            draw.uniform(2.6, 6.5),
        )
        for x in np.linspace(-150, 150, 240) + draw.normal(0, 1.6, 240)
        if draw.random() < 0.62
    ]
    trees = shapes.scattered(shapes.crown(seed + 1), crowns, seed)
    reeds = shapes.grass(9000, (-110, 110, y - 1.5, y + 2.5), 1.9, seed=seed + 2)
    reeds = reeds.moved(z=-0.75)
    return [
        Thing(
            "bank",
            bank,
            looks.matt(looks.mottled((0.09, 0.10, 0.045), (0.17, 0.15, 0.08), 7, tile=(1, 1))),
        ),
        Thing("trees", trees, looks.matt(looks.colour(0.045, 0.062, 0.026))),
        Thing("reeds", reeds, looks.matt(looks.colour(0.24, 0.20, 0.095))),
    ]


def creek_water(y0: float, y1: float, level: float, *, steepness: float, seed: int) -> list[Thing]:
    """The creek: a rippled surface over a dark bed."""
    height = shapes.waves(seed, 60, (0.35, 7.0), steepness=steepness, wind_deg=75)
    top = shapes.surface(height, (-200, 200), (y0, y1), steps=(900, 700), grow=2.2).moved(z=level)
    bed = shapes.surface(lambda x, _: 0 * x, (-210, 210), (y0 - 3, y1), steps=(2, 2)).moved(
        z=level - 1.6
    )
    return [
        Thing("water", top, looks.water(0.05)),
        Thing("bed", bed, looks.matt(looks.colour(0.035, 0.034, 0.022))),
    ]


def open_shed(x: float, y: float, *, colour: tuple[float, float, float], seed: int) -> list[Thing]:
    """A boarded shed with a pitched roof, an open door, and a dark inside."""
    width, depth, eaves, ridge = 4.6, 5.0, 2.5, 3.9
    front = shapes.boards(23, 0.2, eaves, thickness=0.03, seed=seed).turned(90, (1, 0, 0))
    front = front.moved(y=0, z=eaves / 2)
    side = shapes.boards(25, 0.2, eaves, thickness=0.03, seed=seed + 1).turned(90, (1, 0, 0))
    side = side.turned(90).moved(z=eaves / 2)
    gable = Mesh(
        np.array(
            [
                (-width / 2 - 0.02, -0.02, eaves - 0.06),
                (width / 2 + 0.02, -0.02, eaves - 0.06),
                (0, -0.02, ridge + 0.02),
            ],
            float,
        ),
        np.array([(0, 1, 2)]),
        np.array([(0, 0), (4.6, 0), (2.3, 1.4)], float),
    )
    slope = np.hypot(width / 2 + 0.25, ridge - eaves + 0.1)
    angle = np.degrees(np.arctan2(ridge - eaves, width / 2))
    sheets = [
        shapes.box(slope, depth + 0.5, 0.05)
        .turned(sign * angle, (0, 1, 0))
        .moved(sign * (width / 4 + 0.06), depth / 2, (eaves + ridge) / 2 - 0.09)
        for sign in (1, -1)
    ]
    doorway = shapes.box(1.15, 0.02, 2.0).moved(0.5, -0.03, 0.02)
    leaf = (
        joined(
            shapes.boards(6, 0.19, 2.0, thickness=0.03, seed=seed + 2)
            .turned(90, (1, 0, 0))
            .moved(0.57, 0, 1.0),
            shapes.box(1.1, 0.03, 0.12).moved(0.57, -0.03, 0.4),
            shapes.box(1.1, 0.03, 0.12).moved(0.57, -0.03, 1.5),
        )
        .turned(-110)
        .moved(1.08, -0.06, 0)
    )
    corners = [shapes.box(0.12, 0.12, eaves).moved(sign * width / 2) for sign in (1, -1)]
    lining = shapes.box(width - 0.1, depth - 0.1, eaves).moved(0, depth / 2 + 0.02)
    walls = joined(
        *corners,
        lining,
        front,
        side.moved(width / 2, depth / 2),
        side.moved(-width / 2, depth / 2),
        gable,
    )
    tarred = looks.matt(looks.wood(colour, seed + 5, grain=0.30, tile=(5, 0.5)))
    return [
        Thing("shed", walls.moved(x, y), tarred),
        Thing(
            "shed-door",
            leaf.moved(x, y),
            looks.matt(
                looks.wood(
                    (colour[0] * 2.2, colour[1] * 2, colour[2] * 1.8), seed + 6, tile=(5, 0.5)
                )
            ),
        ),
        Thing("shed-inside", doorway.moved(x, y), looks.matt(looks.colour(0.008, 0.008, 0.008))),
        Thing(
            "shed-roof",
            joined(*sheets).moved(x, y),
            looks.matt(looks.mottled((0.16, 0.13, 0.11), (0.30, 0.16, 0.09), seed + 7, cells=6)),
        ),
    ]


def cradle(length: float) -> Mesh:
    """Keel blocks and legs under a hull whose keel is at z = 0."""
    blocks = [
        joined(
            shapes.box(0.3, 0.7, 0.16, bevel=0.01),
            shapes.box(0.26, 0.55, 0.15, bevel=0.01).turned(8).moved(z=0.16),
        ).moved(x=x, z=-0.34)
        for x in (-length * 0.33, 0.0, length * 0.26)
    ]
    legs = []
    for x in (-length * 0.24, length * 0.16):
        for side in (1, -1):
            top = np.array([x, side * 0.83, 0.45])
            foot = np.array([x + 0.1, side * 1.25, -0.36])
            legs.append(shapes.tube(np.linspace(foot, top, 6), 0.05, 8))
    return joined(*blocks, *legs)


def grey_card(size: float = 0.22) -> Mesh:
    """An upright grey card, facing −y."""
    return shapes.box(size, 0.006, size)


def barrel() -> Mesh:
    """An oil drum."""
    profile = [
        (0.0, 0.86),
        (0.27, 0.86),
        (0.285, 0.88),
        (0.285, 0.6),
        (0.295, 0.585),
        (0.285, 0.57),
    ]
    profile += [(0.285, 0.32), (0.295, 0.305), (0.285, 0.29), (0.285, 0.0)]
    return shapes.turned_on_lathe(profile)


def bucket() -> Mesh:
    """A bucket with a rim and a handle."""
    pail = shapes.turned_on_lathe(
        [
            (0.0, 0.02),
            (0.11, 0.02),
            (0.11, 0.0),
            (0.14, 0.27),
            (0.147, 0.27),
            (0.147, 0.28),
            (0.135, 0.275),
            (0.105, 0.03),
        ]
    )
    arc = np.linspace(0, np.pi, 20)
    handle = np.stack([0.14 * np.cos(arc), 0 * arc - 0.03, 0.27 + 0.10 * np.sin(arc)], -1)
    return joined(pail, shapes.tube(handle, 0.004, 6))


def sawhorse() -> Mesh:
    """A trestle."""
    legs = [
        shapes.tube(
            np.array([(x, y * 2.2, 0), (x * 0.92, y * 0.4, 0.36), (x * 0.9, 0, 0.72)]), 0.03, 8
        )
        for x in (-0.45, 0.45)
        for y in (-0.13, 0.13)
    ]
    return joined(shapes.box(1.2, 0.10, 0.10, bevel=0.006).moved(z=0.68), *legs)


def rope_coil(turns: int, radius: float) -> Mesh:
    """Rope in a coil."""
    t = np.linspace(0, turns * 2 * np.pi, turns * 40)
    r = radius * (0.55 + 0.45 * t / t[-1])
    wobble = 0.01 * np.sin(5.3 * t)
    path = np.stack(
        [(r + wobble) * np.cos(t), (r - wobble) * np.sin(t), 0.02 + 0.012 * np.sin(t * 0.71) ** 2],
        -1,
    )
    return shapes.tube(path, 0.016, 8)
