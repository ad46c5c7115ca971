"""Daylight at Kettle Reach: grey morning on the slip, the white hull in sun, the tarred shed."""

from __future__ import annotations

import numpy as np

from oxlen.demo.paint import (
    Light,
    Mask,
    boards,
    curve,
    flat,
    glow,
    grid,
    noise,
    over,
    shade,
    shape,
    smooth,
    tint,
)

CLOUD, WATER_GREY = tint(0.96, 1.0, 1.06), tint(0.9, 1.0, 1.06)
MUD, GRASS, TAR = tint(1.15, 1.0, 0.82), tint(0.95, 1.05, 0.62), tint(1.08, 1.0, 0.92)
WOOD, BLUE, WHITE = tint(1.35, 1.0, 0.62), tint(0.55, 0.95, 1.9), tint(1.02, 1.0, 0.95)


def hull_outline(left: float, right: float, deck: float, keel: float) -> list[tuple[float, float]]:
    """A hull seen from the side, bow to the right: sheer line above, rockered keel below."""
    width, depth = right - left, keel - deck
    sheer = curve(
        [
            (left, deck + 0.10 * depth),
            (left + 0.35 * width, deck + 0.26 * depth),
            (left + 0.75 * width, deck + 0.16 * depth),
            (right, deck - 0.12 * depth),
        ]
    )
    bottom = curve(
        [
            (right, deck - 0.12 * depth),
            (right - 0.05 * width, deck + 0.5 * depth),
            (right - 0.2 * width, deck + 0.86 * depth),
            (left + 0.5 * width, keel),
            (left + 0.12 * width, deck + 0.9 * depth),
            (left + 0.015 * width, deck + 0.62 * depth),
            (left, deck + 0.10 * depth),
        ]
    )
    return sheer + bottom


def grey_morning() -> Light:
    """A tarred hull on the slip under an even grey sky, the creek behind it at half tide."""
    x, y = grid()
    clouds = noise(11, 3, 5, 6)
    sky = flat(3600 * (1 + 0.22 * clouds) * (1.12 - 0.35 * y / 0.45), CLOUD)
    picture = sky
    far_bank = shape(
        [
            (0, 0.40),
            *curve([(0.0, 0.40), (0.2, 0.375), (0.45, 0.39), (0.7, 0.37), (1.0, 0.385)]),
            (1, 0.47),
            (0, 0.47),
        ]
    )
    trees = np.clip(noise(5, 24, 8, 5), -1, 1)
    picture = over(picture, far_bank, flat(430 * (1 + 0.5 * trees), tint(0.9, 1.02, 0.85)))
    ripple = noise(21, 6, 60, 5, 0.7)
    creek = smooth(y, 0.455, 0.462) * (1 - smooth(y, 0.60, 0.66))
    picture = over(
        picture,
        creek,
        flat(1900 * (1 + 0.35 * ripple) * (0.75 + 0.4 * (y - 0.46) / 0.2), WATER_GREY),
    )
    stones = noise(33, 40, 40, 5, 0.75)
    bank_edge = 0.60 + 0.02 * np.sin(9 * x) + 0.012 * noise(8, 8, 2, 4)
    ground = smooth(y - bank_edge, 0.0, 0.012)
    wet = 1 - 0.45 * np.exp(-(((y - bank_edge) / 0.035) ** 2))
    picture = over(picture, ground, flat(560 * wet * (1 + 0.42 * stones), MUD))
    grass = shape(
        [(0, 0.78), *curve([(0, 0.78), (0.12, 0.81), (0.2, 0.9), (0.22, 1.0)]), (0, 1)], 0.01
    )
    blades = noise(41, 90, 20, 4, 0.8)
    picture = over(picture, grass, flat(610 * (1 + 0.5 * blades), GRASS))
    picture = _slip_rails(picture)
    return _tarred_hull(picture, left=0.24, right=0.86, deck=0.42, keel=0.75, level=92)


def _slip_rails(picture: Light) -> Light:
    """Two timber ways running down the slip into the creek."""
    grain = noise(61, 60, 6, 4)
    for near, far in ((0.36, 0.30), (0.78, 0.52)):
        rail = shape([(near, 1.0), (near + 0.045, 1.0), (far + 0.012, 0.6), (far, 0.6)])
        picture = shade(
            picture,
            shape(
                [(near + 0.04, 1.0), (near + 0.085, 1.0), (far + 0.02, 0.6), (far + 0.01, 0.6)],
                0.006,
            ),
            0.45,
        )
        picture = over(picture, rail, flat(300 * (1 + 0.4 * grain), WOOD))
    return picture


def _tarred_hull(
    picture: Light, *, left: float, right: float, deck: float, keel: float, level: float
) -> Light:
    """A planked dark hull on chocks, its shadow soft under it."""
    x, y = grid()
    shadow = shape(
        [
            (left + 0.02, keel - 0.02),
            (right - 0.08, keel - 0.03),
            (right - 0.02, keel + 0.07),
            (left + 0.05, keel + 0.08),
        ],
        0.02,
    )
    picture = shade(picture, shadow, 0.72)
    for at in (left + 0.14, left + 0.33, right - 0.2):
        chock = shape(
            [
                (at, keel - 0.08),
                (at + 0.035, keel - 0.08),
                (at + 0.05, keel + 0.045),
                (at - 0.015, keel + 0.045),
            ]
        )
        picture = over(picture, chock, flat(190 * (1 + 0.3 * noise(7, 50, 10, 4)), WOOD))
    body = shape(hull_outline(left, right, deck, keel))
    down = np.clip((y - deck) / (keel - deck), 0, 1)
    sheer = 0.24 - 0.5 * ((x - left) / (right - left) - 0.42) ** 2
    planks = boards(np.clip(down - sheer, 0, 1) ** 0.9, 9, 0.09)
    light = level * (1.5 - 1.05 * down) * (0.62 + 0.38 * planks) * (1 + 0.25 * noise(17, 8, 70, 5))
    gloss = 330 * np.exp(-(((down - 0.30) / 0.055) ** 2)) * (0.6 + 0.4 * noise(19, 30, 3, 3))
    picture = over(picture, body, flat(np.maximum(light + gloss, 12), TAR))
    strake = shape(
        [
            *curve(
                [
                    (left, deck + 0.035),
                    (left + 0.22, deck + 0.09),
                    (right - 0.15, deck + 0.058),
                    (right, deck - 0.035),
                ]
            ),
            *reversed(
                curve(
                    [
                        (left, deck + 0.055),
                        (left + 0.22, deck + 0.108),
                        (right - 0.15, deck + 0.076),
                        (right, deck - 0.018),
                    ]
                )
            ),
        ]
    )
    picture = over(picture, strake, flat(640 * (1 + 0.2 * noise(23, 30, 4, 3)), WOOD))
    mast = shape([(0.565, 0.0), (0.577, 0.0), (0.583, deck + 0.08), (0.567, deck + 0.08)])
    return over(picture, mast, flat(260 + 520 * smooth(x, 0.575, 0.566), WOOD))


def white_hull() -> Light:
    """A freshly painted white hull on the hard in full sun, blue sky, pale shingle."""
    x, y = grid()
    haze = flat(4600 * (1.25 - 0.75 * (0.62 - y)), BLUE)
    picture = over(flat(6800, tint(0.85, 1.0, 1.3)), 1 - smooth(y, 0.28, 0.62), haze)
    wisps = np.clip(noise(71, 3, 9, 6) - 0.12, 0, 1)
    picture = over(picture, wisps * (1 - smooth(y, 0.2, 0.5)), flat(11000, CLOUD))
    shed = shape([(0.0, 0.30), (0.10, 0.215), (0.235, 0.29), (0.235, 0.64), (0.0, 0.64)])
    wall = boards(x / 0.235, 16, 0.08)
    picture = over(
        picture, shed, flat(620 * (0.55 + 0.45 * wall) * (1 + 0.2 * noise(3, 60, 6, 4)), TAR)
    )
    door = shape([(0.09, 0.42), (0.165, 0.42), (0.165, 0.64), (0.09, 0.64)])
    picture = over(picture, door, flat(70, TAR))
    roof = shape(
        [(-0.02, 0.315), (0.10, 0.205), (0.25, 0.298), (0.25, 0.318), (0.10, 0.228), (-0.02, 0.338)]
    )
    picture = over(picture, roof, flat(3100, tint(1.2, 0.98, 0.85)))
    trees = shape(
        [
            (0.235, 0.60),
            *curve([(0.235, 0.575), (0.5, 0.59), (0.8, 0.565), (1, 0.58)]),
            (1, 0.64),
            (0.235, 0.64),
        ]
    )
    picture = over(
        picture, trees, flat(1500 * (1 + 0.6 * noise(6, 40, 20, 5)), tint(0.75, 1.05, 0.5))
    )
    shingle = noise(81, 70, 70, 5, 0.8)
    near = smooth(y, 0.612, 0.64)
    picture = over(
        picture, near, flat(6200 * (0.85 + 0.3 * y) * (1 + 0.38 * shingle), tint(1.12, 1.0, 0.84))
    )
    shadow = shape([(0.33, 0.83), (0.9, 0.775), (1.0, 0.82), (0.95, 0.89), (0.42, 0.915)], 0.012)
    picture = over(picture, shadow * 0.93, flat(950 * (1 + 0.3 * shingle), tint(0.85, 1.0, 1.25)))
    return _white_boat(picture)


def _white_boat(picture: Light) -> Light:
    x, y = grid()
    left, right, deck, keel = 0.28, 0.94, 0.40, 0.83
    for at in (0.42, 0.70):
        prop = shape([(at, 0.62), (at + 0.014, 0.62), (at - 0.03, 0.9), (at - 0.048, 0.9)])
        picture = over(picture, prop, flat(3300, WOOD))
    body = shape(hull_outline(left, right, deck, keel))
    down = np.clip((y - deck) / (keel - deck), 0, 1)
    along = np.clip((x - left) / (right - left), 0, 1)
    turn = np.clip(1.06 - 1.25 * np.clip(down - 0.32, 0, 1) ** 1.15, 0.12, 1)
    fair = 0.86 + 0.14 * np.sin(np.pi * np.clip(along * 1.05, 0, 1))
    planks = 0.965 + 0.035 * boards(
        np.clip(down - 0.2 + 0.22 * (along - 0.45) ** 2, 0, 1), 11, 0.12
    )
    paint = 25500 * turn * fair * planks * (1 + 0.012 * noise(91, 20, 20, 4))
    bounce = 2600 * down
    picture = over(picture, body, flat(paint + bounce, WHITE))
    boot = shape(
        [
            *curve([(left + 0.012, 0.70), (0.55, 0.735), (right - 0.09, 0.70)]),
            *reversed(curve([(left + 0.03, 0.735), (0.55, 0.765), (right - 0.11, 0.735)])),
        ]
    )
    picture = over(picture, boot * body, flat(2100 * turn, tint(0.5, 0.9, 1.7)))
    antifoul = smooth(y - 0.012 * np.sin(4 * x), 0.752, 0.758) * body
    picture = over(picture, antifoul, flat(2900 * turn, tint(2.3, 0.75, 0.55)))
    rail = shape(
        [
            *curve([(left, 0.438), (0.51, 0.507), (0.775, 0.464), (right, 0.345)]),
            *reversed(curve([(left, 0.452), (0.51, 0.522), (0.775, 0.48), (right, 0.36)])),
        ]
    )
    return over(picture, rail, flat(6800 * (1 + 0.15 * noise(95, 40, 3, 3)), WOOD))


def tarred_shed() -> Light:
    """Inside the tarred shed: black boards, one bright window, a bench with bronze in its light."""
    x, y = grid()
    wall = boards(x, 22, 0.06) * (0.8 + 0.2 * boards(y, 3, 0.01))
    grain = noise(101, 90, 5, 5, 0.65)
    reach = glow(0.30, 0.30, 0.34)
    level = (1.1 + 16 * reach) * (0.35 + 0.65 * wall) * np.clip(1 + 0.5 * grain, 0.2, 2)
    picture = flat(level, TAR)
    picture = _window(picture)
    shaft = shape([(0.20, 0.42), (0.41, 0.42), (0.72, 0.72), (0.40, 0.72)], 0.02)
    picture = picture + flat(2.2 * shaft, tint(1.0, 1.0, 1.05))
    top = shape([(0.06, 0.735), (0.97, 0.705), (1.02, 0.80), (0.0, 0.84)])
    bench = noise(111, 5, 60, 5, 0.6)
    picture = over(picture, top, flat((9 + 95 * glow(0.47, 0.75, 0.16)) * (1 + 0.3 * bench), WOOD))
    front = shape([(0.0, 0.84), (1.02, 0.80), (1.02, 1.0), (0.0, 1.0)])
    picture = over(picture, front, flat(1.6 * (1 + 0.35 * noise(113, 4, 30, 4)), WOOD))
    return _bronze(picture)


def _window(picture: Light) -> Light:
    """A four-pane window onto bright cloud."""
    outside = 2600 * (1 + 0.18 * noise(121, 4, 4, 4))
    frame = shape([(0.19, 0.12), (0.42, 0.12), (0.42, 0.43), (0.19, 0.43)])
    picture = over(picture, frame, flat(38, tint(1.1, 1.0, 0.85)))
    for left, top in ((0.202, 0.138), (0.311, 0.138), (0.202, 0.284), (0.311, 0.284)):
        pane = shape(
            [(left, top), (left + 0.097, top), (left + 0.097, top + 0.13), (left, top + 0.13)]
        )
        picture = over(picture, pane, flat(outside, CLOUD))
    hedge = shape(
        [
            (0.202, 0.37),
            *curve([(0.202, 0.372), (0.27, 0.352), (0.34, 0.375), (0.408, 0.356)]),
            (0.408, 0.414),
            (0.202, 0.414),
        ]
    )
    bars = ((0.299, 0.311, 0.12, 0.43), (0.19, 0.42, 0.268, 0.284))
    picture = over(
        picture, hedge, flat(420 * (1 + 0.4 * noise(127, 40, 40, 4)), tint(0.8, 1.05, 0.6))
    )
    for x0, x1, y0, y1 in bars:
        bar = shape([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])
        picture = over(picture, bar, flat(38, tint(1.1, 1.0, 0.85)))
    return picture


def _bronze(picture: Light) -> Light:
    """A bronze rudder fitting, a cleat and a grey card on the bench."""
    x, y = grid()
    bronze = tint(1.7, 1.0, 0.45)

    def piece(points: list[tuple[float, float]], light: Mask) -> None:
        nonlocal picture
        cast = [(px + 0.045, py + 0.02) for px, py in points]
        picture = shade(picture, shape(cast, 0.008), 0.6)
        picture = over(picture, shape(points), flat(light, bronze))

    sheen = 26 + 240 * np.exp(-(((x - 0.455) / 0.014) ** 2)) + 60 * glow(0.42, 0.66, 0.05)
    piece(
        [
            *curve(
                [
                    (0.40, 0.745),
                    (0.405, 0.66),
                    (0.43, 0.615),
                    (0.475, 0.615),
                    (0.50, 0.66),
                    (0.505, 0.745),
                ]
            ),
            (0.40, 0.745),
        ],
        sheen * (1 + 0.1 * noise(131, 30, 30, 4)),
    )
    hole = shape(
        [(0.44 + 0.018 * np.cos(a), 0.675 + 0.024 * np.sin(a)) for a in np.linspace(0, 6.28, 40)]
    )
    picture = over(picture, hole, flat(4, bronze))
    piece(
        curve(
            [
                (0.60, 0.735),
                (0.615, 0.70),
                (0.66, 0.692),
                (0.70, 0.69),
                (0.75, 0.695),
                (0.765, 0.725),
                (0.70, 0.72),
                (0.66, 0.722),
                (0.60, 0.735),
            ]
        ),
        14 + 130 * np.exp(-(((y - 0.702) / 0.006) ** 2)),
    )
    card = shape([(0.22, 0.76), (0.30, 0.757), (0.307, 0.80), (0.222, 0.803)])
    return over(picture, card, flat(17 + 5 * glow(0.3, 0.74, 0.1), tint(1, 1, 1)))
